"""Sheets of paper to print on."""

from collections.abc import Mapping

# ISO 216 and ANSI papers, upright, mm.
PAPERS: Mapping[str, tuple[float, float]] = {"A4": (210.0, 297.0), "Letter": (215.9, 279.4), "A3": (297.0, 420.0)}
