"""What the demo's invented suppliers know: of its parts, and of twenty thousand more."""

import zlib
from collections.abc import Iterator, Mapping, Sequence
from functools import cache
from itertools import product
from typing import NamedTuple

from eider.catalogue.protocol import LIFECYCLES, CatalogueEntry, Price, Supplier, SupplierOffer
from eider.catalogue.service import ServiceManner, StandIn
from eider.demo.data import ChipSeries, ChipSize, chips, converter, sheet_data
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


FAREWELL, KELP, GUILLEMOT = "Farewell Depot", "Kelp & Sons", "Guillemot & Daughter"
SUPPLIERS = (
    Supplier(FAREWELL, "IS", ("EUR", "USD")),
    Supplier(KELP, "IE", ("EUR",)),
    Supplier(GUILLEMOT, "NO", ("EUR", "NOK")),
)
# The other parts of the demo: by the key of their datasheet, what the suppliers call their class, and the price of one.
_SINGLE: Mapping[str, tuple[str, str, str]] = {
    "nvk-3301q": ("Norrvik Semi", "ic", "3.10"),
    "nvk-m64b": ("Norrvik Semi", "ic", "5.60"),
    "nvk-u100p": ("Norrvik Semi", "ic", "7.85"),
    "nvk-4gt": ("Norrvik Semi", "ic", "0.31"),
    "nvk-n2s": ("Norrvik Semi", "mosfet", "0.09"),
    "brm-l18": ("Brimfall", "ic", "0.42"),
    "brm-pt6": ("Brimfall", "transformer", "2.70"),
    "brm-ch16": ("Brimfall", "battery", "0.55"),
    "brm-e100": ("Brimfall", "capacitor", "0.12"),
    "brm-ech": ("Brimfall", "inductor", "0.38"),
    "brm-s40": ("Brimfall", "mosfet", "1.15"),
    "lyn-t": ("Lyng Passive", "capacitor", "0.27"),
    "lyn-d": ("Lyng Passive", "diode", "0.14"),
    "lyn-y32": ("Lyng Passive", "crystal", "0.48"),
    "lyn-x25": ("Lyng Passive", "oscillator", "1.05"),
    "ohc-350": ("Ostholm Connect", "connector", "0.74"),
    "ohc-s5": ("Ostholm Connect", "connector", "0.66"),
}
# Parts whose standing is another by now than the library knows, and those that nobody has.
_STANDING = {"BRM-PT6": "not recommended", "LYN-X25": "end of life"}
# Of the chips that are like those of the demo, this size.
LIKE_SIZE = "1608"
_SOLD_OUT = frozenset({"NVK-4GT"})


@cache
def demo_entries() -> tuple[CatalogueEntry, ...]:
    """What is known of the parts of the demo."""
    entries = [_converter_entry(), *_single_entries(), *_connector_entries()]
    for key in ("lyn-c", "lyn-r"):
        entries += _chip_entries(chips(key))
    return tuple(entries)


def _converter_entry() -> CatalogueEntry:
    part = converter()
    numbers = "https://norrvik.example"
    return CatalogueEntry(
        part.name,
        part.facts["Manufacturer"],
        part.description,
        {**part.facts, "Mounting Style": "surface mount", "Output Data Rate": "80 per second"},
        (
            SupplierOffer(
                FAREWELL, "FD-70216", 1840, "EUR", (Price(1, "4.10"), Price(100, "3.22")), packing="tube", lead_weeks=8
            ),
            SupplierOffer(KELP, "KS1216T", 96, "EUR", (Price(1, "4.35"),), packing="tube"),
            SupplierOffer(
                GUILLEMOT, "G-1216-RL", 5000, "NOK", (Price(2500, "31.50"),), 2500, 2500, "reel", lead_weeks=12
            ),
        ),
        "ic",
        "active",
        f"{numbers}/NVK-1216T.pdf",
        f"{numbers}/NVK-1216T.step",
    )


def _single_entries() -> Iterator[CatalogueEntry]:
    for index, (key, (maker, category, price)) in enumerate(_SINGLE.items()):
        data = sheet_data(key)
        # The connector and the choke are sold under the numbers of single members.
        number = {"ohc-350": "OHC-350-04", "brm-ech": "BRM-ECH47"}.get(key, data.name)
        yield CatalogueEntry(
            number,
            maker,
            data.description,
            {"Manufacturer": maker, "Part number": number, "Mounting Style": _mounting(data.family)},
            () if number in _SOLD_OUT else offers_for(number, price, 40 + index * 173),
            category,
            _STANDING.get(number, "active"),
            f"https://{maker.split()[0].lower()}.example/{number}.pdf",
        )


def _mounting(family: str) -> str:
    leaded = ("header", "axial", "radial", "dual-in-line", "single-in-line", "tab-through-hole")
    return "through hole" if family in leaded else "surface mount"


def _connector_entries() -> Iterator[CatalogueEntry]:
    for ways in sheet_data("ohc-125").ways:
        number = f"OHC-125-{ways:02}R"
        facts = {
            "Manufacturer": "Ostholm Connect",
            "Part number": number,
            "Number of Positions": str(ways),
            "Pitch": "1.25 mm",
            "Mounting Style": "surface mount",
        }
        about = f"Wire to board, right angle, {ways} ways"
        offers = offers_for(number, f"{0.12 + 0.03 * ways:.2f}", 300 * ways)
        yield CatalogueEntry(number, "Ostholm Connect", about, facts, offers, "connector", "active")


def _chip_entries(series: ChipSeries) -> Iterator[CatalogueEntry]:
    for size in series.sizes:
        for index, value in enumerate(series.values):
            number = series.part_name(size.size, value)
            facts = {**chip_facts(series, size, value), "Mounting Style": "surface mount", "Size": size.size}
            code = f"FD-{series.name[-1]}{size.size}{index:02d}"
            offers = (
                SupplierOffer(FAREWELL, code, 20_000, "EUR", (Price(100, "0.011"),), 100, 100, "cut tape"),
                SupplierOffer(FAREWELL, f"{code}-R", 85_000, "EUR", (Price(5000, "0.0042"),), 5000, 5000, "reel"),
            )
            about = f"Chip {series.category} {value}"
            yield CatalogueEntry(number, series.maker, about, facts, offers, series.category, "active")


def chip_facts(series: ChipSeries, size: ChipSize, value: str) -> dict[str, str]:
    """What maker and suppliers say of one part of a series."""
    return {
        "Manufacturer": series.maker,
        "Part number": series.part_name(size.size, value),
        series.value_fact: value,
        series.rating_fact: size.rating,
        **series.facts,
    }


def whole_catalogue() -> tuple[CatalogueEntry, ...]:
    """The parts of the demo and twenty thousand more."""
    return (*demo_entries(), *more_entries())


def demo_service(*, whole: bool = False, manner: ServiceManner | None = None, port: int = 0) -> StandIn:
    """The stand-in catalogue, listening on this machine: whole, or with the parts of the demo and their like."""
    entries = whole_catalogue() if whole else (*demo_entries(), *some_entries(LIKE_SIZE))
    return StandIn(entries, SUPPLIERS, manner, port)
