"""The maker's suggested lands: what is typed, what of it is shown, and how it compares with the computed."""

from typing import Literal

import msgspec

from eider.checks import PartView
from eider.errors import EiderError
from eider.evidence.changes import put_suggested, typed_dimension
from eider.evidence.held import SUGGESTED, evidence_words
from eider.lands.pattern import derive
from eider.lands.suggested import MEANINGS, PadDifference, differences, groups_of, needed
from eider.model.bundle import Bundle
from eider.model.footprint import SuggestedLands
from eider.model.sheet import Dimension
from eider.rulebooks import Rulebook

replace = msgspec.structs.replace


class SuggestedRow(msgspec.Struct, frozen=True):
    """A length of a group, for a table."""

    group: str
    form: str
    key: str
    meaning: str
    text: str
    evidence: str

    @property
    def place(self) -> str:
        """Where it stands in the document."""
        return f"{SUGGESTED}{self.group}.{self.key}"


def set_source(bundle: Bundle, source: Literal["computed", "suggested"], rulebook: Rulebook) -> Bundle:
    """Computed lands, or the maker's; each group then has a form to begin with."""
    suggested = bundle.footprint.suggested
    if source == "suggested":
        known = {s.group for s in suggested}
        groups = groups_of(derive(bundle.sheet, bundle.footprint.level, rulebook))
        suggested = (*suggested, *(SuggestedLands(g, forms[0]) for g, forms in groups.items() if g not in known))
    return replace(bundle, footprint=replace(bundle.footprint, source=source, suggested=suggested))


def set_form(bundle: Bundle, group: str, form: str) -> Bundle:
    """Another form of a group; lengths that it has too stay."""
    suggested = tuple(replace(s, form=form) if s.group == group else s for s in bundle.footprint.suggested)
    return replace(bundle, footprint=replace(bundle.footprint, suggested=suggested))


def set_suggested(bundle: Bundle, group: str, key: str, text: str) -> Bundle:
    """Type a suggested length; what was proven before stays on record."""
    old = next((s.lengths.get(key) for s in bundle.footprint.suggested if s.group == group), None) or Dimension()
    return put_suggested(bundle, f"{SUGGESTED}{group}.{key}", typed_dimension(old, text.strip(), None))


def suggested_rows(bundle: Bundle) -> list[SuggestedRow]:
    """Every length that the chosen forms ask for."""
    names = {link.sha256: link.name for link in bundle.part.datasheets}
    rows = []
    for lands in bundle.footprint.suggested:
        for key in needed(lands.form):
            d = lands.lengths.get(key, Dimension())
            words = evidence_words(d.evidence, d.former_text, d.former, names) if d.text else ""
            rows.append(SuggestedRow(lands.group, lands.form, key, MEANINGS[key], d.text, words))
    return rows


def compared(view: PartView) -> list[PadDifference]:
    """Pad by pad, how the present pattern differs from the computed one."""
    return differences(view.pads, view.computed.pads) if view.pads and view.computed else []


def forms_of(bundle: Bundle, rulebook: Rulebook) -> dict[str, tuple[str, ...]]:
    """The forms to choose from, by group."""
    try:
        return groups_of(derive(bundle.sheet, bundle.footprint.level, rulebook))
    except EiderError:
        return {}
