"""A design's list: what its columns mean, its lines, and the part of the library that each of them means."""

import re
from collections.abc import Mapping, Sequence
from typing import Literal, NamedTuple

import msgspec

from eider.errors import InputError
from eider.facts.categories import category_of, spelling_key, value_field
from eider.facts.quantities import parse_quantity
from eider.library.index.part_index import PartRow
from eider.model.library import Category, LibrarySettings
from eider.model.wording import counted
from eider.symbols.pin_names import natural_key

Meaning = Literal["reference", "part", "number", "value", "package", "quantity", "ignored"]
MEANINGS: tuple[Meaning, ...] = ("reference", "part", "number", "value", "package", "quantity", "ignored")
# Headings by which a column is known, as spelling keys.
_HEADINGS: Mapping[Meaning, tuple[str, ...]] = {
    "reference": ("reference", "references", "ref", "refs", "refdes", "designator", "designators",
                  "referencedesignator", "parts", "position", "positions"),
    "part": ("part", "partname", "libpart", "component", "librarypart"),
    "number": ("partnumber", "mpn", "manufacturerpartnumber", "mfrpartnumber", "manufacturerpn", "pn", "partno"),
    "value": ("value", "val", "comment", "nominal"),
    "package": ("package", "footprint", "case", "pattern", "landpattern"),
    "quantity": ("quantity", "qty", "count", "amount"),
}  # fmt: skip
_REFERENCE = re.compile(r"^([A-Za-z]+)(\d+)([A-Za-z]?)$")
_SPAN = re.compile(r"^([A-Za-z]+)(\d+)\s*(?:-|–|\.\.|…|to)\s*([A-Za-z]*)(\d+)$")
MOST_REFERENCES = 20_000
MOST_CANDIDATES = 12


class DesignLine(msgspec.Struct, frozen=True):
    """One line of a design's list: where it is in the file, its references, and what it says of the part."""

    line: int
    references: tuple[str, ...]
    part: str = ""
    number: str = ""
    value: str = ""
    package: str = ""
    quantity: int | None = None


class PartMatch(NamedTuple):
    """The part that a line means, by what it was found, and the others that it could be; no part is a doubt too."""

    row: PartRow | None
    by: str
    doubt: str
    candidates: tuple[PartRow, ...] = ()


class BillLine(msgspec.Struct, frozen=True):
    """A line of the bill: a part, how many of it, and where they are.

    `said` is what the list says of the part, in its `lines`; `candidates` are the parts that it could be.
    """

    part: PartRow | None
    references: tuple[str, ...]
    quantity: int
    said: str
    by: str
    doubts: tuple[str, ...] = ()
    lines: tuple[int, ...] = ()
    candidates: tuple[PartRow, ...] = ()


def guess_meanings(header: Sequence[str]) -> tuple[Meaning, ...]:
    """What each column of a list means by its heading; of several that mean one thing the first counts."""
    found: list[Meaning] = []
    for heading in header:
        key = spelling_key(heading)
        hits: list[Meaning] = [m for m, keys in _HEADINGS.items() if key in keys and m not in found]
        meaning: Meaning = hits[0] if hits else "ignored"
        found.append(meaning)
    return tuple(found)


def design_lines(rows: Sequence[Sequence[str]], meanings: Sequence[Meaning]) -> tuple[list[DesignLine], list[str]]:
    """The lines below the heading, and what in them was not understood.

    Raises:
        InputError: no column says which part a line means.
    """
    if not {"part", "number", "value"} & set(meanings):
        raise InputError("no column says which part is meant; assign part, part number or value to one")
    made, doubts = [], []
    for line, row in enumerate(rows[1:], start=2):
        said = {m: cell.strip() for m, cell in zip(meanings, row, strict=False) if m != "ignored"}
        if not any(said.values()):
            continue
        references, fault = split_references(said.get("reference", ""))
        quantity, wrong = _quantity(said.get("quantity", ""))
        doubts += [f"line {line}: {text}" for text in (fault, wrong) if text]
        if quantity is not None and references and quantity != len(references):
            doubts.append(
                f"line {line}: quantity {quantity}, but {counted(len(references), 'reference')}; the references count"
            )
        texts = {key: said.get(key, "") for key in ("part", "number", "value", "package")}
        made.append(DesignLine(line, references, quantity=quantity, **texts))
    return made, doubts


def split_references(text: str) -> tuple[tuple[str, ...], str]:
    """`R1, R2, R4-R7` as single references in their order, and what of it was not understood."""
    found: dict[str, None] = {}
    odd = []
    # A span may have spaces round its dash.
    for piece in re.split(r"[,;\s]+", re.sub(r"\s*(-|–|\.\.|…)\s*", r"\1", text.strip())):
        if not piece:
            continue
        if span := _SPAN.match(piece):
            letters, first, again, last = span.groups()
            if again not in ("", letters) or not 0 <= int(last) - int(first) < MOST_REFERENCES:
                odd.append(piece)
            else:
                found |= dict.fromkeys(f"{letters}{n}" for n in range(int(first), int(last) + 1))
        else:
            found[piece] = None
            if not _REFERENCE.match(piece):
                odd.append(piece)
    fault = f"“{odd[0]}” is not a reference such as R1 or R1-R4" if odd else ""
    return tuple(sorted(found, key=natural_key)), fault


def _quantity(text: str) -> tuple[int | None, str]:
    if not text:
        return None, ""
    try:
        value = float(text.replace(",", "."))
    except ValueError:
        return None, f"“{text[:20]}” is not a quantity"
    if not (0 <= value <= 1e9 and value == int(value)):
        return None, f"“{text[:20]}” is not a quantity"
    return int(value), ""


class PartFinder:
    """Finds the parts of a library by name, part number or value; made once for all lines."""

    def __init__(self, rows: Sequence[PartRow], settings: LibrarySettings) -> None:
        self._settings = settings
        self._categories: dict[str, Category | None] = {
            key: category_of(settings, key) for key in {row.category for row in rows}
        }
        self._by_name: dict[str, list[PartRow]] = {}
        self._by_number: dict[str, list[PartRow]] = {}
        self._by_value: dict[tuple[float, str], list[PartRow]] = {}
        for row in rows:
            self._by_name.setdefault(spelling_key(row.name), []).append(row)
            if number := row.facts.get("Part number", ""):
                self._by_number.setdefault(spelling_key(number), []).append(row)
            field = value_field(self._categories[row.category])
            quantity = parse_quantity(row.facts.get(field.name, ""), field.unit) if field else None
            if quantity is not None:
                self._by_value.setdefault((_rounded(quantity.value), quantity.unit), []).append(row)
        self._units = sorted({unit for _, unit in self._by_value})

    def find(self, line: DesignLine) -> PartMatch:
        """The part of a line: by its name, then its part number, then its value with reference letter and package."""
        names, numbers = ("name", self._by_name), ("part number", self._by_number)
        # What is written in one column is often meant for another: chips have their name as their value.
        tried = ((line.part, names), (line.number, numbers), (line.part, numbers), (line.number, names),
                 (line.value, names), (line.value, numbers))  # fmt: skip
        for text, (by, index) in tried:
            hits = index.get(spelling_key(text), []) if text else []
            if len(hits) == 1:
                return PartMatch(hits[0], by, "")
            if hits:
                return PartMatch(None, by, f"{len(hits)} parts have this {by}", tuple(hits[:MOST_CANDIDATES]))
        return self._by_its_value(line)

    def _by_its_value(self, line: DesignLine) -> PartMatch:
        said = line.value or line.part or line.number
        hits = [row for row in self._rows_of_value(said) if self._fits_letter(row, line)]
        sized = [row for row in hits if _has_package(row, line.package)] if line.package else hits
        if len(sized) == 1:
            doubt = "found by its value alone; look whether rating and tolerance are right"
            return PartMatch(sized[0], "value", doubt, tuple(sized))
        if sized or hits:
            rest = sized or hits
            more = "" if sized else f" and none in {line.package}"
            doubt = f"{len(rest)} parts have this value{more}; choose one"
            return PartMatch(None, "value", doubt, tuple(rest[:MOST_CANDIDATES]))
        return PartMatch(None, "", f"no part of the library is “{said}”")

    def _rows_of_value(self, text: str) -> list[PartRow]:
        found = []
        for unit in self._units:
            quantity = parse_quantity(text, unit)
            if quantity is not None:
                found += self._by_value.get((_rounded(quantity.value), unit), [])
        return found

    def _fits_letter(self, row: PartRow, line: DesignLine) -> bool:
        category = self._categories[row.category]
        letters = {match[1].upper() for r in line.references if (match := _REFERENCE.match(r))}
        return not letters or category is None or category.reference.upper() in letters


def _rounded(value: float) -> float:
    return float(f"{value:.6g}")


def _has_package(row: PartRow, package: str) -> bool:
    """Whether a part comes in a package: its land pattern, its fact, or the size in its name says so."""
    key = spelling_key(package)
    texts = (row.package, row.facts.get("Package", ""), row.name)
    return any(key in spelling_key(text) for text in texts if text)


def bill_lines(
    lines: Sequence[DesignLine], finder: PartFinder, chosen: Mapping[int, PartRow] | None = None
) -> tuple[BillLine, ...]:
    """One line for each part, in the order of its first reference; lines without a part stay as they are said.

    `chosen` gives the part for a line of the file where someone chose it.
    """
    merged: dict[str, list[tuple[DesignLine, PartMatch]]] = {}
    for line in lines:
        match = PartMatch(chosen[line.line], "choice", "") if chosen and line.line in chosen else finder.find(line)
        key = match.row.id if match.row else f"line {line.line}"
        merged.setdefault(key, []).append((line, match))
    made = [_bill_line(members) for members in merged.values()]
    return tuple(
        sorted(made, key=lambda line: natural_key(line.references[0]) if line.references else natural_key("~"))
    )


def _bill_line(members: Sequence[tuple[DesignLine, PartMatch]]) -> BillLine:
    references: list[str] = []
    doubts: list[str] = []
    quantity = 0
    for line, match in members:
        references += line.references
        quantity += len(line.references) or (1 if line.quantity is None else line.quantity)
        doubts += [f"line {line.line}: {match.doubt}"] if match.doubt else []
    doubled = sorted({r for r in references if references.count(r) > 1}, key=natural_key)
    doubts += [f"{doubled[0]} is named twice"] if doubled else []
    first, match = members[0]
    said = " ".join(text for text in (first.part, first.number, first.value, first.package) if text)
    return BillLine(
        part=match.row,
        references=tuple(sorted(set(references), key=natural_key)),
        quantity=quantity,
        said=said,
        by=match.by,
        doubts=tuple(doubts),
        lines=tuple(line.line for line, _ in members),
        candidates=match.candidates,
    )
