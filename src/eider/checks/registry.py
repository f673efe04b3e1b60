"""The register of checks."""

import inspect
import re
from collections.abc import Callable, Iterator, Mapping
from functools import cache
from types import MappingProxyType

import msgspec

from eider.checks import areas
from eider.checks.check_inputs import Input
from eider.checks.part_under_check import PartUnderCheck
from eider.discovery import modules_of
from eider.model.address import Address
from eider.model.bundle import Bundle
from eider.model.finding import Finding, Severity


class CheckHit(msgspec.Struct, frozen=True):
    """What a check function yields: address, what is wrong, measured and expected; severity where it differs."""

    address: Address
    message: str
    measured: str = ""
    expected: str = ""
    severity: Severity | None = None
    also: tuple[Address, ...] = ()


class QuickFix(msgspec.Struct, frozen=True):
    """The one action that clears a finding: its title, and a function from a part and the finding to a new part.

    The results of recipes are made again afterwards by whoever applies it.
    """

    title: str
    apply: Callable[[PartUnderCheck, Finding], Bundle]


CheckFunction = Callable[[PartUnderCheck], Iterator[CheckHit]]


class Check(msgspec.Struct, frozen=True):
    """A registered check; title and reason are taken from the function's docstring."""

    id: str
    severity: Severity
    reads: frozenset[Input]
    run: CheckFunction
    quick_fix: QuickFix | None

    @property
    def area(self) -> str:
        """What the check is about: the first word of its id."""
        return self.id.partition(".")[0]

    @property
    def title(self) -> str:
        """What holds where the check finds nothing: the first line of the function's docstring."""
        return inspect.cleandoc(self.run.__doc__ or "").partition("\n")[0]

    @property
    def why(self) -> str:
        """Why that matters: the rest of the docstring."""
        return " ".join(inspect.cleandoc(self.run.__doc__ or "").partition("\n")[2].split())


# The order of the work, in which findings of equal severity are listed; other areas follow.
AREAS = ("sheet", "evidence", "lands", "symbol", "match", "body", "facts")
_checks: dict[str, Check] = {}
_ID = re.compile(r"[a-z]+\.[a-z0-9-]+")


def check(
    check_id: str, severity: Severity, *, reads: tuple[Input, ...], quick_fix: QuickFix | None = None
) -> Callable[[CheckFunction], CheckFunction]:
    """Register a check function under a stable id; its docstring's first line is the title, the rest the reason.

    `reads` are the inputs that its findings depend on: where none of them changed it is not run again.
    """

    def register(function: CheckFunction) -> CheckFunction:
        if not _ID.fullmatch(check_id) or check_id in _checks:
            raise TypeError(f"check id “{check_id}” is malformed or taken")
        _checks[check_id] = Check(check_id, severity, frozenset(reads), function, quick_fix)
        return function

    return register


@cache
def all_checks() -> Mapping[str, Check]:
    """Every registered check by its id: by area in the order of the work, then by module and place in it."""
    # Importing a module registers its checks.
    tuple(modules_of(areas))
    rank = {area: index for index, area in enumerate(AREAS)}
    found = sorted(_checks.values(), key=lambda entry: rank.get(entry.area, len(rank)))
    return MappingProxyType({entry.id: entry for entry in found})


def check_by_id(check_id: str) -> Check:
    """The check with this id.

    Raises:
        KeyError: there is none.
    """
    return all_checks()[check_id]
