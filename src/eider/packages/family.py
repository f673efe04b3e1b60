"""What a package family declares: its letters, plausibility, terminals, views, solids, land recipe and name."""

import math
from collections.abc import Callable, Iterator, Mapping
from contextlib import suppress
from typing import Literal

import msgspec
import numpy as np
import numpy.typing as npt

from eider.errors import InputError
from eider.geometry.limits import Limits
from eider.geometry.plane import Box, Outline, Point
from eider.geometry.solids import Solid
from eider.model.finding import Severity
from eider.model.package_sheet import OptionValue, PackageSheet, Post
from eider.model.pattern import KeepOut, Pad
from eider.rulebooks.rulebook import GoalRow

YES, NO = "yes", "no"
LARGEST_COUNT = 5000
FloatArray = npt.NDArray[np.float64]
ViewName = Literal["top", "side"]


class SheetError(InputError):
    """A package sheet from which something cannot be made; `letter` names the dimension at fault, if one is."""

    def __init__(self, message: str, letter: str = "") -> None:
        super().__init__(message, letter)
        self.letter = letter

    def __str__(self) -> str:
        return str(self.args[0])


class LetterLimits(Limits, frozen=True):
    """The limits of a dimension as they are in the sheet, with its letter: where a recipe takes a length as it is,
    the letter says where it came from.
    """

    letter: str = ""


class Dims(Mapping[str, Limits]):
    """The readable dimensions of a sheet; asking for one that is not there raises a SheetError that names it."""

    def __init__(self, sheet: PackageSheet, letters: tuple["Letter", ...]) -> None:
        given = {key: dimension.limits for key, dimension in sheet.dims.items() if dimension.limits is not None}
        assumed = {x.key: Limits(nom=x.assumed) for x in letters if x.assumed is not None}
        self._limits: dict[str, Limits] = {
            key: LetterLimits(limits.min, limits.nom, limits.max, key) for key, limits in {**assumed, **given}.items()
        }
        self._meanings = {letter.key: letter.meaning for letter in letters}

    def __getitem__(self, letter: str) -> Limits:
        try:
            return self._limits[letter]
        except KeyError:
            meaning = self._meanings.get(letter, "dimension")
            raise SheetError(
                f"{letter} ({meaning}) is missing or cannot be read; enter it in the sheet", letter
            ) from None

    def __contains__(self, letter: object) -> bool:
        return letter in self._limits

    def __iter__(self) -> Iterator[str]:
        return iter(self._limits)

    def __len__(self) -> int:
        return len(self._limits)


class Letter(msgspec.Struct, frozen=True, kw_only=True):
    """One dimension of a family.

    `assumed` (mm) stands in for a length that only the body needs; without it the length is required.
    `typical` is a share of `reference` within which any real package lies: outside, a mixed-up unit is tried.
    `also` are other letters that datasheets commonly give it, the most usual first. An `optional` one, such as the size
    of a thermal pad, belongs to some packages of the family only; `pictured` ones are drawn while a sheet is only
    begun all the same. A `signed` one may be zero or negative, such as a distance from pin 1; one
    with `needed_from` is needed by packages of so many pins or more. One `by_name` is proposed only for a row of a
    datasheet that calls it so.
    """

    key: str
    meaning: str
    view: ViewName
    assumed: float | None = None
    reference: str = ""
    typical: tuple[float, float] = (0.0, 0.0)
    also: tuple[str, ...] = ()
    optional: bool = False
    pictured: bool = False
    signed: bool = False
    needed_from: int = 0
    by_name: bool = False


class Implausible(msgspec.Struct, frozen=True):
    """Lengths that cannot belong to one package, or with a caution: that hardly do."""

    letters: tuple[str, ...]
    message: str
    measured: str
    expected: str
    severity: Severity = Severity.BLOCKER


class Terminal(msgspec.Struct, frozen=True, gc=False):
    """A terminal seen from above at nominal size: the part that stands on the land, and the whole of it (mm).

    One that is `round` fills the circle in its box.
    """

    number: str
    foot: Box
    whole: Box
    round: bool = False


class OpposedRows(msgspec.Struct, frozen=True, kw_only=True):
    """Two rows of terminals that face each other across the package: what the solder-joint equations need.

    Attributes:
        axis: direction in which `length` is measured; the first row lies at its negative end for x (left), at its
            positive end for y (top).
        length, foot, width: L, T and W of the equations; `gap` is S where the sheet gives it.
        first, second: pin numbers of the rows; `at_first`, `at_second` their positions along the row, shape (n,), mm.
        goals, measures: which goals of the rulebook hold.
        pitch: 0 for a single terminal per row.
        remarks: what the derivation says of the terminals besides their lengths.
        ring: counted inwards from 0 where a side has several rows one behind the other.
    """

    group: str
    axis: Literal["x", "y"]
    length: Limits
    foot: Limits
    width: Limits
    gap: Limits | None = None
    first: tuple[str, ...]
    second: tuple[str, ...]
    at_first: FloatArray
    at_second: FloatArray
    goals: str
    measures: dict[str, float]
    pitch: float = 0.0
    ring: int = 0
    remarks: tuple[str, ...] = ()


class Plate(msgspec.Struct, frozen=True, kw_only=True):
    """A flat area under the package that is soldered as a whole, such as a thermal pad.

    `width` is along x, `height` along y, about (x, y); `chamfer` (mm) cuts the corner of pin 1, which lies in the
    direction `corner`: upper left unless the package is turned.
    """

    number: str
    width: Limits
    height: Limits
    x: float = 0.0
    y: float = 0.0
    chamfer: float = 0.0
    corner: Point = (-1.0, 1.0)


class BallGrid(msgspec.Struct, frozen=True, kw_only=True):
    """Terminals under the package at given places (mm).

    Attributes:
        size: diameter of a ball or round land, or side of a square one.
        height: of rectangular lands, whose `size` is their width.
        mask_defined: the opening of the mask is the land, and the copper reaches under the mask.
        kind: collapsing balls melt down onto a smaller land, others need a larger one; flat lands take one of their
            own size.
        x, y: places, shape (n,).
    """

    group: str
    numbers: tuple[str, ...]
    x: FloatArray
    y: FloatArray
    size: Limits
    kind: Literal["collapsing", "non-collapsing", "flat"] = "collapsing"
    square: bool = False
    pitch: float = 0.0
    height: Limits | None = None
    mask_defined: bool = False


class Leads(msgspec.Struct, frozen=True, kw_only=True):
    """Leads that go through the board at given places (mm): round of a diameter, or flat of a width and thickness.

    `along` is the axis in which a flat lead is wide. `x`, `y` have shape (n,). `hole` is the finished hole where the
    sheet gives it; leads that are a `press_fit` are larger than theirs.
    """

    group: str
    numbers: tuple[str, ...]
    x: FloatArray
    y: FloatArray
    width: Limits
    thickness: Limits | None = None
    along: Literal["x", "y"] = "x"
    pitch: float = 0.0
    hole: Limits | None = None
    press_fit: bool = False


class ManualPad(msgspec.Struct, frozen=True, kw_only=True):
    """A pad that is given as it is; expansions of its openings (mm) where they are not the rulebook's.

    With `windows` the paste is in windows, as that of a thermal land does.
    An opening with an outline of its own, about the pad's centre, is that one grown by its expansion.
    """

    pad: Pad
    mask: float | None = None
    paste: float | None = None
    no_mask: bool = False
    no_paste: bool = False
    windows: bool = False
    mask_outline: Outline = ()
    paste_outline: Outline = ()


class LandRecipe(msgspec.Struct, frozen=True, kw_only=True):
    """What the lands follow from: terminals of each kind, the body at nominal and maximum size, what is at pin 1.

    `corner` is the direction of the body's corner that is cut off at pin 1: upper left unless the package is turned.
    `goals` and `measures` tell the courtyard where there are no opposing rows, whose goals tell it else. `stand_off` is
    the least height (mm) of a body above the board that gull-wing leads carry. `joined` are pairs of numbers that the
    copper itself connects; of a `bare` one no part stands on the lands, and nothing is printed round them.
    """

    rows: tuple[OpposedRows, ...] = ()
    plates: tuple[Plate, ...] = ()
    grids: tuple[BallGrid, ...] = ()
    leads: tuple[Leads, ...] = ()
    posts: tuple[Post, ...] = ()
    manual_pads: tuple[ManualPad, ...] = ()
    body: Box
    body_max: Box
    stand_off: float | None = None
    first_pin: str
    corner: Point = (-1.0, 1.0)
    polarised: bool = True
    goals: str = ""
    measures: dict[str, float] = {}
    joined: tuple[tuple[str, str], ...] = ()
    keep_outs: tuple[KeepOut, ...] = ()
    bare: bool = False

    @property
    def laid_numbers(self) -> set[str]:
        """The numbers of the lands that follow from rows, grids and leads."""
        found = {number for rows in self.rows for number in (*rows.first, *rows.second)}
        found |= {number for grid in self.grids for number in grid.numbers}
        return found | {number for leads in self.leads for number in leads.numbers}

    @property
    def plated_holes(self) -> tuple[Pad, ...]:
        """The pads by hand through which a lead or tab goes."""
        return tuple(m.pad for m in self.manual_pads if m.pad.hole is not None and m.pad.plated)

    @property
    def is_mixed(self) -> bool:
        """Whether feet stand on the board and other leads go through it."""
        return bool(self.rows or self.grids) and bool(self.plated_holes)

    @property
    def thermal_areas(self) -> tuple[Plate, ...]:
        """The thermal pads, and the pads by hand whose paste is in windows, by the box around them."""
        return (*self.plates, *(_area(manual.pad) for manual in self.manual_pads if manual.windows))


def _area(pad: Pad) -> Plate:
    x0, y0, x1, y1 = pad.box
    width, height = Limits(nom=x1 - x0), Limits(nom=y1 - y0)
    return Plate(number=pad.number, width=width, height=height, x=(x0 + x1) / 2, y=(y0 + y1) / 2)


class ViewShape(msgspec.Struct, frozen=True):
    """An area in a view of the package; `role` is body, terminal, mark or board."""

    role: str
    outline: Outline


class ViewDimension(msgspec.Struct, frozen=True):
    """Where a length is shown in a view: between two points, measured along x or y, drawn on one side.

    `side` says on which side of the view the dimension line lies, `row` how far out (1 is nearest).
    """

    letter: str
    a: Point
    b: Point
    side: Literal["top", "bottom", "left", "right"]
    row: int = 1


def letter_of(limits: Limits) -> str:
    """The letter of a length that was taken from the sheet as it is; empty where it was worked out."""
    return limits.letter if isinstance(limits, LetterLimits) else ""


class View(msgspec.Struct, frozen=True):
    """One view of the package at nominal size, as a datasheet draws it."""

    name: ViewName
    shapes: tuple[ViewShape, ...]
    dimensions: tuple[ViewDimension, ...]


class FamilyField(msgspec.Struct, frozen=True, kw_only=True):
    """Something of a sheet besides its lengths that a family needs.

    `kind` is a count, a number, yes or no, a choice, or a list of pin numbers; `help` says what it is for.
    """

    key: str
    title: str
    kind: Literal["count", "number", "flag", "numbers", "choice"]
    choices: tuple[str, ...] = ()
    help: str = ""

    def read(self, text: str) -> OptionValue | None:
        """The value that a text gives; None for nothing.

        Raises:
            InputError: the text is not a value of this kind.
        """
        text = text.strip()
        if not text:
            return None
        if self.kind == "count" and not (text.isdecimal() and int(text) <= LARGEST_COUNT):
            raise InputError(f"“{text}” is not a count for {self.title}; enter a whole number or leave it empty")
        if self.kind == "number":
            return self._number(text)
        if self.kind in ("choice", "flag") and text not in self.options():
            raise InputError(f"“{text}” is not a choice for {self.title}; choose one of {', '.join(self.options())}")
        if self.kind == "flag":
            return text == YES
        if self.kind == "numbers":
            return tuple(piece.strip() for piece in text.split(","))
        return int(text) if self.kind == "count" else text

    def _number(self, text: str) -> float:
        try:
            value = float(text)
        except ValueError:
            value = math.nan
        if not math.isfinite(value):
            raise InputError(f"“{text}” is not a number for {self.title}; enter one such as 1.5 or leave it empty")
        return value

    def options(self) -> tuple[str, ...]:
        """What can be chosen from; empty where a text is typed."""
        return (NO, YES) if self.kind == "flag" else self.choices


# What families are listed under, in this order.
GROUPS = (
    "Two terminals",
    "Leads",
    "No leads",
    "Grids",
    "Through the board",
    "Connectors",
    "Copper alone",
    "Anything",
)


class Family(msgspec.Struct, frozen=True, kw_only=True):
    """A package family, listed under one of `GROUPS`; every function takes the sheet and its dimensions.

    `fields` are what the sheet has besides lengths; with `any_letters` a sheet names its lengths as it likes. `goals`
    are solder-joint goals of its own, which hold where the rulebook has none for it. `first_for` tells for what kind of
    new part it is taken to begin with. `unclear_mark` says of which sheets manufacturers mark one end or the other.
    """

    key: str
    title: str
    group: str = "Anything"
    summary: str
    letters: tuple[Letter, ...]
    fields: tuple[FamilyField, ...] = ()
    kinds: tuple[str, ...] = ()
    default_pins: int = 2
    any_letters: bool = False
    goals: tuple[GoalRow, ...] = ()
    first_for: Literal["", "two terminals", "many terminals"] = ""
    unclear_mark: Callable[[PackageSheet], bool] = lambda _sheet: False
    pin_fault: Callable[[int], str]
    plausibility: Callable[[PackageSheet, Dims], Iterator[Implausible]]
    terminals: Callable[[PackageSheet, Dims], tuple[Terminal, ...]]
    views: Callable[[PackageSheet, Dims], tuple[View, ...]]
    solids: Callable[[PackageSheet, Dims], tuple[Solid, ...]]
    lands: Callable[[PackageSheet, Dims], LandRecipe]
    name: Callable[[PackageSheet, Dims], str]

    def letter(self, key: str) -> Letter | None:
        """The declaration of a letter; None where the family does not have it."""
        return next((letter for letter in self.letters if letter.key == key), None)

    def implausible(self, sheet: PackageSheet, dims: Dims) -> list[Implausible]:
        """What cannot be true of a sheet, as far as it is filled in: what is missing is told by checks of its own."""
        found: list[Implausible] = []
        with suppress(InputError):
            for hit in self.plausibility(sheet, dims):
                found.append(hit)  # what came before the fault is kept
        return found

    def dims(self, sheet: PackageSheet) -> Dims:
        """The dimensions of a sheet, with what the family assumes."""
        return Dims(sheet, self.letters)
