"""Lands of every family, and what of a pad a format carries, whichever way it describes the form."""

from msgspec.structs import replace

from eider.commands.parts.evaluation import EvaluationRules, evaluate_part
from eider.commands.parts.new_parts import new_part
from eider.library import Library
from eider.model.bundle import Bundle
from eider.model.pattern import Opening, Pad, Pattern
from eider.rulebooks import standard_rulebook
from family_samples import sample


def family_part(library: Library, family: str) -> Bundle:
    """A part of a family with its lands, without pins."""
    made = new_part("P", "ic", library.settings)
    rules = EvaluationRules(standard_rulebook(), library.settings)
    bundle = evaluate_part(replace(made, sheet=replace(sample(family), id=made.sheet.id)), rules).bundle
    assert bundle.footprint.pattern is not None
    return bundle


def family_lands(library: Library, family: str) -> Pattern:
    """The lands of a family."""
    pattern = family_part(library, family).footprint.pattern
    assert pattern is not None
    return pattern


def form_extent(form: Pad | Opening) -> tuple[float, ...]:
    """A form by its box, whichever way round it is described."""
    return tuple(round(value, 3) + 0.0 for value in form.box)


def carried_pad(pad: Pad) -> tuple[object, ...]:
    """What of a pad comes back from a format of shapes on layers."""
    hole = (
        (round(pad.hole.width, 3), round(pad.hole.height, 3), *(round(v, 3) for v in pad.hole_centre))
        if pad.hole
        else ()
    )
    bare = pad.hole is not None and not pad.plated
    shape = pad.shape if pad.width != pad.height or pad.shape != "oval" else "circle"
    openings = (sorted({form_extent(o) for o in pad.mask}), sorted({form_extent(o) for o in pad.paste}))
    return (
        pad.number,
        form_extent(pad),
        shape,
        round(pad.corner_radius, 3),
        hole,
        pad.plated,
        "" if bare else pad.layers,
        openings,
    )
