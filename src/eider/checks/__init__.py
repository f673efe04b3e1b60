"""Checks: one function each, registered with id, severity, what it reads and why it matters; and their runner."""

from eider.checks.part_under_check import PartView
from eider.checks.registry import Check, all_checks, check_by_id
from eider.checks.runner import mend, run_checks

__all__ = ["Check", "PartView", "all_checks", "check_by_id", "mend", "run_checks"]
