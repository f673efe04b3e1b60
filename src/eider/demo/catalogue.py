"""What the demo's invented suppliers know: of its parts, and of twenty thousand more."""

from collections.abc import Iterator, Mapping
from functools import cache

from eider.catalogue.protocol import CatalogueEntry, Price, Supplier, SupplierOffer
from eider.catalogue.service import ServiceManner, StandIn
from eider.demo.catalogue_series import more_entries, offers_for, some_entries
from eider.demo.data import ChipSeries, ChipSize, chips, converter, sheet_data

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
