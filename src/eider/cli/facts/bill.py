"""The command bom: the bill of materials of a design's list."""

from pathlib import Path

import click

from eider.cli.library_argument import library_argument, opened_library
from eider.cli.output import finish, json_option
from eider.cli.progress import shown_progress
from eider.errors import InputError
from eider.model.wording import counted
from eider.services.facts.bills import ask_prices, bill_columns, keep_meanings, make_bill, open_list, write_bill
from eider.services.facts.bills import keep_design as keep_as_design
from eider.services.suppliers.supplier_lookup import open_catalogue


@click.command("bom")
@library_argument
@click.argument("parts", metavar="PARTS", type=click.Path(path_type=Path))
@click.option("--out", type=click.Path(path_type=Path), help="Write the bill to this file: CSV, or a workbook (.xlsx).")
@click.option("--template", default="", help="Columns of the library by this name; its first, or the standard ones.")
@click.option("--boards", type=int, default=1, show_default=True, help="How many boards are built.")
@click.option("--column", "assigned", multiple=True, metavar="HEADING=MEANING", help="What a column of the list means.")
@click.option("--ask", is_flag=True, help="Ask the supplier catalogue for prices first; else those known are used.")
@click.option("--address", default="", help="The supplier catalogue; the library's own unless given.")
@click.option("--token", default="", help="An access token; EIDER_CATALOGUE_TOKEN unless given.")
@click.option("--keep-design", metavar="NAME", help="Keep its parts as those of a design; where used finds it.")
@click.option("--keep-columns", is_flag=True, help="Remember this column mapping.")
@json_option
def bom(
    folder: Path,
    parts: Path,
    out: Path | None,
    template: str,
    boards: int,
    assigned: tuple[str, ...],
    *,
    ask: bool,
    address: str,
    token: str,
    keep_design: str | None,
    keep_columns: bool,
    as_json: bool,
) -> None:
    """Make the bill of materials of a list of references from any design program (CSV or XLSX)."""
    library = opened_library(folder)
    opened = open_list(library, parts, dict(map(_assigned, assigned)))
    columns, address = bill_columns(library, template), address or library.settings.catalogue
    bill = make_bill(library, opened, columns, boards, address=address)
    if ask:
        with shown_progress() as task:
            ask_prices(bill, open_catalogue(address, token, task), task)
        bill = make_bill(library, opened, columns, boards, address=address)
    if keep_columns:
        keep_meanings(library, opened)
    if keep_design is not None:
        keep_as_design(library, keep_design, bill, parts.name)
    if out is not None:
        write_bill(out, bill)
    open_lines = [line for line in bill.lines if line.part is None]
    data = {
        "file": str(out) if out else None,
        "columns": dict(zip(opened.table.header, opened.meanings, strict=True)),
        "rows": bill.table.rows,
        "lines": len(bill.lines),
        "missing": bill.table.missing,
        "findings": bill.table.findings,
        "doubts": bill.doubts,
        "parts": len(bill.lines) - len(open_lines),
        "open": [
            {
                "said": line.said,
                "references": line.references,
                "doubts": line.doubts,
                "candidates": [row.name for row in line.candidates],
            }
            for line in open_lines
        ],
    }
    told = [f"  {' | '.join(str(cell) for cell in row)}" for row in bill.table.rows]
    found = counted(len(bill.lines) - len(open_lines), "part")
    summary = f"{out or parts}: {counted(len(bill.lines), 'line')}, {found} found, {len(open_lines)} open"
    finish(data, [*([] if out else told), *bill.doubts, *bill.table.findings, summary], as_json)


def _assigned(text: str) -> tuple[str, str]:
    heading, equals, meaning = text.rpartition("=")
    if not equals or not heading.strip():
        raise InputError(f"--column {text}: expected HEADING=MEANING, such as Designator=reference")
    return heading.strip(), meaning.strip()
