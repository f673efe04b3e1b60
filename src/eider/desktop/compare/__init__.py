"""Two states of a part, or two parts, over each other."""
