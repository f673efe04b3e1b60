"""A family table: one definition and a row for each part that is made by it."""

import msgspec

from eider.model.evidence import Evidence
from eider.model.item_ref import ItemId, Ref

FAMILY_FORMAT = "eider-family/1"


class FamilyColumn(msgspec.Struct, frozen=True, omit_defaults=True):
    """A column: its heading, and what its cells set in the part.

    `sets` are targets: `pins`, `name`, `description`, `dims.A`, `fact.Ways`, `sheet.columns`, `distance.1`. A column
    that sets nothing is there for the rules.
    """

    heading: str
    sets: tuple[str, ...] = ()


class FamilyRule(msgspec.Struct, frozen=True):
    """What follows from the cells: a target, and a text with headings in braces: `OHC-125-{ways|02}R`."""

    sets: str
    template: str


class FamilyBase(msgspec.Struct, frozen=True, omit_defaults=True):
    """A part that members begin as; `when` is the cell by which it is chosen where there are several."""

    part: Ref
    when: str = ""


class FamilyRow(msgspec.Struct, frozen=True, omit_defaults=True):
    """One member: its cells by heading, where each was read, and the part that was made of it (empty before)."""

    cells: dict[str, str]
    evidence: dict[str, Evidence] = {}
    part: ItemId = ""


class FamilyDefinition(msgspec.Struct, frozen=True, omit_defaults=True):
    """What members have in common: the parts they begin as, columns and rules.

    With several bases the cell under `chosen_by` says which one a row begins as.
    """

    bases: tuple[FamilyBase, ...] = ()
    chosen_by: str = ""
    columns: tuple[FamilyColumn, ...] = ()
    rules: tuple[FamilyRule, ...] = ()


class AppliedFamily(msgspec.Struct, frozen=True):
    """From what the members were made last: the definition with the revision of each base, and the rows."""

    definition: FamilyDefinition
    rows: tuple[FamilyRow, ...]


class FamilyTable(msgspec.Struct, frozen=True, kw_only=True):
    """A family table of a library. `applied` tells what someone changed in a member by hand since it was made."""

    format: str = FAMILY_FORMAT
    name: str
    definition: FamilyDefinition = FamilyDefinition()
    rows: tuple[FamilyRow, ...] = ()
    applied: AppliedFamily | None = None
