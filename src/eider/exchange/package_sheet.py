"""The package sheet as text (`eider-package/1`), as people and scripts write it."""

from collections.abc import Mapping
from pathlib import Path
from typing import Any

import msgspec

from eider.errors import InputError
from eider.exchange.json_files import read_json
from eider.exchange.unread_keys import unread_keys
from eider.geometry.expressions import MM_PER_UNIT
from eider.geometry.lengths import format_length
from eider.geometry.limits import Limits
from eider.model.codec import DocumentError, convert
from eider.model.evidence import Evidence
from eider.model.package_sheet import SHEET_FORMAT, Dimension, OptionValue, PackageSheet
from eider.packages.family import NO, YES, Family
from eider.packages.forms.array import position_count
from eider.packages.registry import family_of
from eider.packages.sheet_parsing import parse_dimensions
from eider.symbols.pin_table import MOST_PINS

# What is read in a way of its own, or is not an input.
_READ = frozenset({"format", "dims", "pins", "aliases", "missing", "left", "right", "pictures", "options", "unread"})
NUMBER_LISTS = ("missing", "left", "right")


def read_package_sheet(path: Path) -> PackageSheet:
    """Read a sheet file."""
    return sheet_from_data(read_json(path), str(path))


def sheet_from_data(data: Any, where: str) -> PackageSheet:
    """Make a sheet of the contract's JSON; a dimension is a number, a text, or an object with min, nom, max.

    Raises:
        InputError: it is not a sheet; texts that cannot be read as lengths are kept, for a check to speak of.
    """
    if not isinstance(data, dict):
        raise InputError(f"{where} is not a package sheet: expected an object with format, family, pins and dims")
    if data.get("format", SHEET_FORMAT) != SHEET_FORMAT:
        raise InputError(f"{where} has format {data.get('format')!r}; expected {SHEET_FORMAT!r}")
    units = str(data.get("units", "mm"))
    if units not in MM_PER_UNIT:
        raise InputError(f"{where}: units {units!r} are not known; use {', '.join(MM_PER_UNIT)}")
    family = family_of(str(data.get("family", "")))
    pins = data.get("pins", _counted(data) or family.default_pins)
    if not isinstance(pins, int) or not 0 <= pins <= MOST_PINS:
        raise InputError(f"{where}: pins is {str(pins)[:40]}; expected a whole number from 0 to {MOST_PINS}")
    dims = _by_standard_letters(_all_dims(data, where), data.get("aliases"), family)
    # All that a sheet has and that is not read in a way of its own.
    plain = {key: data[key] for key in PackageSheet.__struct_fields__ if data.get(key) is not None and key not in _READ}
    sheet = convert(
        {
            "name": "",
            **{key: _texts(value) if key == "pads" else value for key, value in plain.items()},
            "pins": pins,
            "aliases": data.get("aliases", {}),
            **{key: _numbers(data, key, where) for key in NUMBER_LISTS},
            "options": _options(data, family, where),
            "unread": unread_keys(data, family),
        },
        PackageSheet,
        where,
    )
    read = {letter: _dimension(value, letter, units, where) for letter, value in dims.items()}
    return parse_dimensions(msgspec.structs.replace(sheet, dims=read)).sheet


def _options(data: dict[str, Any], family: Family, where: str) -> dict[str, OptionValue]:
    """Inputs that the family alone has: under their own keys, or under `options` as a library's file has them."""
    given = data.get("options") or {}
    if not isinstance(given, dict):
        raise InputError(f"{where}: options must be an object of the family's own inputs")
    found: dict[str, OptionValue] = {}
    for field in family.fields:
        value = data.get(field.key, given.get(field.key))
        if field.key in PackageSheet.__struct_fields__ or value is None:
            continue
        text = ", ".join(map(str, value)) if isinstance(value, list) else {True: YES, False: NO}.get(value, str(value))
        read = field.read(text)
        if read is not None:
            found[field.key] = read
    return found


def _all_dims(data: dict[str, Any], where: str) -> dict[str, Any]:
    """The lengths of `dims` with those of `thermal`; a `pull_back` of its own is one of them."""
    found: dict[str, Any] = {}
    for key in ("dims", "thermal"):
        given = data.get(key) or {}
        if not isinstance(given, dict):
            raise InputError(f'{where}: {key} must be an object of letters, such as {{"E": "5.80–6.20"}}')
        found |= {str(letter): value for letter, value in given.items() if value is not None}
    if data.get("pull_back") is not None:
        found["pull_back"] = data["pull_back"]
    return found


def _by_standard_letters(dims: dict[str, Any], aliases: Any, family: Family) -> dict[str, Any]:
    """Lengths under the datasheet's own letters, where `aliases` say what these mean, under those of the family.

    A letter that the family has itself, or that is there already, stays as it is.
    """
    meant = aliases if isinstance(aliases, dict) else {}
    found: dict[str, Any] = {}
    for letter, value in dims.items():
        standard = str(meant.get(letter, letter))
        is_own = family.letter(letter) is not None or standard in dims
        found[letter if is_own else standard] = value
    return found


def _texts(pads: Any) -> Any:
    """Pads by hand with plain numbers as the sums that they are written as."""
    if not isinstance(pads, list):
        return pads

    def as_text(value: Any) -> Any:
        is_number = isinstance(value, int | float) and not isinstance(value, bool)
        return f"{value:.12g}" if is_number else value

    return [{key: as_text(value) for key, value in pad.items()} if isinstance(pad, dict) else pad for pad in pads]


def _counted(data: dict[str, Any]) -> int:
    """The number of pins that other counts of a sheet give; 0 where they give none."""
    left, right = data.get("left") or [], data.get("right") or []
    counts = [data.get(key) for key in ("pins_d", "pins_e", "rows", "columns")]
    along_x, along_y, rows, columns = (c if isinstance(c, int) and c > 0 else 0 for c in counts)
    if isinstance(left, list) and isinstance(right, list) and (left or right):
        return len({str(number) for number in (*left, *right) if number})
    if rows and columns:
        missing = data.get("missing") or []
        count = position_count(rows, columns, staggered=data.get("staggered") is True)
        return count - (len(missing) if isinstance(missing, list) else 0)
    return 2 * (along_x + along_y)


def _numbers(data: dict[str, Any], key: str, where: str) -> list[str]:
    """A list of pin numbers; an empty place in a row is null or an empty text."""
    given = data.get(key) or []
    if not isinstance(given, list):
        raise InputError(f'{where}: {key} must be a list of pin numbers, such as ["5"]')
    if len(given) > MOST_PINS:
        raise InputError(f"{where}: {key} has {len(given)} pin numbers; at most {MOST_PINS} are taken")
    return ["" if number is None else str(number) for number in given]


def _dimension(value: Any, letter: str, units: str, where: str) -> Dimension:
    if isinstance(value, bool) or value is None:
        raise InputError(f"{where}: dims.{letter} is {value!r}; expected a number, a text, or min, nom and max")
    if isinstance(value, int | float):
        return Dimension(text=format_length(float(value), with_unit=False))
    if isinstance(value, str):
        return Dimension(text=value)
    if not isinstance(value, Mapping):
        raise InputError(f"{where}: dims.{letter} is a {type(value).__name__}; expected a number, a text or an object")
    evidence = convert(value["evidence"], Evidence, f"{where}, dims.{letter}") if value.get("evidence") else None
    if isinstance(value.get("text"), str) and value["text"].strip():
        return Dimension(text=value["text"], evidence=evidence)
    given = value.get("limits") or {key: value[key] for key in ("min", "nom", "max") if value.get(key) is not None}
    factor = MM_PER_UNIT[units]
    try:
        limits = Limits(**{key: float(number) * factor for key, number in given.items()})
    except (TypeError, ValueError, AttributeError) as fault:
        raise DocumentError(f"{where}: dims.{letter}: {fault}") from fault
    return Dimension(limits=limits, evidence=evidence)
