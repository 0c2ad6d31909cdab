"""Plain data that every room passes on: no behaviour beyond what reads off the fields."""
