"""The Textual application: sits on top of the core and asks it; computes nothing of the trade."""
