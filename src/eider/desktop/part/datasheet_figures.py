"""Uses of a figure in a datasheet: an outline is kept, lands are read, pins are compared with a pinout."""

from collections.abc import Callable
from contextlib import closing
from typing import TypeVar

import msgspec

from eider.commands.datasheets.drafted_lands import LandSuggestion, suggestion_of, use_suggestion
from eider.commands.packages import package_edits
from eider.commands.pins.pinout_figure_edits import use_pinout_figure
from eider.datasheets import Datasheet
from eider.datasheets.figures.pinout_figures import ReadFigure, read_pinout_figure
from eider.desktop.context import DesktopContext
from eider.desktop.jobs import OwnedJobs
from eider.desktop.part.controller import PartController
from eider.geometry.plane import Box
from eider.model.package_sheet import DatasheetPicture
from eider.model.wording import counted
from eider.services.datasheets.datasheet_opening import open_datasheet
from eider.services.datasheets.suggested_lands import land_drawing_at, lands_of_sheet
from eider.services.parts.drawing_scaling import with_scale

# So many words that belong to no pin are named.
NAMED = 6
Answer = TypeVar("Answer")


class FigurePlace(msgspec.Struct, frozen=True):
    """Where a figure stands: the sum of its document, the page (from 1), and the box in PDF points."""

    document: str
    page: int
    box: Box


class FigureReader:
    """Reads figures off the Qt thread into the part that is open."""

    def __init__(self, controller: PartController, context: DesktopContext, jobs: OwnedJobs) -> None:
        self.controller, self.context, self._jobs = controller, context, jobs

    def keep_drawing(self, place: FigurePlace) -> None:
        """Keep a drawing with the package sheet, to scale where its lengths tell one."""
        bundle = self.controller.bundle
        picture = DatasheetPicture(place.document, place.page, place.box)

        def done(made: DatasheetPicture) -> None:
            self.controller.edit("Keep a drawing of the datasheet", lambda b: package_edits.add_picture(b, made))
            to_scale = ", to scale" if made.scale else ""
            self.context.said.emit(f"Kept with the package sheet{to_scale}: Package, “Datasheet”")

        self._run(place, lambda document: with_scale(document, bundle, picture), done)

    def read_lands(self, place: FigurePlace) -> None:
        """Keep the lands that a drawing suggests beside the computed ones."""
        bundle, rulebook = self.controller.bundle, self.controller.rules.rulebook

        def work(document: Datasheet) -> LandSuggestion:
            laid = lands_of_sheet(bundle.sheet, bundle.footprint.level, rulebook)
            return suggestion_of(land_drawing_at(document, place.page, place.box), laid)

        def done(suggestion: LandSuggestion) -> None:
            title, who = f"Suggested lands of page {place.page}", self.context.person.name
            if suggestion.values:
                self.controller.edit(title, lambda b: use_suggestion(b, suggestion, place.document, who))
            read = f"{title}: {suggestion.words or 'none could be read'}"
            self.context.said.emit(". ".join([read, *(f"Not read: {doubt}" for doubt in suggestion.doubts)]))

        self._run(place, work, done)

    def read_pinout(self, place: FigurePlace) -> None:
        """Hold the part against a pinout figure."""

        def done(found: ReadFigure) -> None:
            title = f"Pinout figure on page {place.page}"
            self.controller.edit(title, lambda b: use_pinout_figure(b, found, place.document, place.page))
            unread = ", ".join(f"“{text}”" for text in found.unread[:NAMED])
            more = f" and {len(found.unread) - NAMED} more" if len(found.unread) > NAMED else ""
            left = f"; belongs to no pin: {unread}{more}" if unread else ""
            self.context.said.emit(f"{title}: {counted(len(found.pins), 'pin')}{left}")

        self._run(place, lambda document: read_pinout_figure(document, place.page, place.box), done)

    def _run(self, place: FigurePlace, work: Callable[[Datasheet], Answer], done: Callable[[Answer], None]) -> None:
        library = self.controller.library

        def read() -> Answer:
            with closing(open_datasheet(library, place.document)) as document:
                return work(document)

        self._jobs.run("reading", read, done, lambda fault: self.context.said.emit(str(fault)))
