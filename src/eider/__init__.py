"""Eider: PCB library parts from datasheets, proved against the datasheet, kept in a versioned library."""

__version__ = "0.1.0"
