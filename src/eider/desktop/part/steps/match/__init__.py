"""The step Match."""
