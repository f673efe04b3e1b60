"""The command draft: a part from a datasheet, with every doubt listed."""

from pathlib import Path

import click

from eider.cli.library_argument import library_argument, opened_library
from eider.cli.output import finding_lines, finish, json_option, print_json
from eider.cli.progress import shown_progress
from eider.model.wording import counted
from eider.services.datasheets.datasheet_drafts import DraftChoice, SeveralPackagesError, draft_from_datasheet
from eider.services.parts.part_evaluation import EvaluationRun, save_part


@click.command("draft")
@library_argument
@click.argument("pdf", type=click.Path(path_type=Path))
@click.option("--name", default="", help="What the part is called; else as the title says, or the file.")
@click.option("--category", default="", help="Its category; else the library's first.")
@click.option("--package", default="", help="Which package, where the datasheet has several.")
@json_option
def draft(folder: Path, pdf: Path, name: str, category: str, package: str, as_json: bool) -> None:
    """Make a draft of what a datasheet holds: pins, family, dimensions, each with evidence, and what to confirm."""
    library = opened_library(folder)
    with shown_progress() as task:
        try:
            made = draft_from_datasheet(library, pdf, DraftChoice(name, category, package), task)
        except SeveralPackagesError as fault:
            if as_json:
                print_json({"packages": fault.packages, "package": ""})
            raise
        evaluated = EvaluationRun(library).evaluated(made.bundle)
        save_part(library, evaluated)
    bundle = evaluated.bundle
    values = {letter: dimension.text for letter, dimension in bundle.sheet.dims.items() if dimension.text}
    data = {
        "part": bundle.part.name,
        "pins": len(bundle.symbol.pins),
        "dims": len(values),
        "family": bundle.sheet.family,
        "values": values,
        "packages": made.packages,
        "package": made.package,
        "description": bundle.part.description,
        "orders": made.orders,
        "lands": "drawn" if bundle.footprint.has_suggestion else "none",
        "doubts": made.doubts,
        "found": made.found,
        "findings": evaluated.findings,
    }
    pins = counted(len(bundle.symbol.pins), "pin")
    lines = [
        ", ".join((f"{bundle.part.name}: {pins}", bundle.sheet.family, counted(len(values), "dimension"))),
        *(
            "  to confirm: "
            + ": ".join(filter(None, (doubt.address, doubt.reading, doubt.reason)))
            + (f" (page {doubt.page})" if doubt.page else "")
            for doubt in made.doubts
        ),
        *finding_lines(evaluated.findings),
    ]
    finish(data, lines, as_json)
