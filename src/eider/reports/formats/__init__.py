"""Formats that are reports about a part. A module that is put here is found by itself."""
