"""Preferred numbers of resistors and capacitors (IEC 60063)."""

E24 = (10, 11, 12, 13, 15, 16, 18, 20, 22, 24, 27, 30, 33, 36, 39, 43, 47, 51, 56, 62, 68, 75, 82, 91)
# The 96 numbers of a decade: 100 times the powers of the 96th root of ten, rounded.
E96 = tuple(round(100 * 10 ** (step / 96)) for step in range(96))
