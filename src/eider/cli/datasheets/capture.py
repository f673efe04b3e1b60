"""The command that reads what is in a datasheet: a table, an outline drawing, or all there is."""

import time
from contextlib import closing
from pathlib import Path
from typing import Any, Literal

import click

from eider.cli.output import finish, json_option
from eider.cli.progress import shown_progress
from eider.commands.datasheets.captured_values import lettered_rows
from eider.datasheets import Datasheet
from eider.datasheets.figures.drawings_nearby import with_letters_drawn
from eider.datasheets.figures.land_drawings import LandDrawing
from eider.datasheets.figures.outline_drawings import OutlineDrawing, read_outline
from eider.datasheets.pages.page_trial import try_pages
from eider.datasheets.tables.pin_tables import pins_from_table
from eider.datasheets.tables.table_capture import CaptureKind, TableCapture, capture_drawn
from eider.errors import InputError
from eider.geometry.expressions import MM_PER_UNIT
from eider.geometry.plane import Box
from eider.model.package_sheet import PackageSheet
from eider.model.wording import counted
from eider.packages.letters.drawn_letters import propose_drawn_letters
from eider.packages.letters.letter_proposals import Proposal
from eider.packages.letters.letter_questions import deciding_question
from eider.packages.registry import family_of
from eider.services.datasheets.datasheet_contents import find_in_datasheet
from eider.services.datasheets.datasheet_explanation import explain_document
from eider.services.datasheets.page_recognition import recognise_picture_in
from eider.services.datasheets.suggested_lands import land_drawing_at

NO_LENGTHS = "no dimension line with a letter or a length at it was found"


@click.command("capture")
@click.argument("pdf", type=click.Path(path_type=Path))
@click.option("--auto", is_flag=True, help="Find everything in the document by itself.")
@click.option("--explain", is_flag=True, help="With --auto: how each page was understood, stage by stage.")
@click.option("--page", type=int, default=0, help="The page, counted from 1.")
@click.option("--box", default="", metavar="X0,Y0,X1,Y1", help="In PDF points from the page's lower left corner.")
@click.option("--as", "kind", type=click.Choice(["dimensions", "pins", "outline", "lands"]),
              help="What to read; detected from the contents by default.")  # fmt: skip
@click.option(
    "--unit", type=click.Choice(list(MM_PER_UNIT)), default=None, help="Of dimensions whose headings name none."
)
@click.option("--family", default="", help="Propose which of the sheet's letters means which of this family's.")
@click.option("--pins", "count", type=int, default=0, help="How many pins the package has, for --family.")
@json_option
def capture_command(
    pdf: Path,
    auto: bool,
    explain: bool,
    page: int,
    box: str,
    kind: CaptureKind | Literal["outline", "lands"] | None,
    unit: str | None,
    family: str,
    count: int,
    as_json: bool,
) -> None:
    """Read the contents of a rectangle on a datasheet page: dimensions, pins, an outline drawing or suggested lands.

    With --auto, find all there is in the document.
    """
    if auto:
        _capture_all(pdf, as_json, explain=explain)
        return
    if explain:
        raise InputError("--explain goes with --auto")
    if not page or not box:
        raise InputError("name --page and --box, or --auto to find everything by itself")
    corners = corners_of(box)
    if pdf.is_file():
        try_pages(pdf)
    with closing(Datasheet(pdf)) as datasheet:
        recognise_picture_in(datasheet, page, corners)
        if kind == "outline":
            drawing = read_outline(datasheet, page, corners)
            finish(*_outline_data(pdf, page, corners, drawing), as_json)
            return
        if kind == "lands":
            finish(*_land_data(pdf, corners, land_drawing_at(datasheet, page, corners)), as_json)
            return
        found = capture_drawn(datasheet, page, corners, kind, unit=unit or "")
        found = with_letters_drawn(datasheet, found) if family else found
    data = _capture_data(pdf, found)
    proposed: tuple[Proposal, ...] = ()
    if family:
        rows = found.dimensions.rows if found.dimensions else ()
        known = family_of(family)
        sheet = PackageSheet(name="", family=family, pins=count or known.default_pins)
        proposed = propose_drawn_letters(known, sheet, lettered_rows(rows), found.drawn)
        data["letters"] = proposed
        data["question"] = deciding_question(known, proposed, lettered_rows(rows))
    asked = [data["question"].text] if data.get("question") else []
    finish(data, [*_lines(data), *(_proposal_line(p) for p in proposed), *asked], as_json)


def _capture_all(pdf: Path, as_json: bool, *, explain: bool) -> None:
    """Print what a document holds, each with its place."""
    if pdf.is_file():
        try_pages(pdf)
    begin = time.perf_counter()
    with shown_progress() as task:
        contents = find_in_datasheet(pdf, task)
    seconds = round(time.perf_counter() - begin, 2)
    lines = [
        f"page {item.page}: {item.kind}, {counted(item.rows, 'row')}"
        f"{f', {item.package}' if item.package else ''}, confidence {item.confidence:.2f}, box {item.box}"
        for item in contents.found
    ]
    told = lines or [
        "nothing was found: no tables of pins or dimensions, no figures; draw a rectangle around what there is"
    ]
    data = {
        "found": contents.found,
        "pages": contents.pages,
        "seconds": seconds,
        "unreadable": contents.unreadable,
        "recognised": contents.recognised,
        "not_recognised": contents.not_recognised,
    }
    if explain:
        with closing(Datasheet(pdf)) as datasheet:
            explained = explain_document(datasheet, contents)
        data["explained"] = explained
        told = [*explained.lines(), *told]
    finish(data, [*told, *contents.page_notes], as_json)


def _outline_data(pdf: Path, page: int, box: Box, drawing: OutlineDrawing) -> tuple[dict[str, Any], list[str]]:
    """An outline drawing as data and in words."""
    doubt = "" if drawing.lengths else NO_LENGTHS
    lengths = [
        {
            "letter": found.letter,
            "text": found.text,
            "limits": found.limits,
            "axis": found.span.axis,
            "start": round(found.span.start, 2),
            "stop": round(found.span.stop, 2),
            "level": round(found.span.level, 2),
            "view": found.view,
            "reach": found.reach,
            "box": tuple(round(v, 2) for v in found.box),
            "doubt": found.doubt,
        }
        for found in drawing.lengths
    ]
    views = [tuple(round(v, 2) for v in view.box) for view in drawing.views]
    lines = [f"drawing: {doubt}"] if doubt else []
    for found in drawing.lengths:
        where = f"view {found.view + 1}" if found.view >= 0 else "no view"
        told = f"{found.letter or found.text:16} {found.span.axis:10} {found.reach:7} of {where}"
        lines.append(told + (f"   ? {found.doubt}" if found.doubt else ""))
    if drawing.unlabelled:
        lines.append(f"{counted(drawing.unlabelled, 'dimension line')} without a letter or length")
    head = {"document": pdf.name, "page": page, "box": box, "as": "outline", "doubt": doubt}
    return {**head, "views": views, "lengths": lengths, "unlabelled": drawing.unlabelled}, lines


def _land_data(pdf: Path, box: Box, drawing: LandDrawing) -> tuple[dict[str, Any], list[str]]:
    """A drawing of suggested lands as data and in words."""
    doubt = "" if drawing.lengths else NO_LENGTHS
    lengths = [
        {
            "letter": found.letter,
            "text": found.value.text if found.value else "",
            "limits": found.value.limits if found.value else None,
            "axis": found.drawn.span.axis,
            "measures": found.distance.kind if found.distance else "",
            "first": sorted(found.distance.first) if found.distance else [],
            "second": sorted(found.distance.second) if found.distance else [],
            "page": found.value.page if found.value else drawing.page,
            "box": tuple(round(v, 2) for v in (found.value.box if found.value else found.drawn.box)),
            "doubt": found.doubt,
        }
        for found in drawing.lengths
    ]
    lines = [f"drawing: {doubt}"] if doubt else []
    lines.append(counted(len(drawing.lands), "land"))
    for length in lengths:
        told = f"{length['letter']:4} {length['text']:14} {length['axis']:10} {length['measures'] or 'no lands'}"
        lines.append(told + (f"   ? {length['doubt']}" if length["doubt"] else ""))
    if drawing.unlabelled:
        lines.append(f"{counted(drawing.unlabelled, 'dimension line')} without a letter or length")
    head = {"document": pdf.name, "page": drawing.page, "box": box, "as": "lands", "doubt": doubt}
    lands = [tuple(round(v, 2) for v in land) for land in drawing.lands]
    return {**head, "lands": lands, "lengths": lengths, "unlabelled": drawing.unlabelled}, lines


def corners_of(box: str) -> tuple[float, float, float, float]:
    """A box in PDF points as it is typed: x0,y0,x1,y1.

    Raises:
        InputError: these are no four numbers, or no box.
    """
    try:
        x0, y0, x1, y1 = (float(piece) for piece in box.split(","))
    except ValueError:
        raise InputError(f"--box {box}: expected four numbers x0,y0,x1,y1 in PDF points") from None
    if not (x0 < x1 and y0 < y1 and all(abs(v) < 1e6 for v in (x0, y0, x1, y1))):
        raise InputError(f"--box {box}: expected the lower left corner first, then the upper right")
    return x0, y0, x1, y1


def _capture_data(pdf: Path, found: TableCapture) -> dict[str, Any]:
    data: dict[str, Any] = {
        "document": pdf.name,
        "page": found.page,
        "box": found.box,
        "as": found.kind,
        "ruled": found.is_ruled,
        "continued": found.continued,
    }
    if found.dimensions:
        data["columns"] = found.dimensions.columns
        data["doubt"] = found.dimensions.doubt
        data["rows"] = [
            {
                "letter": row.letter,
                "member": row.member,
                "meaning": row.meaning,
                "text": row.text,
                "limits": row.limits,
                "seen": row.seen,
                "page": place.page,
                "box": place.box,
                "notes": row.notes,
                "doubt": row.doubt,
            }
            for row, place in zip(found.dimensions.rows, found.places, strict=True)
        ]
    elif found.pins:
        reading, rows = pins_from_table(found.pins)
        data["columns"] = found.pins.columns
        data["doubt"] = found.pins.doubt
        data["rows"] = [
            {
                "number": pin.number,
                "name": pin.name,
                "active_low": pin.active_low,
                "type": pin.type,
                "assumed": pin.assumed,
                "alternatives": pin.alternatives,
                "description": pin.description,
                "seen": found.pins.rows[row].seen,
                "page": found.places[row].page,
                "box": found.places[row].box,
                "doubt": found.pins.rows[row].doubt,
            }
            for pin, row in zip(reading.pins, rows, strict=True)
        ]
        data["unread"] = [{"line": fault.line, "message": fault.message} for fault in reading.faults]
    return data


def _lines(data: dict[str, Any]) -> list[str]:
    lines = [f"table: {data['doubt']}"] if data["doubt"] else []
    for row in data["rows"]:
        if data["as"] == "pins":
            text = f"{row['number']:>5} {row['name']:20} {row['type']:14} {row['description']}"
        else:
            label = " ".join(filter(None, (row["member"], row["letter"])))
            text = f"{label:12} {row['text']:28} {row['meaning']}"
        lines.append(text.rstrip() + (f"   ? {row['doubt']}" if row["doubt"] else ""))
    return lines


def _proposal_line(proposal: Proposal) -> str:
    pairs = ", ".join(f"{own} = {standard}" for own, standard in proposal.letters.items())
    return f"letters ({proposal.score:g}): {pairs}" + (
        f"; missing {', '.join(proposal.missing)}" if proposal.missing else ""
    )
