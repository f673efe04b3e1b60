"""Parts from elsewhere compared with the library: what is new, the same, different, or there under another name."""

from collections.abc import Collection, Mapping, Sequence
from typing import Literal

import msgspec

from eider.commands.datasheets.found_parts import BY_HAND, adjusted_to, draft_of_found, missing_words
from eider.commands.parts.evaluation import compute_part
from eider.commands.parts.recipe_merge import with_identity_of
from eider.errors import EiderError, InputError
from eider.exchange.found_parts import FoundPart
from eider.facts.categories import require_category
from eider.lands.joints import lowest_level, pattern_joints
from eider.lands.pad_faults import PadFault, pad_faults
from eider.lands.pattern_reading import PatternReading, read_pattern
from eider.library import Library
from eider.library.git.revision_compare import compare_revisions
from eider.library.index.content_sums import lands_sum, pins_sum
from eider.model.bundle import Bundle
from eider.model.codec import to_data
from eider.model.intake import IntakeMap
from eider.model.package_sheet import PackageSheet
from eider.services.intake.arrivals import Arrival
from eider.services.intake.intake_mapping import mapped_part
from eider.services.parts.part_evaluation import EvaluationRun
from eider.services.releasing.change_words import change_words, difference_words
from eider.services.tasks import Task

replace = msgspec.structs.replace
IntakeState = Literal["new", "same", "differs", "renamed"]
MOST_DIFFERENCES = 20


class SameContent(msgspec.Struct, frozen=True):
    """Parts of the library, by id and name, that have the lands or the pins of one that arrived; empty: none has."""

    lands: tuple[str, str] = ("", "")
    pins: tuple[str, str] = ("", "")


class IntakePart(msgspec.Struct, frozen=True):
    """A part that arrived, as it would be taken: its state against the library, and what is missing of it.

    `against` is the part of the library that it is the same as or differs from, by its id. `came_as` is its name in the
    file. `reading` is what its lands are for, `joints` the level they reach, `faults` what is wrong with them. `like`
    are parts of the library that have the same lands or pins under other names.
    """

    found: FoundPart
    draft: Bundle
    state: IntakeState
    against: str
    differences: tuple[str, ...]
    missing: tuple[str, ...]
    doubts: tuple[str, ...]
    came_as: str = ""
    reading: PatternReading | None = None
    joints: str = ""
    faults: tuple[PadFault, ...] = ()
    like: SameContent = SameContent()

    @property
    def name(self) -> str:
        """What it is called here."""
        return self.draft.part.name


def held_against(
    library: Library, arrival: Arrival, mapping: IntakeMap, task: Task | None = None
) -> tuple[tuple[IntakePart, ...], tuple[str, ...]]:
    """Each part that arrived with its state, and what is not a part at all and why.

    Raises:
        InputError: the library has no such category. CancelledError: the user cancelled.
    """
    task = task or Task()
    if mapping.category:
        require_category(library.settings, mapping.category)
    run, made, log = EvaluationRun(library), list[IntakePart](), list[str]()
    library.index.refresh()
    for index, found in enumerate(arrival.parts):
        task.report(index / len(arrival.parts), f"comparing {found.name}")
        if not _is_part(found):
            log.append(f"{found.source}: {found.name}: {_no_part_words(found)}; left out")
            continue
        try:
            made.append(_held(library, found, mapping, run))
        except EiderError as fault:
            log.append(f"{found.source}: {found.name} is left out: {fault}")
    return tuple(made), tuple(log)


def _no_part_words(found: FoundPart) -> str:
    if found.shapes:
        return "no layer is known to be copper: say what each layer is for"
    return f"a {found.kinds[0]} that belongs to no part of this delivery" if found.kinds else "nothing of it"


def _is_part(found: FoundPart) -> bool:
    return bool(
        found.bundle or found.pins or found.pads or found.sheet or found.facts or found.outline or found.graphic
    )


def _held(library: Library, arrived: FoundPart, mapping: IntakeMap, run: EvaluationRun) -> IntakePart:
    mapped = mapped_part(arrived, mapping, library.settings)
    found = mapped.found
    made = draft_of_found(found, mapped.category, library.settings, library.person().name, mapping)
    whole = made.bundle
    if arrived.name in mapping.packages:
        whole = _on_package(library, whole, found, mapping.packages[arrived.name], run)
    # Its lands are wanted, its checks come when it is taken.
    draft = whole if found.bundle is not None else compute_part(whole, run.rules_of(whole)).bundle
    row = library.index.find(draft.part.id) or library.index.find(draft.part.name)
    there = library.load(row.id) if row else None
    sheet = draft.sheet if draft.sheet.family != BY_HAND else there.sheet if there else None
    doubts = (*mapped.log, *found.log, *made.doubts)
    made_part = IntakePart(
        found,
        draft,
        "new",
        "",
        (),
        tuple(missing_words(found, has_package=arrived.name in mapping.packages)),
        doubts,
        came_as=arrived.name,
        reading=read_pattern(found.pads) if found.pads else None,
        joints=_joint_words(found, sheet, run, draft),
        faults=pad_faults(found.pads),
    )
    if row is None or there is None:
        return _with_same_content(made_part, _same_content(library, found, draft))
    differences = _differences(there, draft, found)
    is_renamed = row.id == draft.part.id and row.name != draft.part.name
    state: IntakeState = "renamed" if is_renamed else "differs" if differences else "same"
    # What did not arrive is there already.
    return replace(made_part, state=state, missing=(), against=row.id, differences=differences[:MOST_DIFFERENCES])


def _with_same_content(part: IntakePart, like: SameContent) -> IntakePart:
    """A new part; of one whose lands and pins are those of one that is there, only the name is new."""
    if like.lands[0] and like.lands[0] == like.pins[0]:
        told = (f"the library has the same lands and pins as {like.lands[1]}",)
        return replace(part, state="renamed", differences=told, like=like)
    return replace(part, like=like)


def _on_package(library: Library, draft: Bundle, found: FoundPart, of: str, run: EvaluationRun) -> Bundle:
    """The part on the package sheet of one that is there, with adjustments for what its lands differ in.

    Raises:
        InputError: there is no such part.
    """
    other = library.load(library.find(of).id)
    sheet = replace(other.sheet, id=draft.sheet.id, pictures=())
    footprint = replace(draft.footprint, overrides=())
    on = replace(draft, sheet=sheet, footprint=footprint, body=replace(draft.body, composed=()))
    computed = compute_part(on, run.rules_of(on)).bundle
    return adjusted_to(computed, found.pads, found.source).bundle if found.pads else computed


def _same_content(library: Library, found: FoundPart, draft: Bundle) -> SameContent:
    """Parts that have these lands and these pins; one that has both comes first."""
    pattern = draft.footprint.pattern
    pads = pattern.pads if found.bundle is not None and pattern else found.pads
    pins = draft.symbol.pins if found.bundle is not None else found.pins
    lands = {row.id: row.name for row in library.index.parts_with_content(lands_sum(pads))}
    symbols = {row.id: row.name for row in library.index.parts_with_content(pins_sum(pins))}
    both = next((item for item in lands.items() if item[0] in symbols), None)
    first_lands, first_pins = (both or next(iter(table.items()), ("", "")) for table in (lands, symbols))
    return SameContent(first_lands, first_pins)


def _joint_words(found: FoundPart, sheet: PackageSheet | None, run: EvaluationRun, draft: Bundle) -> str:
    """Which level the lands reach on the package sheet that they are for; empty without a sheet or joints."""
    if sheet is None or sheet.family == BY_HAND or not found.pads:
        return ""
    try:
        groups = pattern_joints(sheet, found.pads, run.rules_of(draft).rulebook)
    except EiderError as fault:
        return f"its joints cannot be shown: {fault}"
    if not any(group.pads for group in groups):
        return ""
    level = lowest_level(groups)
    return f"its lands reach level {level}" if level else "its lands stay below level C"


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
