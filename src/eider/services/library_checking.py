"""Checks a whole library: each part, and the files that it is kept in."""

from collections.abc import Iterator

import msgspec

from eider.checks import PartUnderCheck, run_checks
from eider.errors import EiderError
from eider.library import Library
from eider.library.index import PartRow
from eider.model.address import FieldAddress
from eider.model.finding import Finding, Severity
from eider.services.tasks import Task

FILE = FieldAddress("source", "")


class CheckedPart(msgspec.Struct, frozen=True):
    """A part by its name, and what was found in it."""

    name: str
    findings: tuple[Finding, ...]


def check_parts(library: Library, rows: list[PartRow], task: Task | None = None) -> Iterator[CheckedPart]:
    """What the checks find in each part; one that cannot be read is a finding, and the others are checked.

    Raises:
        CancelledError: the user cancelled.
    """
    for index, row in enumerate(rows):
        if task:
            task.report(index / len(rows), f"checking {row.name}")
        try:
            bundle = library.load(row.id)
            rulebook = library.rulebook(bundle.footprint.rulebook)
            yield CheckedPart(row.name, run_checks(PartUnderCheck(bundle, rulebook, library.settings)))
        except EiderError as fault:
            yield CheckedPart(row.name, (_finding("library.unreadable-part", row.name, str(fault)),))


def check_files(library: Library) -> tuple[Finding, ...]:
    """What is wrong with the files of a library: those that are no items, and those that were changed by hand.

    What counts is what was released; a file in the folder that differs is told, as nobody would find it otherwise.
    """
    library.index.refresh()
    found = [_finding("library.unreadable-file", path, fault) for path, fault in library.index.faults().items()]
    for path in library.index.item_paths():
        if library.files.read(path) != library.versions.read(path):
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
