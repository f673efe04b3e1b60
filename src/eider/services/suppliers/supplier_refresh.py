"""Standing and stock of many parts asked for again, and what of it is another than before."""

from collections.abc import Sequence
from typing import Literal, NamedTuple

import msgspec

from eider.catalogue.answer_cache import AnswerCache, cache_path
from eider.catalogue.client import Catalogue
from eider.catalogue.offers import stock_of
from eider.catalogue.protocol import CatalogueEntry
from eider.commands.facts.alternates import same_value
from eider.commands.facts.fact_table import FactChange
from eider.commands.facts.supplier_facts import LIFECYCLE
from eider.evidence.evidence_changes import utc_now
from eider.facts.categories import category_of, fact_field
from eider.library import Library
from eider.library.index.part_index import PartRow
from eider.model.evidence import Evidence, EvidenceKind
from eider.services.facts.fact_tables import KeptFacts, keep_fact_changes
from eider.services.suppliers.supplier_lookup import part_key, part_number
from eider.services.tasks import Task

Finding = Literal["lifecycle", "no stock", "stock", "unknown", "several"]


class StandingChange(NamedTuple):
    """Something that is otherwise than the library or the last look-up has it; empty texts are not known."""

    part_id: str
    part: str
    kind: Finding
    before: str
    now: str


class RefreshReport(msgspec.Struct, frozen=True):
    """What came of it: how many parts were asked for, how many are as they were, and what changed."""

    asked: int
    unchanged: int
    changes: tuple[StandingChange, ...]


def refresh_standing(
    library: Library,
    catalogue: Catalogue,
    address: str,
    rows: Sequence[PartRow],
    suppliers: Sequence[str] = (),
    task: Task | None = None,
) -> RefreshReport:
    """Ask for the standing and the stock of parts, and tell what changed; `suppliers` are those whose stock counts.

    Raises:
        CatalogueError: the service does not answer. CancelledError: the user cancelled.
    """
    task, cache = task or Task(), AnswerCache(cache_path(address))
    keys = {row.id: part_key(row) for row in rows}
    stocks = {key: stock_of(known.entry, suppliers) for key, known in cache.known_parts(keys.values()).items()}
    numbers = list(dict.fromkeys(part_number(row) for row in rows))
    entries = catalogue.exact_parts(numbers, lambda share: task.report(share, "asking for standing and stock"))
    by_number: dict[str, list[CatalogueEntry]] = {}
    for entry in entries:
        by_number.setdefault(entry.key[1], []).append(entry)
    changes: list[StandingChange] = []
    unchanged = 0
    for row in rows:
        mine = _changes_of(library, row, by_number.get(keys[row.id][1], []), stocks.get(keys[row.id]), suppliers)
        changes += mine
        unchanged += not mine
    return RefreshReport(len(rows), unchanged, tuple(changes))


def _changes_of(
    library: Library, row: PartRow, entries: Sequence[CatalogueEntry], stock: int | None, suppliers: Sequence[str]
) -> list[StandingChange]:
    maker = part_key(row)[0]
    mine = [entry for entry in entries if entry.key[0] == maker] if maker else list(entries)
    if not mine:
        others = ", ".join(entry.manufacturer for entry in entries)
        why = f"known of {others} only" if others else "not in the catalogue"
        return [StandingChange(row.id, row.name, "unknown", part_number(row), why)]
    if len(mine) > 1:
        makers = ", ".join(entry.manufacturer for entry in mine)
        return [
            StandingChange(row.id, row.name, "several", part_number(row), f"made by {makers}; fill in Manufacturer")
        ]
    entry, found = mine[0], []
    known = row.facts.get(LIFECYCLE, "")
    field = fact_field(category_of(library.settings, row.category), LIFECYCLE)
    if entry.lifecycle and not same_value(field, known, entry.lifecycle):
        found.append(StandingChange(row.id, row.name, "lifecycle", known, entry.lifecycle))
    now = stock_of(entry, suppliers)
    before = "" if stock is None else f"{stock:,}"
    if now == 0:
        found.append(StandingChange(row.id, row.name, "no stock", before, "0"))
    elif stock == 0:
        found.append(StandingChange(row.id, row.name, "stock", before, f"{now:,}"))
    return found


def keep_lifecycles(
    library: Library, report: RefreshReport, address: str, by: str, task: Task | None = None
) -> KeptFacts:
    """Make working copies of the parts whose standing changed, with the catalogue as the evidence.

    Raises:
        ReadOnlyError: nothing can be written. CancelledError: the user cancelled; the parts so far are kept.
    """
    changes = [
        FactChange(change.part_id, change.part, LIFECYCLE, change.before, change.now)
        for change in report.changes
        if change.kind == "lifecycle"
    ]
    evidence = Evidence(EvidenceKind.SUPPLIER, text=address, at=utc_now())
    return keep_fact_changes(library, changes, by, task, evidence)
