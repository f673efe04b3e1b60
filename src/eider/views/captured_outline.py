"""The package as captured dimensions would make it, before they are used."""

from collections.abc import Mapping

import msgspec

from eider.commands.datasheets.captured_values import use_dimensions
from eider.datasheets.tables.table_capture import TableCapture
from eider.drawings.package_drawing import begun_drawings
from eider.drawings.primitives import Drawing
from eider.errors import EiderError
from eider.model.bundle import Bundle
from eider.packages.registry import family_of


class CapturedOutline(msgspec.Struct, frozen=True):
    """The drawings from the top and from the side, what cannot be in red; without them `fault` says why."""

    drawings: tuple[Drawing, ...]
    side_letters: frozenset[str]
    fault: str = ""

    def drawing_of(self, letter: str) -> Drawing | None:
        """The drawing that shows a letter; the first for one that is in none."""
        if not self.drawings:
            return None
        return self.drawings[1] if letter in self.side_letters else self.drawings[0]


def captured_outline(
    bundle: Bundle, found: TableCapture, letters: Mapping[str, str], member: str, unit: str
) -> CapturedOutline:
    """What a part's package would be with the dimensions of a table under these letters."""
    try:
        sheet = use_dimensions(bundle, found, letters, "", "", member).sheet
        family = family_of(sheet.family)
        wrong = {letter for hit in family.implausible(sheet, family.dims(sheet)) for letter in hit.letters}
        drawings = begun_drawings(sheet, unit=unit, wrong=wrong)
    except EiderError as fault:
        return CapturedOutline((), frozenset(), str(fault))
    return CapturedOutline(drawings, frozenset(letter.key for letter in family.letters if letter.view == "side"))
