"""How often the letters of a datasheet are understood: measure_letters.py SEED [COUNT] [-v].

Packages of several families are drawn at random near real sizes and written down as houses write them: in their own
letters, with rows that no family has a use for, some with a column of descriptions. Prints for each style how often
the first proposal, or one of the first three, gives every length that the family has its letter, and how many rows
are given a meaning that they do not have.
"""

import random
import sys
from collections import Counter
from collections.abc import Mapping
from typing import NamedTuple

from eider.geometry.limits import Limits
from eider.model.package_sheet import PackageSheet
from eider.packages.letters.letter_proposals import DatasheetLetter, propose_letters
from eider.packages.registry import family_of


class Style(NamedTuple):
    """How a house writes a family: its letter for each of the standard's, descriptions, rows beside."""

    family: str
    letters: Mapping[str, str]
    described: Mapping[str, str] = {}
    beside: Mapping[str, float] = {}


SIZES: Mapping[str, tuple[int, Mapping[str, tuple[float, float]]]] = {
    # Letter: middle and half the width of its limits; None of them is exact, and a height has its maximum alone.
    "gullwing-dual": (8, {"A": (1.6, 0.0), "A1": (0.15, 0.05), "b": (0.41, 0.08), "c": (0.21, 0.04), "D": (4.9, 0.1),
                          "E": (6.0, 0.2), "E1": (3.9, 0.1), "e": (1.27, 0), "L": (0.75, 0.25)}),
    "gullwing-quad": (32, {"A": (1.5, 0.0), "A1": (0.1, 0.05), "b": (0.37, 0.06), "c": (0.15, 0.04), "D": (9.0, 0.2),
                           "D1": (7.0, 0.1), "E": (9.0, 0.2), "E1": (7.0, 0.1), "e": (0.8, 0), "L": (0.6, 0.15)}),
    "no-lead-quad": (24, {"A": (0.8, 0.0), "A1": (0.03, 0.02), "b": (0.25, 0.05), "c": (0.2, 0), "D": (4.0, 0.1),
                          "E": (4.0, 0.1), "e": (0.5, 0), "L": (0.4, 0.1), "D2": (2.5, 0.1), "E2": (2.5, 0.1)}),
    "transistor": (3, {"A": (1.0, 0.0), "A1": (0.05, 0.05), "b": (0.4, 0.1), "c": (0.13, 0.04), "D": (2.9, 0.1),
                       "E": (2.4, 0.2), "E1": (1.3, 0.1), "e": (0.95, 0), "L": (0.45, 0.1)}),
    "chip": (2, {"D": (2.0, 0.15), "E": (1.25, 0.1), "A": (0.9, 0.1), "L": (0.45, 0.15)}),
    "moulded": (2, {"D": (3.5, 0.2), "E": (2.8, 0.2), "A": (1.9, 0.0), "b": (2.2, 0.1), "L": (0.8, 0.3)}),
}  # fmt: skip
WORDS = {
    "A": "Overall height", "A1": "Standoff", "b": "Lead width", "c": "Lead thickness", "e": "Pitch", "L": "Foot length",
}  # fmt: skip


def own_letters(family: str) -> Mapping[str, str]:
    """The standard's letters as they are."""
    return {letter: letter for letter in SIZES[family][1]}


STYLES: Mapping[str, Style] = {
    "the standard's, dual": Style("gullwing-dual", own_letters("gullwing-dual"), {}, {"L1": 1.05, "R": 0.1}),
    "the standard's, quad": Style("gullwing-quad", own_letters("gullwing-quad"), {}, {"L1": 1.0, "A2": 1.4}),
    "the standard's, no leads": Style("no-lead-quad", own_letters("no-lead-quad"), {}, {"K": 0.35}),
    "HE and Lp, dual": Style(
        "gullwing-dual",
        {"A": "A", "A1": "A1", "b": "bp", "c": "c", "D": "D", "E": "HE", "E1": "E", "e": "e", "L": "Lp"},
        {}, {"A2": 1.4, "L": 1.05, "Q": 0.65, "v": 0.25, "w": 0.25, "y": 0.1, "Z": 0.5},
    ),
    "HD and HE, quad": Style(
        "gullwing-quad",
        {"A": "A", "A1": "A1", "b": "bp", "c": "c", "D": "HD", "D1": "D", "E": "HE", "E1": "E", "e": "e", "L": "Lp"},
        {}, {"A2": 1.4, "L": 1.0, "v": 0.2, "w": 0.1, "y": 0.1},
    ),
    "A B C D F G J K P, dual": Style(
        "gullwing-dual",
        {"A": "C", "A1": "K", "b": "D", "c": "J", "D": "A", "E": "P", "E1": "B", "e": "G", "L": "F"},
        {}, {"R": 0.35},
    ),
    "A B C D H J K L S, transistor": Style(
        "transistor", {"A": "C", "A1": "H", "b": "D", "c": "J", "D": "A", "E": "S", "E1": "B", "e": "L", "L": "K"},
        {}, {"G": 1.9, "V": 0.5},
    ),
    "described, dual": Style(
        "gullwing-dual",
        {"A": "A", "A1": "F", "b": "B", "c": "C", "D": "H", "E": "J", "E1": "G", "e": "D", "L": "K"},
        {**WORDS, "D": "Body length", "E": "Overall width", "E1": "Body width"},
    ),
    "described, quad without leads": Style(
        "no-lead-quad",
        {"A": "A", "A1": "A1", "b": "b", "c": "A3", "D": "D", "E": "E", "e": "e", "L": "L", "D2": "P", "E2": "Q"},
        {**WORDS, "b": "Terminal width", "L": "Terminal length", "c": "Terminal thickness", "D": "Package width",
         "E": "Package length", "D2": "Exposed pad width", "E2": "Exposed pad length"},
        {"K": 0.3},
    ),
    "described, transistor": Style(
        "transistor",
        {"A": "T", "A1": "S", "b": "W", "c": "C", "D": "L", "E": "H", "E1": "B", "e": "P", "L": "F"},
        {**WORDS, "D": "Molded package length", "E": "Overall width", "E1": "Molded package width", "e": "Lead pitch"},
    ),
    "L W T, chip": Style("chip", {"D": "L", "E": "W", "A": "T", "L": "e"}),
    "L W T a, chip": Style("chip", {"D": "L", "E": "W", "A": "T", "L": "a"}),
    "L W H, moulded": Style("moulded", {"D": "L", "E": "W", "A": "H", "b": "F", "L": "S"}),
}  # fmt: skip


def rows_of(style: Style, chance: random.Random) -> tuple[list[DatasheetLetter], int]:
    """The rows of one package, in any order, and its pins.

    It is a real one's size up to a tenth, and its lengths keep their proportions to a fiftieth: a body as wide as the
    leads reach is not a package.
    """
    pins, lengths = SIZES[style.family]
    rows, size_of_all = [], chance.uniform(0.92, 1.08)
    for letter, (middle, half) in lengths.items():
        size = round(middle * size_of_all * chance.uniform(0.98, 1.02), 2)
        limits = Limits(nom=size) if not half else Limits(min=round(size - half, 2), max=round(size + half, 2))
        if letter == "A" and not half:
            limits = Limits(max=size)
        rows.append(DatasheetLetter(style.letters[letter], limits, style.described.get(letter, "")))
    rows += [DatasheetLetter(own, Limits(nom=size)) for own, size in style.beside.items()]
    if chance.random() < 0.5:
        chance.shuffle(rows)
    return rows, pins


def measured(seed: int, count: int, *, tells: bool) -> None:
    """Print the figures of every style, and of all."""
    chance, total = random.Random(seed), Counter[str]()
    for name, style in STYLES.items():
        got: Counter[str] = Counter(tables=count)
        wanted = {own: standard for standard, own in style.letters.items()}
        for _ in range(count):
            rows, pins = rows_of(style, chance)
            family = family_of(style.family)
            found = propose_letters(family, PackageSheet(name="", family=family.key, pins=pins), rows)
            right = [proposal.letters == wanted for proposal in found[:3]]
            got["first"] += bool(right[:1] == [True])
            got["among three"] += any(right)
            got["rows given another meaning"] += sum(
                wanted.get(own) != standard for own, standard in (found[0].letters if found else {}).items()
            )
            if tells and right[:1] != [True]:
                first = found[0].letters if found else {}
                print(f"  {name}: {({o: s for o, s in first.items() if wanted.get(o) != s})} "
                      f"without {sorted(set(wanted) - set(first))}")  # fmt: skip
        print(f"{name:32}", *(f"{key} {value}" for key, value in got.items()))
        total.update(got)
    share = {key: total[key] / total["tables"] for key in ("first", "among three")}
    print(f"{'all':32}", *(f"{key} {value:.1%}" for key, value in share.items()), dict(total))


if __name__ == "__main__":
    numbers = [int(word) for word in sys.argv[1:] if word.isdigit()]
    measured(numbers[0], numbers[1] if len(numbers) > 1 else 20, tells="-v" in sys.argv)
