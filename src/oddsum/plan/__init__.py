"""Test plans: found, read, checked, and written without losing what people wrote in them."""
