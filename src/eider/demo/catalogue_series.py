"""Twenty thousand invented parts for the stand-in catalogue, made by rule, so that they are the same each time."""

import zlib
from collections.abc import Iterator, Sequence
from itertools import product
from typing import NamedTuple

from eider.catalogue.protocol import LIFECYCLES, CatalogueEntry, Price, SupplierOffer
from eider.demo.preferred_values import E24, E96

_TAPE = (1, 1, "cut tape")


class _Series(NamedTuple):
    """A series of parts: its name, class and maker, and the sizes, ratings and grades that it comes in."""

    name: str
    category: str
    maker: str
    sizes: tuple[str, ...]
    ratings: tuple[str, ...]
    grades: tuple[str, ...]


_RESISTORS = (
    _Series(
        "LYN-RT", "resistor", "Lyng Passive", ("0603", "1005", "1608", "2012", "3216"), ("100 mW",), ("1 %", "5 %")
    ),
    _Series(
        "LYN-RP", "resistor", "Lyng Passive", ("1608", "2012", "3216", "6332"), ("250 mW", "500 mW"), ("0.1 %", "0.5 %")
    ),
)
_CAPACITORS = (
    _Series(
        "LYN-CX",
        "capacitor",
        "Lyng Passive",
        ("1005", "1608", "2012", "3216"),
        ("10 V", "16 V", "25 V", "50 V"),
        ("X7R", "X5R"),
    ),
    _Series("LYN-CG", "capacitor", "Lyng Passive", ("0603", "1005", "1608"), ("25 V", "50 V", "100 V"), ("C0G",)),
)
_INDUCTORS = (
    _Series("BRM-LW", "inductor", "Brimfall", ("2012", "2520", "3225", "4040", "6060"), ("0.5 A", "1.2 A"), ("20 %",)),
)
# Letters of tolerances (IEC 60062).
_LETTERS = {"0.1 %": "B", "0.5 %": "D", "1 %": "F", "5 %": "J"}
_ROWS = ("1.25 mm", "2 mm", "2.5 mm", "3.5 mm", "5 mm")


def chance(number: str, below: int) -> int:
    """A number from 0 to `below` less 1 that looks like chance and is the same each time."""
    return zlib.crc32(number.encode()) % below


def offers_for(number: str, price: str, stock: int) -> tuple[SupplierOffer, ...]:
    """What two suppliers ask for a part: single pieces, and less each from a hundred and a thousand on."""
    first = float(price)
    breaks = tuple(Price(n, f"{first * share:.4f}".rstrip("0")) for n, share in ((1, 1.0), (100, 0.78), (1000, 0.62)))
    code = f"{chance(number, 90_000) + 10_000}"
    dearer = tuple(Price(b.quantity, f"{float(b.each) * 1.06:.4f}".rstrip("0")) for b in breaks)
    return (
        SupplierOffer("Farewell Depot", f"FD-{code}", stock, "EUR", breaks, *_TAPE, lead_weeks=6),
        SupplierOffer("Kelp & Sons", f"KS{code}", stock // 7, "EUR", dearer, *_TAPE),
    )


def more_entries() -> tuple[CatalogueEntry, ...]:
    """All of them: resistors, capacitors, inductors, connectors."""
    return (*_resistors(), *_capacitors(), *_inductors(), *_connectors())


def some_entries(size: str) -> tuple[CatalogueEntry, ...]:
    """The resistors and capacitors of one size."""
    return (*_resistors((size,)), *_capacitors((size,)))


def _entry(series: _Series, number: str, about: str, facts: dict[str, str], price: float) -> CatalogueEntry:
    luck = chance(number, 100)
    standing = LIFECYCLES[0] if luck < 92 else LIFECYCLES[1] if luck < 97 else LIFECYCLES[2]
    stock = 0 if luck % 9 == 0 else chance(f"{number}/stock", 60_000)
    made = {"Manufacturer": series.maker, "Part number": number, **facts, "Mounting Style": "surface mount"}
    link = f"https://{series.maker.split()[0].lower()}.example/{series.name}.pdf"
    offers = offers_for(number, f"{price:.4f}", stock)
    return CatalogueEntry(number, series.maker, about, made, offers, series.category, standing, link)


def _resistors(sizes: Sequence[str] = ()) -> Iterator[CatalogueEntry]:
    for series in _RESISTORS:
        for size, rating, grade, decade, digits in product(
            sizes or series.sizes, series.ratings, series.grades, range(6), E96
        ):
            ohms = digits * 10.0 ** (decade - 2)
            value = _scaled(ohms, (("M", 1e6), ("k", 1e3), ("", 1.0)), "Ω")
            number = f"{series.name}{size}-{digits}{decade}{_LETTERS[grade]}{rating[0]}"
            facts = {"Resistance": value, "Power Rating": rating, "Tolerance": f"±{grade}", "Size": size}
            yield _entry(series, number, f"Chip resistor {value} {grade} {size}", facts, 0.012 + 0.004 * len(grade))


def _capacitors(sizes: Sequence[str] = ()) -> Iterator[CatalogueEntry]:
    for series in _CAPACITORS:
        decades = range(6) if "X7R" in series.grades else range(3)
        for size, rating, grade, decade, digits in product(
            sizes or series.sizes, series.ratings, series.grades, decades, E24
        ):
            farads = digits * 10.0 ** (decade - 12 + (1 if "X7R" in series.grades else 0))
            value = _scaled(farads, (("µ", 1e-6), ("n", 1e-9), ("p", 1e-12)), "F")
            number = f"{series.name}{size}-{digits}{decade}-{rating.split()[0]}{grade[1]}"
            facts = {"Capacitance": value, "Voltage Rating": rating, "Dielectric": grade, "Size": size}
            yield _entry(series, number, f"Chip capacitor {value} {rating} {grade} {size}", facts, 0.02)


def _inductors() -> Iterator[CatalogueEntry]:
    for series in _INDUCTORS:
        for size, rating, grade, decade, digits in product(series.sizes, series.ratings, series.grades, range(4), E24):
            henries = digits * 10.0 ** (decade - 8)
            value = _scaled(henries, (("m", 1e-3), ("µ", 1e-6), ("n", 1e-9)), "H")
            number = f"{series.name}{size}-{digits}{decade}-{rating.split()[0].replace('.', '')}"
            facts = {"Inductance": value, "Current Rating": rating, "Tolerance": f"±{grade}", "Size": size}
            yield _entry(series, number, f"Inductor {value} {rating} {size}", facts, 0.18)


def _connectors() -> Iterator[CatalogueEntry]:
    for pitch, ways, form, plating in product(_ROWS, range(2, 41), ("V", "R"), ("tin", "gold", "silver")):
        series = _Series(f"OHC-W{pitch.split()[0].replace('.', '')}", "connector", "Ostholm Connect", (), (), ())
        number = f"{series.name}-{ways:02}{form}{plating[0].upper()}"
        facts = {"Number of Positions": str(ways), "Pitch": pitch, "Contact Plating": plating}
        about = f"Wire to board, {'right angle' if form == 'R' else 'upright'}, {ways} ways, {pitch}, {plating}"
        yield _entry(series, number, about, facts, 0.08 + 0.035 * ways)


def _scaled(value: float, steps: tuple[tuple[str, float], ...], unit: str) -> str:
    for prefix, size in steps:
        if value >= size * (1 - 1e-9):
            return f"{value / size:.4g} {prefix}{unit}"
    prefix, size = steps[-1]
    return f"{value / size:.4g} {prefix}{unit}"
