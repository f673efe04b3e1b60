"""Suppliers for many parts at once."""
