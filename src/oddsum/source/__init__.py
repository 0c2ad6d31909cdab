"""The one place that parses a program: statements, limits, loops, names, edits applied."""
