"""Lengths and tolerances, outlines, rounding and measuring. Millimetres, degrees counter-clockwise, y up."""
