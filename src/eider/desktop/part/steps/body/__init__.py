"""The step Body."""
