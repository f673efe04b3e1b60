"""The package sheet: the dimensions of one package, with evidence."""

from typing import Literal

import msgspec

from eider.geometry.limits import Limits
from eider.geometry.plane import Box, Point
from eider.model.evidence import Evidence
from eider.model.item_ref import ItemId
from eider.model.outline import OutlineSpec, PadSpec

SHEET_FORMAT = "eider-package/1"
# What an input besides lengths can be: a count, a number, yes or no, a choice, a list of pin numbers.
OptionValue = int | float | bool | str | tuple[str, ...]


class Dimension(msgspec.Struct, frozen=True, omit_defaults=True):
    """One length of a package: the text as it was typed, and the limits in mm that were read from it.

    `limits` is None while the text cannot be read. Where someone changed the value by hand, `former_text` and
    `former` keep what stood there before and where it came from.
    """

    text: str = ""
    limits: Limits | None = None
    evidence: Evidence | None = None
    former_text: str = ""
    former: Evidence | None = None


class PictureScale(msgspec.Struct, frozen=True, omit_defaults=True):
    """Two points of a datasheet's drawing (PDF points) and the length in mm between them; `letter` where it has one."""

    a: Point
    b: Point
    length: float
    letter: str = ""


class DatasheetPicture(msgspec.Struct, frozen=True, omit_defaults=True):
    """A drawing of the datasheet that is kept beside the sheet: where it is, what it shows, and its scale.

    `box` is in PDF points; `shift` moves what is laid over it, in PDF points.
    """

    document: str
    page: int
    box: Box
    shows: Literal["top", "side", "lands"] = "top"
    scale: PictureScale | None = None
    shift: Point = (0.0, 0.0)


class Post(msgspec.Struct, frozen=True, omit_defaults=True):
    """A post that only locates or holds the part: centre and diameter in mm; an oblong one has a `height` too."""

    x: float
    y: float
    diameter: float
    height: float = 0.0


class PackageSheet(msgspec.Struct, frozen=True, omit_defaults=True, kw_only=True):
    """Everything that a family needs to know of one package.

    Attributes:
        dims: by the standard's letter (contract: families and their letters).
        aliases: the standard's letter for each of the datasheet's own that differs: `{"H": "E"}`.
        missing: pin numbers that the package leaves out.
        units: unit of bare numbers in `dims`: mm, mil, in or um.
        kind: what a two-terminal package holds: `capacitor`, `resistor`, `inductor`, `diode`.
        pictures: the datasheet's drawings of the package.
        rows, columns: of a grid, or of a header's pins; `staggered` grids leave every other position out.
        pins_d, pins_e: pins on a side along x and along y where the two differ.
        left, right: pin numbers by position, from the top down, where they are not the usual ones; empty for none.
        numbering: how pins are numbered: `row`, `zigzag`, `around`; empty is the family's usual way.
        mounting: `standing` or `lying`, of leaded parts.
        posts: what holds or locates the part without being a pin.
        pads, outlines: pads that are given by hand, and the copper shapes they name.
        options: inputs that one family alone has, by the keys that it declares.
        unread: keys of the sheet's text that take part in nothing, with what was probably meant.
    """

    format: str = SHEET_FORMAT
    id: ItemId = ""
    name: str
    family: str
    pins: int
    units: str = "mm"
    kind: str = ""
    dims: dict[str, Dimension] = {}
    aliases: dict[str, str] = {}
    missing: tuple[str, ...] = ()
    pictures: tuple[DatasheetPicture, ...] = ()
    rows: int | None = None
    columns: int | None = None
    staggered: bool = False
    pins_d: int | None = None
    pins_e: int | None = None
    left: tuple[str, ...] = ()
    right: tuple[str, ...] = ()
    numbering: str = ""
    mounting: str = ""
    posts: tuple[Post, ...] = ()
    pads: tuple[PadSpec, ...] = ()
    outlines: dict[str, OutlineSpec] = {}
    options: dict[str, OptionValue] = {}
    unread: dict[str, str] = {}

    def option(self, key: str) -> OptionValue | None:
        """The value of an input that is not a length, by the key that its family declares; None if there is none."""
        if key in _INPUTS:
            value: OptionValue | None = getattr(self, key)
            return value
        return self.options.get(key)

    def with_option(self, key: str, value: OptionValue | None) -> "PackageSheet":
        """The sheet with another value for such an input; None takes it away."""
        if key in _INPUTS:
            plain = _INPUTS[key] if value is None else value
            return msgspec.structs.replace(self, **{key: plain})
        rest = {k: v for k, v in self.options.items() if k != key}
        return msgspec.structs.replace(self, options=rest if value is None else {**rest, key: value})

    def datasheet_letter(self, letter: str) -> str:
        """What the datasheet calls the standard's letter; empty where it uses the same."""
        return next((sheet_letter for sheet_letter, standard in self.aliases.items() if standard == letter), "")

    def limits(self, letter: str) -> Limits | None:
        """The limits of a dimension in mm; None where it is not given or cannot be read."""
        dimension = self.dims.get(letter)
        return dimension.limits if dimension else None


# The inputs that several families have, with what stands for nothing.
_INPUTS: dict[str, OptionValue | None] = {
    "rows": None,
    "columns": None,
    "staggered": False,
    "pins_d": None,
    "pins_e": None,
    "left": (),
    "right": (),
    "missing": (),
    "numbering": "",
    "mounting": "",
}
