"""Which letter of a datasheet is which dimension: by name, by the drawing, by the size of real packages, and by
asking.
"""
