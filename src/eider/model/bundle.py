"""A part with everything that belongs to it: what is opened, changed, checked and released as one."""

import msgspec

from eider.model.body import Body
from eider.model.footprint import Footprint
from eider.model.package_sheet import PackageSheet
from eider.model.part import Part
from eider.model.symbol import Symbol

BUNDLE_FORMAT = "eider-working-copy/1"
Item = Part | PackageSheet | Symbol | Footprint | Body


class Bundle(msgspec.Struct, frozen=True, kw_only=True):
    """One part and its package sheet, symbol, footprint and body."""

    format: str = BUNDLE_FORMAT
    part: Part
    sheet: PackageSheet
    symbol: Symbol
    footprint: Footprint
    body: Body

    def items(self) -> tuple[tuple[str, Item], ...]:
        """All items with their kind, in the order in which they are released: the part last."""
        return (
            ("package", self.sheet),
            ("symbol", self.symbol),
            ("footprint", self.footprint),
            ("body", self.body),
            ("part", self.part),
        )
