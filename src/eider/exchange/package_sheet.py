"""The package sheet as text (`eider-package/1`), as people and scripts write it."""

from collections.abc import Mapping
from pathlib import Path
from typing import Any

import msgspec

from eider.errors import InputError
from eider.exchange.files import read_json
from eider.geometry.expressions import MM_PER_UNIT
from eider.geometry.lengths import format_length
from eider.geometry.limits import Limits
from eider.model.codec import DocumentError, convert
from eider.model.evidence import Evidence
from eider.model.sheet import SHEET_FORMAT, Dimension, PackageSheet
from eider.packages.reading import read_dimensions
from eider.packages.registry import family_of

LARGEST_PINS = 5_000
PLAIN_KEYS = ("id", "name", "family", "kind", "units")


def read_sheet(path: Path) -> PackageSheet:
    """Read a sheet file."""
    return sheet_from_data(read_json(path), str(path))


def sheet_from_data(data: Any, where: str) -> PackageSheet:
    """Make a sheet of the contract's JSON; a dimension is a number, a text, or an object with min, nom, max.

    Raises:
        InputError: it is no sheet; texts that cannot be read as lengths are kept, for a check to speak of.
    """
    if not isinstance(data, dict):
        raise InputError(f"{where} is no package sheet: expected an object with format, family, pins and dims")
    if data.get("format", SHEET_FORMAT) != SHEET_FORMAT:
        raise InputError(f"{where} has format {data.get('format')!r}; expected {SHEET_FORMAT!r}")
    units = str(data.get("units", "mm"))
    if units not in MM_PER_UNIT:
        raise InputError(f"{where}: units {units!r} are not known; use {', '.join(MM_PER_UNIT)}")
    family = family_of(str(data.get("family", "")))
    pins = data.get("pins", family.default_pins)
    if not isinstance(pins, int) or not 1 <= pins <= LARGEST_PINS:
        raise InputError(f"{where}: pins is {pins!r}; expected a whole number from 1 to {LARGEST_PINS}")
    dims = data.get("dims", {})
    if not isinstance(dims, dict):
        raise InputError(f'{where}: dims must be an object of letters, such as {{"E": "5.80–6.20"}}')
    missing = data.get("missing") or []
    if not isinstance(missing, list):
        raise InputError(f'{where}: missing must be a list of pin numbers, such as ["5"]')
    plain = {key: data[key] for key in PLAIN_KEYS if key in data}
    sheet = convert(
        {
            "name": "",
            **plain,
            "pins": pins,
            "aliases": data.get("aliases", {}),
            "missing": [str(number) for number in missing],
        },
        PackageSheet,
        where,
    )
    read = {letter: _dimension(value, letter, units, where) for letter, value in dims.items()}
    return read_dimensions(msgspec.structs.replace(sheet, dims=read)).sheet


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
