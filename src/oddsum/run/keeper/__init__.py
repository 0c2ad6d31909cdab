"""What starts every process of a run, and sees to it that none outlives the tool.

The tool (``client.py``) starts one keeper (``serve.py``), a small process that waits; for each
start the keeper forks a warden (``warden.py``), and that one starts the learner's interpreter,
behind the fence where one is asked for. The warden ends with all it started when its process
ends, when the tool says so, and when the tool is gone, however that came about: its line to the
tool breaks then. Keeper and warden run in the tool's own interpreter with nothing but the standard
library, and as little of that as will do: each start waits for them.
"""
