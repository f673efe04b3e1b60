"""The categories of a library."""
