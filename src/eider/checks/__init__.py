"""Checks: one function each, registered with id, severity, what it reads and why it matters; and their runner."""

from eider.checks.part_under_check import PartUnderCheck
from eider.checks.registry import Check, all_checks, check_by_id
from eider.checks.runner import apply_quick_fix, run_checks

__all__ = ["Check", "PartUnderCheck", "all_checks", "apply_quick_fix", "check_by_id", "run_checks"]
