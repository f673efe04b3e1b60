"""The server of a shared library: its refs for claims and reviews, and the way to and from it."""
