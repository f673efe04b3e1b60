"""The step Pins."""
