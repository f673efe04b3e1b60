"""The step Facts."""
