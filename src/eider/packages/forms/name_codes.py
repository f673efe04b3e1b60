"""Pieces of package names by the IPC-7351 convention: two implied decimals, no leading zeros."""

from eider.geometry.rounding import round_to_step, tidy
from eider.model.pattern import Level

LEVEL_LETTER = {"A": "M", "B": "N", "C": "L"}


def hundredths(mm: float) -> str:
    """1.27 → `127`."""
    return str(round(round_to_step(mm, 0.01) * 100))


def tenths(mm: float) -> str:
    """2.0 → `20`; 1.25 → `12`: a half counts down, as in the trade's size codes."""
    return f"{-round(round_to_step(-tidy(mm), 0.1) * 10):02d}"


def level_letter(level: Level) -> str:
    """M, N or L for the levels A (most), B (nominal), C (least), with which the name of a land pattern ends."""
    return LEVEL_LETTER[level]
