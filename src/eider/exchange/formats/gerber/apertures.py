"""The apertures of one Gerber file by their number."""

import re
from collections import Counter
from typing import NamedTuple

from shapely.geometry.base import BaseGeometry

from eider.errors import InputError
from eider.exchange.formats.gerber.macros import macro_aperture, standard_aperture
from eider.exchange.json_files import within_a_metre
from eider.exchange.layered_shapes import form_of_area
from eider.model.pattern import Opening


class Aperture(NamedTuple):
    """An aperture about its own place: its form (None: of several pieces), its width as a pen, its function."""

    form: Opening | None
    width: float
    function: str

    @property
    def is_land(self) -> bool:
        """Whether the file says that what it makes is a land."""
        return "Pad" in self.function


class ApertureTable:
    """Apertures and macros as they are defined; what cannot be read is counted in `left`."""

    def __init__(self, left: Counter[str]) -> None:
        self._macros: dict[str, str] = {}
        self._known: dict[int, Aperture | None] = {}
        self._left = left

    def add_macro(self, text: str) -> None:
        """A macro from what is behind `AM`."""
        name, _, body = text.partition("*")
        self._macros[name.strip()] = body

    def define(self, text: str, function: str, scale: float) -> None:
        """An aperture from what is behind `AD`; `scale` is mm of a length of the file.

        Raises:
            InputError: it is not a definition.
        """
        found = re.fullmatch(r"D(\d{2,6})([A-Za-z_.$][\w.$-]*)(?:,(.*))?", text, re.S)
        if found is None:
            raise InputError(f"the aperture {text[:30]} is not read")
        number, kind = int(found[1]), found[2]
        try:
            sizes = [float(size) for size in found[3].split("X")] if found[3] else []
            self._known[number] = self._made(kind, sizes, function, scale)
        except (InputError, ValueError) as fault:
            self._left[f"aperture D{number} left out: {fault}"] += 1
            self._known[number] = None

    def find(self, number: int) -> Aperture | None:
        """The aperture of a number; None where it is not defined, or cannot be read."""
        return self._known.get(number)

    def _made(self, kind: str, sizes: list[float], function: str, scale: float) -> Aperture:
        if kind in self._macros:
            return Aperture(form_of_area(macro_aperture(self._macros[kind], sizes, scale)), 0.0, function)
        # Behind the lengths of a polygon stand a count and degrees, and a hole.
        lengths = (0, 3) if kind == "P" else range(len(sizes))
        scaled = [within_a_metre(s * scale, "an aperture") if i in lengths else s for i, s in enumerate(sizes)]
        made: Opening | BaseGeometry = standard_aperture(kind, scaled)
        form = made if isinstance(made, Opening) else form_of_area(made)
        return Aperture(form, scaled[0] if kind == "C" else 0.0, function)
