"""A variant of a part: another orderable number of the same thing, or the same thing in another package.

It is a part of its own, and shares what is the same: changed in one of them, the other is told.
"""

from collections.abc import Mapping
from typing import Literal

import msgspec

from eider.commands.facts.fact_edits import follow_description
from eider.commands.parts.new_parts import new_id, origin_of
from eider.commands.parts.start_from import name_with_facts, with_facts
from eider.errors import InputError
from eider.facts.categories import category_of
from eider.model.bundle import Bundle
from eider.model.item_ref import Ref
from eider.model.library import LibrarySettings

replace = msgspec.structs.replace
VariantKind = Literal["number", "package"]
KINDS: Mapping[VariantKind, str] = {
    "number": "Another orderable number: shares symbol, package, lands and body",
    "package": "Another package: shares the symbol and its match",
}


def new_variant(
    bundle: Bundle,
    kind: VariantKind,
    name: str,
    facts: Mapping[str, str],
    settings: LibrarySettings,
    by: str,
    at: str,
) -> Bundle:
    """A variant under another name, with other facts; without a name it has the one that follows from them.

    Raises:
        InputError: the part was never released, so that nothing of it can be shared; or the variant has no name, or
            that of the part.
    """
    if bundle.part.release is None:
        raise InputError(
            f"{bundle.part.name} was never released; release it first, so that a variant can share with it"
        )
    changed = with_facts(bundle, facts, by, at)
    composed = name_with_facts(bundle, facts, settings) if changed is not bundle else ""
    made = name.strip() or composed
    if not made or made == bundle.part.name:
        raise InputError("the variant needs its own name")
    part = replace(changed.part, id=new_id(), name=made, release=None, waivers=(), origin=origin_of(bundle))
    copy = replace(changed, part=part)
    copy = follow_description(bundle, copy, category_of(settings, part.category))
    return copy if kind == "number" else _with_own_package(copy)


def _with_own_package(bundle: Bundle) -> Bundle:
    """Package, footprint and body become copies; the symbol stays shared."""
    sheet = Ref(new_id(), bundle.sheet.name)
    part = replace(bundle.part, package=sheet, footprint=Ref(new_id()), body=Ref(new_id()), pinout=None)
    return replace(
        bundle,
        part=part,
        sheet=replace(bundle.sheet, id=sheet.id),
        footprint=replace(bundle.footprint, id=part.footprint.id, package=sheet),
        body=replace(bundle.body, id=part.body.id, package=sheet),
    )
