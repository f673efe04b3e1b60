"""Slips in models that makers deliver: of the converter, whose file is sound."""

from typing import Any

from eider.demo.flaws.changes import Change, Flaw, replace
from eider.demo.maker_models import CONVERTER, placed_model
from eider.model.body import ImportedModel, ModelTerminal
from eider.model.bundle import Bundle


def _with(model: ImportedModel) -> Change:
    return lambda bundle: replace(bundle, body=replace(bundle.body, model=model))


def _measured(**changes: Any) -> Change:
    """The converter's model, of which something else was measured."""
    model = placed_model(CONVERTER)
    return _with(replace(model, measure=replace(model.measure, **changes)))


def _floating(bundle: Bundle) -> Bundle:
    """A model that was moved up by hand."""
    model = placed_model(CONVERTER)
    (x0, y0, z0), (x1, y1, z1) = model.measure.bounds
    measure = replace(model.measure, seating=0.2, bounds=((x0, y0, z0 + 0.2), (x1, y1, z1 + 0.2)))
    x, y, z = model.offset
    return _with(replace(model, offset=(x, y, z + 0.2), measure=measure))(bundle)


def _shifted(by: float) -> Change:
    """Terminals that are beside their pads, as after a nudge along the row."""
    moved = [(t.number, t.box) for t in placed_model(CONVERTER).measure.terminals]
    return _measured(terminals=tuple(ModelTerminal(n, (a, b + by, c, d + by)) for n, (a, b, c, d) in moved))


_LOW, _HIGH = placed_model(CONVERTER).measure.bounds
FLAWS = (
    Flaw("body.seating", "a model that floats above the board", _floating, brings=frozenset({"body.height"})),
    Flaw("body.height", "the model of a thicker package", _measured(bounds=(_LOW, (*_HIGH[:2], 1.75)))),
    Flaw(
        "body.extents",
        "the model of a shorter package",
        _measured(bounds=((_LOW[0], -2.1, 0.0), (_HIGH[0], 2.1, _HIGH[2]))),
    ),
    Flaw("body.terminal-off-land", "a model that was pushed along its rows", _shifted(0.4)),
    Flaw(
        "body.terminal-count",
        "the model of a package with two leads less",
        _measured(terminals=placed_model(CONVERTER).measure.terminals[:-2]),
    ),
    Flaw("body.pin-one", "a model without a mark", _measured(pin1="ambiguous", mark_at="")),
    Flaw("body.mirrored", "a mirrored model", _measured(pin1="ambiguous", mark_at="16")),
    Flaw("body.unit", "inches taken for millimetres", _with(replace(placed_model(CONVERTER), unit="mm", scale=25.4))),
    Flaw("body.not-closed", "a model with an open solid", _measured(unsound=("body",))),
    Flaw("body.no-colours", "a grey model", _measured(colours=0)),
    Flaw("body.too-heavy", "a model with every radius and letter", _measured(triangles=412_680)),
    Flaw(
        "body.outside-courtyard",
        "a model with a lever beside it",
        _measured(bounds=((_LOW[0] - 1.2, *_LOW[1:]), _HIGH)),
        brings=frozenset({"body.extents"}),
    ),
    Flaw(
        "body.far-from-origin",
        "a model cut out of a rack",
        _with(replace(placed_model(CONVERTER), offset=(-3.2, -1842.5, -2.54))),
    ),
)
