"""Gerber X2 and X3 layers and XNC drill files: land patterns for fabrication, lengths in mm."""
