"""The figures of a library's health, and what was found in it twice."""

from typing import Literal

import msgspec

from eider.model.finding import Severity

Degree = Literal["equal", "nearly equal", "same number"]


class FoundTwice(msgspec.Struct, frozen=True, omit_defaults=True):
    """Items that are equal, or nearly so: by their ids and names, and in what they differ.

    `kind` is package, footprint, symbol, body or, where parts have one orderable number, part. `users` are the
    parts that use each of the items.
    """

    kind: str
    ids: tuple[str, ...]
    names: tuple[str, ...]
    users: tuple[tuple[str, ...], ...]
    degree: Degree
    differs: str = ""

    @property
    def words(self) -> str:
        """In words, for a line."""
        named = " and ".join(self.names)
        told = f"{self.kind}s {named}" if self.kind != "body" else f"bodies {named}"
        return f"{told}: {self.degree}{f', {self.differs}' if self.differs else ''}"


class HealthFigure(msgspec.Struct, frozen=True):
    """One figure: what it counts, of how many, and the parts it speaks of by name."""

    key: str
    title: str
    count: int
    of: int
    parts: tuple[str, ...]


class CategoryHealth(msgspec.Struct, frozen=True):
    """One category: its parts, the values in them that have evidence, and the findings by severity."""

    category: str
    parts: int
    values: int
    covered: int
    confirmed: int
    findings: dict[str, int]


class CheckHealth(msgspec.Struct, frozen=True):
    """One check that found something, by id and title: how often, how bad, and in which parts."""

    check: str
    title: str
    severity: Severity
    count: int
    parts: tuple[str, ...]


class HealthDay(msgspec.Struct, frozen=True):
    """What was measured on one day (ISO 8601, UTC)."""

    day: str
    parts: int
    values: int
    covered: int
    findings: dict[str, int]


class LibraryHealth(msgspec.Struct, frozen=True):
    """All figures of a library; `days` are those measured in this copy, the oldest first."""

    library: str
    at: str
    parts: int
    values: int
    covered: int
    confirmed: int
    figures: tuple[HealthFigure, ...]
    categories: tuple[CategoryHealth, ...]
    checks: tuple[CheckHealth, ...]
    duplicates: tuple[FoundTwice, ...]
    days: tuple[HealthDay, ...]
    unreadable: tuple[str, ...] = ()
