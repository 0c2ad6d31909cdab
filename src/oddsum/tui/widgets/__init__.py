"""Widgets: one a file, each usable alone."""
