"""What the demo's invented suppliers, Farewell Depot and Kelp & Sons, know of its parts."""

from collections.abc import Iterator

from eider.catalogue.protocol import CatalogueEntry, Price, SupplierOffer
from eider.catalogue.service import StandIn
from eider.demo.data import ChipSeries, ChipSize, chips, converter


def demo_entries() -> tuple[CatalogueEntry, ...]:
    """Entries of the stand-in catalogue."""
    part = converter()
    entries = [
        CatalogueEntry(
            part.name,
            part.facts["Manufacturer"],
            part.description,
            part.facts,
            (
                SupplierOffer("Farewell Depot", "FD-70216", 1840, "EUR", (Price(1, "4.10"), Price(100, "3.22"))),
                SupplierOffer("Kelp & Sons", "KS1216T", 96, "EUR", (Price(1, "4.35"),)),
            ),
        )
    ]
    for key in ("lyn-c", "lyn-r"):
        entries += _chip_entries(chips(key))
    return tuple(entries)


def _chip_entries(series: ChipSeries) -> Iterator[CatalogueEntry]:
    for size in series.sizes:
        for index, value in enumerate(series.values):
            number = series.part_name(size.size, value)
            facts = chip_facts(series, size, value)
            code = f"FD-{series.name[-1]}{size.size}{index:02d}"
            offer = SupplierOffer("Farewell Depot", code, 20_000, "EUR", (Price(100, "0.011"),))
            yield CatalogueEntry(number, series.maker, f"Chip {series.category} {value}", facts, (offer,))


def chip_facts(series: ChipSeries, size: ChipSize, value: str) -> dict[str, str]:
    """What maker and suppliers say of one part of a series."""
    return {
        "Manufacturer": series.maker,
        "Part number": series.part_name(size.size, value),
        series.value_fact: value,
        series.rating_fact: size.rating,
        **series.facts,
    }


def demo_service() -> StandIn:
    """The stand-in catalogue, listening on this machine."""
    return StandIn(demo_entries())
