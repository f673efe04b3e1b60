"""The package families as they are listed."""

from eider.packages.registry import all_families


def family_titles() -> tuple[tuple[str, str, str], ...]:
    """Key, title and summary of every package family."""
    return tuple((family.key, family.title, family.summary) for family in all_families().values())
