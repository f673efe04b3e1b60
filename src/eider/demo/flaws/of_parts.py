"""Slips in match, body and facts."""

from collections.abc import Callable, Sequence

from eider.commands.facts import fact_edits
from eider.commands.pins import match_edits, pin_edits
from eider.demo.flaws.changes import Change, Flaw, replace, with_pin
from eider.model.bundle import Bundle


def _matched(**pads: str) -> Change:
    def change(bundle: Bundle) -> Bundle:
        for pin, pad in pads.items():
            bundle = match_edits.set_match(bundle, pin.removeprefix("p"), pad.split())
        return bundle

    return change


def _on_its_side(bundle: Bundle) -> Bundle:
    """The stored body as a model has it that lies on another axis."""
    result = bundle.body.result
    if result is None:
        return bundle
    turned = tuple((x, z, y) for x, y, z in result.bounds)
    return replace(bundle, body=replace(bundle.body, result=replace(result, bounds=turned)))


def _named_otherwise(taken: Callable[[str, Sequence[str]], str]) -> Change:
    """The names of the pin table as someone takes them who reads the row of another pin for each number."""

    def change(bundle: Bundle) -> Bundle:
        pins = bundle.symbol.pins
        numbers, by_number = [pin.number for pin in pins], {pin.number: pin for pin in pins}
        rows = [by_number[taken(pin.number, numbers)] for pin in pins]
        named = [replace(row, number=pin.number) for row, pin in zip(rows, pins, strict=True)]
        return pin_edits.set_pin_table(bundle, named)

    return change


def _down_both_sides(number: str, numbers: Sequence[str]) -> str:
    half, at = len(numbers) // 2, int(number)
    return number if at <= half else str(len(numbers) + half + 1 - at)


def _row_for_column(number: str, _numbers: Sequence[str]) -> str:
    return f"{'ABCDEFGH'[int(number[1:]) - 1]}{'ABCDEFGH'.index(number[0]) + 1}"


def _drawn(place: Callable[[str, int], int]) -> Change:
    """The pinout figure as it is where the pins are at each other's places: `place` says for each pin at whose."""

    def change(bundle: Bundle) -> Bundle:
        figure = bundle.part.pinout
        if figure is None:
            return bundle
        at = {pin.number: (pin.x, pin.y) for pin in figure.pins}
        count = len(figure.pins)
        moved = [(pin, at[str(place(pin.number, count))]) for pin in figure.pins]
        pins = tuple(replace(pin, x=x, y=y) for pin, (x, y) in moved)
        return replace(bundle, part=replace(bundle.part, pinout=replace(figure, pins=pins)))

    return change


FLAWS = (
    Flaw("match.pin-without-pad", "a pin matched with a pad that is not there", _matched(p9="9 77")),
    Flaw(
        "match.pad-without-pin",
        "a pad that no pin is matched with",
        _matched(p9="10"),
        brings=frozenset({"match.pad-of-two-pins"}),
    ),
    Flaw("match.pad-of-two-pins", "one pad for two pins", _matched(p9="9 10")),
    Flaw(
        "match.said-otherwise",
        "a pad with a pin that is called mechanical",
        lambda b: match_edits.set_mechanical(b, ["9"]),
        brings=frozenset({"symbol.count-against-package"}),
    ),
    Flaw("match.exchanged", "a swapped pair of pins", _matched(p9="10", p10="9")),
    Flaw(
        "match.names-exchanged",
        "two rows of the pin table exchanged",
        _named_otherwise(lambda number, _numbers: {"9": "10", "10": "9"}.get(number, number)),
    ),
    Flaw(
        "match.names-exchanged",
        "a pin table read down both sides",
        _named_otherwise(_down_both_sides),
        variant="down",
    ),
    Flaw(
        "match.names-exchanged",
        "a connector's pins in the order of its mating half",
        _named_otherwise(lambda number, numbers: str(len(numbers) + 1 - int(number))),
        variant="mating",
    ),
    Flaw(
        "match.names-exchanged",
        "a ball map whose rows were taken for its columns",
        _named_otherwise(_row_for_column),
        base="NVK-M64B",
        variant="grid",
    ),
    Flaw(
        "match.placed-otherwise",
        "a package taken from its view from below",
        _drawn(lambda number, count: count + 1 - int(number)),
    ),
    Flaw(
        "match.placed-otherwise",
        "a package that is numbered clockwise",
        _drawn(lambda number, count: (count + 1 - int(number)) % count + 1),
        variant="clockwise",
    ),
    Flaw(
        "match.unlike-figure",
        "a supply with the name of another part",
        with_pin("9", name="VREF2"),
    ),
    Flaw("body.not-as-recipe", "a model that lies on its side", _on_its_side, stored=True),
    Flaw("facts.no-category", "no class", lambda b: fact_edits.set_about(b, category="")),
    Flaw("facts.required", "no manufacturer", lambda b: fact_edits.set_fact(b, "Manufacturer", "")),
    Flaw(
        "facts.other-spelling", "a fact spelled two ways", lambda b: fact_edits.rename_fact(b, "Supply voltage", "vcc")
    ),
    Flaw(
        "facts.wrong-kind",
        "a word where a range is wanted",
        lambda b: fact_edits.set_fact(b, "Operating temperature", "industrial"),
        brings=frozenset({"evidence.changed-by-hand"}),
    ),
    Flaw(
        "facts.not-composed",
        "a description that was typed",
        lambda b: b,
        base="LYN-Y32",
    ),
    Flaw("facts.part-name", "a name against the convention", lambda b: fact_edits.set_about(b, name="nvk 1216")),
    Flaw("facts.no-datasheet", "no datasheet", lambda b: replace(b, part=replace(b.part, datasheets=()))),
)
