"""The package families as they are listed."""

from collections.abc import Mapping

from eider.packages.family import GROUPS
from eider.packages.registry import all_families


def family_titles() -> tuple[tuple[str, str, str], ...]:
    """Key, title and summary of every package family."""
    return tuple((family.key, family.title, family.summary) for family in all_families().values())


def grouped_families() -> Mapping[str, tuple[tuple[str, str, str], ...]]:
    """The same by what they are listed under, sorted by title; a group without families is left out."""
    found = {
        group: sorted((f.title, f.key, f.summary) for f in all_families().values() if f.group == group)
        for group in GROUPS
    }
    return {
        group: tuple((key, title, told) for title, key, told in listed) for group, listed in found.items() if listed
    }
