"""The package sheet: the dimensions of one package, with evidence."""

import msgspec

from eider.geometry.limits import Limits
from eider.model.evidence import Evidence

SHEET_FORMAT = "eider-package/1"


class Dimension(msgspec.Struct, frozen=True, omit_defaults=True):
    """One length of a package: the text as it was typed, and the limits in mm that were read from it.

    `limits` is None while the text cannot be read.
    """

    text: str = ""
    limits: Limits | None = None
    evidence: Evidence | None = None


class PackageSheet(msgspec.Struct, frozen=True, omit_defaults=True, kw_only=True):
    """Everything that a family needs to know of one package.

    Attributes:
        dims: by the standard's letter (contract: families and their letters).
        aliases: the standard's letter for each of the datasheet's own that differs: `{"H": "E"}`.
        missing: pin numbers that the package leaves out.
        units: unit of bare numbers in `dims`: mm, mil, in or um.
        kind: what a two-terminal package holds: `capacitor`, `resistor`, `inductor`, `diode`.
    """

    format: str = SHEET_FORMAT
    id: str = ""
    name: str
    family: str
    pins: int
    units: str = "mm"
    kind: str = ""
    dims: dict[str, Dimension] = {}
    aliases: dict[str, str] = {}
    missing: tuple[str, ...] = ()

    def own_letter(self, letter: str) -> str:
        """What the datasheet calls the standard's letter; empty where it uses the same."""
        return next((own for own, standard in self.aliases.items() if standard == letter), "")

    def limits(self, letter: str) -> Limits | None:
        """The limits of a dimension in mm; None where it is not given or cannot be read."""
        dimension = self.dims.get(letter)
        return dimension.limits if dimension else None
