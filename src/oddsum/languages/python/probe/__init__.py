"""Runs inside the learner's interpreter: standard library only, Python 3.9 and newer.

It runs one case plainly, or one case recorded, or many trial edits, and tells what happened over a
channel of its own (``wire.py``). It is loaded under a private package name, so that a learner's
``record.py`` or ``wire.py`` never meets ours.
"""
