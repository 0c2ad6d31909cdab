"""What every run may take of the machine, whatever its plan says; a plan's own limits: case.py."""

from __future__ import annotations

MOST_OPEN = 1024  # files open at once, as most systems have it
MOST_FILE = 100 * 1024 * 1024  # bytes of one file
MOST_WRITTEN = 200 * 1024 * 1024  # bytes in the run's folder, all files together
MOST_PROCESSES = 64  # alive at once
