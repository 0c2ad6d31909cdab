"""Odd Sum: checks a program on its cases, follows its values, and pinpoints the line at fault."""

__version__ = "0.1.0"
