"""Values as people search for them: 100 nF is also 0.1 µF, 0.1u and 100n."""

import re

PREFIXES = {"p": -12, "n": -9, "u": -6, "m": -3, "": 0, "k": 3, "M": 6, "G": 9}
_VALUE = re.compile(r"^\s*(\d+(?:[.,]\d+)?)\s*([pnuµμmkKMG]?)\s*(F|H|Ω|ohm|R|V|A|W|Hz)?\s*$")


def spellings(value: str) -> tuple[str, ...]:
    """Other ways in which a value with a unit is written, with neighbouring prefixes; none for other texts."""
    match = _VALUE.match(value)
    if match is None or not (match[2] or match[3]):
        return ()
    prefix = {"µ": "u", "μ": "u", "K": "k"}.get(match[2], match[2])
    number, unit = float(match[1].replace(",", ".")), match[3] or ""
    found = []
    for other, power in PREFIXES.items():
        scaled = number * 10.0 ** (PREFIXES[prefix] - power)
        if 0.001 <= scaled < 100_000:
            text = f"{scaled:.10g}"
            found += [f"{text}{other}{unit}", f"{text} {other}{unit}"]
    return tuple(found)
