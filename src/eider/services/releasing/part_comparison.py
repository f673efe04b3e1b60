"""Two states of a part, or two parts: drawings over each other, pins beside each other, the rest in words."""

from collections.abc import Iterator
from pathlib import Path

import msgspec

from eider.bodies.solids.body_solids import body_solids
from eider.drawings.body_lines import body_drawing, box_drawing
from eider.drawings.land_drawing import pattern_drawing
from eider.drawings.overlaid_drawings import is_same_drawing, overlaid
from eider.drawings.package_drawing import begun_drawings
from eider.drawings.primitives import Drawing, Note
from eider.drawings.symbol_drawing import symbol_drawing
from eider.errors import EiderError, InputError, NotFoundError
from eider.evidence.address_table import evidenced_values
from eider.evidence.value_evidence import datasheet_names, evidence_words, is_struck
from eider.library import Library
from eider.library.atomic_files import write_atomic
from eider.model.address import Address
from eider.model.bundle import Bundle
from eider.model.symbol import Pin
from eider.packages.orientation import terminals_on
from eider.services.releasing.change_words import difference_words
from eider.services.tasks import Task

# A page names at most so many differences under its drawing, and says how many more there are.
MOST_NOTES = 12
_EMPTY = Drawing((), (0.0, 0.0, 0.0, 0.0))


class StateChoice(msgspec.Struct, frozen=True):
    """A state of a part that can be compared: a revision, or 0 for what is being worked on."""

    part: str
    name: str
    revision: int

    @property
    def words(self) -> str:
        """What it is called."""
        return f"{self.name}, {f'revision {self.revision}' if self.revision else 'working copy'}"


class ComparedDrawing(msgspec.Struct, frozen=True):
    """One kind of drawing of both states; empty where a state has none."""

    title: str
    left: Drawing
    right: Drawing

    @property
    def is_same(self) -> bool:
        """Whether nothing that is drawn differs."""
        return is_same_drawing(self.left, self.right)


class ComparedRow(msgspec.Struct, frozen=True):
    """A pin by its number or a value by its name, with what it is on each side; empty where a side has none."""

    name: str
    left: str
    right: str

    @property
    def is_same(self) -> bool:
        """Whether both sides say the same."""
        return self.left == self.right


class PartComparison(msgspec.Struct, frozen=True):
    """What two states have in common and what not.

    `pins` have names and types, `values` their texts and where these came from; `differences` are sentences with
    figures.
    """

    left: str
    right: str
    drawings: tuple[ComparedDrawing, ...]
    pins: tuple[ComparedRow, ...]
    values: tuple[ComparedRow, ...]
    differences: tuple[str, ...]


def state_choices(library: Library, part_id: str) -> tuple[StateChoice, ...]:
    """The states of a part, the newest first: what is being worked on, then its revisions.

    Raises:
        NotFoundError: there is no such part.
    """
    row = library.find(part_id)
    copy = [StateChoice(row.id, row.name, 0)] if library.copies.sum_of(row.id) else []
    return (*copy, *(StateChoice(row.id, row.name, r.revision) for r in reversed(library.history(row.id))))


def load_state(library: Library, choice: StateChoice) -> Bundle:
    """The state as it is stored.

    Raises:
        NotFoundError: there is none such.
    """
    if choice.revision:
        return library.load_release(choice.part, choice.revision)
    copy = library.copies.load(choice.part)
    if copy is None:
        raise NotFoundError(f"{choice.name} has no working copy")
    return copy.bundle


def compare_states(library: Library, left: StateChoice, right: StateChoice, task: Task | None = None) -> PartComparison:
    """Compare two states of parts of a library.

    Raises:
        InputError: they are one and the same. NotFoundError: one is not there. CancelledError: the user cancelled.
    """
    if left == right:
        raise InputError(f"both sides are {left.words}; choose another one")
    task = task or Task()
    task.report(0.1, f"reading {left.words}")
    before = load_state(library, left)
    task.report(0.4, f"reading {right.words}")
    after = load_state(library, right)
    task.report(0.6, "comparing")
    return compare_bundles(before, after, left.words, right.words)


def compare_bundles(before: Bundle, after: Bundle, left: str, right: str) -> PartComparison:
    """Compare two parts as they are stored, under these names."""
    drawn = [_drawings(bundle) for bundle in (before, after)]
    titles = [*drawn[0], *(title for title in drawn[1] if title not in drawn[0])]
    drawings = (ComparedDrawing(title, drawn[0].get(title, _EMPTY), drawn[1].get(title, _EMPTY)) for title in titles)
    return PartComparison(
        left,
        right,
        tuple(drawings),
        tuple(_pins(before, after)),
        tuple(_values(before, after)),
        difference_words(before, after),
    )


def _drawings(bundle: Bundle) -> dict[str, Drawing]:
    """What there is to be seen of a part: each level's lands, its symbol, and the views of its package."""
    found: dict[str, Drawing] = {}
    for pattern in bundle.footprint.patterns:
        title = "Lands" if pattern is bundle.footprint.pattern else f"Lands, level {pattern.level}"
        found[title] = pattern_drawing(pattern, terminals_on(bundle.sheet, pattern))
    if bundle.symbol.units:
        found["Symbol"] = symbol_drawing(bundle.symbol, bundle.part.name)
    try:
        views = begun_drawings(bundle.sheet)
    except EiderError:
        # A sheet without lengths has nothing to be drawn; the words tell that it has none.
        views = ()
    for title, view in zip(("Package from the top", "Package and body, side view"), views, strict=False):
        found[title] = view
    if (body := _body_lines(bundle)) is not None:
        found["Body, isometric"] = body
    return found


def _body_lines(bundle: Bundle) -> Drawing | None:
    """The edges of the body; of one that is a STEP file the box around it. None while there is no body."""
    model = bundle.body.model
    if model is not None:
        result = bundle.body.result
        return box_drawing(*result.bounds) if result is not None else None
    try:
        return body_drawing(body_solids(bundle.sheet, bundle.body))
    except EiderError:
        return None


def _pins(before: Bundle, after: Bundle) -> Iterator[ComparedRow]:
    left, right = ({pin.number: _pin_words(pin) for pin in bundle.symbol.pins} for bundle in (before, after))
    for number in [*left, *(number for number in right if number not in left)]:
        yield ComparedRow(number, left.get(number, ""), right.get(number, ""))


def _values(before: Bundle, after: Bundle) -> Iterator[ComparedRow]:
    """Values with what is written and where it came from."""
    left, right = (_value_words(bundle) for bundle in (before, after))
    for address in [*left, *(address for address in right if address not in left)]:
        (name, old), (other_name, new) = left.get(address, ("", "")), right.get(address, ("", ""))
        yield ComparedRow(name or other_name, old, new)


def _value_words(bundle: Bundle) -> dict[Address, tuple[str, str]]:
    names, found = datasheet_names(bundle.part), {}
    for value in evidenced_values(bundle):
        whence, evidence = evidence_words(value, names), value.evidence
        if is_struck(evidence, value.former):
            whence = f"changed by hand from {whence}"
        if evidence and evidence.confirmed_by:
            whence += f", confirmed by {evidence.confirmed_by}"
        found[value.address] = (value.name, f"{value.text}: {whence}")
    return found


def _pin_words(pin: Pin) -> str:
    more = [pin.type, *(f"unit {pin.unit}" for _ in pin.unit[:1]), *(f"{k} {v}" for k, v in pin.more.items())]
    return f"{pin.name or '(no name)'}, {', '.join(more)}"


def comparison_pages(found: PartComparison) -> list[tuple[str, Drawing]]:
    """A page for each drawing that differs, with both over each other; the differences are named under the first."""
    pages = [(f"{d.title}: {found.left} (dashed) and {found.right} (wide)", d) for d in found.drawings if not d.is_same]
    made = [(title, overlaid(drawn.left, drawn.right)) for title, drawn in pages]
    notes = [Note(text) for text in found.differences[:MOST_NOTES]]
    if len(found.differences) > MOST_NOTES:
        notes.append(Note(f"and {len(found.differences) - MOST_NOTES} more"))
    if not made:
        drawn = found.drawings[0].right if found.drawings else _EMPTY
        made = [(f"{found.left} and {found.right} look the same", drawn)]
    return [(title, drawing.with_extra(notes if not index else ())) for index, (title, drawing) in enumerate(made)]


def save_comparison(path: Path, found: PartComparison) -> None:
    """Write it as PDF.

    Raises:
        LibraryError: the file cannot be written.
    """
    from eider.exchange.pdf_drawings import Page, pdf_pages

    pages = [Page(title, drawing) for title, drawing in comparison_pages(found)]
    write_atomic(path, pdf_pages(pages, f"{found.left} and {found.right}", fitted=True))
