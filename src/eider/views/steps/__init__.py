"""The steps of the trail, one module each. A module that is put here is found by itself."""
