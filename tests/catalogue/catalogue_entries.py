"""A few invented entries, whose answers can be told by looking at them."""

from eider.catalogue.protocol import CatalogueEntry, Price, SupplierOffer


def entry(number: str, *offers: SupplierOffer, category: str = "resistor", **facts: str) -> CatalogueEntry:
    """A part of Lyng Passive."""
    return CatalogueEntry(number, "Lyng Passive", f"Chip {number}", facts, offers, category, "active")


def offer(supplier: str, stock: int, *prices: tuple[int, str], currency: str = "EUR", **more: int) -> SupplierOffer:
    """An offer; `more` may be minimum and multiple."""
    return SupplierOffer(supplier, f"{supplier[:1]}-1", stock, currency, tuple(Price(*p) for p in prices), **more)


ENTRIES = (
    entry(
        "LYN-R1-4K7",
        offer("Kelp", 0, (1, "0.10")),
        offer("Farewell", 50, (1, "0.20")),
        Resistance="4.7 kΩ",
        Size="1608",
    ),
    entry("LYN-R2-4K7", offer("Farewell", 900, (1000, "0.01"), minimum=1000), Resistance="4700 ohm", Size="2012"),
    entry("LYN-R3-10K", offer("Kelp", 7, (1, "0.10"), currency="USD"), Resistance="10 kΩ", Size="1608"),
    entry("XLYN-R1", Resistance="4k7", Size="1608"),
    entry("LYN-C1", category="capacitor", Capacitance="100 nF", Size="1608"),
)
