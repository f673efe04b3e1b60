"""The command `eider`: the same use cases as the window, from a terminal and from scripts."""
