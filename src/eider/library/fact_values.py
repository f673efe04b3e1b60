"""Values as people search for them: 100 nF is also 0.1 µF, 0.1u and 100n."""

import re

PREFIXES = {"p": -12, "n": -9, "u": -6, "m": -3, "": 0, "k": 3, "M": 6, "G": 9}
_VALUE = re.compile(r"^\s*(\d+(?:[.,]\d+)?)\s*([pnuµμmkKMG]?)\s*(F|H|Ω|ohm|R|V|A|W|Hz)?\s*$")


def spellings(value: str) -> tuple[str, ...]:
    """A value with a unit as it is written with its own and the neighbouring prefixes; none for other texts."""
    match = _VALUE.match(value)
    if match is None or not (match[2] or match[3]):
        return ()
    prefix = {"µ": "u", "μ": "u", "K": "k"}.get(match[2], match[2])
    number, unit = float(match[1].replace(",", ".")), match[3] or ""
    order = list(PREFIXES)
    place = order.index(prefix)
    return tuple(
        f"{number * 10.0 ** (PREFIXES[prefix] - PREFIXES[other]):.10g}{other}{unit}"
        for other in order[max(place - 1, 0) : place + 2]
    )
