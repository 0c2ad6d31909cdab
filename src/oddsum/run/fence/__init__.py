"""The fence around a run, in layers that the kernel keeps; standard library only.

Each layer is a file: it can say whether this machine has it, and puts the calling process behind
it. ``layers.py`` is the list. What runs here runs in the keeper's children, between a fork and the
start of the learner's program, so no package is imported, and of ours nothing but plain numbers.
"""
