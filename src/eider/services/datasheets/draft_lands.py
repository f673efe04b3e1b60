"""The step of a draft that keeps the lands which the datasheet suggests, beside the computed ones."""

import contextlib
from collections.abc import Sequence

import msgspec

from eider.commands.datasheets.drafted_lands import LandSuggestion, use_suggestion
from eider.datasheets.documents.found_items import FoundItem
from eider.errors import EiderError
from eider.lands.land_layout import LaidLands
from eider.model.address import FieldAddress
from eider.model.bundle import Bundle
from eider.model.doubt import Doubt
from eider.model.wording import counted
from eider.packages.letters.typical_dimensions import with_typical
from eider.services.datasheets.draft_source import Drafted, DraftSource
from eider.services.datasheets.suggested_lands import lands_of_sheet, suggested_lands, tabled_lands

replace = msgspec.structs.replace
# Doubts about suggested lands are about no single value.
LANDS = str(FieldAddress("lands"))
ReadLands = list[tuple[FoundItem, LandSuggestion]]


def take_lands(bundle: Bundle, source: DraftSource) -> Drafted:
    """The lands that are suggested for the package, beside the computed ones."""
    drawn = [i for i in source.found if i.kind == "lands" and i.is_figure and source.is_of_package(i)]
    laid, doubts = _laid(bundle, source, drawn)
    if laid is None:
        return bundle, doubts
    read = suggested_lands(source.datasheet, drawn, laid)
    if drawn and not any(suggestion.values for _item, suggestion in read):
        bundle, read, more = _on_two_sides(bundle, source, drawn, read)
        doubts += more
    if not any(suggestion.values for _item, suggestion in read):
        tables = [i for i in source.found if i.kind == "lands" and source.is_of_package(i)]
        read = [*read, *tabled_lands(source.datasheet, tables, laid, (source.package, bundle.part.name))]
    for item, suggestion in read:
        bundle = use_suggestion(bundle, suggestion, source.document, source.who)
        doubts += (source.doubt(LANDS, told, item) for told in suggestion.doubts)
    return bundle, doubts


def _laid(bundle: Bundle, source: DraftSource, drawn: Sequence[FoundItem]) -> tuple[LaidLands | None, list[Doubt]]:
    """The lands of the drafted package, with a doubt where a length is missing; None where nothing tells them."""
    rulebook = source.library.rulebook(bundle.footprint.rulebook)
    try:
        return lands_of_sheet(bundle.sheet, bundle.footprint.level, rulebook), []
    except EiderError as fault:
        told = f"suggested lands cannot be compared with the package yet: {fault}"
        doubts = [source.doubt(LANDS, told, item) for item in drawn]
    # Which land is which does not depend on the length that is missing: a usual one tells it.
    with contextlib.suppress(EiderError):
        return lands_of_sheet(with_typical(bundle.sheet), bundle.footprint.level, rulebook), doubts
    return None, doubts


def _on_two_sides(
    bundle: Bundle, source: DraftSource, drawn: Sequence[FoundItem], read: ReadLands
) -> tuple[Bundle, ReadLands, list[Doubt]]:
    """The part with its leads on two sides, where the lands are drawn so and nothing says how many a side has."""
    sheet = bundle.sheet
    if sheet.pins % 2 or sheet.pins_d is not None or sheet.pins_e is not None:
        return bundle, read, []
    other = replace(sheet, pins_d=0, pins_e=sheet.pins // 2)
    rulebook = source.library.rulebook(bundle.footprint.rulebook)
    with contextlib.suppress(EiderError):
        again = suggested_lands(source.datasheet, drawn, lands_of_sheet(other, bundle.footprint.level, rulebook))
        if any(suggestion.values for _item, suggestion in again):
            told = "on two sides: the lands are drawn so"
            doubt = source.doubt(str(FieldAddress("sheet", "pins")), told, drawn[0])
            return replace(bundle, sheet=other), again, [replace(doubt, reading=counted(sheet.pins, "lead"))]
    return bundle, read, []
