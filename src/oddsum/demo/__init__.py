"""The demo programs of the ferry office and their plans: data, opened in a copy."""
