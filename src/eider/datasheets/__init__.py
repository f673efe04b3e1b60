"""Datasheets: PDF pages as pictures, their text with places, search."""

from eider.datasheets.pages.document import Datasheet, DatasheetError, Hit

__all__ = ["Datasheet", "DatasheetError", "Hit"]
