"""Keeps what happened: checks, versions, tries, the notebook; and tells of it in a report."""
