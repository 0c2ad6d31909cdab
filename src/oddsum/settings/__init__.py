"""What the user has set, for every program: read from a file of their own."""
