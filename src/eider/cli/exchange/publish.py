"""The command publish: every released part of a library in open formats, in one folder."""

from pathlib import Path

import click

from eider.cli.library_argument import library_argument, opened_library
from eider.cli.output import finish, json_option
from eider.cli.progress import shown_progress
from eider.errors import InputError
from eider.model.library import PublishSettings
from eider.model.wording import counted
from eider.services.publishing.format_registry import export_formats
from eider.services.publishing.library_publishing import PublishReport, keep_publishing, publish_folder, publish_library


@click.command("publish")
@library_argument
@click.argument("target", metavar="[DIR]", type=click.Path(path_type=Path), required=False)
@click.option("--to", "formats", default="", metavar="FORMAT[,FORMAT]", help=f"Any of {', '.join(export_formats())}.")
@click.option("--always", is_flag=True, help="And after each release from now on, by the settings of the library.")
@click.option("--never", is_flag=True, help="Stop publishing after releases.")
@json_option
def publish(folder: Path, target: Path | None, formats: str, always: bool, never: bool, as_json: bool) -> None:
    """Bring a folder up to date with every released part, in formats that other programs read.

    Without DIR and --to it is what the library's settings say.
    """
    library = opened_library(folder)
    known = library.settings.publish
    keys = tuple(key.strip() for key in formats.split(",") if key.strip()) or (known.formats if known else ())
    place = target or (publish_folder(library, known) if known else None)
    if place is None or not keys:
        raise InputError("name a folder and --to FORMAT[,FORMAT]; this library's settings name none")
    with shown_progress() as task:
        report = publish_library(library, place, keys, task)
    if always or never:
        keep_publishing(library, None if never else PublishSettings(str(place.resolve()), keys))
    finish(report, [*report.log, publish_words(report)], as_json)


def publish_words(report: PublishReport) -> str:
    """What was published, for a line."""
    files, gone = counted(len(report.written), "file"), counted(len(report.removed), "folder")
    return f"{counted(report.parts, 'part')} published; {files} written, {gone} removed: {report.manifest}"
