"""The step Package."""
