"""What the commands print: a file for each answer and format, found through ``table.FORMATS``."""
