"""Which inputs nobody tried, and what the odd cases share: read from the source and recordings."""
