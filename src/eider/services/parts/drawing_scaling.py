"""Gives a drawing of a datasheet its scale, where what is at its dimension lines tells one."""

from eider.commands.packages.outline_scale import scale_from_outline
from eider.datasheets import Datasheet
from eider.datasheets.figures.outline_drawings import read_outline
from eider.errors import EiderError
from eider.model.bundle import Bundle
from eider.model.package_sheet import DatasheetPicture


def with_scale(datasheet: Datasheet, bundle: Bundle, picture: DatasheetPicture) -> DatasheetPicture:
    """The picture with its scale, or as it is where the drawing cannot be read or gives none."""
    try:
        return scale_from_outline(bundle, picture, read_outline(datasheet, picture.page, picture.box))
    except EiderError:
        return picture
