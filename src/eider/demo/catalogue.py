"""What the demo's invented suppliers, Farewell Depot and Kelp & Sons, know of its parts."""

from eider.catalogue.protocol import Entry, Offer, Price
from eider.catalogue.service import StandIn
from eider.demo.data import chips, converter


def demo_entries() -> tuple[Entry, ...]:
    """Entries of the stand-in catalogue."""
    part, series = converter(), chips()
    entries = [
        Entry(
            part.name,
            part.facts["Manufacturer"],
            part.description,
            part.facts,
            (
                Offer("Farewell Depot", "FD-70216", 1840, "EUR", (Price(1, "4.10"), Price(100, "3.22"))),
                Offer("Kelp & Sons", "KS1216T", 96, "EUR", (Price(1, "4.35"),)),
            ),
        )
    ]
    for size in series.sizes:
        for index, value in enumerate(series.values):
            number = chip_name(size.size, value)
            facts = {
                "Manufacturer": series.maker,
                "Part number": number,
                "Capacitance": value,
                "Tolerance": series.tolerance,
                "Rated voltage": size.voltage,
                "Dielectric": series.dielectric,
            }
            offer = Offer("Farewell Depot", f"FD-{size.size}{index:02d}", 20_000, "EUR", (Price(100, "0.011"),))
            entries.append(Entry(number, series.maker, f"Chip capacitor {value}", facts, (offer,)))
    return tuple(entries)


def chip_name(size: str, value: str) -> str:
    """LYN-C1608-100N for 100 nF in 1608."""
    number, unit = value.replace("µ", "u").split()
    return f"LYN-C{size}-{number.replace('.', unit[0].upper())}{'' if '.' in number else unit[0].upper()}"


def demo_service() -> StandIn:
    """The stand-in catalogue, listening on this machine."""
    return StandIn(demo_entries())
