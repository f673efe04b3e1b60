"""The maker's suggested lands: what is typed, what of it is shown, and how it compares with the computed."""

from typing import Literal

import msgspec

from eider.evidence.address_table import put_manufacturer_length
from eider.evidence.evidence_changes import typed_dimension
from eider.lands.manufacturer_pattern import groups_of
from eider.lands.pattern import derive_lands
from eider.model.address import ManufacturerLengthAddress
from eider.model.bundle import Bundle
from eider.model.footprint import SuggestedLands
from eider.model.package_sheet import Dimension
from eider.rulebooks import Rulebook

replace = msgspec.structs.replace


def set_source(bundle: Bundle, source: Literal["computed", "suggested"], rulebook: Rulebook) -> Bundle:
    """Computed lands, or the maker's; each group then has a form to begin with."""
    suggested = bundle.footprint.suggested
    if source == "suggested":
        known = {s.group for s in suggested}
        groups = groups_of(derive_lands(bundle.sheet, bundle.footprint.level, rulebook))
        suggested = (*suggested, *(SuggestedLands(g, forms[0]) for g, forms in groups.items() if g not in known))
    return replace(bundle, footprint=replace(bundle.footprint, source=source, suggested=suggested))


def set_form(bundle: Bundle, group: str, form: str) -> Bundle:
    """Another form of a group; lengths that it has too stay."""
    suggested = tuple(replace(s, form=form) if s.group == group else s for s in bundle.footprint.suggested)
    return replace(bundle, footprint=replace(bundle.footprint, suggested=suggested))


def set_suggested(bundle: Bundle, group: str, key: str, text: str) -> Bundle:
    """Type a suggested length; what was proven before stays on record."""
    old = next((s.lengths.get(key) for s in bundle.footprint.suggested if s.group == group), None) or Dimension()
    return put_manufacturer_length(
        bundle, ManufacturerLengthAddress(group, key), typed_dimension(old, text.strip(), None)
    )
