"""Pads and outlines given by hand, for families that have none of their own and beside those that have."""
