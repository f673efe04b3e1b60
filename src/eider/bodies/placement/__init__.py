"""A foreign model on its lands: `alignment` finds the placements, `contacts`, `seating` and `pin_one_mark` are
what it goes by.
"""
