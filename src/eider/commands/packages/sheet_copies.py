"""A package sheet begun from another part's, and values pasted by letter."""

from collections.abc import Sequence

import msgspec

from eider.commands.packages.package_edits import set_dimension
from eider.commands.parts.new_parts import origin_of
from eider.errors import InputError
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.package_sheet import Dimension
from eider.packages.registry import all_families
from eider.packages.sheet_parsing import parse_dimensions
from eider.symbols.pin_table import split_table

replace = msgspec.structs.replace


def copy_sheet(bundle: Bundle, other: Bundle, *, with_lands: bool = False) -> Bundle:
    """Start from another part's sheet, with its lands or without; a link to that part stays.

    Its values come along as assumed ones, which this part's datasheet must still show.
    """
    said = Evidence(EvidenceKind.ASSUMED, text=f"copied from {other.part.name}")
    dims = {key: Dimension(d.text, d.limits, said) for key, d in other.sheet.dims.items()}
    sheet = replace(other.sheet, id=bundle.sheet.id, name=bundle.sheet.name, dims=dims, pictures=())
    made = replace(bundle, sheet=parse_dimensions(sheet).sheet, part=replace(bundle.part, origin=origin_of(other)))
    return copy_lands(made, other) if with_lands else made


def copy_lands(bundle: Bundle, other: Bundle) -> Bundle:
    """Take over another part's recipe of lands: level, rulebook, the maker's lands, adjustments, kept distances."""
    footprint = replace(
        other.footprint,
        id=bundle.footprint.id,
        name=bundle.footprint.name,
        package=bundle.footprint.package,
        pattern=None,
        also=(),
    )
    return replace(bundle, footprint=footprint)


def paste_by_letter(bundle: Bundle, text: str) -> tuple[Bundle, list[str]]:
    """Rows of a spreadsheet that begin with a letter: one value as typed, min and max, or min, nom and max.

    Returns the part, and the rows whose letter the family does not have.

    Raises:
        InputError: hardly any row begins with a letter of the family, or with one of the sheet's own.
    """
    rows = [list(row) for row in split_table(text) if row and row[0].strip()]
    family = all_families().get(bundle.sheet.family)
    known = {letter.key: letter.key for letter in family.letters} if family else {}
    meant = {**known, **bundle.sheet.aliases}
    fitting = [row for row in rows if row[0].strip() in meant]
    if len(fitting) * 2 < len(rows) or not fitting:
        raise InputError("the rows do not begin with letters of this family; paste rows of letter, min, nom, max")
    for row in fitting:
        value = _row_text(row[1:])
        if value:
            bundle = set_dimension(bundle, meant[row[0].strip()], value)
    return bundle, [row[0].strip() for row in rows if row[0].strip() not in meant]


def _row_text(cells: Sequence[str]) -> str:
    cells = [cell.strip() for cell in cells]
    while cells and not cells[-1]:
        cells.pop()
    if len(cells) <= 1:
        return cells[0] if cells else ""
    named = zip(("min", "max") if len(cells) == 2 else ("min", "nom", "max"), cells, strict=False)
    return " ".join(f"{word} {value}" for word, value in named if value not in ("", "-", "–", "—"))
