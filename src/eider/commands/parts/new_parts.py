"""A new part: empty by its category, or as a copy of another."""

import secrets

import msgspec

from eider.errors import InputError
from eider.facts.categories import require_category
from eider.model.body import Body
from eider.model.bundle import Bundle
from eider.model.footprint import Footprint
from eider.model.item_ref import Ref
from eider.model.library import LibrarySettings
from eider.model.package_sheet import PackageSheet
from eider.model.part import Part
from eider.model.symbol import Symbol
from eider.packages.registry import all_families
from eider.symbols.graphics import graphic_pins

replace = msgspec.structs.replace


def new_id() -> str:
    """A permanent id: 64 random bits."""
    return secrets.token_hex(8)


def new_part(name: str, category: str, settings: LibrarySettings) -> Bundle:
    """An empty part with all that will belong to it; the category gives reference letter and graphic.

    Raises:
        InputError: the name is empty, or the library has no such category.
    """
    name = name.strip()
    if not name:
        raise InputError("a part needs a name, such as the manufacturer part number")
    known = require_category(settings, category)
    pins = graphic_pins(known.graphic) if known.graphic else ()
    wanted = "two terminals" if len(pins) == 2 else "many terminals"
    family = next(family for family in all_families().values() if family.first_for == wanted)
    kind = category if category in family.kinds else next(iter(family.kinds), "")
    sheet = PackageSheet(id=new_id(), name="", family=family.key, pins=family.default_pins, kind=kind)
    symbol = Symbol(
        id=new_id(),
        name=name,
        reference=known.reference,
        graphic=known.graphic,
        measures=settings.symbols,
        pins=pins,
    )
    footprint = Footprint(id=new_id(), name="", package=Ref(sheet.id))
    body = Body(id=new_id(), name="", package=Ref(sheet.id))
    part = Part(
        id=new_id(),
        name=name,
        category=category,
        package=Ref(sheet.id),
        symbol=Ref(symbol.id, symbol.name),
        footprint=Ref(footprint.id),
        body=Ref(body.id),
    )
    return Bundle(part=part, sheet=sheet, symbol=symbol, footprint=footprint, body=body)


def start_from_part(bundle: Bundle, name: str) -> Bundle:
    """A new part that begins as a copy: facts and all else come along; it is shared with nothing until released.

    Raises:
        InputError: the name is empty or that of the other part.
    """
    if not name.strip():
        raise InputError("the new part needs a different name")
    ids = {kind: new_id() for kind in ("part", "package", "symbol", "footprint", "body")}
    sheet = Ref(ids["package"], bundle.sheet.name)
    part = replace(
        bundle.part,
        id=ids["part"],
        name=name.strip(),
        release=None,
        waivers=(),
        origin=origin_of(bundle),
        package=sheet,
        symbol=Ref(ids["symbol"]),
        footprint=Ref(ids["footprint"]),
        body=Ref(ids["body"]),
    )
    return replace(
        bundle,
        part=part,
        sheet=replace(bundle.sheet, id=ids["package"]),
        symbol=replace(bundle.symbol, id=ids["symbol"]),
        footprint=replace(bundle.footprint, id=ids["footprint"], package=sheet),
        body=replace(bundle.body, id=ids["body"], package=sheet),
    )


def origin_of(bundle: Bundle) -> Ref:
    """A link to a part from which another is begun: its newest release, or the part as it is being worked on."""
    release = bundle.part.release
    return Ref(bundle.part.id, bundle.part.name, release.revision if release else None)
