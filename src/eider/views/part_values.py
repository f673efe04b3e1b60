"""The values of a part as rows for people: what each is, as typed, read, and where it came from."""

from collections.abc import Sequence

import msgspec

from eider.errors import EiderError
from eider.evidence.address_table import evidenced_values
from eider.evidence.pin_pads import pads_by_pin
from eider.evidence.value_evidence import EvidencedValue, datasheet_names, evidence_words, is_struck
from eider.geometry.lengths import format_length, format_limits
from eider.lands.pattern import derive_lands
from eider.model.address import Address, DimensionAddress
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence
from eider.model.pattern import LEVELS, Level
from eider.packages.pads.further_pads import letters_in_sums
from eider.packages.registry import all_families
from eider.packages.sheet_parsing import ParsedSheet
from eider.rulebooks import Rulebook


class ValueRow(msgspec.Struct, frozen=True):
    """A value of the part, its evidence in words and whole, and what it was before it was changed by hand."""

    address: Address
    name: str
    text: str
    evidence: str
    has_evidence: bool
    confirmed_by: str
    source: Evidence | None
    former_text: str
    former: Evidence | None

    @property
    def snippet(self) -> Evidence | None:
        """The evidence of which a cut-out can be shown: its own, else that of before."""
        return next((e for e in (self.source, self.former) if e and e.box and e.page), None)


def value_rows(bundle: Bundle) -> list[ValueRow]:
    """All dimensions, facts and pins."""
    names = datasheet_names(bundle.part)
    return [
        ValueRow(
            v.address,
            _named(bundle, v),
            v.text,
            evidence_words(v, names),
            v.is_covered,
            v.evidence.confirmed_by if v.evidence else "",
            v.evidence,
            v.former_text,
            v.former,
        )
        for v in evidenced_values(bundle)
    ]


def _named(bundle: Bundle, value: EvidencedValue) -> str:
    """A dimension with the sheet's own letter beside the standard's."""
    sheet_letter = bundle.sheet.datasheet_letter(value.name) if isinstance(value.address, DimensionAddress) else ""
    return f"{value.name} (sheet: {sheet_letter})" if sheet_letter else value.name


class DimensionRow(msgspec.Struct, frozen=True):
    """One line of the package sheet, lengths printed in the user's unit."""

    letter: str
    meaning: str
    alias: str
    text: str
    min: str
    nom: str
    max: str
    evidence: str
    fault: str
    is_known: bool
    is_struck: bool
    source: Evidence | None
    value: str


def dimension_rows(bundle: Bundle, reading: ParsedSheet, unit: str) -> list[DimensionRow]:
    """The letters of the family in their order, then any others that the sheet has."""
    sheet = bundle.sheet
    family = all_families().get(sheet.family)
    meanings = {letter.key: letter.meaning for letter in family.letters} if family else {}
    used = letters_in_sums(sheet)
    if family:
        own = (key for key in sheet.dims if key not in meanings and (family.any_letters or key in used))
        meanings |= dict.fromkeys(own, "own length, for its pads")
    names = datasheet_names(bundle.part)
    rows = []
    for letter in [*meanings, *(k for k in sheet.dims if k not in meanings)]:
        dimension = sheet.dims.get(letter)
        limits = dimension.limits if dimension else None
        low, nom, high = (
            format_length(v, unit, with_unit=False) if v is not None else ""
            for v in ((limits.min, limits.nom, limits.max) if limits else (None, None, None))
        )
        rows.append(
            DimensionRow(
                letter,
                meanings.get(letter, "not a letter of this family"),
                sheet.datasheet_letter(letter),
                dimension.text if dimension else "",
                low,
                nom,
                high,
                evidence_words(dimension, names) if dimension else "",
                reading.faults.get(letter, ""),
                letter in meanings,
                dimension is not None and is_struck(dimension.evidence, dimension.former),
                dimension.evidence if dimension else None,
                format_limits(limits, unit, with_unit=False) if limits else "",
            )
        )
    return rows


def compose_limits(row: DimensionRow, which: str, text: str) -> str:
    """The text of a dimension after its min, nom or max cell was typed."""
    cells = {"min": row.min, "nom": row.nom, "max": row.max, which: text.strip()}
    given = {key: value for key, value in cells.items() if value}
    if set(given) == {"nom"}:
        return given["nom"]
    return " ".join(f"{key} {value}" for key, value in given.items())


def level_lands(bundle: Bundle, rulebook: Rulebook) -> dict[Level, tuple[tuple[str, float], ...]]:
    """The lengths that tell the levels apart, by name (mm): Z, G and X of the first rows, else hole, land and so on.

    Levels that give no lands are left out.
    """
    found: dict[Level, tuple[tuple[str, float], ...]] = {}
    for level in LEVELS:
        try:
            laid = derive_lands(bundle.sheet, level, rulebook)
        except EiderError:
            continue
        if laid.derivation:
            first = laid.derivation[0]
            found[level] = (("Z", first.Z), ("G", first.G), ("X", first.X))
        elif laid.sizes:
            found[level] = tuple(laid.sizes[0].values.items())
    return found


def matched_pads(bundle: Bundle) -> dict[str, tuple[str, ...]]:
    """For each pin the numbers of its pads that exist."""
    pads = {pad.number for pad in bundle.footprint.pattern.pads} if bundle.footprint.pattern else set()
    return {pin: tuple(n for n in numbers if n in pads) for pin, numbers in pads_by_pin(bundle).items()}


def parse_pad_numbers(text: str) -> Sequence[str]:
    """Numbers typed with commas or spaces between."""
    return [piece for piece in text.replace(",", " ").replace(";", " ").split() if piece]
