"""What users do to pins and symbols: the pin table, counts, arrangement by hand, the match of pins and pads."""
