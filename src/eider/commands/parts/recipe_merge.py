"""A part made again without losing what someone changed in it by hand: three states are compared with each other."""

from collections.abc import Hashable
from typing import Any, NamedTuple

import msgspec

from eider.model.bundle import Bundle
from eider.model.footprint import Adjustment
from eider.model.symbol import Pin

replace = msgspec.structs.replace
_NOTHING = object()
# By what entries of a list are known in all three states; lists of other things are taken as wholes.
_KEYS: dict[type, Any] = {
    Pin: lambda pin: pin.number,
    Adjustment: lambda adjustment: (adjustment.pad, adjustment.what),
}


class MergedRecipe(NamedTuple):
    """A part with what was changed on both sides, and the places where the hand's change won."""

    bundle: Bundle
    by_hand: tuple[str, ...]


def merge_recipes(made_before: Bundle, mine: Bundle, made_now: Bundle) -> MergedRecipe:
    """What is made now, with every change that someone made by hand since it was made before.

    All three are recipes without results and bear the ids of `mine`. Where both changed one value the hand's stays, and
    its place is told; so is every other place that was changed by hand.
    """
    places: list[str] = []
    return MergedRecipe(_merged(made_before, mine, made_now, "", places), tuple(places))


def _merged(old: Any, mine: Any, new: Any, place: str, places: list[str]) -> Any:
    if mine == old:
        return new
    if mine == new:
        return mine
    if _are_alike(old, mine, new, msgspec.Struct):
        fields = {name: _field(name, old, mine, new, place, places) for name in mine.__struct_fields__}
        return type(mine)(**fields)
    if _are_alike(old, mine, new, dict):
        return _merged_tables(old, mine, new, place, places)
    tables = [table for value in (old, mine, new) if (table := _by_key(value)) is not None]
    if len(tables) == 3:
        return tuple(_merged_tables(tables[0], tables[1], tables[2], place, places).values())
    places.append(place)
    return mine


def _are_alike(old: Any, mine: Any, new: Any, kind: type) -> bool:
    return isinstance(mine, kind) and type(old) is type(mine) is type(new)


def _field(name: str, old: Any, mine: Any, new: Any, place: str, places: list[str]) -> Any:
    inner = f"{place}.{name}" if place else name
    return _merged(getattr(old, name), getattr(mine, name), getattr(new, name), inner, places)


def _merged_tables(old: Any, mine: Any, new: Any, place: str, places: list[str]) -> dict[Any, Any]:
    """Entry by entry, in the order of what is made now; what the hand added is last, what it took away stays away."""
    found: dict[Any, Any] = {}
    for key in [*new, *(k for k in mine if k not in new)]:
        shown = " ".join(key) if isinstance(key, tuple) else str(key)
        before, own, now = (table.get(key, _NOTHING) for table in (old, mine, new))
        value = _merged(before, own, now, f"{place}[{shown}]", places)
        if value is not _NOTHING:
            found[key] = value
    return found


def _by_key(values: Any) -> dict[Hashable, Any] | None:
    """Entries of a list by what they are known by; None where it is no such list."""
    if not isinstance(values, tuple):
        return None
    if not values:
        return {}
    key = _KEYS.get(type(values[0]))
    if key is None or not all(type(value) is type(values[0]) for value in values):
        return None
    found = {key(value): value for value in values}
    return found if len(found) == len(values) else None


def with_identity_of(bundle: Bundle, other: Bundle) -> Bundle:
    """A part under the ids, links, release and waivers of another, so that nothing but the recipes differs."""
    part = replace(
        bundle.part,
        id=other.part.id,
        package=other.part.package,
        symbol=other.part.symbol,
        footprint=other.part.footprint,
        body=other.part.body,
        release=other.part.release,
        waivers=other.part.waivers,
        origin=other.part.origin,
    )
    return replace(
        bundle,
        part=part,
        sheet=replace(bundle.sheet, id=other.sheet.id),
        symbol=replace(bundle.symbol, id=other.symbol.id),
        footprint=replace(bundle.footprint, id=other.footprint.id, package=other.footprint.package),
        body=replace(bundle.body, id=other.body.id, package=other.body.package),
    )
