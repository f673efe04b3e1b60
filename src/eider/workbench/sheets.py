"""Package sheets beside each other: one as the start of another, two compared, and values pasted by letter."""

from collections.abc import Sequence

import msgspec

from eider.errors import InputError
from eider.geometry.lengths import format_length, format_limits
from eider.geometry.rounding import NOISE
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.sheet import Dimension, PackageSheet
from eider.packages.reading import read_dimensions
from eider.packages.registry import all_families
from eider.symbols.pin_table import split_table
from eider.workbench.edits import origin_of, set_dimension

replace = msgspec.structs.replace


class SheetDifference(msgspec.Struct, frozen=True):
    """One length in two sheets, in words; `is_same` where both limits agree."""

    letter: str
    meaning: str
    this: str
    other: str
    words: str
    is_same: bool


def copy_sheet(bundle: Bundle, other: Bundle, *, with_lands: bool = False) -> Bundle:
    """Start from another part's sheet, with its lands or without; a link to that part stays.

    Its values come along as assumed ones, which this part's datasheet must still show.
    """
    said = Evidence(EvidenceKind.ASSUMED, text=f"copied from {other.part.name}")
    dims = {key: Dimension(d.text, d.limits, said) for key, d in other.sheet.dims.items()}
    sheet = replace(other.sheet, id=bundle.sheet.id, name=bundle.sheet.name, dims=dims, pictures=())
    made = replace(bundle, sheet=read_dimensions(sheet).sheet, part=replace(bundle.part, origin=origin_of(other)))
    return copy_lands(made, other) if with_lands else made


def copy_lands(bundle: Bundle, other: Bundle) -> Bundle:
    """Take over another part's recipe of lands: level, rulebook, the maker's lands, adjustments, kept distances."""
    footprint = replace(
        other.footprint, id=bundle.footprint.id, name=bundle.footprint.name, package=bundle.footprint.package,
        pattern=None, also=(),
    )  # fmt: skip
    return replace(bundle, footprint=footprint)


class OriginDifference(msgspec.Struct, frozen=True):
    """What became different since a part was begun from another: lengths, and hand changes of the lands."""

    name: str
    revision: int
    lengths: tuple[SheetDifference, ...]
    lands: tuple[str, ...]

    @property
    def words(self) -> str:
        """In words, for a line."""
        of = f", revision {self.revision}" if self.revision else ""
        said = [f"{len(self.lengths)} lengths" if len(self.lengths) != 1 else "1 length"] if self.lengths else []
        said += self.lands
        return f"begun from {self.name}{of}: {', '.join(said) + ' differ' if said else 'nothing differs yet'}"


def since_origin(bundle: Bundle, origin: Bundle) -> OriginDifference:
    """How sheet and lands differ from those of the part that this one was begun from."""
    lengths = tuple(d for d in compare_sheets(bundle.sheet, origin.sheet) if not d.is_same)
    ours, theirs = bundle.footprint, origin.footprint
    named = (
        ("level", ours.level, theirs.level), ("rulebook", ours.rulebook, theirs.rulebook),
        ("adjustments", ours.adjustments, theirs.adjustments), ("suggested lands", ours.suggested, theirs.suggested),
        ("pins", bundle.sheet.pins, origin.sheet.pins), ("family", bundle.sheet.family, origin.sheet.family),
    )  # fmt: skip
    lands = tuple(name for name, a, b in named if a != b)
    release = origin.part.release
    return OriginDifference(origin.part.name, release.revision if release else 0, lengths, lands)


def compare_sheets(this: PackageSheet, other: PackageSheet, unit: str = "mm") -> list[SheetDifference]:
    """Every letter of both sheets: what each says, and by how much the middle of the limits differs."""
    family = all_families().get(this.family)
    known = [letter.key for letter in family.letters] if family else []
    meanings = {letter.key: letter.meaning for letter in family.letters} if family else {}
    letters = [*known, *(k for k in (*this.dims, *other.dims) if k not in known)]
    found = []
    for key in dict.fromkeys(letters):
        a, b = this.limits(key), other.limits(key)
        if a is None and b is None:
            continue
        texts = [format_limits(x, unit, with_unit=False) if x else "–" for x in (a, b)]
        is_same = a is not None and b is not None and abs(a.lower - b.lower) + abs(a.upper - b.upper) < NOISE
        if a is None or b is None:
            words = "only in the other" if a is None else "only in this"
        else:
            words = "" if is_same else f"middle {format_length(b.middle - a.middle, unit)}"
        found.append(SheetDifference(key, meanings.get(key, ""), texts[0], texts[1], words, is_same))
    return found


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
        raise InputError("the rows do not begin with letters of this family; expected letter, min, nom, max in a row")
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
