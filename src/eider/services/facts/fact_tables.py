"""Facts across parts from a library and back: opened from the index, written to files and read from them, kept."""

from collections.abc import Collection, Mapping, Sequence
from pathlib import Path
from typing import NamedTuple

from eider.commands.facts import fact_edits
from eider.commands.facts.fact_table import FactChange, FactsOfPart, FactTable, fact_table, set_cells
from eider.errors import EiderError, InputError
from eider.evidence.evidence_changes import utc_now
from eider.exchange.table_files import read_table, write_table
from eider.facts.categories import category_of, fact_names, spelling_key
from eider.library import Library
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence
from eider.services.parts.part_evaluation import save_evaluated
from eider.services.tasks import Task

# Headings of the column that names the parts.
PART_HEADINGS = frozenset({"part", "name", "partname", "item"})
HEADING = "Part"
MOST_PARTS = 50_000
# How many rows are named that are of no part of the library.
TOLD = 10


class KeptFacts(NamedTuple):
    """What became of changes: the parts that are working copies now, and those that were left, with the reason."""

    kept: tuple[str, ...]
    left: tuple[tuple[str, str], ...]


class ReadFacts(NamedTuple):
    """A file compared with the library: the table before and after, and what of the file was not understood."""

    before: FactTable
    after: FactTable
    doubts: tuple[str, ...]


def open_fact_table(library: Library, words: str = "", part_ids: Collection[str] | None = None) -> FactTable:
    """The facts of the parts that a search finds, or of some parts."""
    rows = library.find_parts(words, limit=MOST_PARTS).rows
    wanted = [row for row in rows if part_ids is None or row.id in part_ids]
    parts = [FactsOfPart(row.id, row.name, row.category, row.facts) for row in wanted]
    return fact_table(parts, library.settings)


def write_fact_table(path: Path, table: FactTable) -> None:
    """The table as CSV or as a workbook, by the suffix of the name; parts in the first column.

    Raises:
        LibraryError: the file cannot be written.
    """
    rows = [(part.name, *(part.facts.get(name, "") for name in table.names)) for part in table.parts]
    write_table(path, "Facts", [(HEADING, *table.names), *rows])


def read_fact_table(library: Library, path: Path) -> ReadFacts:
    """What a file says of parts that the library has; an empty cell says nothing.

    Headings are facts in any spelling that the part's category knows. Parts and rows that are not understood are told.

    Raises:
        InputError: the file cannot be read, or has no column of parts.
    """
    read = read_table(path)
    keys = [spelling_key(heading) for heading in read.header]
    at = next((index for index, key in enumerate(keys) if key in PART_HEADINGS), None)
    if at is None:
        raise InputError(f"{path.name} has no column “{HEADING}”; name the parts in one")
    before = open_fact_table(library)
    places = {part.name: row for row, part in enumerate(before.parts)}
    cells: dict[tuple[int, str], str] = {}
    doubts, unknown = list(read.doubts), []
    seen: set[str] = set()
    for line, row in enumerate(read.rows[1:], start=2):
        name = row[at] if at < len(row) else ""
        if name not in places:
            unknown.append(f"line {line}: {name or 'no part'}")
            continue
        if name in seen:
            doubts.append(f"line {line}: {name} is named twice; the last line holds")
        seen.add(name)
        names = _names_of(library, before.parts[places[name]].category)
        for heading, key, text in zip(read.header, keys, row, strict=False):
            if key != keys[at] and heading and text:
                cells[places[name], names.get(key, heading)] = text
    if unknown:
        more = f" and {len(unknown) - TOLD} more" if len(unknown) > TOLD else ""
        doubts.append(f"not in the library: {'; '.join(unknown[:TOLD])}{more}")
    return ReadFacts(before, set_cells(before, cells), tuple(doubts))


def set_facts(library: Library, words: str, values: Mapping[str, str]) -> ReadFacts:
    """The same values for all parts that a search finds; an empty one clears the fact. Names are of any spelling."""
    before = open_fact_table(library, words)
    cells = {
        (row, names.get(spelling_key(name), name)): text
        for row, part in enumerate(before.parts)
        for names in (_names_of(library, part.category),)
        for name, text in values.items()
    }
    return ReadFacts(before, set_cells(before, cells), () if before.parts else (f"no part is found by “{words}”",))


def _names_of(library: Library, category: str) -> dict[str, str]:
    found = category_of(library.settings, category)
    return dict(fact_names(found)) if found else {}


def keep_fact_changes(
    library: Library,
    changes: Sequence[FactChange],
    by: str,
    task: Task | None = None,
    evidence: Evidence | None = None,
) -> KeptFacts:
    """Make a working copy of every part that changes; one whose fact is another by now is left as it is.

    Without other evidence the facts were entered by `by`.

    What is kept before a cancel stays kept: each part is whole.

    Raises:
        ReadOnlyError: nothing can be written to the library.
        CancelledError: the user cancelled; the parts so far are kept.
    """
    library.require_writable()
    task = task or Task()
    by_part: dict[str, list[FactChange]] = {}
    for change in changes:
        by_part.setdefault(change.part_id, []).append(change)
    kept: list[str] = []
    left: list[tuple[str, str]] = []
    for count, (part_id, mine) in enumerate(by_part.items()):
        task.report(count / len(by_part), f"keeping facts of {mine[0].part}")
        try:
            bundle = library.load(part_id)
            _refuse_other_values(bundle, mine)
            save_evaluated(library, _changed(library, bundle, mine, by, evidence))
        except EiderError as fault:
            left.append((mine[0].part, str(fault)))
        else:
            kept.append(mine[0].part)
    return KeptFacts(tuple(kept), tuple(left))


def _refuse_other_values(bundle: Bundle, changes: Sequence[FactChange]) -> None:
    for change in changes:
        fact = bundle.part.facts.get(change.name)
        now = fact.value if fact else ""
        if now not in (change.before, change.after):
            raise InputError(f"{change.name} is “{now}” by now, not “{change.before}”; open the table again")


def _changed(
    library: Library, bundle: Bundle, changes: Sequence[FactChange], by: str, evidence: Evidence | None
) -> Bundle:
    category = category_of(library.settings, bundle.part.category)
    at = utc_now()
    made = bundle
    for change in changes:
        if evidence is None:
            made = fact_edits.enter_fact(made, change.name, change.after, by, at)
        else:
            made = fact_edits.set_fact(made, change.name, change.after, evidence)
    return fact_edits.follow_description(bundle, made, category)
