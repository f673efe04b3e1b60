"""Tables of datasheets in the styles that are met, each with what it says: the truth is what the table was made of."""

import random
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field

# Minimum, nominal and maximum in mm, None where the table says none.
Limits = tuple[float | None, float | None, float | None]


@dataclass
class Cell:
    """A cell: its lines, and over how many columns and rows it reaches."""

    text: str
    columns: int = 1
    rows: int = 1
    head: bool = False


@dataclass
class Table:
    """A table: rows of cells (a row leaves out what cells from above cover), and what it says.

    `kind` is dimensions, pins or other; `limits` by letter (and member), `pins` number to name.
    """

    kind: str
    style: str
    caption: str
    rows: list[list[Cell]]
    limits: dict[str, Limits] = field(default_factory=dict)
    pins: dict[str, str] = field(default_factory=dict)
    ruled: bool = True
    note: str = ""


LETTERS = (
    ("A", "Overall height", 0.9, 3.0), ("A1", "Stand-off", 0.05, 0.2), ("b", "Lead width", 0.2, 0.6),
    ("c", "Lead thickness", 0.1, 0.25), ("D", "Body length", 3.0, 12.0), ("E", "Overall width", 4.0, 12.0),
    ("E1", "Body width", 2.0, 8.0), ("e", "Lead pitch", 0.4, 1.27), ("L", "Foot length", 0.4, 1.0),
)  # fmt: skip


def _number(value: float, places: int) -> str:
    return f"{value:.{places}f}"


def _values(chance: random.Random, places: int) -> list[tuple[str, str, Limits]]:
    """Letters with a description and limits, rounded as the table writes them."""
    made = []
    for letter, what, low, high in LETTERS:
        if letter not in ("A", "D", "E") and chance.random() < 0.15:
            continue
        nominal = chance.uniform(low, high)
        spread = max(nominal * chance.uniform(0.02, 0.08), 10.0**-places)
        values = [round(v, places) for v in (nominal - spread, nominal, nominal + spread)]
        if letter == "e":
            limits: Limits = (None, values[1], None)
        elif letter == "A":
            limits = (None, None, values[2])
        else:
            limits = (values[0], values[1], values[2])
        made.append((letter, what, limits))
    return made


def _shown(value: float | None, places: int, empty: str) -> str:
    return empty if value is None else _number(value, places)


def limits_in_columns(chance: random.Random) -> Table:
    """MIN NOM MAX under a unit that is centred over two heading rows, the letter's heading beside it."""
    places, empty = chance.choice((2, 3)), chance.choice(("-", "—", ""))
    with_nominal = chance.random() < 0.6
    names = ["MIN", "NOM", "MAX"] if with_nominal else ["MIN", "MAX"]
    unit = chance.choice(("MILLIMETERS", "mm", "Dimensions in mm"))
    rows = [
        [
            Cell(chance.choice(("DIM", "SYMBOL", "Symbol")), rows=2, head=True),
            Cell(unit, columns=len(names), head=True),
        ],
        [Cell(name, head=True) for name in names],
    ]
    truth = {}
    for letter, _what, (low, nominal, high) in _values(chance, places):
        shown = (low, nominal, high)
        if not with_nominal and low is None and high is None:
            # A basic pitch without a column for it stands across both.
            rows.append([Cell(letter), Cell(f"{_number(nominal or 0, places)} BSC", columns=2)])
            truth[letter] = (None, nominal, None)
            continue
        kept = shown if with_nominal else (low, None, high)
        rows.append([Cell(letter), *(Cell(_shown(v, places, empty)) for v in (kept if with_nominal else (low, high)))])
        truth[letter] = kept
    return Table("dimensions", "limits in columns", "Package dimensions", rows, truth)


def both_units(chance: random.Random) -> Table:
    """Millimetres and inches side by side, each with MIN and MAX."""
    rows = [
        [
            Cell("Dim", rows=2, head=True),
            Cell("Millimeters", columns=2, head=True),
            Cell("Inches", columns=2, head=True),
        ],
        [Cell(name, head=True) for name in ("Min", "Max", "Min", "Max")],
    ]
    truth = {}
    for letter, _what, (low, nominal, high) in _values(chance, 2):
        if low is None or high is None:
            value = nominal if high is None else high
            text, inches = _number(value or 0, 2), _number((value or 0) / 25.4, 3)
            if high is None:
                rows.append([Cell(letter), Cell(f"{text} BSC", columns=2), Cell(f"{inches} BSC", columns=2)])
                truth[letter] = (None, value, None)
            else:
                rows.append([Cell(letter), Cell("—"), Cell(text), Cell("—"), Cell(inches)])
                truth[letter] = (None, None, value)
            continue
        rows.append(
            [
                Cell(letter),
                *(Cell(_number(v, 2)) for v in (low, high)),
                *(Cell(_number(v / 25.4, 3)) for v in (low, high)),
            ]
        )
        truth[letter] = (low, None, high)
    return Table("dimensions", "both units", "Mechanical data", rows, truth)


def remarks_on_numbers(chance: random.Random) -> Table:
    """One column of values with remarks glued to them or behind: 0.95BSC, 1.75MAX, 1.270 (BSC)."""
    rows = [[Cell("Ref.", head=True), Cell("Dimension (mm)", head=True)]]
    truth = {}
    glue = chance.choice(("", " "))
    bracket = chance.random() < 0.4
    for letter, _what, (low, nominal, high) in _values(chance, 2):
        if high is None:
            word = chance.choice(("BSC", "TYP", "REF"))
            text = f"{_number(nominal or 0, 2)}{' ' if bracket else glue}{f'({word})' if bracket else word}"
            truth[letter] = (None, nominal, None)
        elif low is None:
            text = f"{_number(high, 2)}{glue}{chance.choice(('MAX', 'max', 'Max.'))}"
            truth[letter] = (None, None, high)
        elif chance.random() < 0.5:
            tolerance = round((high - low) / 2, 2)
            middle = round((high + low) / 2, 2)
            text = f"{_number(middle, 2)}{glue}±{glue}{_number(tolerance, 2)}"
            truth[letter] = (round(middle - tolerance, 4), middle, round(middle + tolerance, 4))
        else:
            text = f"{_number(low, 2)}{chance.choice(('-', '–', ' ~ ', ' to '))}{_number(high, 2)}"
            truth[letter] = (low, None, high)
        rows.append([Cell(letter), Cell(text)])
    return Table("dimensions", "remarks on numbers", "Outline dimensions", rows, truth)


def inches_in_brackets(chance: random.Random) -> Table:
    """Millimetres with inches in brackets behind: 1.39(0.055), 2.00 [0.079]."""
    opened, closed = chance.choice(("()", "[]"))
    gap = chance.choice(("", " "))
    rows = [
        [
            Cell("Symbol", head=True),
            Cell(f"Min. mm {opened}in{closed}", head=True),
            Cell(f"Max. mm {opened}in{closed}", head=True),
        ]
    ]
    truth = {}
    for letter, _what, (low, nominal, high) in _values(chance, 2):
        pair = (
            (low, high) if low is not None and high is not None else (nominal, None) if high is None else (None, high)
        )
        texts = [f"{_number(v, 2)}{gap}{opened}{_number(v / 25.4, 3)}{closed}" if v is not None else "-" for v in pair]
        rows.append([Cell(letter), *(Cell(text) for text in texts)])
        truth[letter] = (pair[0], None, pair[1])
    return Table("dimensions", "inches in brackets", "Package outline", rows, truth)


def tolerance_column(chance: random.Random) -> Table:
    """The nominal value and its tolerance in columns of their own."""
    sign = chance.choice(("±", "+/-"))
    rows = [[Cell("Dim.", head=True), Cell("Nominal (mm)", head=True), Cell("Tolerance", head=True)]]
    truth = {}
    for letter, _what, (low, nominal, high) in _values(chance, 2):
        middle = nominal if nominal is not None else high or 0
        if low is None or high is None:
            rows.append([Cell(letter), Cell(_number(middle, 2)), Cell("-")])
            truth[letter] = (None, middle, None)
            continue
        tolerance = round((high - low) / 2, 2) or 0.01
        rows.append([Cell(letter), Cell(_number(middle, 2)), Cell(f"{sign}{_number(tolerance, 2)}")])
        truth[letter] = (round(middle - tolerance, 4), middle, round(middle + tolerance, 4))
    return Table("dimensions", "tolerance column", "Dimensions", rows, truth)


def letters_across(chance: random.Random) -> Table:
    """Letters across the top, a row for each limit."""
    values = _values(chance, 2)
    rows = [[Cell("mm", head=True), *(Cell(letter, head=True) for letter, _w, _l in values)]]
    for index, name in enumerate(("min.", "nom.", "max.")):
        rows.append([Cell(name), *(Cell(_shown(limits[index], 2, "-")) for _l, _w, limits in values)])
    return Table(
        "dimensions", "letters across", "Dimensions (mm)", rows, {letter: limits for letter, _w, limits in values}
    )


def stacked_across(chance: random.Random) -> Table:
    """Letters across, the limits of each over each other in one cell."""
    values = [(letter, limits) for letter, _w, limits in _values(chance, 2)]
    unit_first = chance.random() < 0.5
    rows = [[*([Cell("UNIT", head=True)] if unit_first else []), *(Cell(letter, head=True) for letter, _l in values)]]
    cells, truth = [], {}
    for letter, (low, nominal, high) in values:
        if low is not None and high is not None:
            cells.append(Cell(f"{_number(high, 2)}\n{_number(low, 2)}"))
            truth[letter] = (low, None, high)
        else:
            value = nominal if high is None else high
            cells.append(Cell(_number(value or 0, 2)))
            truth[letter] = (None, value, None)
    rows.append([*([Cell("mm")] if unit_first else []), *cells])
    return Table("dimensions", "stacked across", "Dimensions in mm", rows, truth)


def decorated_letters(chance: random.Random) -> Table:
    """Letters with something at them: L [mm], Dim. A, A (max)."""
    way = chance.choice(("unit", "word"))
    rows = [[Cell("Dimension", head=True), Cell("Min", head=True), Cell("Max", head=True)]]
    truth = {}
    for letter, _what, (low, nominal, high) in _values(chance, 2):
        name = f"{letter} [mm]" if way == "unit" else f"Dim. {letter}"
        if low is None or high is None:
            value = nominal if high is None else high
            rows.append([Cell(name), Cell("-"), Cell(_number(value or 0, 2))])
            truth[letter] = (None, None, value)
        else:
            rows.append([Cell(name), Cell(_number(low, 2)), Cell(_number(high, 2))])
            truth[letter] = (low, None, high)
    return Table("dimensions", "decorated letters", "Dimensions (mm)", rows, truth)


def unit_column(chance: random.Random) -> Table:
    """A column for the unit of each row, angles among the lengths; descriptions instead of short headings."""
    rows = [[Cell(t, head=True) for t in ("Parameter", "Symbol", "Min", "Nom", "Max", "Unit")]]
    truth = {}
    for letter, what, (low, nominal, high) in _values(chance, 2):
        rows.append([Cell(what), Cell(letter), *(Cell(_shown(v, 2, "—")) for v in (low, nominal, high)), Cell("mm")])
        truth[letter] = (low, nominal, high)
    rows.append([Cell("Foot angle"), Cell("θ"), Cell("0"), Cell("—"), Cell("8"), Cell("°")])
    return Table("dimensions", "unit column", "Mechanical characteristics", rows, truth)


def dot_leaders(chance: random.Random) -> Table:
    """A description and a value with dots between, as in a list."""
    rows, truth = [], {}
    for letter, what, (low, nominal, high) in _values(chance, 2):
        if low is not None and high is not None:
            text = f"{_number(low, 2)} to {_number(high, 2)} mm"
            truth[letter] = (low, None, high)
        elif high is None:
            text, truth[letter] = f"{_number(nominal or 0, 2)} mm", (None, nominal, None)
        else:
            text, truth[letter] = f"{_number(high, 2)} mm max", (None, None, high)
        rows.append([Cell(f"{what} {letter} " + "." * chance.randint(12, 30)), Cell(text)])
    return Table("dimensions", "dot leaders", "Dimensions", rows, truth, ruled=False)


def group_heading(chance: random.Random) -> Table:
    """A group's heading centred over MIN NOM MAX, in an open table, with descriptions before the letters."""
    rows = [
        [
            Cell("Description", rows=2, head=True),
            Cell("Symbol", rows=2, head=True),
            Cell("Dimension in mm", columns=3, head=True),
        ],
        [Cell(name, head=True) for name in ("Min.", "Nom.", "Max.")],
    ]
    truth = {}
    for letter, what, limits in _values(chance, chance.choice((2, 3))):
        rows.append([Cell(what), Cell(letter), *(Cell(_shown(v, 3, chance.choice(("-", "")))) for v in limits)])
        truth[letter] = tuple(None if v is None else round(v, 3) for v in limits)
    return Table("dimensions", "group heading", "Package", rows, truth, ruled=False)  # type: ignore[arg-type]


RENAMED = {"A": "A", "A1": "A1", "b": "bp", "c": "c", "D": "D(1)", "E": "HE", "E1": "E(1)", "e": "e", "L": "Lp"}
PLAIN_RENAMED = {letter: name.partition("(")[0] for letter, name in RENAMED.items()}


def other_letters(chance: random.Random) -> Table:
    """Another house's letters, some with a footnote's number behind them, limits in one cell."""
    rows = [[Cell("UNIT", head=True), Cell("DIM", head=True), Cell("VALUE", head=True)]]
    truth = {}
    for letter, _what, (low, nominal, high) in _values(chance, 2):
        if low is not None and high is not None:
            text, limits = f"{_number(low, 2)} - {_number(high, 2)}", (low, None, high)
        elif high is None:
            text, limits = _number(nominal or 0, 2), (None, nominal, None)
        else:
            text, limits = f"max. {_number(high, 2)}", (None, None, high)
        rows.append([Cell("mm"), Cell(RENAMED[letter]), Cell(text)])
        truth[PLAIN_RENAMED[letter]] = limits
    return Table("dimensions", "other letters", "Dimensions", rows, truth)  # type: ignore[arg-type]


def footnotes(chance: random.Random) -> Table:
    """Footnote marks at values, and notes below the table that are no rows of it."""
    rows = [[Cell(t, head=True) for t in ("Dim.", "Min. (mm)", "Max. (mm)")]]
    truth = {}
    for letter, _what, (low, _nominal, high) in _values(chance, 2):
        mark = chance.choice(("", "", "*", "(2)"))
        rows.append(
            [Cell(letter), Cell(_shown(low, 2, "-")), Cell(_shown(high, 2, "-") + (mark if high is not None else ""))]
        )
        if low is not None or high is not None:
            truth[letter] = (low, None, high)
    return Table("dimensions", "footnotes", "Package dimensions", rows, truth)  # type: ignore[arg-type]


def decimal_commas(chance: random.Random) -> Table:
    """Commas for decimal points."""
    table = limits_in_columns(chance)
    for row in table.rows:
        for cell in row:
            if any(c.isdigit() for c in cell.text) and not cell.head and "." in cell.text:
                cell.text = cell.text.replace(".", ",")
    table.style = "decimal commas"
    return table


def two_variants(chance: random.Random) -> Table:
    """Two packages in one table: a pair of columns for each, of which one has to be chosen."""
    rows = [
        [Cell("Symbol", rows=2, head=True), Cell("SO-8", columns=2, head=True), Cell("SO-14", columns=2, head=True)],
        [Cell(name, head=True) for name in ("MIN", "MAX", "MIN", "MAX")],
    ]
    truth = {}
    for letter, _what, (low, _nominal, high) in _values(chance, 2):
        if low is None or high is None:
            continue
        others = [low, high] if letter != "D" else [round(low * 1.7, 2), round(high * 1.7, 2)]
        rows.append([Cell(letter), *(Cell(_number(v, 2)) for v in (low, high, *others))])
        truth[letter] = (low, None, high)
    return Table("dimensions", "two variants", "Dimensions in mm", rows, truth)  # type: ignore[arg-type]


def notes_column(chance: random.Random) -> Table:
    """A column of remarks behind the values."""
    rows = [[Cell(t, head=True) for t in ("Item", "Symbol", "Dimension (mm)", "Remark")]]
    truth = {}
    for index, (letter, _what, (low, nominal, high)) in enumerate(_values(chance, 2), start=1):
        if low is not None and high is not None:
            spread = round((high - low) / 2, 2)
            middle = round((low + high) / 2, 2)
            text, limits = (
                f"{_number(middle, 2)} ± {_number(spread, 2)}",
                (round(middle - spread, 4), middle, round(middle + spread, 4)),
            )
        else:
            text, limits = (
                f"({_number((nominal if high is None else high) or 0, 2)})",
                (None, nominal if high is None else high, None),
            )
        rows.append(
            [Cell(str(index)), Cell(letter), Cell(text), Cell(chance.choice(("", "Note 1", "typical", "see drawing")))]
        )
        truth[letter] = limits
    return Table("dimensions", "notes column", "Outline", rows, truth)  # type: ignore[arg-type]


def long_headings(chance: random.Random) -> Table:
    """Headings of two and three lines in one cell."""
    rows = [
        [
            Cell("Dimension\nletter", head=True),
            Cell("Minimum\nvalue\n(mm)", head=True),
            Cell("Maximum\nvalue\n(mm)", head=True),
        ]
    ]
    truth = {}
    for letter, _what, (low, _nominal, high) in _values(chance, 2):
        if low is None and high is None:
            continue
        rows.append([Cell(letter), Cell(_shown(low, 2, "–")), Cell(_shown(high, 2, "–"))])
        truth[letter] = (low, None, high)
    return Table("dimensions", "long headings", "Mechanical", rows, truth)  # type: ignore[arg-type]


PINS = (
    "VCC", "GND", "SDA", "SCL", "INT", "RESET", "MISO", "MOSI", "SCK", "CS", "XIN", "XOUT", "AIN0", "AIN1", "AIN2",
    "AIN3", "REFP", "REFN", "DVDD", "AVDD", "AGND", "DGND", "TX", "RX", "CTS", "RTS", "PWM0", "PWM1",
    "EN", "FB", "SW", "BST",
)  # fmt: skip
TYPES = {"VCC": "Power", "GND": "Power", "DVDD": "Power", "AVDD": "Power", "AGND": "Power", "DGND": "Power"}


def pin_table(chance: random.Random) -> Table:
    """Number, name, type and description of each pin."""
    count = chance.choice((6, 8, 14, 20, 28))
    names = chance.sample(PINS, count)
    order = chance.choice((("Pin", "Name", "Type", "Description"), ("Pin No.", "Pin name", "I/O", "Function")))
    rows = [[Cell(head, head=True) for head in order]]
    for number, name in enumerate(names, start=1):
        kind = TYPES.get(name, chance.choice(("I", "O", "I/O")))
        rows.append([Cell(str(number)), Cell(name), Cell(kind), Cell(f"{name} of the device")])
    return Table("pins", "pin table", "Pin functions", rows, pins={str(i): n for i, n in enumerate(names, start=1)})


def pins_side_by_side(chance: random.Random) -> Table:
    """Two sets of number and name beside each other."""
    count = chance.choice((8, 12, 16))
    names = chance.sample(PINS, count)
    rows = [[Cell(head, head=True) for head in ("Pin", "Name", "Pin", "Name")]]
    half = count // 2
    for index in range(half):
        rows.append([Cell(str(index + 1)), Cell(names[index]), Cell(str(index + 1 + half)), Cell(names[index + half])])
    return Table(
        "pins", "pins side by side", "Pin assignment", rows, pins={str(i): n for i, n in enumerate(names, start=1)}
    )


def several_pins(chance: random.Random) -> Table:
    """The name first, several pins of one name in one row."""
    names = chance.sample(PINS, 9)
    rows, pins, number = [[Cell(t, head=True) for t in ("Signal", "Pin", "Description")]], {}, 1
    for name in names:
        count = 3 if name in TYPES else 1
        numbers = [str(number + i) for i in range(count)]
        rows.append([Cell(name), Cell(", ".join(numbers)), Cell(f"{name}, see text")])
        pins |= dict.fromkeys(numbers, name)
        number += count
    return Table("pins", "several pins", "Signal description", rows, pins=pins)


def wrapped_pins(chance: random.Random) -> Table:
    """Descriptions of two lines, and headings of two lines."""
    names = chance.sample(PINS, 8)
    rows = [[Cell("Pin\nnumber", head=True), Cell("Pin\nname", head=True), Cell("Function", head=True)]]
    for number, name in enumerate(names, start=1):
        rows.append([Cell(str(number)), Cell(name), Cell(f"Connect {name} to the\nboard as shown below")])
    return Table(
        "pins", "wrapped pins", "Pin description", rows, pins={str(i): n for i, n in enumerate(names, start=1)}
    )


def electrical(chance: random.Random) -> Table:
    """Electrical characteristics: no dimensions, though they have symbols and limits."""
    rows = [[Cell(t, head=True) for t in ("Parameter", "Symbol", "Min", "Typ", "Max", "Unit")]]
    for what, symbol, unit in (
        ("Supply voltage", "VDD", "V"), ("Supply current", "IDD", "mA"), ("Input high level", "VIH", "V"),
        ("Output drive", "IO", "mA"), ("Clock frequency", "fCLK", "MHz"), ("Rise time", "tr", "ns"),
    ):  # fmt: skip
        values = sorted(round(chance.uniform(0.1, 30), 1) for _ in range(3))
        rows.append([Cell(what), Cell(symbol), *(Cell(f"{v:.1f}") for v in values), Cell(unit)])
    return Table("other", "electrical", "Electrical characteristics", rows)


DIMENSION_STYLES: Sequence[Callable[[random.Random], Table]] = (
    limits_in_columns, both_units, remarks_on_numbers, inches_in_brackets, tolerance_column, letters_across,
    stacked_across, decorated_letters, unit_column, dot_leaders, group_heading, other_letters, footnotes,
    decimal_commas, two_variants, notes_column, long_headings,
)  # fmt: skip
PIN_STYLES: Sequence[Callable[[random.Random], Table]] = (pin_table, pins_side_by_side, several_pins, wrapped_pins)
