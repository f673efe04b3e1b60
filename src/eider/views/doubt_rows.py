"""The doubts of a draft as a person works through them: what each is about in words, and where it is corrected."""

from collections.abc import Mapping
from typing import NamedTuple

from eider.commands.datasheets.datasheet_draft import open_doubts
from eider.evidence.address_table import step_of_address
from eider.evidence.value_witnesses import witnesses_of
from eider.model.address import Address, DimensionAddress, FactAddress, FieldAddress, PinAddress, parse_address
from eider.model.bundle import Bundle
from eider.model.doubt import Doubt
from eider.model.evidence import Evidence, EvidenceKind
from eider.packages.registry import all_families
from eider.views.step_registry import all_steps

_FIELD_NAMES: Mapping[Address, str] = {
    FieldAddress("sheet", "family"): "Family",
    FieldAddress("sheet", "pins"): "Number of pins",
    FieldAddress("sheet", "dims"): "Dimensions",
    FieldAddress("symbol"): "Pins",
    FieldAddress("source"): "Datasheet",
    FieldAddress("lands"): "Suggested lands",
    FieldAddress("part", "description"): "Description",
}


class DoubtRow(NamedTuple):
    """A doubt; `name` of what it is about; `step`, the title of the step in which it is corrected, and empty where a
    typed value corrects it at once; `witnesses`, what else in the part says the same; `place`, where it stands."""

    doubt: Doubt
    name: str
    step: str
    witnesses: tuple[str, ...] = ()
    place: Evidence | None = None


def doubt_rows(bundle: Bundle) -> tuple[DoubtRow, ...]:
    """The doubts of a part in the order of the work."""
    return tuple(_row(bundle, doubt) for doubt in open_doubts(bundle))


def _row(bundle: Bundle, doubt: Doubt) -> DoubtRow:
    address = parse_address(doubt.address)
    is_typed = isinstance(address, DimensionAddress | FactAddress)
    step = "" if is_typed else all_steps()[step_of_address(address)].title
    told = tuple(witness.words for witness in witnesses_of(bundle, address))
    place = Evidence(EvidenceKind.DATASHEET, doubt.document, doubt.page, doubt.box) if doubt.box else None
    return DoubtRow(doubt, _name(bundle, address), step, told, place)


def _name(bundle: Bundle, address: Address) -> str:
    if isinstance(address, PinAddress):
        return f"Pin {address.number}"
    if isinstance(address, DimensionAddress):
        family = all_families().get(bundle.sheet.family)
        letter = family.letter(address.letter) if family else None
        return f"{address.letter}, {letter.meaning}" if letter else address.letter
    if isinstance(address, FactAddress):
        return address.name
    return _FIELD_NAMES.get(address, str(address))
