"""The health of the library."""
