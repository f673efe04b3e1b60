"""Makes whole datasheets by programs of others, and their truth: make.py COUNT SEED FOLDER.

Each is an invented part in a package of tools/foreign/drawings: title, characteristics, order codes, a table of
pins, the outline with its table of dimensions, and for some the suggested lands. All pages are of one program.
"""

import json
import random
import sys
from pathlib import Path
from typing import Any

import pypdfium2

sys.path.insert(0, str(Path(__file__).parents[1] / "drawings"))
from drawn_marks import Mark, a_style, asides, draw, grid
from engines import ENGINES, available
from land_views import PATTERNS
from make_lands import OWN, TITLES, lengths, letter_table, written
from make_outlines import STYLES
from package_views import FAMILIES, quad_gull_wing

LEADS = {"gullwing-dual": {1.27: "SOIC", 0.8: "SOP", 0.65: "TSSOP"}, "no-lead-quad": {0.5: "QFN", 0.65: "QFN"},
         "gullwing-quad": {0.5: "TQFP", 0.65: "LQFP", 0.8: "QFP"}}  # fmt: skip
WHOLE = {**FAMILIES, "gullwing-quad": quad_gull_wing}
HOUSES = {**STYLES, "gullwing-quad": [{}, {"D": "HD", "D1": "D", "E": "HE", "E1": "E", "b": "bp", "L": "Lp"}]}
# What a house says of its letters in a column of their own.
MEANINGS = {"A": "Overall height", "A1": "Stand-off", "b": "Lead width", "e": "Lead pitch", "L": "Foot length",
            "D2": "Exposed pad width", "E2": "Exposed pad length"}  # fmt: skip
MAKERS = ("Norrvik Semi", "Brimfall", "Lyng Passive")
SUPPLY = (("VDD", "Power", "Supply voltage"), ("GND", "Ground", "Ground"), ("EN", "Input", "Enable, active high"),
          ("RESETN", "Input", "Reset, active low"), ("OUT", "Output", "Output"),
          ("FB", "Input", "Feedback"))  # fmt: skip
HEADINGS = (("Pin", "Name", "Type", "Description"), ("Pin No.", "Pin name", "I/O", "Function"),
            ("No.", "Symbol", "Type", "Description"))  # fmt: skip


def package_name(family: str, values: dict[str, float], pins: int) -> str:
    """What the package is called; empty for a chip."""
    return "" if family == "chip" else f"{LEADS[family][values['e']]}-{pins}"


def pin_rows(chance: random.Random, pins: int, *, has_pad: bool) -> list[tuple[str, str, str, str]]:
    """Number, name, type and description of each pin."""
    names = list(SUPPLY[: min(pins, len(SUPPLY))])
    chance.shuffle(names)
    names += [(f"IO{n}", "I/O", f"General purpose line {n}") for n in range(pins - len(names))]
    rows = [(str(n), *name) for n, name in enumerate(names, start=1)]
    return [*rows, (str(pins + 1), "EP", "Ground", "Exposed pad, connect to GND")] if has_pad else rows


def limits(chance: random.Random, letter: str, value: float) -> dict[str, float | None]:
    """Minimum, nominal and maximum of a letter, as houses give them: a pitch is exact, a height has a maximum."""
    if letter == "e":
        return {"min": None, "nom": value, "max": None}
    if letter == "A":
        return {"min": None, "nom": None, "max": value}
    if letter == "A1":
        return {"min": round(value - 0.03, 2), "nom": None, "max": round(value + 0.05, 2)}
    room = max(0.01, round(value * chance.choice((0.02, 0.05)), 2))
    low, high = round(value - room, 2), round(value + room, 2)
    return {"min": low, "nom": value if chance.random() < 0.5 else None, "max": high}


def dimension_rows(
    chance: random.Random, own: dict[str, str], known: dict[str, Any], how: str
) -> list[tuple[str, ...]]:
    """The table of dimensions in the house's letters, its heading first; `how` is a way to write lengths."""
    name = chance.choice(("Symbol", "Dim", "Ref."))

    def cell(value: float | None, places: int = 2) -> str:
        return "-" if value is None else f"{value:.{places}f}"

    def limits_of(value: dict[str, float | None], share: float = 1.0, places: int = 2) -> tuple[str, str, str]:
        low, nom, high = ((v if v is None else v * share) for v in (value["min"], value["nom"], value["max"]))
        return cell(low, places), cell(nom, places), cell(high, places)

    if how == "tolerance":
        return [(name, "Dimension (mm)"), *((own.get(k, k), _toleranced(v)) for k, v in known.items())]
    if how == "two units":
        # Letters beside millimetres, and inches to four places.
        head = (name, "mm Min", "mm Nom", "mm Max", "inch Min", "inch Nom", "inch Max")
        return [head, *((own.get(k, k), *limits_of(v), *limits_of(v, 1 / 25.4, 4)) for k, v in known.items())]
    rows = [(own.get(k, k), *limits_of(v)) for k, v in known.items()]
    if how == "described":
        rows = [(*row, MEANINGS.get(k, "")) for row, k in zip(rows, known, strict=True)]
        return [(name, "Min", "Nom", "Max", "Description"), *rows]
    return [(name, "Min", "Nom", "Max"), *rows]


def _toleranced(value: dict[str, float | None]) -> str:
    """A length in one text."""
    low, nom, high = value["min"], value["nom"], value["max"]
    if low is None or high is None:
        return f"{high:.2f} MAX" if high is not None else f"{nom:.2f} BSC"
    return f"{(low + high) / 2:.2f} ±{(high - low) / 2:.2f}" if nom is not None else f"{low:.2f} - {high:.2f}"


def first_page(name: str, maker: str, package: str) -> list[Mark]:
    """Title, characteristics and order codes."""
    what = "Low-noise sensor front end" if package else "Thick film chip resistor"
    marks = [Mark("text", [(300.0, 760.0)], text=f"{name}  {what}", size=16),
             Mark("text", [(300.0, 735.0)], text=maker, size=11)]  # fmt: skip
    electrical = [("Parameter", "Symbol", "Min", "Typ", "Max", "Unit"),
                  ("Supply voltage", "VDD", "1.7", "3.3", "5.5", "V"),
                  ("Supply current", "IDD", "", "1.2", "2.0", "mA"), ("Gain", "AV", "19", "20", "21", "dB"),
                  ("Operating temperature", "TA", "-40", "", "125", "°C")]  # fmt: skip
    marks += [Mark("text", [(300.0, 640.0)], text="Electrical characteristics", size=11)]
    marks += grid(electrical, [130, 60, 50, 50, 50, 50], 8, (105, 625))
    marks += [Mark("text", [(300.0, 470.0)], text="Ordering information", size=11)]
    codes = [("Order code", "Package", "Packing"), (f"{name}-R", package or "chip", "Tape and reel"),
             (f"{name}-T", package or "chip", "Tube")]  # fmt: skip
    return marks + grid(codes, [130, 110, 110], 8, (105, 455))


def make(number: int, seed: int, folder: Path) -> dict[str, Any]:
    """One document and its truth."""
    chance = random.Random(seed * 1000 + number)
    engine = available()[number % len(available())]
    family = chance.choice(list(WHOLE))
    views, values, pins = WHOLE[family](chance)
    style, own = a_style(chance), chance.choice(HOUSES[family])
    rules = chance.choice(("all", "all", "rows", "few"))
    style.quarter, style.stretch = False, 1.0
    name, maker = f"NVK-{chance.randint(2000, 9999)}", chance.choice(MAKERS)
    package, has_pad = package_name(family, values, pins), family == "no-lead-quad"
    known = {letter: limits(chance, letter, value) for letter, value in values.items()}
    rows = [] if family == "chip" else pin_rows(chance, pins, has_pad=has_pad)
    pages = [first_page(name, maker, package)]
    if rows:
        title = Mark("text", [(300.0, 780.0)], text="Pin description", size=11)
        pages.append([title, *grid([chance.choice(HEADINGS), *rows], [50, 80, 70, 200], 6.5, (90, 765), rules)])
    outline = [Mark("text", [(300.0, 785.0)], text=f"{package} package outline".strip(), size=11)]
    texts = {letter: own.get(letter, letter) for letter in values}
    box = views[0].box()
    scale = min(150 / (box[2] - box[0]), 130 / (box[3] - box[1]))
    for view, middle in zip(views, ((300.0, 650.0), (300.0, 455.0)), strict=True):
        outline += draw(view, style, scale, middle, texts)
        outline += asides(view, style, scale, middle, "TOP VIEW") if view is views[0] and chance.random() < 0.4 else []
    how = chance.choice(("limits", "limits", "tolerance", "two units", "described"))
    table_rows = dimension_rows(chance, own, known, how)
    widths = [60.0, 110.0] if how == "tolerance" else [60.0, *[55.0] * 3, *[60.0 + 60.0 * (how == "described")] * 3]
    outline += grid(table_rows, widths[: len(table_rows[0])], 7.5, (100, 340), rules)
    outline.append(Mark("text", [(420.0, 100.0)], text="All dimensions in millimetres", size=8))
    pages.append(outline)
    has_lands = chance.random() < 0.7 and family in PATTERNS
    pattern = PATTERNS[family](chance, values, pins) if has_lands else None
    if pattern is not None:
        pages.append(land_page(chance, pattern, style))
    path = folder / f"w{seed}-{number:03}-{engine}.pdf"
    bind(engine, pages, path)
    lands = [{"axis": r.axis, "Z": r.Z, "G": r.G, "X": r.X} for r in pattern.rows] if pattern else []
    return {"file": path.name, "name": name, "maker": maker, "family": family, "pins": pins, "package": package,
            "own": own, "limits": known, "pin_rows": rows, "rows": lands,
            "middle": pattern.middle if pattern else None}  # fmt: skip


def land_page(chance: random.Random, pattern: Any, style: Any) -> list[Mark]:
    """The suggested lands, with a table of their lengths for some."""
    values, is_lettered = lengths(pattern), chance.random() < 0.3
    own = chance.choice(OWN)
    named = {k: own.get(k[0], k[0]) + k[1:] for k in values}
    texts = named if is_lettered else {k: written(chance, k, v, pattern.pins) for k, v in values.items()}
    box = pattern.view.box()
    scale = min(170 / (box[2] - box[0]), 150 / (box[3] - box[1]))
    style.circled = False
    marks = draw(pattern.view, style, scale, (300.0, 520.0), texts, shade=chance.choice((None, 0.7, 0.0)))
    top = max(p[1] for mark in marks for p in mark.points)
    marks.append(Mark("text", [(300.0, top + 24)], text=chance.choice(TITLES), size=10))
    marks.append(Mark("text", [(300.0, 60.0)], text="All dimensions in mm", size=8))
    return marks + (
        letter_table([(named[k], f"{v:.2f}") for k, v in values.items()], (90.0, 300.0)) if is_lettered else []
    )


def bind(engine: str, pages: list[list[Mark]], path: Path) -> None:
    """Set each page by its program, and bind them to one document."""
    whole = pypdfium2.PdfDocument.new()
    for index, marks in enumerate(pages):
        single = path.with_name(f"{path.stem}-p{index}.pdf")
        ENGINES[engine][1](marks, [], single)
        part = pypdfium2.PdfDocument(single)
        whole.import_pages(part)
        part.close()
        single.unlink()
    whole.save(path)


if __name__ == "__main__":
    count, seed, folder = int(sys.argv[1]), int(sys.argv[2]), Path(sys.argv[3]).resolve()
    folder.mkdir(parents=True, exist_ok=True)
    made = [make(number, seed, folder) for number in range(count)]
    (folder / f"truth-{seed}.json").write_text("[\n" + ",\n".join(json.dumps(t) for t in made) + "\n]\n")
    for rest in folder.iterdir():
        if rest.suffix in (".html", ".tex", ".ps", ".aux", ".log"):
            rest.unlink()
    print(f"{len(made)} datasheets")
