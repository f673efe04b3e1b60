"""Takes parts from elsewhere as drafts, next revisions or links to what is there; all of a part, or single items."""

import hashlib
from collections.abc import Collection, Sequence
from pathlib import Path

import msgspec

from eider.commands.datasheets.found_parts import BY_HAND, DraftOfFound, adjusted_to
from eider.commands.parts.recipe_merge import with_identity_of
from eider.errors import EiderError, InputError
from eider.evidence.evidence_changes import utc_now
from eider.exchange.found_parts import FoundPart
from eider.library import Library
from eider.library.documents.attachments import linked_documents
from eider.model.body import Body
from eider.model.bundle import Bundle
from eider.model.intake import INTAKE_ITEMS, ArrivalNote, IntakeItem, IntakeMap
from eider.services.datasheets.datasheet_opening import attach_datasheet
from eider.services.intake.arrivals import Arrival
from eider.services.intake.intake_reading import IntakePart
from eider.services.parts.model_importing import import_model
from eider.services.parts.part_evaluation import EvaluationRun, save_part
from eider.services.tasks import Task

replace = msgspec.structs.replace
ALL_ITEMS = frozenset(INTAKE_ITEMS)
# Of what a part is found to have, what belongs to each item.
_PIECES: dict[IntakeItem, dict[str, object]] = {
    "footprint": {"pads": (), "sheet": None, "silkscreen": (), "assembly": ()},
    "body": {"model": "", "outline": (), "height": 0.0},
    "symbol": {"pins": (), "graphic": ()},
    "facts": {"facts": {}, "description": ""},
    "datasheet": {"datasheet": ""},
}


class TakingChoice(msgspec.Struct, frozen=True):
    """What of the parts is taken, and whether lands and symbols that are there are shared in place of copied."""

    items: frozenset[IntakeItem] = ALL_ITEMS
    share: bool = True


class IntakeTaken(msgspec.Struct, frozen=True):
    """The names of the parts that are drafts now, and what could not be taken and why."""

    taken: tuple[str, ...]
    log: tuple[str, ...]


def items_of(names: Collection[str]) -> frozenset[IntakeItem]:
    """The items of these names; all without any.

    Raises:
        InputError: one of them is none.
    """
    unknown = [name for name in names if name not in INTAKE_ITEMS]
    if unknown:
        raise InputError(f"“{unknown[0]}” is not an item of a part; choose from {', '.join(INTAKE_ITEMS)}")
    return frozenset(item for item in INTAKE_ITEMS if item in names) or ALL_ITEMS


def take_parts(
    library: Library,
    arrival: Arrival,
    parts: Sequence[IntakePart],
    task: Task | None = None,
    mapping: IntakeMap | None = None,
    choice: TakingChoice | None = None,
) -> IntakeTaken:
    """Keep parts as working copies: new ones as drafts, others as the next revision of the part that is there.

    Each bears a note of where it came from and what was guessed or left out. What was taken before a cancel stays; what
    is taken already is the same the next time, and is not taken twice.

    Raises:
        ReadOnlyError, LibraryError: nothing can be written. CancelledError: the user cancelled.
    """
    task, run = task or Task(), EvaluationRun(library)
    mapping, choice = mapping or IntakeMap(), choice or TakingChoice()
    library.require_writable()
    taken, log = list[str](), list[str]()
    for index, part in enumerate(parts):
        task.report(index / len(parts), f"taking {part.name}")
        try:
            made = _as_taken(library, part, choice)
            bundle, told = _with_documents(library, arrival, made.bundle, part.found, choice.items)
        except EiderError as fault:
            log.append(f"{part.name} is not taken: {fault}")
            continue
        words = (*part.doubts, *made.doubts, *told)
        log += [f"{part.name}: {word}" for word in words]
        note = ArrivalNote(part.found.source, library.person().name, utc_now(), mapping.licence, words)
        bundle = replace(bundle, part=replace(bundle.part, arrivals=(*bundle.part.arrivals, note)))
        save_part(library, run.evaluated(bundle))
        taken.append(part.name)
    return IntakeTaken(tuple(taken), tuple(log))


def _as_taken(library: Library, part: IntakePart, choice: TakingChoice) -> DraftOfFound:
    """The part as it will be kept; what of it the part that is there cannot take is told."""
    items = choice.items
    if not part.against:
        made = _unreleased(part.draft)
        if items != ALL_ITEMS:
            made = _only(made, part, items)
        return _shared(library, made, part, items) if choice.share else DraftOfFound(made, ())
    there = library.load(part.against)
    if part.found.bundle is not None:
        made = _items_of_bundle(there, with_identity_of(part.draft, there), items)
        return DraftOfFound(replace(made, part=replace(made.part, name=part.name, release=there.part.release)), ())
    return _merged(there, part, items)


def _only(draft: Bundle, part: IntakePart, items: Collection[IntakeItem]) -> Bundle:
    """A new part with some of its items; the others are as of an empty part of its name."""
    blank = {"pins": (), "units": (), "graphic": "", "custom": None}
    made = draft
    if "symbol" not in items:
        made = replace(made, symbol=replace(made.symbol, **blank))
    if "footprint" not in items:
        made = replace(made, sheet=replace(made.sheet, pads=(), outlines={}))
        made = replace(made, footprint=replace(made.footprint, overrides=(), pattern=None, also=()))
    if "body" not in items:
        made = replace(made, body=replace(made.body, composed=(), model=None))
    if "facts" not in items:
        made = replace(made, part=replace(made.part, facts={}, description=""))
    if "datasheet" not in items:
        made = replace(made, part=replace(made.part, datasheets=()))
    return replace(made, part=replace(made.part, name=part.name))


def _items_of_bundle(there: Bundle, arrived: Bundle, items: Collection[IntakeItem]) -> Bundle:
    """A part of the library with the chosen items of one that arrived whole."""
    made = there
    if "symbol" in items:
        made = replace(made, symbol=arrived.symbol)
    if "footprint" in items:
        made = replace(made, sheet=arrived.sheet, footprint=arrived.footprint)
    if "body" in items:
        made = replace(made, body=arrived.body)
    if "facts" in items:
        about = {"facts": arrived.part.facts, "description": arrived.part.description}
        made = replace(made, part=replace(made.part, **about, category=arrived.part.category))
    if "datasheet" in items:
        made = replace(made, part=replace(made.part, datasheets=arrived.part.datasheets))
    if items == ALL_ITEMS:
        made = replace(made, part=arrived.part)
    return made


def _merged(there: Bundle, part: IntakePart, items: Collection[IntakeItem]) -> DraftOfFound:
    """A part of the library with what of the chosen items arrived."""
    draft, found = part.draft, part.found
    found = replace(found, **{k: v for item in ALL_ITEMS - frozenset(items) for k, v in _PIECES[item].items()})
    made, doubts = there, tuple[str, ...]()
    if found.pins:
        pinned = replace(made.symbol, pins=draft.symbol.pins)
        if found.graphic and draft.symbol.custom is not None:
            pinned = replace(pinned, graphic=draft.symbol.graphic, custom=draft.symbol.custom)
        made = replace(made, symbol=pinned)
    if found.sheet is not None or (found.pads and there.sheet.family == BY_HAND):
        made = replace(made, sheet=replace(draft.sheet, id=there.sheet.id))
        made = replace(made, footprint=replace(made.footprint, overrides=draft.footprint.overrides))
    elif found.pads:
        # Its lands follow from a package sheet, and go on doing so.
        adjusted = adjusted_to(made, found.pads, found.source)
        made, doubts = adjusted.bundle, adjusted.doubts
    if found.outline and there.sheet.family == BY_HAND and draft.body.composed:
        made = replace(made, body=replace(made.body, composed=draft.body.composed))
    facts = {**made.part.facts, **draft.part.facts} if found.facts else made.part.facts
    return DraftOfFound(replace(made, part=replace(made.part, facts=facts)), doubts)


def _shared(library: Library, draft: Bundle, part: IntakePart, items: Collection[IntakeItem]) -> DraftOfFound:
    """A new part that shares the lands and the symbol of parts that have the same; only what was released is shared."""
    like, found, told = part.like, part.found, list[str]()
    made = draft
    if "footprint" in items and like.lands[0] and found.sheet is None and found.bundle is None:
        other = library.load(like.lands[0])
        if other.part.release is None:
            told.append(f"its lands are those of {other.part.name}, which was never released: nothing is shared")
        else:
            links = {name: getattr(other.part, name) for name in ("package", "footprint", "body")}
            made = replace(made, sheet=other.sheet, footprint=other.footprint, body=other.body)
            made = replace(made, part=replace(made.part, match=other.part.match, **links))
            told.append(f"package, lands and body are those of {other.part.name}, and shared with it")
    if "symbol" in items and like.pins[0] and found.bundle is None and not found.graphic:
        other = library.load(like.pins[0])
        if other.part.release is not None:
            made = replace(made, symbol=other.symbol, part=replace(made.part, symbol=other.part.symbol))
            told.append(f"the symbol is that of {other.part.name}, and shared with it")
    return DraftOfFound(made, tuple(told))


def _unreleased(bundle: Bundle) -> Bundle:
    """As a draft of this library: its revisions were those of another."""
    links = {
        name: replace(getattr(bundle.part, name), revision=None) for name in ("package", "symbol", "footprint", "body")
    }
    return replace(bundle, part=replace(bundle.part, release=None, waivers=(), origin=None, **links))


def _with_documents(
    library: Library, arrival: Arrival, bundle: Bundle, found: FoundPart, items: Collection[IntakeItem]
) -> tuple[Bundle, tuple[str, ...]]:
    """The part with its datasheet and its body in the library."""
    told: list[str] = []
    for kind, wanted in linked_documents(bundle) if found.bundle is not None else ():
        data = arrival.documents.get(wanted)
        if data is not None and hashlib.sha256(data).hexdigest() == wanted:
            library.attachments.keep(kind, data)
        elif library.attachments.read(kind, wanted) is None:
            told.append(f"its {kind.value[1]} did not come along; attach it")
    if found.datasheet and "datasheet" in items:
        link = attach_datasheet(library, Path(found.datasheet))
        others = tuple(d for d in bundle.part.datasheets if d.sha256 != link.sha256)
        bundle = replace(bundle, part=replace(bundle.part, datasheets=(*others, link)))
    if found.model and "body" in items:
        try:
            placed = import_model(library, bundle.sheet, Path(found.model))
            body: Body = replace(bundle.body, model=placed[0])
            bundle = replace(bundle, body=body)
        except EiderError as fault:
            told.append(f"its body is left out: {fault}")
    return bundle, tuple(told)
