"""Candidates of suppliers side by side: facts under the library's names, then what each costs and where it is."""

from collections.abc import Callable, Mapping, Sequence
from decimal import Decimal
from typing import NamedTuple

import msgspec

from eider.catalogue.offers import OfferChoice, Quote, best_quote, stock_of
from eider.catalogue.protocol import CatalogueEntry
from eider.commands.facts.alternates import same_value
from eider.commands.facts.fact_edits import our_names
from eider.commands.facts.supplier_facts import offered_facts
from eider.facts.categories import category_of, fact_field, spelling_key
from eider.model.library import LibrarySettings

LEFT_OUT = "(left out)"


class CandidateRow(msgspec.Struct, frozen=True):
    """A part that was found, as a line: what a quantity of it costs at the best supplier; empty texts are not known."""

    entry: CatalogueEntry
    supplier: str
    stock: str
    each: str
    minimum: str
    lifecycle: str


class ComparedFact(NamedTuple):
    """A fact of several candidates: under the suppliers' name, under the library's, and the values.

    `ours` is `LEFT_OUT` for what is not copied, and empty for what is not a fact but an offer. `differs` says for each
    value whether it is another than the part's own.
    """

    theirs: str
    ours: str
    mine: str
    values: tuple[str, ...]
    differs: tuple[bool, ...]


def candidate_rows(entries: Sequence[CatalogueEntry], choice: OfferChoice, quantity: int) -> tuple[CandidateRow, ...]:
    """A line for each part that was found."""
    return tuple(_row(entry, choice, quantity) for entry in entries)


def _row(entry: CatalogueEntry, choice: OfferChoice, quantity: int) -> CandidateRow:
    found = best_quote(entry, choice, quantity)
    stock = f"{stock_of(entry, choice.suppliers):,}"
    if found is None:
        return CandidateRow(entry, "no offer", stock, "", "", entry.lifecycle)
    offer = found.offer
    return CandidateRow(
        entry, offer.supplier, stock, money(found.each, offer.currency), str(offer.minimum), entry.lifecycle
    )


def money(amount: Decimal, currency: str) -> str:
    """An amount with its currency: as many digits as it has, two at least."""
    text = f"{amount.normalize():f}"
    whole, _, part = text.partition(".")
    return f"{whole}.{part:0<2} {currency}"


def compare_candidates(
    mine: Mapping[str, str],
    entries: Sequence[CatalogueEntry],
    settings: LibrarySettings,
    category_key: str,
    learned: Mapping[str, str],
) -> tuple[ComparedFact, ...]:
    """The facts of the candidates, one row for each fact of the library: those of the category first, in its order."""
    category = category_of(settings, category_key)
    names, dropped = our_names(category, learned), {spelling_key(name) for name in settings.dropped_facts}
    rows: dict[str, tuple[list[str], list[str]]] = {}
    for place, entry in enumerate(entries):
        for theirs, text in offered_facts(entry).items():
            key = spelling_key(theirs)
            ours = names.get(key, theirs)
            row = f"/{theirs}" if key in dropped or not ours else ours
            called, values = rows.setdefault(row, ([], [""] * len(entries)))
            if theirs not in called:
                called.append(theirs)
            values[place] = values[place] or text
    order = [field.name for field in category.facts] if category else []
    ranked = sorted(rows, key=lambda row: (row.startswith("/"), order.index(row) if row in order else len(order)))
    made = []
    for row in ranked:
        called, values = rows[row]
        ours, own = (LEFT_OUT, "") if row.startswith("/") else (row, mine.get(row, ""))
        field = fact_field(category, ours)
        differs = tuple(bool(own and text) and not same_value(field, own, text) for text in values)
        made.append(ComparedFact(", ".join(called), ours, own, tuple(values), differs))
    return tuple(made)


def compare_offers(entries: Sequence[CatalogueEntry], choice: OfferChoice, quantity: int) -> tuple[ComparedFact, ...]:
    """What a quantity of each candidate costs at the best supplier, and what it gives besides."""
    quotes = [best_quote(entry, choice, quantity) for entry in entries]

    def of_quote(show: Callable[[Quote], str]) -> tuple[str, ...]:
        return tuple(show(found) if found else "" for found in quotes)

    rows = (
        ("In stock", tuple(f"{stock_of(entry, choice.suppliers):,}" for entry in entries)),
        ("Cheapest at", of_quote(lambda q: q.offer.supplier)),
        ("Supplier number", of_quote(lambda q: q.offer.number)),
        (f"Unit price at {quantity:,}", of_quote(lambda q: money(q.each, q.offer.currency))),
        ("To order", of_quote(lambda q: f"{q.ordered:,} for {money(q.cost, q.offer.currency)}")),
        ("Minimum", of_quote(lambda q: f"{q.offer.minimum:,}")),
        ("Packing", of_quote(lambda q: q.offer.packing)),
        ("Lead time", of_quote(lambda q: f"{q.offer.lead_weeks} weeks" if q.offer.lead_weeks is not None else "")),
        ("STEP model", tuple(entry.step for entry in entries)),
    )
    return tuple(ComparedFact(name, "", "", values, (False,) * len(values)) for name, values in rows if any(values))


def age_words(seconds: float) -> str:
    """How long ago something was heard: now, minutes, hours or days."""
    for size, word in ((86_400, "day"), (3600, "hour"), (60, "minute")):
        if seconds >= size:
            count = int(seconds // size)
            return f"{count} {word}{'' if count == 1 else 's'} ago"
    return "just now"
