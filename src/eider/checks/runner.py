"""Runs the checks over a part, and applies quick fixes."""

from collections.abc import Collection, Iterator, Mapping, Sequence
from functools import lru_cache

import msgspec
from msgspec.structs import replace

from eider.checks.check_inputs import INPUTS, Input, changed_inputs, inputs_of
from eider.checks.part_under_check import PartUnderCheck
from eider.checks.registry import Check, CheckHit, all_checks, check_by_id
from eider.errors import NotFoundError
from eider.model.bundle import Bundle
from eider.model.finding import SEVERITY_ORDER, Finding
from eider.model.pattern import Level
from eider.model.wording import sentence

# A check, and the level of the further lands that it was run over; none for the part as it is.
Run = tuple[str, Level | None]


class CheckResults(msgspec.Struct, frozen=True):
    """The findings of a part, and what every check found in which inputs, for the next time."""

    findings: tuple[Finding, ...]
    hits: Mapping[Run, tuple[CheckHit, ...]]
    inputs: Mapping[Input, object]


def run_checks(view: PartUnderCheck, *, areas: Collection[str] = (), with_waived: bool = False) -> tuple[Finding, ...]:
    """All findings of a part, worst first, then in the order of the checks; waived ones only on request.

    With `areas` only the checks of these are run.
    """
    if not areas:
        return check_part(view, with_waived=with_waived).findings
    entries = [entry for entry in all_checks().values() if entry.area in areas]
    hits = {run: tuple(entry.run(at)) for run, entry, at in _runs(view, entries)}
    return _ordered(view.bundle, hits, with_waived=with_waived)


def check_part(view: PartUnderCheck, before: CheckResults | None = None, *, with_waived: bool = False) -> CheckResults:
    """The same with what is needed to check a later state; of `before` what no change touched is taken as it is."""
    inputs = inputs_of(view.bundle, view.rulebook, view.settings)
    changed = changed_inputs(before.inputs, inputs) if before else frozenset(INPUTS)
    levels = (None, *(pattern.level for pattern in view.bundle.footprint.also))
    known = before.hits if before and {level for _check, level in before.hits} == set(levels) else {}
    entries = _reading(changed if known else frozenset(INPUTS))
    # In the order of the checks also where only some of them run again.
    hits = {**known, **{run: tuple(entry.run(at)) for run, entry, at in _runs(view, entries)}}
    return CheckResults(_ordered(view.bundle, hits, with_waived=with_waived), hits, inputs)


def _ordered(bundle: Bundle, hits: Mapping[Run, tuple[CheckHit, ...]], *, with_waived: bool) -> tuple[Finding, ...]:
    """The findings that are not waived, or all of them, worst first."""
    waived = frozenset[object]() if with_waived else {waiver.key for waiver in bundle.part.waivers}
    findings = (finding for finding in _findings(bundle, hits) if finding.key not in waived)
    return tuple(sorted(findings, key=lambda finding: SEVERITY_ORDER[finding.severity]))


@lru_cache(maxsize=64)
def _reading(inputs: frozenset[Input]) -> tuple[Check, ...]:
    """The checks that read one of these inputs."""
    return tuple(entry for entry in all_checks().values() if inputs & entry.reads)


def _runs(view: PartUnderCheck, entries: Sequence[Check]) -> Iterator[tuple[Run, Check, PartUnderCheck]]:
    """Checks over the part, then those of lands over the lands at further levels."""
    for entry in entries:
        yield (entry.id, None), entry, view
    for pattern in view.bundle.footprint.also:
        footprint = replace(view.bundle.footprint, level=pattern.level, pattern=pattern, also=(), also_levels=())
        other = PartUnderCheck(replace(view.bundle, footprint=footprint), view.rulebook, view.settings)
        for entry in entries:
            if entry.area == "lands":
                yield (entry.id, pattern.level), entry, other


def _findings(bundle: Bundle, hits: Mapping[Run, tuple[CheckHit, ...]]) -> Iterator[Finding]:
    """The findings of the chosen level, then what those of further levels bring besides."""
    told = {(check_id, hit.address) for (check_id, level), found in hits.items() if level is None for hit in found}
    for (check_id, level), found in hits.items():
        for hit in found:
            if level is None:
                yield _finding(check_by_id(check_id), hit, bundle)
            elif (check_id, hit.address) not in told:
                yield _finding(check_by_id(check_id), replace(hit, message=f"level {level}: {hit.message}"), bundle)


def _finding(entry: Check, hit: CheckHit, bundle: Bundle) -> Finding:
    return Finding(
        check=entry.id,
        severity=hit.severity or entry.severity,
        item=bundle.part.name,
        address=hit.address,
        message=sentence(hit.message),
        measured=hit.measured,
        expected=hit.expected,
        also=hit.also,
        quick_fix=entry.quick_fix.title if entry.quick_fix else "",
    )


def apply_quick_fix(view: PartUnderCheck, finding: Finding) -> Bundle:
    """The part with a finding cleared by its quick fix; results of recipes still have to be made again.

    Raises:
        NotFoundError: the check has no quick fix.
    """
    action = check_by_id(finding.check).quick_fix
    if action is None:
        raise NotFoundError(f"{finding.check} has no quick fix; change the value at {finding.address}")
    return action.apply(view, finding)
