"""Parts from elsewhere held against the library, and taken as drafts or next revisions; nothing is taken by itself."""

import hashlib
from collections.abc import Collection, Mapping, Sequence
from pathlib import Path
from typing import Literal

import msgspec

from eider.commands.evaluation import compute_part
from eider.commands.found_parts import BY_HAND, DraftOfFound, adjusted_to, draft_of_found, missing_words
from eider.commands.recipe_merge import with_identity_of
from eider.errors import EiderError, InputError
from eider.exchange.found_parts import FoundPart
from eider.library import Library
from eider.library.attachments import linked_documents
from eider.library.revision_compare import compare_revisions
from eider.model.body import Body
from eider.model.bundle import Bundle
from eider.model.codec import to_data
from eider.model.library import LibrarySettings
from eider.services.arrivals import Arrival
from eider.services.change_words import change_words, difference_words
from eider.services.datasheet_opening import attach_datasheet
from eider.services.model_importing import import_model
from eider.services.part_evaluation import EvaluationRun, save_part
from eider.services.tasks import Task

replace = msgspec.structs.replace
IntakeState = Literal["new", "same", "differs", "renamed"]
MOST_DIFFERENCES = 20


class IntakeMap(msgspec.Struct, frozen=True):
    """How names of a source become the library's: of parts and facts (empty leaves one out); and their category."""

    category: str = ""
    names: dict[str, str] = {}
    facts: dict[str, str] = {}


class IntakePart(msgspec.Struct, frozen=True):
    """A part that arrived, as it would be taken: its state against the library, and what is missing of it.

    `against` is the part of the library that it is the same as or differs from, by its id.
    """

    found: FoundPart
    draft: Bundle
    state: IntakeState
    against: str
    differences: tuple[str, ...]
    missing: tuple[str, ...]
    doubts: tuple[str, ...]

    @property
    def name(self) -> str:
        """What it is called here."""
        return self.draft.part.name


class IntakeTaken(msgspec.Struct, frozen=True):
    """The names of the parts that are drafts now, and what could not be taken and why."""

    taken: tuple[str, ...]
    log: tuple[str, ...]


def held_against(
    library: Library, arrival: Arrival, mapping: IntakeMap, task: Task | None = None
) -> tuple[tuple[IntakePart, ...], tuple[str, ...]]:
    """Each part that arrived with its state, and what is no part at all and why.

    Raises:
        InputError: the library has no such category. CancelledError: the user cancelled.
    """
    task, category = task or Task(), _category(library.settings, mapping)
    run, made, log = EvaluationRun(library), list[IntakePart](), list[str]()
    library.index.refresh()
    for index, found in enumerate(arrival.parts):
        task.report(index / len(arrival.parts), f"comparing {found.name}")
        if not (found.bundle or found.pins or found.pads or found.sheet or found.facts):
            what = f"a {found.kinds[0]} that belongs to no part of this delivery" if found.kinds else "nothing of it"
            log.append(f"{found.source}: {found.name}: {what}; left out")
            continue
        try:
            made.append(_held(library, _mapped(found, mapping), category, run))
        except EiderError as fault:
            log.append(f"{found.source}: {found.name} is left out: {fault}")
    return tuple(made), tuple(log)


def _category(settings: LibrarySettings, mapping: IntakeMap) -> str:
    category = mapping.category or next(iter(settings.categories), "")
    if category not in settings.categories:
        raise InputError(f"there is no category “{category}”; choose one of {', '.join(settings.categories)}")
    return category


def _mapped(found: FoundPart, mapping: IntakeMap) -> FoundPart:
    facts = {mapping.facts.get(name, name): value for name, value in found.facts.items()}
    name = mapping.names.get(found.name, found.name)
    bundle = found.bundle
    if bundle is not None and name != bundle.part.name:
        bundle = replace(bundle, part=replace(bundle.part, name=name))
    return replace(found, name=name, bundle=bundle, facts={key: value for key, value in facts.items() if key})


def _held(library: Library, found: FoundPart, category: str, run: EvaluationRun) -> IntakePart:
    made = draft_of_found(found, category, library.settings, library.person().name)
    # Its lands are wanted, its checks come when it is taken.
    draft = made.bundle if found.bundle is not None else compute_part(made.bundle, run.rules_of(made.bundle)).bundle
    doubts = (*found.log, *made.doubts)
    row = library.index.find(draft.part.id) or library.index.find(draft.part.name)
    missing = tuple(missing_words(found))
    if row is None:
        return IntakePart(found, draft, "new", "", (), missing, doubts)
    there = library.load(row.id)
    differences = _differences(there, draft, found)
    is_renamed = row.id == draft.part.id and row.name != draft.part.name
    state: IntakeState = "renamed" if is_renamed else "differs" if differences else "same"
    return IntakePart(found, draft, state, row.id, differences[:MOST_DIFFERENCES], missing, doubts)


def _differences(there: Bundle, draft: Bundle, found: FoundPart) -> tuple[str, ...]:
    """What a part of the library and what arrived of it differ in; of what did not arrive nothing is said."""
    if found.bundle is not None:
        return difference_words(there, with_identity_of(draft, there))
    before, after = _pieces(there, found), _pieces(draft, found)
    return tuple(change_words(compare_revisions(before, after)))


def _pieces(bundle: Bundle, found: FoundPart) -> dict[str, object]:
    """What of a part there is to compare, by what the file has of it."""
    pattern, made = bundle.footprint.pattern, dict[str, object]()
    if found.pins:
        made["symbol.pins"] = {pin.number: f"{pin.name}, {pin.type}" for pin in bundle.symbol.pins}
    if found.pads:
        made["pads"] = {pad.number: _rounded(to_data(pad)) for pad in pattern.pads} if pattern else {}
    if found.sheet is not None:
        made["sheet.dims"] = {letter: dimension.text for letter, dimension in bundle.sheet.dims.items()}
    made["part.facts"] = {name: bundle.part.facts[name].value for name in found.facts if name in bundle.part.facts}
    return made


def _rounded(pad: dict[str, object]) -> dict[str, object]:
    """A pad to a micrometre; its openings follow the rulebook."""
    shown = {key: value for key, value in pad.items() if key not in ("mask", "paste")}
    return {key: round(value, 3) if isinstance(value, float) else value for key, value in shown.items()}


def chosen_parts(parts: Sequence[IntakePart], accept: Collection[str]) -> tuple[IntakePart, ...]:
    """The parts that are to be taken: `new` ones, `all` that are new or differ, or those named.

    Raises:
        InputError: none of them is called so.
    """
    states: Mapping[str, tuple[IntakeState, ...]] = {"new": ("new",), "all": ("new", "differs")}
    names = [name for name in accept if name not in states]
    if unknown := [name for name in names if all(part.name != name for part in parts)]:
        raise InputError(f"nothing that arrived is called {', '.join(unknown)}")
    wanted = {state for key in accept for state in states.get(key, ())}
    return tuple(part for part in parts if part.state in wanted or (part.name in names and part.state != "same"))


def take_parts(
    library: Library, arrival: Arrival, parts: Sequence[IntakePart], task: Task | None = None
) -> IntakeTaken:
    """Keep parts as working copies: new ones as drafts, others as the next revision of the part that is there.

    What was taken before a cancel stays; what is taken already is the same the next time, and is not taken twice.

    Raises:
        ReadOnlyError, LibraryError: nothing can be written. CancelledError: the user cancelled.
    """
    task, run = task or Task(), EvaluationRun(library)
    library.require_writable()
    taken, log = list[str](), list[str]()
    for index, part in enumerate(parts):
        task.report(index / len(parts), f"taking {part.name}")
        try:
            made = _as_taken(library, part)
            bundle, told = _with_documents(library, arrival, made.bundle, part.found)
        except EiderError as fault:
            log.append(f"{part.name} is not taken: {fault}")
            continue
        log += [f"{part.name}: {words}" for words in (*part.doubts, *made.doubts, *told)]
        save_part(library, run.evaluated(bundle))
        taken.append(part.name)
    return IntakeTaken(tuple(taken), tuple(log))


def _as_taken(library: Library, part: IntakePart) -> DraftOfFound:
    """The part as it will be kept; what of it the part that is there cannot take is told."""
    if not part.against:
        return DraftOfFound(_unreleased(part.draft), ())
    there = library.load(part.against)
    if part.found.bundle is not None:
        made = with_identity_of(part.draft, there)
        return DraftOfFound(replace(made, part=replace(made.part, name=part.name, release=there.part.release)), ())
    made, doubts = there, tuple[str, ...]()
    if part.found.pins:
        made = replace(made, symbol=replace(made.symbol, pins=part.draft.symbol.pins))
    if part.found.sheet is not None or (part.found.pads and there.sheet.family == BY_HAND):
        made = replace(made, sheet=replace(part.draft.sheet, id=there.sheet.id))
    elif part.found.pads:
        # Its lands follow from a package sheet, and go on doing so.
        adjusted = adjusted_to(made, part.found.pads, part.found.source)
        made, doubts = adjusted.bundle, adjusted.doubts
    facts = {**made.part.facts, **part.draft.part.facts}
    return DraftOfFound(replace(made, part=replace(made.part, facts=facts)), doubts)


def _unreleased(bundle: Bundle) -> Bundle:
    """As a draft of this library: its revisions were those of another."""
    links = {
        name: replace(getattr(bundle.part, name), revision=None) for name in ("package", "symbol", "footprint", "body")
    }
    return replace(bundle, part=replace(bundle.part, release=None, waivers=(), origin=None, **links))


def _with_documents(
    library: Library, arrival: Arrival, bundle: Bundle, found: FoundPart
) -> tuple[Bundle, tuple[str, ...]]:
    """The part with its datasheet and its body in the library."""
    told: list[str] = []
    for kind, wanted in linked_documents(bundle) if found.bundle is not None else ():
        data = arrival.documents.get(wanted)
        if data is not None and hashlib.sha256(data).hexdigest() == wanted:
            library.attachments.keep(kind, data)
        elif library.attachments.read(kind, wanted) is None:
            told.append(f"its {kind.value[1]} did not come along; attach it")
    if found.datasheet:
        link = attach_datasheet(library, Path(found.datasheet))
        others = tuple(d for d in bundle.part.datasheets if d.sha256 != link.sha256)
        bundle = replace(bundle, part=replace(bundle.part, datasheets=(*others, link)))
    if found.model:
        try:
            placed = import_model(library, bundle.sheet, Path(found.model))
            body: Body = replace(bundle.body, model=placed[0])
            bundle = replace(bundle, body=body)
        except EiderError as fault:
            told.append(f"its body is left out: {fault}")
    return bundle, tuple(told)
