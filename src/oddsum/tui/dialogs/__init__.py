"""Questions with a typed answer, and pages to read."""
