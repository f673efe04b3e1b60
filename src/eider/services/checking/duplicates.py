"""Items that are the same under several names, and orderable numbers that several parts have; merged on request."""

from collections import defaultdict
from collections.abc import Callable, Iterable, Iterator, Mapping
from typing import Any

import msgspec

from eider.errors import EiderError, InputError
from eider.library import Library
from eider.library.index.item_reader import ItemHead
from eider.library.releases.release_commit import REF_FIELDS
from eider.model.body import Body
from eider.model.bundle import Bundle, Item
from eider.model.codec import encode
from eider.model.footprint import Footprint
from eider.model.item_ref import Ref
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Pad
from eider.model.symbol import Symbol
from eider.model.wording import counted
from eider.reports.health_figures import Degree, FoundTwice
from eider.services.parts.part_evaluation import EvaluationRun, save_part
from eider.services.releasing.impact import FIELDS, newest_item, with_item
from eider.services.tasks import Task

replace = msgspec.structs.replace
# Lands that differ by no more than this (mm) are told as nearly equal; figures that differ by less than the second
# are one.
NEARLY, SAME = 0.05, 0.0005
PART_NUMBER = "Part number"


class _Kept(msgspec.Struct):
    """One item as it was met first, and the parts that were met with it."""

    item: Item
    users: list[str]


def find_duplicates(library: Library, task: Task | None = None) -> tuple[FoundTwice, ...]:
    """What is in a library twice, by content; parts that cannot be read are left to `eider check`.

    Raises:
        CancelledError: the user cancelled.
    """
    task = task or Task()
    rows, bundles = library.search(), []
    for index, row in enumerate(rows):
        task.report(index / len(rows), f"looking at {row.name}")
        try:
            bundles.append(library.load(row.id))
        except EiderError:
            continue
    return duplicates_among(bundles)


def duplicates_among(bundles: Iterable[Bundle]) -> tuple[FoundTwice, ...]:
    """What is in these parts twice; items that were never released find those like them when they are."""
    kept: dict[str, dict[str, _Kept]] = {kind: {} for kind in FIELDS}
    bodies: dict[str, str] = {}
    numbers: dict[tuple[str, str], list[Bundle]] = defaultdict(list)
    for bundle in bundles:
        for kind, of_kind in kept.items():
            item: Item = getattr(bundle, FIELDS[kind])
            if getattr(bundle.part, REF_FIELDS[kind]).revision is None:
                continue
            of_kind.setdefault(item.id, _Kept(item, [])).users.append(bundle.part.name)
        bodies.setdefault(bundle.body.id, _body_content(bundle))
        facts = bundle.part.facts
        if (number := facts.get(PART_NUMBER)) and number.value.strip():
            maker = facts["Manufacturer"].value if "Manufacturer" in facts else ""
            numbers[maker.strip().casefold(), "".join(number.value.split()).casefold()].append(bundle)
    found = [*_equal("package", kept["package"], lambda item: _package_content(item))]
    found += [*_equal("footprint", kept["footprint"], lambda item: _footprint_content(item))]
    equal_lands = {item_id for one in found for item_id in one.ids[1:]}
    found += _nearly_equal({key: one for key, one in kept["footprint"].items() if key not in equal_lands})
    found += _equal("symbol", kept["symbol"], lambda item: _symbol_content(item))
    found += _equal("body", kept["body"], lambda item: bodies[item.id])
    for same in numbers.values():
        if len(same) > 1:
            names = tuple(bundle.part.name for bundle in same)
            found.append(FoundTwice("part", tuple(b.part.id for b in same), names, ((),) * len(same), "same number"))
    return tuple(found)


def _equal(kind: str, kept: Mapping[str, _Kept], content: Callable[[Any], str]) -> Iterator[FoundTwice]:
    groups: dict[str, list[_Kept]] = defaultdict(list)
    for one in kept.values():
        if text := content(one.item):
            groups[text].append(one)
    for same in groups.values():
        if len(same) > 1:
            yield _told(kind, same, "equal")


def _told(kind: str, same: list[_Kept], degree: Degree, differs: str = "") -> FoundTwice:
    ids, names = tuple(one.item.id for one in same), tuple(one.item.name for one in same)
    return FoundTwice(kind, ids, names, tuple(tuple(one.users) for one in same), degree, differs)


def _figures(pad: Pad) -> tuple[float, ...]:
    hole = (pad.hole.width, pad.hole.height, pad.hole.x, pad.hole.y) if pad.hole else ()
    return (pad.x, pad.y, pad.width, pad.height, pad.corner_radius, *hole)


def _form(footprint: Footprint) -> tuple[object, ...]:
    """What two land patterns have in common before their figures are compared."""
    pads = footprint.pattern.pads if footprint.pattern else ()
    return tuple((p.number, p.shape, p.rotation % 360, p.plated, p.layers, p.outline, p.hole is not None) for p in pads)


def _footprint_content(footprint: Footprint) -> str:
    """The lands as text; empty where there are none yet."""
    if footprint.pattern is None or not footprint.pattern.pads:
        return ""
    figures = [[round(f / SAME) for f in _figures(pad)] for pad in footprint.pattern.pads]
    return f"{_form(footprint)} {figures}"


def _package_content(sheet: PackageSheet) -> str:
    """All that a package is, without where its values came from; empty where a length cannot be read."""
    limits = {letter: sheet.limits(letter) for letter in sorted(sheet.dims)}
    if not limits or None in limits.values():
        return ""
    return f"{limits} {encode(replace(sheet, id='', name='', dims={}, pictures=(), aliases={}))}"


def _symbol_content(symbol: Symbol) -> str:
    """What is drawn and how it is called, without what follows from name and evidence."""
    if not symbol.pins:
        return ""
    pins = [(pin.number, pin.drawn, pin.type, pin.active_low, pin.shape) for pin in symbol.pins]
    return encode((symbol.reference, symbol.measures, pins, symbol.units))


def _body_content(bundle: Bundle) -> str:
    """A model as it is placed; a body by its composition and the package that it follows from, where it is complete."""
    body: Body = bundle.body
    if body.model is not None:
        return encode(replace(body.model, file=""))
    if body.result is None:
        return ""
    plain = replace(body, id="", name="", package=Ref(""))
    lengths = [(letter, bundle.sheet.limits(letter)) for letter in sorted(bundle.sheet.dims)]
    return encode((bundle.sheet.family, bundle.sheet.pins, lengths, plain))


def _nearly_equal(kept: Mapping[str, _Kept]) -> Iterator[FoundTwice]:
    """Pairs of land patterns whose lands are the same but for hundredths of a millimetre."""
    forms: dict[tuple[object, ...], list[tuple[list[float], _Kept]]] = defaultdict(list)
    for one in kept.values():
        if isinstance(one.item, Footprint) and (form := _form(one.item)) and one.item.pattern:
            forms[form].append(([f for pad in one.item.pattern.pads for f in _figures(pad)], one))
    for alike in forms.values():
        alike.sort(key=lambda entry: entry[0][0])
        for index, (figures, one) in enumerate(alike):
            for others, other in alike[index + 1 :]:
                if others[0] - figures[0] > NEARLY + SAME / 2:
                    break
                most = max(abs(a - b) for a, b in zip(figures, others, strict=True))
                if SAME < most <= NEARLY + SAME / 2:
                    yield _told("footprint", [one, other], "nearly equal", f"at most {most:.3f} mm apart")


def merge_items(library: Library, keep: ItemHead, other: ItemHead, task: Task | None = None) -> tuple[str, ...]:
    """Make working copies of all parts that use one item so that they use the other; returns their names.

    Nothing is removed: revisions that were released keep what they were released with.

    Raises:
        InputError: the items are of two kinds, or one and the same; lands or a body follow from another package than
            one of the parts has. NotFoundError: the kept one was never released.
        LibraryError: nothing can be written. CancelledError: the user cancelled; what was kept stays.
    """
    if keep.kind != other.kind or keep.id == other.id or keep.kind == "part":
        raise InputError(f"{keep.kind} {keep.name} and {other.kind} {other.name} cannot be merged")
    task = task or Task()
    library.require_writable()
    item, ref = newest_item(library, keep)
    moving = [library.load(row.id) for row in library.index.parts_using(other.id)]
    for bundle in moving:
        if isinstance(item, Footprint | Body) and bundle.sheet.id != item.package.id:
            raise InputError(
                f"{keep.kind} {keep.name} follows from package {item.package.name}, and {bundle.part.name} has "
                f"{bundle.sheet.name}; where these are the same, merge the packages first"
            )
    run = EvaluationRun(library)
    for index, bundle in enumerate(moving):
        task.report(index / len(moving), f"moving {bundle.part.name}")
        save_part(library, run.evaluated(with_item(bundle, keep.kind, item, ref)))
    return tuple(bundle.part.name for bundle in moving)


def merged_words(keep: ItemHead, other: ItemHead, names: tuple[str, ...]) -> str:
    """What merging did, in words."""
    moved = f"{counted(len(names), 'part')} moved from {other.kind} {other.name} to {keep.name}"
    return f"{moved}; release them to make it so" if names else f"no part uses {other.kind} {other.name}"
