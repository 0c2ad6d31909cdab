"""``python -m oddsum``: the same as the command ``oddsum``."""

from oddsum.cli import main

main()
