"""A screen for each station."""
