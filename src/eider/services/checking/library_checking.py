"""Checks a whole library: each part, and the files that it is kept in."""

import hashlib
from collections import deque
from collections.abc import Generator, Iterator, Sequence
from concurrent.futures import Future, ProcessPoolExecutor
from multiprocessing import get_context
from pathlib import Path

import msgspec

from eider.checks import PartUnderCheck, run_checks
from eider.errors import EiderError
from eider.library import Library, open_library
from eider.library.documents.attachments import DocumentKind, released_path
from eider.library.documents.rulebook_files import rulebook_file_names, rulebook_source
from eider.library.index.part_index import PartRow
from eider.model.address import FieldAddress
from eider.model.bundle import Bundle
from eider.model.codec import decode, encode
from eider.model.finding import Finding, Severity
from eider.rulebooks import Rulebook
from eider.services.tasks import Task
from eider.source_sum import source_sum

PART_SUFFIX = ".part.json"
FILE = FieldAddress("source", "")
# So many parts are worth the second that further processes take to begin; each is handed so many at a time, and so many
# are noted together.
WORTH_SHARING, CHECKED_TOGETHER, NOTED_TOGETHER = 300, 25, 500


class CheckedPart(msgspec.Struct, frozen=True):
    """A part by its name, and what was found in it."""

    name: str
    findings: tuple[Finding, ...]


def check_parts(
    library: Library, rows: Sequence[PartRow], task: Task | None = None, processes: int = 1
) -> Iterator[CheckedPart]:
    """What the checks find in each part; one that cannot be read is a finding, and the others are checked.

    A part that is as it was when it was checked last, by the same rules, is not checked again. Many others are shared
    out among so many `processes`.

    Raises:
        CancelledError: the user cancelled; what was found so far is known the next time.
    """
    library.index.refresh()
    rules, task = _Rules(library), task or Task()
    states = {row.id: rules.state_of(row) for row in rows}
    known = {row.id: library.index.findings_of(row.id, states[row.id]) for row in rows}
    wanted = [row for row in rows if known[row.id] is None]
    is_shared = processes > 1 and len(wanted) >= WORTH_SHARING
    answers: Generator[tuple[str, bool]] = (
        _checked_elsewhere(library, wanted, processes) if is_shared else (rules.answer(row) for row in wanted)
    )
    noted: list[tuple[str, str, str]] = []
    try:
        for index, row in enumerate(rows):
            task.report(index / len(rows), f"checking {row.name}")
            found = known[row.id]
            if found is None:
                found, is_kept = next(answers)
                if is_kept:
                    noted.append((row.id, states[row.id], found))
                if len(noted) >= NOTED_TOGETHER:
                    library.index.note_findings(noted)
                    noted.clear()
            yield CheckedPart(row.name, decode(found, tuple[Finding, ...], row.name))
    finally:
        answers.close()
        library.index.note_findings(noted)


def _checked_elsewhere(library: Library, rows: Sequence[PartRow], processes: int) -> Generator[tuple[str, bool]]:
    """The answers for these parts in their order, from other processes."""
    chunks = [rows[start : start + CHECKED_TOGETHER] for start in range(0, len(rows), CHECKED_TOGETHER)]
    # A process that is forked would share open files of git and of the index.
    with ProcessPoolExecutor(processes, get_context("spawn"), _open_elsewhere, (library.folder,)) as executor:
        waiting = deque[Future[list[tuple[str, bool]]]]()
        try:
            for chunk in chunks:
                waiting.append(executor.submit(_answers_elsewhere, chunk))
                if len(waiting) > 2 * processes:
                    yield from waiting.popleft().result()
            while waiting:
                yield from waiting.popleft().result()
        finally:
            executor.shutdown(cancel_futures=True)


# The rules of the library that this process checks for another one.
_elsewhere: list["_Rules"] = []


def _open_elsewhere(folder: Path) -> None:
    _elsewhere.append(_Rules(open_library(folder)))


def _answers_elsewhere(rows: Sequence[PartRow]) -> list[tuple[str, bool]]:
    return [_elsewhere[0].answer(row) for row in rows]


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

    def answer(self, row: PartRow) -> tuple[str, bool]:
        """What is found in a part (JSON), and whether it is to be noted: a part that cannot be read may be mended."""
        try:
            return encode(self.check(self._library.load(row.id))), True
        except EiderError as fault:
            return encode((_finding("library.unreadable-part", row.name, str(fault)),)), False

    def check(self, bundle: Bundle) -> tuple[Finding, ...]:
        """What the checks find in a part as it is stored."""
        name = bundle.footprint.rulebook
        if name not in self._rulebooks:
            self._rulebooks[name] = self._library.rulebook(name)
        return run_checks(PartUnderCheck(bundle, self._rulebooks[name], self._library.settings))


def changed_parts(library: Library, since: str) -> tuple[list[PartRow], list[Finding]]:
    """The parts whose files were added or changed after a commit, and a finding for each such file that holds no part.

    Raises:
        LibraryError: there is no such commit.
    """
    library.index.refresh()
    rows: list[PartRow] = []
    findings: list[Finding] = []
    for changed in library.versions.changed_paths(since):
        if not changed.is_there or not changed.path.startswith("parts/") or not changed.path.endswith(PART_SUFFIX):
            continue
        row = library.index.part_at(changed.path)
        if row is not None:
            rows.append(row)
        else:
            fault = library.index.faults().get(changed.path, "the file does not hold the part that its name says")
            findings.append(_finding("library.unreadable-file", changed.path, fault))
    return rows, findings


def check_files(library: Library, task: Task | None = None) -> tuple[Finding, ...]:
    """What is wrong with the files of a library: those that are no items, and those that were changed by hand.

    What counts is what was released; a file in the folder that differs is told, as nobody would find it otherwise.

    Raises:
        CancelledError: the user cancelled.
    """
    library.index.refresh()
    task = task or Task()
    found = [_finding("library.unreadable-file", path, fault) for path, fault in library.index.faults().items()]
    head = library.versions.head
    paths = library.index.item_paths()
    for index, path in enumerate(paths):
        task.report(index / len(paths), f"comparing {path}")
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
    found += _changed_models(library)
    found += [
        _finding("library.damaged-working-copy", path.name, f"a damaged working copy lies in {path}", Severity.CAUTION)
        for path in library.copies.damaged()
    ]
    return tuple(found)


def _changed_models(library: Library) -> list[Finding]:
    """STEP files that are gone, or that are no longer those of their sum."""
    found = []
    for sha256 in library.index.models():
        path = released_path(DocumentKind.MODEL, sha256)
        if library.versions.is_left_out(path):
            continue
        try:
            is_there = library.attachments.read(DocumentKind.MODEL, sha256) is not None
            fault = "" if is_there else f"the STEP file {sha256[:12]}… is missing; restore models/ with git"
        except EiderError as wrong:
            fault = str(wrong)
        if fault:
            found.append(_finding("library.changed-model", path, fault))
    return found


def _finding(check: str, item: str, message: str, severity: Severity = Severity.BLOCKER) -> Finding:
    return Finding(check=check, severity=severity, item=item, address=FILE, message=message)
