"""Texts of Gerber attributes: characters that mean something else are written as `\\uXXXX`."""

import re
from collections.abc import Sequence

# What stands for the reference designator of a part that is on no board yet.
REFERENCE = "REF"


def escaped(text: str) -> str:
    """A text as a field of an attribute."""
    return "".join(f"\\u{ord(c):04X}" if c in "%*,\\" or ord(c) < 32 else c for c in text)


def unescaped(text: str) -> str:
    """The text of a field."""
    return re.sub(r"\\u([0-9A-Fa-f]{4})", lambda found: chr(int(found[1], 16)), text)


def fields(attribute: str) -> Sequence[str]:
    """The name of an attribute and its values, from what is behind `TF`, `TA` or `TO`."""
    return [unescaped(field.strip()) for field in attribute.split(",")]
