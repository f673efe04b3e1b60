"""The rulebook editor."""
