"""Runs the checks over a part, and applies quick fixes."""

from msgspec.structs import replace

from eider.checks.part_under_check import PartUnderCheck
from eider.checks.registry import Check, CheckHit, all_checks, check_by_id
from eider.errors import NotFoundError
from eider.model.address import Address
from eider.model.bundle import Bundle
from eider.model.finding import SEVERITY_ORDER, Finding


def run_checks(view: PartUnderCheck, *, with_waived: bool = False) -> tuple[Finding, ...]:
    """All findings of a part, worst first, then in the order of the checks; waived ones only on request."""
    found = [_finding(entry, hit, view.bundle) for entry in all_checks().values() for hit in entry.run(view)]
    found += _of_other_levels(view, {(f.check, f.address) for f in found})
    if not with_waived:
        waived = {waiver.key for waiver in view.bundle.part.waivers}
        found = [finding for finding in found if finding.key not in waived]
    return tuple(sorted(found, key=lambda finding: SEVERITY_ORDER[finding.severity]))


def _of_other_levels(view: PartUnderCheck, known: set[tuple[str, Address]]) -> list[Finding]:
    """What the lands at further levels bring that those of the chosen level do not."""
    found = []
    for pattern in view.bundle.footprint.also:
        footprint = replace(view.bundle.footprint, level=pattern.level, pattern=pattern, also=(), also_levels=())
        other = PartUnderCheck(replace(view.bundle, footprint=footprint), view.rulebook, view.settings)
        for entry in all_checks().values():
            hits = entry.run(other) if entry.id.startswith("lands.") else ()
            for hit in hits:
                if (entry.id, hit.address) not in known:
                    told = replace(hit, message=f"level {pattern.level}: {hit.message}")
                    found.append(_finding(entry, told, view.bundle))
    return found


def _finding(entry: Check, hit: CheckHit, bundle: Bundle) -> Finding:
    return Finding(
        check=entry.id,
        severity=hit.severity or entry.severity,
        item=bundle.part.name,
        address=hit.address,
        message=hit.message,
        measured=hit.measured,
        expected=hit.expected,
        quick_fix=entry.quick_fix.title if entry.quick_fix else "",
    )


def apply_quick_fix(view: PartUnderCheck, finding: Finding) -> Bundle:
    """The part with a finding cleared by its quick fix; results of recipes still have to be made anew."""
    action = check_by_id(finding.check).quick_fix
    if action is None:
        raise NotFoundError(f"{finding.check} has no quick fix; change the value at {finding.address}")
    return action.apply(view, finding)
