"""Reads the texts of a package sheet's dimensions into limits, letters in sums included."""

from collections.abc import Mapping

import msgspec

from eider.geometry.lengths import LengthError, Limits, parse_limits
from eider.model.package_sheet import Dimension, PackageSheet
from eider.packages.family import Family, SheetError


class ParsedSheet(msgspec.Struct, frozen=True):
    """A sheet with its limits read again, and for each text that cannot be read what is wrong with it."""

    sheet: PackageSheet
    faults: Mapping[str, str]


def parse_dimensions(sheet: PackageSheet) -> ParsedSheet:
    """Read every dimension's text; a letter in a sum stands for that dimension's nominal value.

    A dimension without text keeps the limits that it was given.
    """
    limits: dict[str, Limits | None] = {k: d.limits for k, d in sheet.dims.items() if not d.text.strip()}
    names = {k: known.middle for k, known in limits.items() if known is not None}
    waiting = {k: d.text for k, d in sheet.dims.items() if d.text.strip()}
    faults: dict[str, str] = {}
    progress = True
    while waiting and progress:
        progress, faults = False, {}
        for letter, text in list(waiting.items()):
            try:
                read = parse_limits(text, names, sheet.units)
            except LengthError as fault:
                faults[letter] = str(fault)
                continue
            limits[letter], names[letter] = read, read.middle
            del waiting[letter]
            progress = True
    dims = {
        key: msgspec.structs.replace(dimension, limits=limits.get(key)) if dimension.text.strip() else dimension
        for key, dimension in sheet.dims.items()
    }
    return ParsedSheet(msgspec.structs.replace(sheet, dims=dims), faults)


def with_dimension(sheet: PackageSheet, letter: str, dimension: Dimension | None) -> PackageSheet:
    """The sheet with one dimension replaced, or taken away with None; all sums are worked out again."""
    dims = dict(sheet.dims)
    if dimension is None:
        dims.pop(letter, None)
    else:
        dims[letter] = dimension
    return parse_dimensions(msgspec.structs.replace(sheet, dims=dims)).sheet


def refuse_reversed(sheet: PackageSheet) -> None:
    """A maximum below its minimum gives no trustworthy land: the tolerance would count as zero.

    Raises:
        SheetError: a maximum is below its minimum.
    """
    for letter, dimension in sheet.dims.items():
        limits = dimension.limits
        if limits is not None and limits.is_reversed:
            raise SheetError(
                f"{letter}: the maximum {limits.upper:g} mm is below the minimum {limits.lower:g} mm", letter
            )


def refuse_negative(sheet: PackageSheet, family: Family) -> None:
    """Refuse lengths below zero, which would lay lands in reverse; a distance from pin 1 may be any.

    Raises:
        SheetError: one is; it names the letter.
    """
    for letter, dimension in sheet.dims.items():
        declared = family.letter(letter)
        is_free = family.any_letters or declared is None or declared.signed
        if dimension.limits is not None and dimension.limits.lower < 0 and not is_free:
            raise SheetError(
                f"{letter} is {dimension.limits.lower:g} mm: no length is below zero; correct it in the sheet", letter
            )


def without_tolerances(sheet: PackageSheet) -> PackageSheet:
    """The sheet with each length at its nominal value, or at the middle of its limits."""
    dims = {
        key: Dimension(limits=Limits(nom=dimension.limits.middle)) if dimension.limits is not None else dimension
        for key, dimension in sheet.dims.items()
    }
    return msgspec.structs.replace(sheet, dims=dims)
