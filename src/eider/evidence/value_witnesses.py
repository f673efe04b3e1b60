"""What else of a part says the same as a value that was read: a second unit, a figure, a sum that has to fit."""

import re
from collections.abc import Iterator
from typing import Literal

import msgspec

from eider.evidence.figure_comparison import names_of, same_name
from eider.geometry.limits import Limits
from eider.model.address import Address, DimensionAddress, PinAddress
from eider.model.bundle import Bundle
from eider.model.package_sheet import PackageSheet
from eider.model.wording import counted

MM_PER_INCH = 25.4
# Two units agree to half of the last digit that inches are printed with, and to a hair more for the rounding of both.
HALF_A_DIGIT = 0.55
# Leads take at least so much of the length that they are along, and at most all of it.
LEAST_TAKEN = 0.45
_NUMBER = re.compile(r"\d*[.,]\d+|\d+")
# By family: how many sides have leads, and along which length they stand.
_ALONG = {
    "gullwing-dual": (2, "D"),
    "no-lead-dual": (2, "D"),
    "j-lead-dual": (2, "D"),
    "dual-in-line": (2, "D"),
    "gullwing-quad": (4, "D1"),
    "j-lead-quad": (4, "D1"),
    "no-lead-quad": (4, "D"),
}


class Witness(msgspec.Struct, frozen=True):
    """What agrees with a value, in words; it says that the value was read right, or that it is the right one."""

    words: str
    about: Literal["reading", "meaning"]


def witnesses_of(bundle: Bundle, address: Address) -> tuple[Witness, ...]:
    """What in a part agrees with a value of it; what disagrees is no witness, and the checks speak of it."""
    if isinstance(address, DimensionAddress):
        return tuple(_of_dimension(bundle.sheet, address.letter))
    if isinstance(address, PinAddress):
        return tuple(_of_pin(bundle, address.number))
    return ()


def has_second_reading(bundle: Bundle, address: Address) -> bool:
    """Whether something else that is printed gives the same value."""
    return any(witness.about == "reading" for witness in witnesses_of(bundle, address))


def _of_dimension(sheet: PackageSheet, letter: str) -> Iterator[Witness]:
    dimension = sheet.dims.get(letter)
    if dimension is None or dimension.limits is None:
        return
    if dimension.evidence is not None and dimension.evidence.agrees:
        yield Witness(f"in another unit it says the same: {dimension.evidence.agrees}", "reading")
    elif dimension.evidence is not None and (inches := _in_inches(dimension.limits, dimension.evidence.text)):
        yield Witness(f"in inches it says the same: {', '.join(inches)}", "reading")
    sides, along = _ALONG.get(sheet.family, (0, ""))
    if sides and letter in ("e", along) and (told := _pitch_sum(sheet, sides, along)):
        yield Witness(told, "meaning")
    if letter in ("E", "E1", "L") and sheet.family.startswith("gullwing-dual") and (told := _foot_sum(sheet)):
        yield Witness(told, "meaning")


def _in_inches(limits: Limits, text: str) -> list[str]:
    """The numbers of a printed row that say each of the limits in inches, beside those that say them in millimetres."""
    numbers = [found[0].replace(",", ".") for found in _NUMBER.finditer(text)]
    found: list[str] = []
    for limit in dict.fromkeys(value for value in (limits.min, limits.nom, limits.max) if value is not None):
        if not any(abs(float(number) - limit) < 1e-6 for number in numbers):
            return []
        inches = next((number for number in numbers if _is_inches(number, limit)), None)
        if inches is None:
            return []
        found.append(inches)
    return found


def _is_inches(number: str, limit: float) -> bool:
    digits = len(number.partition(".")[2])
    room = HALF_A_DIGIT * 10**-digits
    return digits > 0 and limit > 0 and abs(float(number) - limit / MM_PER_INCH) <= room


def _middle(sheet: PackageSheet, letter: str) -> float | None:
    dimension = sheet.dims.get(letter)
    return dimension.limits.middle if dimension and dimension.limits else None


def _pitch_sum(sheet: PackageSheet, sides: int, along: str) -> str:
    """How leads at the pitch fill the side along which they stand; empty where they do not fit, or leave half of it."""
    pitch, length = _middle(sheet, "e"), _middle(sheet, along)
    leads = sheet.pins // sides
    if pitch is None or length is None or leads < 2:
        return ""
    taken = (leads - 1) * pitch
    fits = LEAST_TAKEN * length <= taken <= length
    return f"{counted(leads, 'lead')} a side at {pitch:g} mm take {taken:g} of {along}, {length:g} mm" if fits else ""


def _foot_sum(sheet: PackageSheet) -> str:
    """How a foot fits between body and span; empty where it does not."""
    span, body, foot = (_middle(sheet, letter) for letter in ("E", "E1", "L"))
    if span is None or body is None or foot is None:
        return ""
    beside = (span - body) / 2
    fits = foot < beside < 4 * foot
    return f"beside the body (E − E1) / 2 = {beside:.2f} mm are left for a foot of {foot:g} mm" if fits else ""


def _of_pin(bundle: Bundle, number: str) -> Iterator[Witness]:
    figure = bundle.part.pinout
    pin = next((pin for pin in bundle.symbol.pins if pin.number == number), None)
    if figure is None or pin is None:
        return
    drawn = next((drawn.name for drawn in figure.pins if drawn.number == number), "")
    if drawn and {same_name(piece) for piece in (drawn, *drawn.split("/"))} & names_of(pin):
        yield Witness(f"the pinout figure on page {figure.page} says {drawn}, too", "reading")
