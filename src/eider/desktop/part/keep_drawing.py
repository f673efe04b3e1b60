"""Keeps a drawing of a datasheet with the package sheet, to scale where its lengths tell one."""

from contextlib import closing

from eider.commands import package_edits
from eider.desktop.context import DesktopContext
from eider.desktop.jobs import OwnedJobs
from eider.desktop.part.controller import PartController
from eider.model.package_sheet import DatasheetPicture
from eider.services.datasheet_opening import open_datasheet
from eider.services.drawing_scaling import with_scale


def keep_drawing(
    controller: PartController, context: DesktopContext, jobs: OwnedJobs, picture: DatasheetPicture
) -> None:
    """Read a drawing off the Qt thread and add it to the part's sheet."""
    bundle, library = controller.bundle, controller.library

    def work() -> DatasheetPicture:
        with closing(open_datasheet(library, picture.document)) as document:
            return with_scale(document, bundle, picture)

    def done(made: DatasheetPicture) -> None:
        controller.edit("Keep a drawing of the datasheet", lambda b: package_edits.add_picture(b, made))
        to_scale = ", to scale" if made.scale else ""
        context.said.emit(f"Kept with the package sheet{to_scale}: Package, “Datasheet”")

    jobs.run("reading", work, done, lambda fault: context.said.emit(str(fault)))
