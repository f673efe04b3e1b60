"""The rulebook model and its reader. Every figure of the land-pattern rules is in a TOML file, none in code."""

import math
from collections.abc import Iterable, Mapping
from functools import cache
from pathlib import Path
from typing import Any, Literal

import msgspec

from eider.errors import InputError
from eider.geometry.rounding import Direction
from eider.model.codec import DocumentError, convert, parse_toml
from eider.model.pattern import Goals, Level
from eider.packaged_data import packaged_text

Triple = tuple[float, float, float]


class RulebookError(InputError):
    """A rulebook that cannot be read, or that has no rule for a package."""


class GoalRow(msgspec.Struct, frozen=True, kw_only=True):
    """Solder-joint goals of one family, in mm per side, for the levels A, B and C.

    `measure` with `above`, `from` or `below` limits the row to packages whose measure (pitch, length, height in mm)
    lies there. `inner` is None where the inner end follows from a length of the package.
    """

    family: str
    title: str
    outer: Triple
    inner: Triple | None = None
    side: Triple
    courtyard: Triple
    step: float
    measure: str = ""
    above: float | None = None
    at_least: float | None = None
    below: float | None = None
    up_to: float | None = None
    sure: bool = True

    def holds_for(self, measures: Mapping[str, float]) -> bool:
        """Whether the row speaks of a package with these measures (mm)."""
        if not self.measure:
            return True
        value = measures.get(self.measure)
        return (
            value is not None
            and (self.above is None or value > self.above)
            and (self.at_least is None or value >= self.at_least)
            and (self.below is None or value < self.below)
            and (self.up_to is None or value <= self.up_to)
        )

    def goals(self, level: Level) -> Goals:
        """The three goals of a level."""
        index = "ABC".index(level)
        inner = self.inner[index] if self.inner else 0.0
        return Goals(toe=self.outer[index], heel=inner, side=self.side[index])


_declared: dict[tuple[str, str], GoalRow] = {}


def declare_goals(rows: Iterable[GoalRow]) -> None:
    """Goals of a family that no rulebook need have; called by the family's registration."""
    _declared.update({(row.family, row.title): row for row in rows})


def declared_goals() -> tuple[GoalRow, ...]:
    """All goals that families declared."""
    return tuple(_declared.values())


class Tolerances(msgspec.Struct, frozen=True):
    """F and P of the solder-joint equations, and what a dimension without tolerance is given (mm)."""

    fabrication: float = 0.10
    placement: float = 0.05
    basic: float = 0.0
    method: Literal["statistical", "worst-case"] = "statistical"


class Rounding(msgspec.Struct, frozen=True):
    """The direction of rounding for Z, G and X; the step stands with the goals, `step` overrides it."""

    Z: Direction = "nearest"
    G: Direction = "nearest"
    X: Direction = "nearest"
    step: float | None = None


class Clearances(msgspec.Struct, frozen=True):
    """Smallest distances in mm; `corner` says how corner lands of adjacent sides keep theirs: cut, trimmed, or left.

    `thermal_trim` says what gives way first where lands come too near to a thermal land: their inner ends, as far as
    the heel goal of level C allows, or the thermal land. Where a body comes down to less than `low_body` above the
    board, the inner ends of gull-wing lands are trimmed so as not to run under it; 0 trims none.
    """

    pad_to_pad: float = 0.20
    corner: Literal["cut", "trim", "leave"] = "cut"
    pad_to_thermal: float = 0.20
    thermal_trim: Literal["inner-ends", "thermal-land"] = "inner-ends"
    mask_web: float = 0.08
    silkscreen_to_mask: float = 0.15
    shortest_silkscreen: float = 0.20
    silkscreen_to_body: float = 0.0
    low_body: float = 0.0


LandShape = Literal["rectangle", "rounded", "oval", "d"]
PasteForm = Literal["land", "home-plate"]


class FamilyPads(msgspec.Struct, frozen=True, omit_defaults=True):
    """What of `pads` is otherwise for one package family; None as for all others."""

    shape: LandShape | None = None
    corner_share: float | None = None
    corner_largest: float | None = None
    mask_expansion: float | None = None
    paste_expansion: float | None = None
    paste_form: PasteForm | None = None
    paste_split: float | None = None


class Pads(msgspec.Struct, frozen=True):
    """How lands are shaped, and their mask and paste openings (mm; area ratio and aspect without unit).

    Lands of a `d` are round at their inner end. A paste opening in the form of a home plate points to the middle of the
    package; lands whose shorter side is longer than `paste_split` get their paste in windows, 0 never.
    """

    shape: LandShape = "rectangle"
    corner_share: float = 0.25
    corner_largest: float = 0.25
    mask_expansion: float = 0.05
    paste_expansion: float = 0.0
    paste_form: PasteForm = "land"
    paste_split: float = 0.0
    stencil: float = 0.125
    area_ratio: float = 0.66
    aspect_ratio: float = 1.5


BodySize = Literal["largest", "nominal", "smallest"]


class Lines(msgspec.Struct, frozen=True):
    """Line widths and the like, in mm; the courtyard is a rectangle, or follows lands and body.

    Silkscreen and assembly outline are drawn round the largest, the nominal or the smallest body.
    """

    silkscreen: Triple = (0.15, 0.12, 0.10)
    assembly: float = 0.10
    courtyard: float = 0.05
    courtyard_step: float = 0.05
    courtyard_form: Literal["rectangle", "contour"] = "rectangle"
    silkscreen_body: BodySize = "largest"
    assembly_body: BodySize = "nominal"


class Holes(msgspec.Struct, frozen=True):
    """Through-hole rules per level in mm: hole over the lead, ring, and fabrication allowance of the land.

    `crowded` says what gives way where lands would come nearer than the gap: round ones become oval, or all smaller.
    """

    over_largest: Triple = (0.25, 0.20, 0.15)
    over_smallest: Triple = (0.70, 0.70, 0.60)
    ring: float = 0.05
    allowance: Triple = (0.60, 0.50, 0.40)
    step: float = 0.05
    least_ring: float = 0.05
    hole_to_hole: float = 0.25
    square_first: bool = True
    crowded: Literal["oval", "smaller"] = "oval"


class BallStep(msgspec.Struct, frozen=True):
    """By how much a land differs from its ball: a share, for balls of `at_least` mm and more."""

    at_least: float
    collapsing: float
    non_collapsing: float


class Grids(msgspec.Struct, frozen=True):
    """Lands of ball grids: a table from nominal ball to land (mm), and shares for what is not in it.

    A collapsing ball's land is smaller by the share, another's larger. Of mask-defined lands the copper reaches by
    `mask_overlap` (mm) under the mask on each side.
    """

    lands: tuple[tuple[float, float], ...] = ()
    steps: tuple[BallStep, ...] = (BallStep(0.0, 0.15, 0.05),)
    step: float = 0.01
    mask_overlap: float = 0.05


class Thermal(msgspec.Struct, frozen=True):
    """Thermal lands: paste in windows with gaps between, vias in the gaps (mm; coverage as a share)."""

    window_most: float = 2.0
    gap: float = 0.25
    least_coverage: float = 0.5
    most_coverage: float = 0.8
    single_share: float = 0.65
    vias: bool = True
    via_drill: float = 0.2
    via_pitch: float = 1.0


class Paste(msgspec.Struct, frozen=True):
    """What joints want of the paste (IPC-7525): shares without unit, lengths in mm.

    `release_…` are the shares of its paste that an opening of that area ratio lets go, straight between them. Of the
    paste `metal` stays, by volume. Fillets rise by `fillet_height` of the lead, `most_height` at most; `gap` lies under
    terminals, from stand-off and coplanarity. Of the wanted paste a land has between the two last shares.
    """

    release_50: float = 0.55
    release_66: float = 0.8
    release_80: float = 0.9
    release_100: float = 0.95
    metal: float = 0.5
    fillet_height: float = 0.5
    most_height: float = 0.5
    gap: float = 0.05
    least_share: float = 0.7
    most_share: float = 3.0

    @property
    def release(self) -> tuple[tuple[float, float], ...]:
        """The table of release: area ratio and share, from the smallest ratio on."""
        return (0.5, self.release_50), (0.66, self.release_66), (0.8, self.release_80), (1.0, self.release_100)


class Posts(msgspec.Struct, frozen=True):
    """Holes without copper for posts (mm): over the post, and the keep-out of copper round the hole."""

    over: float = 0.15
    step: float = 0.05
    keep_out: float = 0.25


class Bodies(msgspec.Struct, frozen=True):
    """Models of bodies: how far one may be above or in the board, how far it may be beyond the sheet's limits (mm).

    `most_triangles` is how heavy a model may be.
    """

    standing: float = 0.01
    beyond: float = 0.05
    most_triangles: float = 50_000


class JointYieldRules(msgspec.Struct, frozen=True):
    """How tolerances vary in the simulation of joints.

    Uniform between their limits, or normal with the limits at 3 · `cpk` standard deviations; a part may lie turned by
    up to `rotation` degrees either way.
    """

    distribution: Literal["uniform", "normal"] = "normal"
    cpk: float = 1.0
    rotation: float = 0.5


class Rulebook(msgspec.Struct, frozen=True, kw_only=True):
    """A company's land-pattern rules.

    Attributes:
        revision: counts the states that were kept; footprints say which of them they were made by.
        orientation: 1 or 2 of IEC 61188-7: pin 1 upper left, or the same turned by 90° with pin 1 lower left.
        naming: templates of pattern names by family (`lands.naming`), `*` for all others; none is the standard's name.
    """

    format: Literal["eider-rulebook/1"]
    name: str
    revision: int = 1
    goals: tuple[GoalRow, ...]
    tolerances: Tolerances = Tolerances()
    rounding: Rounding = Rounding()
    clearances: Clearances = Clearances()
    pads: Pads = Pads()
    lines: Lines = Lines()
    holes: Holes = Holes()
    grids: Grids = Grids()
    thermal: Thermal = Thermal()
    paste: Paste = Paste()
    posts: Posts = Posts()
    bodies: Bodies = Bodies()
    joint_yield: JointYieldRules = JointYieldRules()
    family_pads: dict[str, FamilyPads] = {}
    default_level: Level = "B"
    orientation: Literal[1, 2] = 1
    naming: dict[str, str] = {}

    def goal_row(self, family: str, measures: Mapping[str, float]) -> GoalRow:
        """The first row of goals that holds for a family and the package's measures (mm).

        Raises:
            RulebookError: no row holds for them.
        """
        for row in (*self.goals, *declared_goals()):
            if row.family == family and row.holds_for(measures):
                return row
        raise RulebookError(
            f"rulebook “{self.name}” has no goals for {family} with {dict(measures)}; add a [[goals]] row"
        )

    def for_family(self, family: str) -> "Rulebook":
        """The rulebook with the pads that hold for a package family."""
        own = self.family_pads.get(family)
        if own is None:
            return self
        changes = {name: value for name in own.__struct_fields__ if (value := getattr(own, name)) is not None}
        return msgspec.structs.replace(self, pads=msgspec.structs.replace(self.pads, **changes), family_pads={})

    def with_values(self, changes: Mapping[str, str]) -> "Rulebook":
        """A copy with single values replaced, each named by its path: `tolerances.fabrication`, `goals.0.outer.1`.

        Raises:
            RulebookError: a rulebook has no such value, or it is of another kind.
        """
        data = msgspec.json.decode(msgspec.json.encode(self))
        for path, text in changes.items():
            set_value(data, path, text)
        return convert(data, Rulebook, f"rulebook “{self.name}” with {', '.join(changes)}")


def set_value(data: Any, path: str, text: str) -> None:
    """Put a value, read from text, into a rulebook's plain data; what is there tells its kind.

    Raises:
        RulebookError: there is no such place, or the text is not a value of its kind.
    """
    *parents, last = path.split(".")
    if parents[:1] == ["family_pads"] and len(parents) == 2 and isinstance(data, dict):
        # Of a family only what is otherwise is in a rulebook.
        usual = _within(data.get("pads", {}), last, path)
        data.setdefault("family_pads", {}).setdefault(parents[1], {})[last] = _as_kind(usual, text.strip(), path)
        return
    for step in parents:
        data = _within(data, step, path)
    old = _within(data, last, path) if not (parents == ["naming"] and isinstance(data, dict)) else ""
    data[int(last) if isinstance(data, list) else last] = _as_kind(old, text.strip(), path)


def _within(data: Any, step: str, path: str) -> Any:
    if isinstance(data, dict) and step in data:
        return data[step]
    if isinstance(data, list) and step.isdecimal() and int(step) < len(data):
        return data[int(step)]
    raise RulebookError(f"there is no “{path}” in a rulebook; see docs/format/rulebook.md for the names")


def _as_kind(old: Any, text: str, path: str) -> Any:
    if isinstance(old, bool):
        if text.lower() not in ("yes", "no", "true", "false"):
            raise RulebookError(f"“{path}” is yes or no, not “{text}”")
        return text.lower() in ("yes", "true")
    if isinstance(old, str):
        return text
    if old is None and not text:
        return None
    if isinstance(old, dict | list):
        raise RulebookError(f"“{path}” is not a single value; name one within it")
    try:
        number = float(text)
    except ValueError as fault:
        raise RulebookError(f"“{path}” takes a number, not “{text}”") from fault
    if not math.isfinite(number):
        raise RulebookError(f"“{path}” takes a number, not “{text}”")
    return int(number) if isinstance(old, int) and number.is_integer() else number


def parse_rulebook(text: str, where: str) -> Rulebook:
    """Read a rulebook from TOML; `where` names the file in errors.

    Raises:
        RulebookError: the text is not TOML, or a rule has a value that it cannot have.
    """
    try:
        return convert(parse_toml(text, where), Rulebook, where)
    except DocumentError as fault:
        raise RulebookError(str(fault)) from fault


def load_rulebook(path: Path) -> Rulebook:
    """Read a rulebook file.

    Raises:
        RulebookError: the file cannot be read.
    """
    try:
        text = path.read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as fault:
        raise RulebookError(f"rulebook {path} cannot be read: {fault}") from fault
    return parse_rulebook(text, str(path))


def standard_text() -> str:
    """The TOML of the rulebook that ships with Eider."""
    return packaged_text("rulebooks/standard.toml")


@cache
def standard_rulebook() -> Rulebook:
    """The rulebook that ships with Eider: the figures of the trade's standards."""
    return parse_rulebook(standard_text(), "standard.toml")
