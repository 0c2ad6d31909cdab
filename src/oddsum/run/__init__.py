"""Starts probes and looks after them: limits, scratch folders, cancelling; all system calls."""
