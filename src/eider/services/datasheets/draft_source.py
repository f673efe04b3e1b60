"""What a part is drafted from: the open document, what was found in it, and what was chosen."""

import msgspec

from eider.datasheets import Datasheet
from eider.datasheets.documents.found_items import FoundItem
from eider.datasheets.documents.package_names import plain_package
from eider.datasheets.tables.table_capture import TableCapture, capture_table
from eider.library import Library
from eider.model.bundle import Bundle
from eider.model.doubt import Doubt
from eider.model.house import House
from eider.services.datasheets.datasheet_contents import DatasheetContents

# From so many packages on a document is asked which a table is for.
FEWEST_PACKAGES = 2
Drafted = tuple[Bundle, list[Doubt]]


class DraftSource(msgspec.Struct, frozen=True):
    """What a part is drafted from: the open document with its sum, what was found in it, the pages that cannot be read,
    and the tables that were chosen; `package` is what a person chose."""

    library: Library
    datasheet: Datasheet
    document: str
    contents: DatasheetContents
    pins: FoundItem | None
    dimensions: FoundItem | None
    package: str
    house: House | None = None

    @property
    def found(self) -> tuple[FoundItem, ...]:
        """The tables and figures of the document."""
        return self.contents.found

    @property
    def who(self) -> str:
        """The person who drafts."""
        return self.library.person().name

    def is_of_package(self, item: FoundItem) -> bool:
        """Whether something is of the package that is drafted, of none that is named, or of the only one there is."""
        wanted = (self.dimensions.package if self.dimensions else "") or self.package
        named = {plain_package(other.package) for other in self.found} - {""}
        return (
            not item.package or plain_package(item.package) == plain_package(wanted) or (not wanted and len(named) == 1)
        )

    def unsure_of(self, item: FoundItem) -> str:
        """Why a table may be of another package than the one that was chosen; empty where it names it, or has to be."""
        named = {plain_package(other.package): other.package for other in self.found if other.package}
        named[plain_package(self.package)] = self.package
        if not self.package or item.package or len(named) < FEWEST_PACKAGES:
            return ""
        others = ", ".join(sorted(name for plain, name in named.items() if plain != plain_package(self.package)))
        return f"nothing says that this table is for {self.package}; the document has {others}, too"

    def doubt(self, address: str, reason: str, item: FoundItem) -> Doubt:
        """A doubt about something that was found."""
        return Doubt(address, "", reason, self.document, item.page, item.box)

    def capture(self, item: FoundItem) -> TableCapture:
        """A table that was found, read."""
        return capture_table(self.datasheet, item.page, item.box, "pins" if item.kind == "pins" else "dimensions")


def has_captured_pins(bundle: Bundle) -> bool:
    """Whether pins come from the datasheet: those that a category begins with have no evidence."""
    return any(pin.evidence is not None for pin in bundle.symbol.pins)
