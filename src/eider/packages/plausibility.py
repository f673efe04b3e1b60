"""Plausibility rules that families share: each compares lengths of one package and names both."""

from collections.abc import Iterator, Sequence

from eider.geometry.lengths import format_limits
from eider.geometry.rounding import NOISE
from eider.model.finding import Severity
from eider.packages.family import Dims, Implausible

# A row of leads fills at least so much of the side on which it stands.
FILLED = 0.5


def larger(dims: Dims, big: str, small: str, why: str, *, at_worst: bool = True) -> Iterator[Implausible]:
    """`big` must be larger than `small` even where the tolerances meet it worst; without `at_worst` in the middle."""
    if big not in dims or small not in dims:
        return
    least, most = (dims[big].lower, dims[small].upper) if at_worst else (dims[big].middle, dims[small].middle)
    if least <= most + NOISE:
        yield Implausible(
            (big, small),
            f"{big} is not larger than {small}: {why}",
            f"{big} {format_limits(dims[big])}, {small} {format_limits(dims[small])}",
            f"{big} > {small}",
        )


def feet_apart(dims: Dims, span: str, foot: str) -> Iterator[Implausible]:
    """The feet of two opposing rows must not meet under the package."""
    if span in dims and foot in dims and 2 * dims[foot].upper >= dims[span].lower - NOISE:
        yield Implausible(
            (span, foot),
            f"feet of length {foot} from both sides would meet within the span {span}",
            f"2 × {foot} = {2 * dims[foot].upper:g} mm, {span} {format_limits(dims[span])}",
            f"2 × {foot} < {span}",
        )


def leads_fit(dims: Dims, along: str, count: int, *, fills: bool = True) -> Iterator[Implausible]:
    """A row of so many positions must fit along the body, and fills the better part of it."""
    if {along, "e", "b"} <= set(dims):
        ends = [(count - 1) / 2 * dims["e"].middle, -(count - 1) / 2 * dims["e"].middle]
        yield from row_fits(dims, along, ends, fills=fills)


def row_fits(dims: Dims, along: str, places: Sequence[float], *, fills: bool = True) -> Iterator[Implausible]:
    """Leads at these places along a side (mm) must not reach beyond the body, and fill half of the side or more.

    A single lead may stand anywhere; a row that leaves most of its side empty is of another package, unless it need
    not be one that `fills` it.
    """
    if not {along, "e", "b"} <= set(dims) or not len(places):
        return
    reach = max(places) - min(places)
    row = reach + dims["b"].lower
    if row > dims[along].upper + NOISE:
        yield Implausible(
            (along, "e"),
            f"the leads at the pitch e do not fit along the body {along}",
            f"row {row:g} mm, {along} {format_limits(dims[along])}",
            f"row of leads ≤ {along}",
        )
    elif fills and reach and reach + dims["b"].upper < FILLED * dims[along].lower:
        yield Implausible(
            (along, "e"),
            f"the leads at the pitch e fill less than half of the body {along}: pins, pitch or body may be another's",
            f"row {row:g} mm, {along} {format_limits(dims[along])}",
            f"row of leads ≥ {FILLED:g} {along}",
            Severity.CAUTION,
        )


def clear_of_thermal(dims: Dims, body: str, pad: str) -> Iterator[Implausible]:
    """At nominal size the terminals end before the thermal pad begins."""
    if not {body, pad, "L"} <= set(dims):
        return
    room = (dims[body].middle - dims[pad].middle) / 2
    if dims["L"].middle >= room > 0:
        yield Implausible(
            ("L", pad),
            f"terminals L this long run into the thermal pad {pad}: {body} and {pad} leave less on each side",
            f"L nominal {dims['L'].middle:g} mm",
            f"L < ({body} − {pad})/2 = {room:g} mm",
            Severity.CAUTION,
        )


def foot_outside_body(dims: Dims, span: str, body: str, foot: str) -> Iterator[Implausible]:
    """At nominal size a gull-wing foot ends before the body begins."""
    if not {span, body, foot} <= set(dims):
        return
    room = (dims[span].middle - dims[body].middle) / 2
    if dims[foot].middle >= room > 0:
        yield Implausible(
            (foot, span, body),
            f"a foot {foot} this long reaches under the body: {span} and {body} leave less on each side",
            f"{foot} nominal {dims[foot].middle:g} mm",
            f"{foot} < ({span} − {body})/2 = {room:g} mm",
        )


def inside(dims: Dims, small: str, big: str, what: str) -> Iterator[Implausible]:
    """At nominal size one length lies within another."""
    if small in dims and big in dims and dims[small].middle >= dims[big].middle:
        yield Implausible(
            (small, big),
            f"{small} is not smaller than {big}: {what}",
            f"{small} {format_limits(dims[small])}, {big} {format_limits(dims[big])}",
            f"{small} < {big}",
        )
