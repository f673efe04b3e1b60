"""The checks, one function each, by what they look at. A module that is put here is found by itself."""
