"""The command bom: the bill of materials of a design's list."""

from pathlib import Path

import click

from eider.cli.library_argument import library_argument, opened_library
from eider.cli.output import finish, json_option
from eider.errors import InputError
from eider.model.wording import counted
from eider.services.bills import bill_columns, keep_meanings, make_bill, open_list, write_bill


@click.command("bom")
@library_argument
@click.argument("parts", metavar="PARTS", type=click.Path(path_type=Path))
@click.option("--out", type=click.Path(path_type=Path), help="Write the bill to this file: CSV, or a workbook (.xlsx).")
@click.option("--template", default="", help="Columns of the library by this name; its first, or the standard ones.")
@click.option("--boards", type=int, default=1, show_default=True, help="How many boards are built.")
@click.option("--column", "assigned", multiple=True, metavar="HEADING=MEANING", help="What a column of the list means.")
@click.option("--keep-columns", is_flag=True, help="Read lists with these headings so from now on.")
@json_option
def bom(
    folder: Path,
    parts: Path,
    out: Path | None,
    template: str,
    boards: int,
    assigned: tuple[str, ...],
    *,
    keep_columns: bool,
    as_json: bool,
) -> None:
    """Make the bill of materials of a list of references from any design program (CSV or XLSX)."""
    library = opened_library(folder)
    opened = open_list(library, parts, dict(map(_assigned, assigned)))
    bill = make_bill(library, opened, bill_columns(library, template), boards)
    if keep_columns:
        keep_meanings(library, opened)
    if out is not None:
        write_bill(out, bill)
    open_lines = [line for line in bill.lines if line.part is None]
    data = {
        "file": str(out) if out else None,
        "columns": dict(zip(opened.table.header, opened.meanings, strict=True)),
        "rows": bill.table.rows,
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
