"""The recorded trace and every question asked of it."""
