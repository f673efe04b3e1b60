"""The family tables of the demo: connectors of 2 to 12 ways, resistors of the E96 series in three sizes."""

from eider.demo.data import chips, sheet_data
from eider.demo.parts import LIBRARIAN, captures
from eider.demo.preferred_values import E96
from eider.evidence.evidence_changes import utc_now
from eider.library import Library
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.family_table import FamilyBase, FamilyColumn, FamilyDefinition, FamilyRow, FamilyRule, FamilyTable
from eider.model.item_ref import Ref
from eider.model.part import DatasheetLink
from eider.services.family_rows import rows_from_capture

# The connector that the others begin as, and the value of the resistors that the others do.
CONNECTOR_BASE = 8
RESISTOR_BASE = "1 kΩ"
_RESISTOR_NAME = "LYN-R{Size}-{Resistance|code}"


def connector_family(library: Library, sheet: DatasheetLink) -> FamilyTable:
    """OHC-125: ways and lengths as the datasheet's own table has them, each cell with its place there."""
    data = sheet_data("ohc-125")
    columns = (
        FamilyColumn("ways", ("pins", "fact.Ways")),
        FamilyColumn("A", ("dims.row", "distance.1")),
        FamilyColumn("C", ("dims.D",)),
    )
    name = "OHC-125-{ways|02}R"
    rules = (
        FamilyRule("name", name),
        FamilyRule("fact.Part number", name),
        FamilyRule("description", "Wire-to-board connector, {ways} ways"),
    )
    base = FamilyBase(Ref(library.find(f"OHC-125-{CONNECTOR_BASE:02}R").id))
    found = next(c for c in captures(data.name) if c.dimensions and c.dimensions.rows[0].member)
    read = rows_from_capture(found, columns, "ways", sheet.sha256, LIBRARIAN.name)
    return FamilyTable(name="OHC-125", definition=FamilyDefinition((base,), "", columns, rules), rows=read.rows)


def resistor_family(library: Library) -> FamilyTable:
    """LYN-R: 96 values to the decade from 1 kΩ on, in each of the three sizes."""
    series = chips("lyn-r")
    bases = tuple(
        FamilyBase(Ref(library.find(series.part_name(size.size, RESISTOR_BASE)).id), size.size) for size in series.sizes
    )
    columns = (FamilyColumn("Size"), FamilyColumn("Resistance", ("fact.Resistance",)))
    rules = (
        FamilyRule("name", _RESISTOR_NAME),
        FamilyRule("fact.Part number", _RESISTOR_NAME),
        FamilyRule("description", "Chip resistor {Resistance} {Rated power} {Tolerance} {Size}"),
    )
    typed = Evidence(EvidenceKind.ENTERED, by=LIBRARIAN.name, at=utc_now())
    rows = tuple(
        FamilyRow({"Size": size.size, "Resistance": f"{number / 100:g} kΩ"}, {"Resistance": typed})
        for size in series.sizes
        for number in E96
    )
    made = FamilyDefinition(bases, "Size", columns, rules)
    return FamilyTable(name="LYN-R-E96", definition=made, rows=rows)
