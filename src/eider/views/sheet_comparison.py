"""Two package sheets compared letter by letter, and a part with the one it was created from."""

import msgspec

from eider.geometry.lengths import format_length, format_limits
from eider.geometry.rounding import NOISE
from eider.model.bundle import Bundle
from eider.model.package_sheet import PackageSheet
from eider.model.wording import counted
from eider.packages.registry import all_families


class PackageSheetDifference(msgspec.Struct, frozen=True):
    """One length in two sheets, in words; `is_same` where both limits agree."""

    letter: str
    meaning: str
    this: str
    other: str
    words: str
    is_same: bool


class OriginDifference(msgspec.Struct, frozen=True):
    """What became different since a part was created from another: lengths, and hand changes of the lands."""

    name: str
    revision: int
    lengths: tuple[PackageSheetDifference, ...]
    lands: tuple[str, ...]
    newest: int = 0

    @property
    def words(self) -> str:
        """In words, for a line."""
        of = f", revision {self.revision}" if self.revision else ""
        said = [counted(len(self.lengths), "length")] if self.lengths else []
        said += self.lands
        moved_on = f". {self.name} is at revision {self.newest} by now" if self.newest > self.revision > 0 else ""
        return f"Created from {self.name}{of}: {', '.join(said) + ' differ' if said else 'no differences'}{moved_on}"


def since_origin(bundle: Bundle, origin: Bundle, newest: int = 0) -> OriginDifference:
    """How sheet and lands differ from those of the part that this one was created from, whose revision is `newest`."""
    lengths = tuple(d for d in compare_sheets(bundle.sheet, origin.sheet) if not d.is_same)
    ours, theirs = bundle.footprint, origin.footprint
    named = (
        ("level", ours.level, theirs.level),
        ("rulebook", ours.rulebook, theirs.rulebook),
        ("adjustments", ours.adjustments, theirs.adjustments),
        ("suggested lands", ours.suggested, theirs.suggested),
        ("pins", bundle.sheet.pins, origin.sheet.pins),
        ("family", bundle.sheet.family, origin.sheet.family),
    )
    lands = tuple(name for name, a, b in named if a != b)
    release = origin.part.release
    return OriginDifference(origin.part.name, release.revision if release else 0, lengths, lands, newest)


def compare_sheets(this: PackageSheet, other: PackageSheet, unit: str = "mm") -> list[PackageSheetDifference]:
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
            words = "only in the other sheet" if a is None else "only in this sheet"
        else:
            words = "" if is_same else f"middle {format_length(b.middle - a.middle, unit)}"
        found.append(PackageSheetDifference(key, meanings.get(key, ""), texts[0], texts[1], words, is_same))
    return found
