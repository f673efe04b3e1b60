"""Checks: one function each, registered with id, severity, what it reads and why it matters; and their runner."""

# An explicit list, in the order in which findings of equal severity are shown.
from eider.checks import sheet, evidence, lands, places, distances, pads, holes, thermal, dressing  # noqa: F401, I001
from eider.checks import pins, symbol, match, body, facts  # noqa: F401
from eider.checks.registry import Check, all_checks, check_by_id
from eider.checks.runner import mend, run_checks
from eider.checks.view import PartView

__all__ = ["Check", "PartView", "all_checks", "check_by_id", "mend", "run_checks"]
