"""The manufacturer's land pattern as rows, and how its pads differ from the computed ones."""

import msgspec

from eider.checks import PartUnderCheck
from eider.errors import EiderError
from eider.evidence.value_evidence import datasheet_names, evidence_words
from eider.lands.manufacturer_pattern import MEANINGS, PadDifference, differences, groups_of, needed
from eider.lands.pattern import derive_lands, manufacturer_pattern
from eider.model.address import ManufacturerLengthAddress
from eider.model.bundle import Bundle
from eider.model.package_sheet import Dimension
from eider.rulebooks import Rulebook


class SuggestedRow(msgspec.Struct, frozen=True):
    """A length of a group, for a table."""

    group: str
    form: str
    key: str
    meaning: str
    text: str
    evidence: str

    @property
    def address(self) -> ManufacturerLengthAddress:
        """The address of the value."""
        return ManufacturerLengthAddress(self.group, self.key)


def suggested_rows(bundle: Bundle) -> list[SuggestedRow]:
    """Every length that the chosen forms ask for."""
    names = datasheet_names(bundle.part)
    rows = []
    for lands in bundle.footprint.suggested:
        for key in needed(lands.form):
            d = lands.lengths.get(key, Dimension())
            words = evidence_words(d, names) if d.text else ""
            rows.append(SuggestedRow(lands.group, lands.form, key, MEANINGS[key], d.text, words))
    return rows


def compared(view: PartUnderCheck) -> list[PadDifference]:
    """Pad by pad, how the manufacturer's pattern differs from the computed one: the present one where it is chosen."""
    footprint, pads = view.bundle.footprint, view.pads
    if footprint.source == "computed" and footprint.has_suggestion:
        try:
            pads = manufacturer_pattern(view.bundle.sheet, footprint, view.rulebook).pads
        except EiderError:
            return []
    return differences(pads, view.computed.pads) if pads and view.computed else []


def forms_of(bundle: Bundle, rulebook: Rulebook) -> dict[str, tuple[str, ...]]:
    """The forms to choose from, by group."""
    try:
        return groups_of(derive_lands(bundle.sheet, bundle.footprint.level, rulebook))
    except EiderError:
        return {}
