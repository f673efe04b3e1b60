"""Reads XNC drill files, and their older kin with whole numbers, whose form is guessed and told; lengths in mm."""

import math
import re
from collections import Counter
from pathlib import Path

from eider.errors import InputError
from eider.exchange.found_parts import FoundFile, FoundPart, name_of
from eider.exchange.json_files import plain_number, read_text, within_a_metre
from eider.exchange.layered_shapes import LayeredShapes, LayerForm
from eider.exchange.reading_hints import NO_HINTS, ReadingHints
from eider.geometry.plane import Point
from eider.geometry.rounding import tidy
from eider.model.pattern import Opening

MOST_HOLES = 50_000
# Digits before and behind the point of whole numbers where a file does not say: of mm and of inches.
_USUAL = {1.0: (3, 3), 25.4: (2, 4)}
_PLACE = re.compile(r"([XY])([-+]?[\d.]+)")
_UNPLATED = re.compile(r"non.?plated|npth|unplated", re.I)


def read_drill(path: Path, hints: ReadingHints = NO_HINTS) -> FoundFile:
    """The holes and slots of a file, for the part that it is called after.

    Raises:
        InputError: it is not a drill file, or is damaged.
    """
    reader = _DrillReader(path.name)
    reader.run(read_text(path))
    role = hints.layers.get(path.name) or reader.role(path.name)
    forms = tuple(LayerForm(role, hole) for hole in reader.holes)
    log = [f"{count} {what}" for what, count in sorted(reader.left.items())]
    part = FoundPart(name=name_of(path), source=path.name, shapes=LayeredShapes(forms), log=tuple(log))
    return FoundFile((part,), layers={path.name: role})


class _DrillReader:
    def __init__(self, file: str) -> None:
        self._file = file
        self.left: Counter[str] = Counter()
        self.holes: list[Opening] = []
        self._function = ""
        self._scale, self._trailing, self._digits = 0.0, False, (0, 0)
        self._tools: dict[int, tuple[float, str]] = {}
        self._tool_function, self._tool = "", 0
        self._at: Point = (0.0, 0.0)
        self._slot: Point | None = None
        self._is_down = False

    def role(self, name: str) -> str:
        """Whether the holes are plated, by the function of the file, else by its name."""
        is_bare = self._function.startswith("NonPlated") or (not self._function and bool(_UNPLATED.search(name)))
        return "unplated" if is_bare else "hole"

    def run(self, text: str) -> None:
        """Read all lines.

        Raises:
            InputError: a line makes no sense.
        """
        for number, line in enumerate(text.splitlines(), start=1):
            try:
                if self._line(line.strip()):
                    return
            except InputError as fault:
                raise InputError(f"{self._file}, line {number}: {fault}") from fault
            if len(self.holes) > MOST_HOLES:
                raise InputError(f"{self._file} has more than {MOST_HOLES:,} holes; that is not a land pattern")
        self.left["end of the file is missing: it may be cut off"] += 1

    def _line(self, line: str) -> bool:
        """A line; True for the last."""
        if line.startswith(";"):
            self._comment(line)
        elif line in ("M30", "M00"):
            return True
        elif unit := re.match(r"(METRIC|INCH|M71|M72)", line):
            self._scale = 1.0 if unit[1] in ("METRIC", "M71") else 25.4
            # “LZ” says which noughts are there, not which are left out.
            self._trailing = "LZ" in line
            self._digits = _USUAL[self._scale]
            if form := re.search(r"(0+)\.(0+)", line):
                self._digits = len(form[1]), len(form[2])
        elif tool := re.match(r"T(\d+)(?:.*?C([\d.]+))?", line):
            self._choose(int(tool[1]), tool[2])
        elif re.match(r"(G0[0-35]|G85|G90|M1[5-7]|X|Y)", line):
            self._move(line)
        elif re.match(r"G91|ICI", line):
            raise InputError("incremental coordinates are not read; write the file with absolute ones")
        elif line and not re.match(r"(%|M48|M95|FMAT|VER|DETECT|ATC|G93|M47)", line):
            self.left[f"line “{line[:20]}” not understood"] += 1
        return False

    def _comment(self, line: str) -> None:
        if found := re.search(r"#@!\s*TF\.FileFunction,(.*)", line):
            self._function = found[1].strip()
        elif found := re.search(r"#@!\s*TA\.AperFunction,(.*)", line):
            self._tool_function = found[1].strip()
        elif form := re.search(r"FILE_FORMAT\s*=\s*(\d):(\d)", line):
            self._digits = int(form[1]), int(form[2])

    def _choose(self, number: int, size: str | None) -> None:
        if size is not None:
            diameter = within_a_metre(plain_number(size, "a number") * self._mm(), "the diameter of a tool")
            self._tools[number] = (diameter, self._tool_function)
        self._tool = number

    def _mm(self) -> float:
        if not self._scale:
            self.left["unit is missing: mm are assumed"] = 1
            self._scale, self._digits = 1.0, _USUAL[1.0]
        return self._scale

    def _move(self, line: str) -> None:
        before = self._at
        places = [line] if "G85" not in line else line.split("G85")
        to = self._place(places[0])
        if "G85" in line:
            self._drilled(to, self._place(places[1], to))
        elif "M15" in line:
            self._is_down, self._slot = True, self._at
        elif "M16" in line or "M17" in line:
            if self._slot is not None:
                self._drilled(self._slot, self._at)
            self._is_down, self._slot = False, None
        elif line.startswith(("G02", "G03")):
            self.left["arcs of routes are read as straight slots"] += 1
        elif line.startswith("G01") and self._is_down and self._slot not in (None, before):
            # A route of several legs is a slot for each.
            self._drilled(self._slot or before, before)
            self._slot = before
        elif not line.startswith("G") and ("X" in line or "Y" in line):
            self._drilled(to, to)
        self._at = to

    def _place(self, text: str, before: Point | None = None) -> Point:
        found = dict(_PLACE.findall(text))
        x, y = before or self._at
        return (self._length(found["X"]) if "X" in found else x, self._length(found["Y"]) if "Y" in found else y)

    def _length(self, text: str) -> float:
        scale = self._mm()
        if "." in text:
            return within_a_metre(plain_number(text, "a number") * scale, "a place")
        whole, decimals = self._digits
        self.left[f"file of whole numbers: {whole} digits and {decimals} decimals are assumed"] = 1
        sign, plain = (-1 if text.startswith("-") else 1), text.lstrip("+-")
        plain = plain.ljust(whole + decimals, "0") if self._trailing else plain
        return within_a_metre(sign * plain_number(plain, "a number") * 10.0**-decimals * scale, "a place")

    def _drilled(self, start: Point, end: Point) -> None:
        if self._tool not in self._tools:
            raise InputError(f"the tool T{self._tool:02} has no diameter")
        diameter, function = self._tools[self._tool]
        if "ViaDrill" in function:
            self.left["holes of vias left out"] += 1
            return
        length = math.dist(start, end)
        x, y = tidy((start[0] + end[0]) / 2), tidy((start[1] + end[1]) / 2)
        turn = tidy(math.degrees(math.atan2(end[1] - start[1], end[0] - start[0])) % 180) if length else 0.0
        shape = "oval" if length else "circle"
        width, height = tidy(length + diameter), diameter
        if turn == 90:
            width, height, turn = height, width, 0.0
        self.holes.append(Opening(x, y, width, height, turn, shape))  # type: ignore[arg-type]
