"""What a changed rulebook would do to the footprints of a library: which change, and by how much."""

import msgspec

from eider.commands.lands.rulebook_draft import RulebookDraft
from eider.errors import EiderError
from eider.geometry.plane import bounds
from eider.lands.manufacturer_pattern import differences, is_same
from eider.lands.pattern import footprint_pattern
from eider.library import Library
from eider.library.documents.stored_rulebooks import rulebook_text
from eider.model.bundle import Bundle
from eider.model.pattern import Pattern
from eider.model.wording import counted
from eider.packages.sheet_parsing import parse_dimensions
from eider.rulebooks import Rulebook
from eider.services.tasks import Task


class RulebookEffect(msgspec.Struct, frozen=True):
    """What a changed rulebook does to the footprint of one part.

    `pads` of its pads move or change size by `most` mm or less, most the one told in `worst`; `grown` is how much
    larger the courtyard gets (width and height, mm); `names` are those of the pattern before and after; `lines` says
    whether anything drawn changes; `fault` says why it gives no lands any more.
    """

    part: str
    part_id: str
    names: tuple[str, str]
    pads: int = 0
    most: float = 0.0
    worst: str = ""
    grown: tuple[float, float] = (0.0, 0.0)
    lines: bool = False
    fault: str = ""

    @property
    def besides(self) -> str:
        """What changes besides the pads, in words."""
        said = [self.fault] if self.fault else []
        if any(self.grown):
            said.append(f"courtyard {self.grown[0]:+.2f} × {self.grown[1]:+.2f}")
        if self.lines and not (self.pads or any(self.grown)):
            said.append("lines or openings")
        if self.names[0] != self.names[1]:
            said.append(f"named {self.names[1]}")
        return "; ".join(said)

    @property
    def words(self) -> str:
        """All of it in words."""
        pads = f"{counted(self.pads, 'pad')}, most {self.worst}" if self.pads else ""
        return "; ".join(said for said in (pads, self.besides) if said)


class RulebookEffects(msgspec.Struct, frozen=True):
    """What a changed rulebook does to a library: the footprints that change, of how many that use it; names."""

    changed: tuple[RulebookEffect, ...]
    looked_at: int
    examples: tuple[tuple[str, str], ...] = ()


def open_draft(library: Library, name: str) -> RulebookDraft:
    """A draft without changes; raises NotFoundError where there is no such rulebook."""
    return RulebookDraft(name, rulebook_text(library, name))


def rulebook_effects(library: Library, draft: RulebookDraft, task: Task | None = None) -> RulebookEffects:
    """Which footprints that use the rulebook would change, and by how much.

    Raises:
        RulebookError: the draft is not a rulebook.
        CancelledError: the user cancelled.
    """
    before, after = draft.kept, draft.rulebook
    found: list[RulebookEffect] = []
    examples: list[tuple[str, str]] = []
    looked_at = 0
    rows = library.search()
    for index, row in enumerate(rows):
        if task:
            task.report(index / len(rows), f"looking at {row.name}")
        bundle = library.load(row.id)
        if bundle.footprint.rulebook != draft.name:
            continue
        looked_at += 1
        effect, name = _effect(bundle, before, after)
        if name and len(examples) < 5:
            examples.append((row.name, name))
        if effect:
            found.append(effect)
    return RulebookEffects(tuple(found), looked_at, tuple(examples))


def _effect(bundle: Bundle, before: Rulebook, after: Rulebook) -> tuple[RulebookEffect | None, str]:
    """The effect on one part, and the name that its pattern gets."""
    sheet = parse_dimensions(bundle.sheet).sheet
    part = bundle.part
    try:
        old = footprint_pattern(sheet, bundle.footprint, before)
    except EiderError:
        return None, ""
    try:
        new = footprint_pattern(sheet, bundle.footprint, after)
    except EiderError as fault:
        return RulebookEffect(part.name, part.id, (old.name, old.name), fault=f"no lands are possible now: {fault}"), ""
    if old == new:
        return None, new.name
    moved = [d for d in differences(new.pads, old.pads) if not is_same(d)]
    worst = max(moved, key=lambda d: max(map(abs, d[1:])), default=None)
    most = max(map(abs, worst[1:])) if worst else 0.0
    told = f"pad {worst.number} {worst.words}" if worst else ""
    (ow, oh), (nw, nh) = _size(old), _size(new)
    grown = (round(nw - ow, 6) + 0.0, round(nh - oh, 6) + 0.0)
    lines = msgspec.structs.replace(new, name=old.name) != old
    return RulebookEffect(part.name, part.id, (old.name, new.name), len(moved), most, told, grown, lines), new.name


def _size(pattern: Pattern) -> tuple[float, float]:
    if not pattern.courtyard:
        return 0.0, 0.0
    x0, y0, x1, y1 = bounds(pattern.courtyard)
    return x1 - x0, y1 - y0
