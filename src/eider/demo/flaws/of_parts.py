"""Slips in match, body and facts."""

from eider.commands import fact_edits, match_edits
from eider.demo.flaws.changes import Change, Flaw, replace
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
