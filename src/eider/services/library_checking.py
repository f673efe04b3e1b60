"""Checks a whole library: each part, and the files that it is kept in."""

import hashlib
from collections.abc import Iterator

import msgspec

from eider.checks import PartUnderCheck, run_checks
from eider.errors import EiderError
from eider.library import Library
from eider.library.index import PartRow
from eider.library.rulebook_files import rulebook_file_names, rulebook_source
from eider.model.address import FieldAddress
from eider.model.bundle import Bundle
from eider.model.codec import decode, encode
from eider.model.finding import Finding, Severity
from eider.rulebooks import Rulebook
from eider.services.tasks import Task
from eider.source_sum import source_sum

FILE = FieldAddress("source", "")


class CheckedPart(msgspec.Struct, frozen=True):
    """A part by its name, and what was found in it."""

    name: str
    findings: tuple[Finding, ...]


def check_parts(library: Library, rows: list[PartRow], task: Task | None = None) -> Iterator[CheckedPart]:
    """What the checks find in each part; one that cannot be read is a finding, and the others are checked.

    A part that is as it was when it was checked last, by the same rules, is not checked again.

    Raises:
        CancelledError: the user cancelled.
    """
    library.index.refresh()
    rules, noted = _Rules(library), list[tuple[str, str, str]]()
    try:
        for index, row in enumerate(rows):
            if task:
                task.report(index / len(rows), f"checking {row.name}")
            state = rules.state_of(row)
            known = library.index.findings_of(row.id, state)
            if known is not None:
                yield CheckedPart(row.name, decode(known, tuple[Finding, ...], row.name))
                continue
            try:
                found = rules.check(library.load(row.id))
                noted.append((row.id, state, encode(found)))
            except EiderError as fault:
                found = (_finding("library.unreadable-part", row.name, str(fault)),)
            yield CheckedPart(row.name, found)
    finally:
        library.index.note_findings(noted)


class _Rules:
    """The rules of a library, read once for all its parts."""

    def __init__(self, library: Library) -> None:
        self._library = library
        self._rulebooks: dict[str, Rulebook] = {}
        named = {name: rulebook_source(library.files, name) for name in rulebook_file_names(library.files)}
        text = repr((source_sum(), encode(library.settings), sorted(named.items())))
        self._sum = hashlib.sha256(text.encode()).hexdigest()[:16]

    def state_of(self, row: PartRow) -> str:
        """What the findings of a part follow from: its revision or working copy, and the rules."""
        return f"{row.state} {row.revision} {self._library.index.stamp_of(row.id)} {self._sum}"

    def check(self, bundle: Bundle) -> tuple[Finding, ...]:
        """What the checks find in a part as it is stored."""
        name = bundle.footprint.rulebook
        if name not in self._rulebooks:
            self._rulebooks[name] = self._library.rulebook(name)
        return run_checks(PartUnderCheck(bundle, self._rulebooks[name], self._library.settings))


def check_files(library: Library) -> tuple[Finding, ...]:
    """What is wrong with the files of a library: those that are no items, and those that were changed by hand.

    What counts is what was released; a file in the folder that differs is told, as nobody would find it otherwise.
    """
    library.index.refresh()
    found = [_finding("library.unreadable-file", path, fault) for path, fault in library.index.faults().items()]
    head = library.versions.head
    for path in library.index.item_paths():
        if library.files.read(path) != library.versions.read(path, head):
            found.append(
                _finding(
                    "library.changed-by-hand",
                    path,
                    f"{path} is not as it was released; run git restore “{path}” in the library, "
                    "or make the change in Eider",
                    Severity.CAUTION,
                )
            )
    found += [
        _finding("library.damaged-working-copy", path.name, f"a damaged working copy lies in {path}", Severity.CAUTION)
        for path in library.copies.damaged()
    ]
    return tuple(found)


def _finding(check: str, item: str, message: str, severity: Severity = Severity.BLOCKER) -> Finding:
    return Finding(check=check, severity=severity, item=item, address=FILE, message=message)
