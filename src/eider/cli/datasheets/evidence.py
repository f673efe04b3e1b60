"""The command on evidence: where the values of a part came from."""

from pathlib import Path

import click

from eider.cli.output import finish, json_option
from eider.evidence.address_table import evidence_coverage, evidenced_values
from eider.evidence.value_evidence import datasheet_names
from eider.library import open_library


@click.command("evidence")
@click.argument("folder", metavar="LIBRARY", type=click.Path(path_type=Path))
@click.argument("item", metavar="PART")
@json_option
def evidence(folder: Path, item: str, as_json: bool) -> None:
    """Show where each value of a part came from, and how many have evidence and are confirmed."""
    library = open_library(folder)
    row = library.find(item)
    bundle = library.load(row.id)
    covered, values = evidence_coverage(bundle), list(evidenced_values(bundle))
    names = datasheet_names(bundle.part)
    data = {
        "part": row.name,
        "coverage": {
            "total": covered.total,
            "covered": covered.covered,
            "confirmed": covered.confirmed,
            "without": covered.without,
        },
        "documents": names,
        "values": values,
    }
    lines = [covered.words]
    for value in values:
        source = value.evidence
        where = f"page {source.page}, {names.get(source.document, 'datasheet')}" if source and source.page else ""
        what = f"{source.kind}" if source else "none"
        seen = f"  “{source.text}”" if source and source.text else ""
        tick = f"  confirmed by {source.confirmed_by}" if source and source.confirmed_by else ""
        lines.append(f"{value.name:20} {value.text:28} {where or what}{seen}{tick}")
    finish(data, lines, as_json)
