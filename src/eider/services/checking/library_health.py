"""How a library is: evidence, findings, bodies, datasheets, duplicates and lifecycles, each figure with its parts."""

import contextlib
import os
from collections import defaultdict
from collections.abc import Callable, Iterable, Iterator
from datetime import UTC, datetime
from pathlib import Path

import msgspec

from eider.checks.registry import all_checks
from eider.commands.facts.supplier_facts import LIFECYCLE
from eider.commands.parts.evaluation import count_by_severity
from eider.errors import EiderError, InputError
from eider.evidence.address_table import Coverage, evidence_coverage
from eider.library import Library
from eider.library.atomic_files import write_atomic
from eider.library.index.part_index import PartRow
from eider.library.item_paths import PRIVATE
from eider.model.bundle import Bundle
from eider.model.codec import decode, encode
from eider.model.finding import Severity
from eider.reports.health_figures import CategoryHealth, CheckHealth, HealthDay, HealthFigure, LibraryHealth
from eider.reports.health_page import health_page
from eider.services.checking.duplicates import duplicates_among
from eider.services.checking.library_checking import CheckedPart, check_parts
from eider.services.tasks import Task

FILE = f"{PRIVATE}/health.json"
# Days beyond this many are forgotten, the oldest first.
MOST_DAYS = 1000
REPORTS = (".html", ".json")


class _Seen(msgspec.Struct):
    """One part as it was read: its row, its documents, its evidence and its findings."""

    row: PartRow
    bundle: Bundle
    coverage: Coverage
    checked: CheckedPart


def library_health(library: Library, task: Task | None = None) -> LibraryHealth:
    """Measure a library, and note the day's sums beside this copy of it.

    Raises:
        CancelledError: the user cancelled.
    """
    task = task or Task()
    rows = library.find_parts("", with_withdrawn=True).rows
    seen: list[_Seen] = []
    unreadable: list[str] = []
    checked = list(check_parts(library, rows, task, processes=len(os.sched_getaffinity(0))))
    for index, (row, found) in enumerate(zip(rows, checked, strict=True)):
        task.report(index / len(rows), f"reading {row.name}")
        try:
            bundle = library.load(row.id)
        except EiderError as fault:
            unreadable.append(f"{row.name}: {fault}")
            continue
        seen.append(_Seen(row, bundle, evidence_coverage(bundle), found))
    values, covered, confirmed = _evidence_sums(seen)
    counts = count_by_severity(tuple(f for one in seen for f in one.checked.findings))
    now = datetime.now(UTC).isoformat(timespec="seconds")
    return LibraryHealth(
        library=library.settings.name,
        at=now,
        parts=len(rows),
        values=values,
        covered=covered,
        confirmed=confirmed,
        figures=tuple(_figures(seen)),
        categories=tuple(_categories(seen)),
        checks=tuple(_checks(seen)),
        duplicates=duplicates_among(one.bundle for one in seen if one.bundle.part.withdrawn is None),
        days=_with_day(library, HealthDay(now[:10], len(rows), values, covered, counts)),
        unreadable=tuple(unreadable),
    )


def require_report_name(path: Path) -> None:
    """Refuse the name of a file that is neither a page nor data, before a library is measured for it.

    Raises:
        InputError: it ends with neither .html nor .json.
    """
    if path.suffix not in REPORTS:
        raise InputError(f"{path} ends with neither {' nor '.join(REPORTS)}; a report is one of these")


def save_report(path: Path, health: LibraryHealth) -> None:
    """Write it as a page (.html) or as data (.json).

    Raises:
        InputError: the name ends with neither. LibraryError: it cannot be written.
    """
    require_report_name(path)
    write_atomic(path, (health_page(health) if path.suffix == ".html" else encode(health)).encode())


def _evidence_sums(seen: Iterable[_Seen]) -> tuple[int, int, int]:
    covers = [one.coverage for one in seen]
    return sum(c.total for c in covers), sum(c.covered for c in covers), sum(c.confirmed for c in covers)


def _figures(seen: list[_Seen]) -> Iterator[HealthFigure]:
    editions = _editions(seen)
    asked: dict[str, tuple[str, Callable[[_Seen], bool]]] = {
        "no evidence": ("Parts with values that have no evidence", lambda s: s.coverage.covered < s.coverage.total),
        "unconfirmed": ("Parts in which nobody ticked a value", lambda s: s.coverage.confirmed == 0),
        "blockers": ("Parts with blockers", lambda s: any(f.severity == "blocker" for f in s.checked.findings)),
        "drafts": ("Drafts, never released", lambda s: s.row.state == "draft"),
        "changed": ("Released parts that are being changed", lambda s: s.row.state == "changed"),
        "withdrawn": ("Withdrawn parts", lambda s: s.row.state == "withdrawn"),
        "no body": ("Parts without a 3D body", lambda s: s.bundle.body.model is None and s.bundle.body.result is None),
        "no datasheet": ("Parts without a datasheet", lambda s: not s.bundle.part.datasheets),
        "editions": (
            "Parts with a datasheet of which another edition is in use too",
            lambda s: any(len(editions[link.name]) > 1 for link in s.bundle.part.datasheets),
        ),
        "no lifecycle": ("Parts whose lifecycle is not known", lambda s: not s.row.facts.get(LIFECYCLE)),
        "not active": (
            "Parts that are no longer active with their maker",
            lambda s: s.row.facts.get(LIFECYCLE, "active").casefold() not in ("", "active"),
        ),
    }
    for key, (title, holds) in asked.items():
        names = tuple(one.row.name for one in seen if holds(one))
        yield HealthFigure(key, title, len(names), len(seen), names)


def _editions(seen: Iterable[_Seen]) -> dict[str, set[str]]:
    """The sums of the documents by their names: several are several editions."""
    found: dict[str, set[str]] = defaultdict(set)
    for one in seen:
        for link in one.bundle.part.datasheets:
            found[link.name].add(link.sha256)
    return found


def _categories(seen: Iterable[_Seen]) -> Iterator[CategoryHealth]:
    groups: dict[str, list[_Seen]] = defaultdict(list)
    for one in seen:
        groups[one.row.category].append(one)
    for name, members in sorted(groups.items()):
        counts = count_by_severity(tuple(f for one in members for f in one.checked.findings))
        yield CategoryHealth(name, len(members), *_evidence_sums(members), counts)


def _checks(seen: Iterable[_Seen]) -> Iterator[CheckHealth]:
    found: dict[tuple[Severity, str], list[str]] = defaultdict(list)
    for one in seen:
        for finding in one.checked.findings:
            found[finding.severity, finding.check].append(one.row.name)
    order, titles = list(Severity), {entry.id: entry.title for entry in all_checks().values()}
    for (severity, check), names in sorted(found.items(), key=lambda entry: (order.index(entry[0][0]), -len(entry[1]))):
        yield CheckHealth(check, titles.get(check, check), severity, len(names), tuple(dict.fromkeys(names)))


def _with_day(library: Library, today: HealthDay) -> tuple[HealthDay, ...]:
    """The days that were measured with today's; a damaged file, or a folder that takes nothing, costs only the past."""
    try:
        known = decode(library.files.read(FILE) or b"[]", tuple[HealthDay, ...], FILE)
    except EiderError:
        known = ()
    days = (*(day for day in known if day.day != today.day), today)[-MOST_DAYS:]
    if not library.read_only:
        with contextlib.suppress(EiderError):
            library.files.write(FILE, encode(days).encode())
    return days
