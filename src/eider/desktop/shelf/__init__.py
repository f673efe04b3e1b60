"""The Shelf, the first screen."""
