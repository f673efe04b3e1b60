"""Use cases of one open part: opened, computed, evaluated, compared with what the library has.

`part_opening` loads a part, `part_computing` answers each change of it, `part_evaluation` runs its recipes and checks
for everything without a window.
"""
