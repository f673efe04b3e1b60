"""The command pinout: where each pin stands, and what the datasheet's own figure says of it."""

from pathlib import Path
from typing import Any

import click
import msgspec

from eider.checks import PartUnderCheck, run_checks
from eider.cli.datasheets.capture import corners_of
from eider.cli.library_argument import item_argument, library_argument, opened_library
from eider.cli.output import finding_lines, finish, json_option
from eider.commands.pins.pinout_figure_edits import set_figure_seen, use_pinout_figure
from eider.datasheets import Datasheet
from eider.datasheets.figures.pinout_figures import read_pinout_figure
from eider.datasheets.pages.page_trial import try_pages
from eider.drawings.pinout_drawing import place_words
from eider.errors import InputError
from eider.model.bundle import Bundle
from eider.model.part import SEEN_FROM
from eider.services.parts.part_rules import rules_for

# The checks that hold a part against the figure.
OF_FIGURE = frozenset({"match.names-exchanged", "match.placed-otherwise", "match.unlike-figure"})


@click.command("pinout")
@library_argument
@item_argument
@click.option("--figure", "pdf", type=click.Path(path_type=Path), help="A datasheet with a pinout figure to compare.")
@click.option("--page", type=int, default=0, help="With --figure: the page, counted from 1.")
@click.option("--box", default="", metavar="X0,Y0,X1,Y1", help="With --figure: in PDF points from the lower left.")
@click.option("--seen", type=click.Choice(SEEN_FROM), default=None, help="Viewed from.")
@json_option
def pinout(folder: Path, item: str, pdf: Path | None, page: int, box: str, seen: str | None, as_json: bool) -> None:
    """Show where each pin is, and compare names and positions with the datasheet's pinout figure."""
    library = opened_library(folder)
    bundle = library.load(library.find(item).id)
    unread: tuple[str, ...] = ()
    if pdf is not None:
        bundle, unread = _with_figure(bundle, pdf, page, box)
    elif page or box:
        raise InputError("--page and --box need --figure: name the PDF")
    if seen is not None:
        bundle = set_figure_seen(bundle, seen)
    rules = rules_for(library, bundle)
    view = PartUnderCheck(bundle, rules.rulebook, rules.settings)
    findings = tuple(f for f in run_checks(view) if f.check in OF_FIGURE)
    places, figure = place_words(bundle), bundle.part.pinout
    drawn = {pin.number: pin.name for pin in figure.pins} if figure else {}
    rows: list[dict[str, Any]] = [
        {"number": pin.number, "name": pin.name, "place": places.get(pin.number, ""), "figure": drawn.get(pin.number)}
        for pin in bundle.symbol.pins
    ]
    lines = [f"{row['number']:>5} {row['name']:20} {row['figure'] or '':20} {row['place']}".rstrip() for row in rows]
    lines += [f"belongs to no pin in the figure: {text}" for text in unread]
    lines += finding_lines(findings) if figure else ["no pinout figure; name one with --figure, --page and --box"]
    data = {
        "part": bundle.part.name,
        "pins": rows,
        "figure": {"page": figure.page, "box": figure.box, "seen": figure.seen} if figure else None,
        "unread": unread,
        "findings": findings,
    }
    finish(data, lines, as_json)


def _with_figure(bundle: Bundle, pdf: Path, page: int, box: str) -> tuple[Bundle, tuple[str, ...]]:
    """The part compared with the figure in a box of a page, and the words there that belong to no pin."""
    if page < 1 or not box:
        raise InputError("--figure needs --page and --box: where the pinout figure stands")
    corners = corners_of(box)
    if pdf.is_file():
        try_pages(pdf)
    datasheet = Datasheet(pdf)
    try:
        read = read_pinout_figure(datasheet, page, corners)
    finally:
        datasheet.close()
    bare = msgspec.structs.replace(bundle, part=msgspec.structs.replace(bundle.part, pinout=None))
    return use_pinout_figure(bare, read, "", page), read.unread
