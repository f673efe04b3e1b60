"""How a source names and means things, applied to what arrived from it; learned when parts are taken."""

import re
from collections.abc import Mapping
from typing import NamedTuple

import msgspec

from eider.commands.facts.fact_edits import taken_facts
from eider.errors import InputError
from eider.exchange.found_parts import FoundPart
from eider.exchange.layered_shapes import ROLES
from eider.exchange.reading_hints import ReadingHints
from eider.facts.categories import category_of, require_category
from eider.facts.text_templates import composed_name
from eider.lands.pad_faults import CORRECTIONS, corrected_pads
from eider.library import Library
from eider.library.documents.shared_tables import SHARED_INTAKE_MAPS
from eider.model.intake import IntakeMap
from eider.model.item_ref import Ref
from eider.model.library import LibrarySettings
from eider.model.part import Fact, Part

replace = msgspec.structs.replace
# A heading with its unit in brackets: `Height (mm)`, `Capacitance [nF]`.
_WITH_UNIT = re.compile(r"(.+?)\s*[\[(]\s*([^\[\]()\d\s]{1,6})\s*[\])]")
_PLAIN_NUMBER = re.compile(r"[-+]?\d+(?:[.,]\d+)?")


class MappedPart(NamedTuple):
    """A part under the library's names, its category, and what was changed on the way."""

    found: FoundPart
    category: str
    log: tuple[str, ...]


def reading_hints(mapping: IntakeMap) -> ReadingHints:
    """What the map says of how files are read.

    Raises:
        InputError: a layer is to be for something that no layer is.
    """
    for layer, role in mapping.layers.items():
        if role not in ROLES:
            raise InputError(
                f"layer {layer}: “{role}” is not what a layer can be for; choose one of {', '.join(ROLES)}"
            )
    return ReadingHints(mapping.unit, mapping.layers)


def mapped_part(found: FoundPart, mapping: IntakeMap, settings: LibrarySettings) -> MappedPart:
    """What arrived under the library's names.

    Raises:
        InputError: the map names a correction that is none, or the library has no such category.
    """
    category = _category(found, mapping, settings)
    log: list[str] = []
    facts = _with_units(found.facts)
    taken = taken_facts(facts, settings, category_of(settings, category), mapping.facts)
    log += [f"the fact {name} is left out, as it came with another value too" for name in taken.doubled]
    pads = found.pads
    for correction in mapping.corrections.get(found.name, ()):
        if correction not in CORRECTIONS:
            raise InputError(f"“{correction}” is not a correction; choose one of {', '.join(CORRECTIONS)}")
        pads = corrected_pads(pads, correction)
        log.append(f"lands corrected: {CORRECTIONS[correction].lower()}")
    name = mapping.names.get(found.name) or _conventional(found, taken.facts, category, mapping, settings)
    bundle = found.bundle
    if bundle is not None and name != bundle.part.name:
        bundle = replace(bundle, part=replace(bundle.part, name=name))
    if name != found.name:
        log.append(f"called {found.name} there")
    return MappedPart(replace(found, name=name, bundle=bundle, facts=taken.facts, pads=pads), category, tuple(log))


def _category(found: FoundPart, mapping: IntakeMap, settings: LibrarySettings) -> str:
    """That which the file says, if the library has it; else that of the map, or the first."""
    wanted = found.category.strip().casefold()
    for key, entry in settings.categories.items():
        if wanted and wanted in (key.casefold(), entry.title.casefold()):
            return key
    category = mapping.category or next(iter(settings.categories), "")
    require_category(settings, category)
    return category


def _with_units(facts: Mapping[str, str]) -> dict[str, str]:
    """Facts whose heading has the unit of plain numbers, with the unit where it belongs: behind the value."""
    made: dict[str, str] = {}
    for name, value in facts.items():
        headed = _WITH_UNIT.fullmatch(name)
        if headed and _PLAIN_NUMBER.fullmatch(value):
            made.setdefault(headed[1], f"{value} {headed[2]}")
        else:
            made.setdefault(headed[1] if headed else name, value)
    return made


def _conventional(
    found: FoundPart, facts: Mapping[str, str], category: str, mapping: IntakeMap, settings: LibrarySettings
) -> str:
    """The name that the category composes of the facts, where that is wanted and possible; else the one there."""
    known = category_of(settings, category)
    if not mapping.by_convention or known is None:
        return found.name
    blank = Ref("0" * 16)
    part = Part(
        id=blank.id, name=found.name, category=category, package=blank, symbol=blank, footprint=blank, body=blank,
        facts={name: Fact(value) for name, value in facts.items()},
    )  # fmt: skip
    return composed_name(known, part) or found.name


def known_sources(library: Library) -> dict[str, IntakeMap]:
    """The maps that the library has learned, by source; none where the file cannot be read."""
    return SHARED_INTAKE_MAPS.read_sound(library)


def learn_source(library: Library, source: str, mapping: IntakeMap) -> None:
    """Keep a map for a source; nothing is written where it is the one that is kept.

    Raises:
        ReadOnlyError, ConflictError, InputError: it cannot be kept.
    """
    before = SHARED_INTAKE_MAPS.read(library).get(source)
    if before != mapping:
        SHARED_INTAKE_MAPS.save(library, source, mapping, replaces=before)
