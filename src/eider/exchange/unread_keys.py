"""What a package sheet has that nothing reads: keys misspelt or in the wrong place, and values that are not known."""

from collections.abc import Iterator, Mapping
from difflib import get_close_matches
from typing import Any

from eider.model.package_sheet import PackageSheet
from eider.packages.family import Family

# What a sheet as text may have besides the fields of a sheet.
_OF_TEXT = frozenset({"thermal", "pull_back", "title", "description", "note", "notes", "comment"})
_CHOICES: Mapping[str, tuple[str, ...]] = {"numbering": ("row", "zigzag", "around"), "mounting": ("standing", "lying")}


def unread_keys(data: Mapping[str, Any], family: Family) -> dict[str, str]:
    """For each key of a sheet's JSON that takes part in nothing what was probably meant, in words."""
    return dict((*_of_sheet(data, family), *_of_options(data, family), *_of_choices(data)))


def _of_sheet(data: Mapping[str, Any], family: Family) -> Iterator[tuple[str, str]]:
    known = {*PackageSheet.__struct_fields__, *_OF_TEXT, *(field.key for field in family.fields)}
    for key in data:
        if key not in known:
            yield key, _meant(key, family, known)


def _meant(key: str, family: Family, known: set[str]) -> str:
    if family.letter(key) is not None:
        return "letters belong in dims"
    near = get_close_matches(key, [*known, *(letter.key for letter in family.letters)], 1, 0.7)
    return f"{near[0]} is known" if near else f"{family.title} has no input of that name"


def _of_options(data: Mapping[str, Any], family: Family) -> Iterator[tuple[str, str]]:
    given = data.get("options")
    fields = {field.key for field in family.fields}
    for key in given if isinstance(given, dict) else ():
        if key in PackageSheet.__struct_fields__:
            yield f"options.{key}", f"{key} belongs at the top of the sheet, beside pins"
        elif key not in fields:
            near = get_close_matches(key, fields, 1, 0.7)
            yield f"options.{key}", f"options.{near[0]} is known" if near else f"{family.title} has no such option"


def _of_choices(data: Mapping[str, Any]) -> Iterator[tuple[str, str]]:
    for key, choices in _CHOICES.items():
        value = data.get(key)
        if value and value not in choices:
            yield key, f"“{str(value)[:40]}” is not a value of it; expected: {', '.join(choices)}"
