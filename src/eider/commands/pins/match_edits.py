"""Which pads belong to which pin: matched one by one, by a table, or by proposals that say why."""

from collections.abc import Iterable, Mapping, Sequence

import msgspec

from eider.errors import InputError
from eider.evidence.pin_pads import pads_by_pin
from eider.model.bundle import Bundle
from eider.symbols.pin_names import THERMAL_NAMES, natural_key

replace = msgspec.structs.replace
# Headings of a table of pins and pads.
_PIN_HEADINGS = frozenset({"pin", "pin number", "pin no", "pin no."})


class MatchProposal(msgspec.Struct, frozen=True):
    """The pads that a pin could have, and why."""

    pin: str
    pads: tuple[str, ...]
    reason: str


def set_match(bundle: Bundle, pin: str, pads: Sequence[str]) -> Bundle:
    """Which pads belong to a pin; its own number alone is the rule and needs no entry.

    A pin that gets pads is internal no more, nor are its pads mechanical.
    """
    part = bundle.part
    match: Mapping[str, tuple[str, ...]] = {**part.match, pin: tuple(pads)}
    kept = {key: value for key, value in match.items() if value and value != (key,)}
    internal = tuple(number for number in part.internal if number != pin)
    mechanical = tuple(number for number in part.mechanical if number not in pads)
    return replace(bundle, part=replace(part, match=kept, internal=internal, mechanical=mechanical))


def set_internal(bundle: Bundle, pins: Iterable[str], *, internal: bool = True) -> Bundle:
    """Pins that have no pad, said to be so; or have one again."""
    chosen, part = set(pins), bundle.part
    numbers = {*part.internal, *chosen} if internal else set(part.internal) - chosen
    match = {pin: pads for pin, pads in part.match.items() if not (internal and pin in chosen)}
    return replace(bundle, part=replace(part, internal=tuple(sorted(numbers, key=natural_key)), match=match))


def set_mechanical(bundle: Bundle, pads: Iterable[str], *, mechanical: bool = True) -> Bundle:
    """Pads that belong to no pin, said to be so; or to one again."""
    chosen, part = set(pads), bundle.part
    numbers = {*part.mechanical, *chosen} if mechanical else set(part.mechanical) - chosen
    return replace(bundle, part=replace(part, mechanical=tuple(sorted(numbers, key=natural_key))))


def match_by_table(bundle: Bundle, rows: Sequence[Sequence[str]]) -> tuple[Bundle, tuple[str, ...]]:
    """Pins and their pads from a table: pin in the first column, or under such a heading, its pads in the next.

    Returns the part, and the rows that speak of pins or pads that it does not have.

    Raises:
        InputError: no row names a pin of the part.
    """
    pins = {pin.number for pin in bundle.symbol.pins}
    pads = {pad.number for pad in bundle.footprint.pattern.pads} if bundle.footprint.pattern else set()
    found: dict[str, list[str]] = {}
    doubts = []
    start = 1 if rows and rows[0] and rows[0][0].strip().lower() in _PIN_HEADINGS else 0
    for line, row in enumerate(rows[start:], start=start + 1):
        cells = [cell.strip() for cell in row]
        if len(cells) < 2 or not cells[0]:
            continue
        numbers = [number for cell in cells[1:] for number in cell.replace(",", " ").replace(";", " ").split()]
        unknown = [*([f"pin {cells[0]}"] if cells[0] not in pins else []),
                   *(f"pad {number}" for number in numbers if number not in pads)]  # fmt: skip
        if unknown:
            doubts.append(f"line {line}: there is no {unknown[0]}")
        elif numbers:
            found.setdefault(cells[0], []).extend(numbers)
    if not found:
        raise InputError(
            f"no row matches a pin with a pad; {doubts[0] if doubts else 'copy two columns: pin and pads'}"
        )
    for pin, numbers in found.items():
        bundle = set_match(bundle, pin, tuple(dict.fromkeys(numbers)))
    return bundle, tuple(doubts)


def match_proposals(bundle: Bundle) -> tuple[MatchProposal, ...]:
    """Pads for the pins that have none: of the same number written otherwise, of their name, or in the same place.

    Nothing is matched by itself: each is a proposal with its reason.
    """
    pads = (
        list(dict.fromkeys(p.number for p in bundle.footprint.pattern.pads if p.number and p.plated))
        if bundle.footprint.pattern
        else []
    )
    there, pads_of = set(pads), pads_by_pin(bundle)
    taken = {pad for numbers in pads_of.values() for pad in numbers} | set(bundle.part.mechanical)
    free = [pad for pad in sorted(pads, key=natural_key) if pad not in taken]
    wanting = [
        pin for pin in bundle.symbol.pins
        if pin.number not in bundle.part.internal and there.isdisjoint(pads_of[pin.number])
    ]  # fmt: skip
    found: list[MatchProposal] = []

    def propose(pin: str, numbers: Sequence[str], reason: str) -> None:
        found.append(MatchProposal(pin, tuple(numbers), reason))
        free[:] = [pad for pad in free if pad not in numbers]

    for pin in wanting:
        same = [pad for pad in free if _plain(pad) == _plain(pin.number)]
        if same:
            propose(pin.number, same, f"number {pin.number} written as {', '.join(same)}")
    for pin in (p for p in wanting if p.number not in {f.pin for f in found}):
        named = [pad for pad in free if pad.lower().rstrip("0123456789") in (pin.name.lower(), pin.number.lower())]
        if named:
            propose(pin.number, named, f"pads bear the name {pin.name or pin.number}")
        elif pin.name.lower() in THERMAL_NAMES and len(free) == 1:
            propose(pin.number, free, f"{pin.name} is the only pin left for the only pad left")
    rest = [p for p in wanting if p.number not in {f.pin for f in found}]
    if rest and len(rest) == len(free):
        for pin, pad in zip(sorted(rest, key=lambda p: natural_key(p.number)), list(free), strict=True):
            propose(pin.number, (pad,), "as many pins as pads are left: in their order")
    return tuple(found)


def _plain(number: str) -> str:
    """A number without what does not count: A01 is A1, P3 and 3 are not one."""
    letters = number.rstrip("0123456789")
    digits = number[len(letters) :]
    return f"{letters.lower()}{int(digits)}" if digits else letters.lower()


def use_proposals(bundle: Bundle, proposals: Iterable[MatchProposal]) -> Bundle:
    """Match by some proposals."""
    for proposal in proposals:
        bundle = set_match(bundle, proposal.pin, proposal.pads)
    return bundle
