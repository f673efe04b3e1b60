"""The step Review."""
