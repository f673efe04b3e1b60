"""The lands that a manufacturer suggests, from the drawing in the datasheet into the footprint, with their evidence."""

from collections.abc import Mapping

import msgspec

from eider.commands.datasheets.captured_values import datasheet_evidence
from eider.datasheets.figures.land_drawings import LandDrawing, LetterValue, WrittenLength
from eider.errors import InputError
from eider.evidence.evidence_changes import put_value
from eider.lands.drawn_pattern import ReadDistance, land_length_disagreement, pattern_of_drawing
from eider.lands.land_layout import LaidLands
from eider.lands.manufacturer_pattern import FORMS
from eider.model.address import ManufacturerLengthAddress
from eider.model.bundle import Bundle
from eider.model.footprint import SuggestedLands

replace = msgspec.structs.replace
# Lands that a table gives by the standard's letters are of the package where they are not off by more than this share
# of what is computed: makers' own patterns lie between levels A and C and a little beyond.
OFF_COMPUTED = 0.3


class LandSuggestion(msgspec.Struct, frozen=True):
    """What a drawing of suggested lands gives: for each group its form with the values of the drawing by letter, and
    what was not understood of it, in words."""

    values: tuple[tuple[SuggestedLands, dict[str, LetterValue]], ...]
    doubts: tuple[str, ...]

    @property
    def words(self) -> str:
        """What was read, for a line of text."""
        groups = (
            f"{lands.group}: " + ", ".join(f"{key} {value.text}" for key, value in values.items())
            for lands, values in self.values
        )
        return "; ".join(groups)


def suggestion_of(drawing: LandDrawing, laid: LaidLands) -> LandSuggestion:
    """What a drawing gives for the lands of a package.

    Raises:
        InputError: it has another count of lands than the package, or they lie otherwise.
    """
    told = {index: fault for index, length in enumerate(drawing.lengths) if (fault := _fault(length))}
    distances = [
        ReadDistance(index, length.distance, exact)
        for index, length in enumerate(drawing.lengths)
        if index not in told and length.distance is not None and (exact := _exact(length)) is not None
    ]
    pattern = pattern_of_drawing(laid, drawing.lands, distances)
    values = []
    for form in pattern.forms:
        found = {key: drawing.lengths[index].value for key, index in form.lengths.items()}
        known = {key: value for key, value in found.items() if value is not None}
        values.append((SuggestedLands(form.group, form.form), known))
    # A drawing that gave all lands may have more lengths than these need.
    doubts = [*pattern.doubts, *(told.values() if pattern.doubts else ())]
    return LandSuggestion(tuple(values), tuple(doubts))


def _fault(length: WrittenLength) -> str:
    """Why nothing is taken from a length; empty where it can be."""
    name = length.letter or length.drawn.text
    if length.doubt:
        return f"{name}: {length.doubt}"
    if length.distance is None:
        return f"{name}: its line does not end at edges or middles of lands"
    if length.value is not None and _exact(length) is None:
        return f"{name}: {length.value.text} is a range; a land needs one length"
    return ""


def _exact(length: WrittenLength) -> float | None:
    """The one length (mm) that is written; None for a range."""
    limits = length.value.limits if length.value else None
    return limits.middle if limits is not None and (limits.is_exact or limits.nom is not None) else None


def suggestion_of_letters(values: Mapping[str, LetterValue], laid: LaidLands) -> LandSuggestion:
    """What a table gives for two rows of lands under the letters of IPC-7351: Z, G, C, Y and X.

    Where the table gives more of them than the lands need, their agreement proves the letters; else it is a doubt.

    Raises:
        InputError: the package has more groups of lands than one, the letters give none, or they contradict each other.
    """
    if len(laid.derivation) != 1 or laid.sizes:
        raise InputError("a table of lands is read for packages with two rows alike; enter it under Lands")
    lengths = {key: value.limits.middle for key, value in values.items() if value.limits.is_exact}
    form, keys = next(((form, keys) for form, keys in FORMS.items() if all(key in lengths for key in keys)), ("", ()))
    if not form:
        raise InputError("the table does not give lands by the letters Z, G, C, Y and X; enter them under Lands")
    fault = land_length_disagreement(lengths)
    if fault:
        raise InputError(fault)
    row = laid.derivation[0]
    outer, width = _outer(lengths), lengths["X"]
    if abs(outer / row.Z - 1) > OFF_COMPUTED or abs(width / row.X - 1) > OFF_COMPUTED:
        told = f"lands {outer:g} mm over both rows and {width:g} mm wide"
        raise InputError(f"{told} are not of this package, for which {row.Z:g} and {row.X:g} mm are computed")
    is_proved = len({"Z", "G", "C", "Y"} & lengths.keys()) > 2
    doubts = () if is_proved else (f"{', '.join(keys)} of the table are taken in the sense of IPC-7351",)
    return LandSuggestion(((SuggestedLands(row.group, form), {key: values[key] for key in keys}),), doubts)


def _outer(lengths: Mapping[str, float]) -> float:
    """Over both rows, by whichever lengths give it (mm)."""
    if "Z" in lengths:
        return lengths["Z"]
    return lengths["C"] + lengths["Y"] if "C" in lengths else lengths["G"] + 2 * lengths["Y"]


def use_suggestion(bundle: Bundle, suggestion: LandSuggestion, document: str, who: str) -> Bundle:
    """Keep suggested lands with the footprint, each length with its place; lands that are computed stay so.

    Groups that the drawing does not give keep what they have.
    """
    given = {lands.group: lands for lands in bundle.footprint.suggested}
    for lands, _values in suggestion.values:
        given[lands.group] = replace(lands, lengths=given[lands.group].lengths if lands.group in given else {})
    bundle = replace(bundle, footprint=replace(bundle.footprint, suggested=tuple(given.values())))
    for lands, values in suggestion.values:
        for key, value in values.items():
            text = value.text if value.limits.is_exact else f"{value.limits.middle:g} mm"
            evidence = datasheet_evidence(document, value.page, value.box, value.seen, who)
            bundle = put_value(bundle, ManufacturerLengthAddress(lands.group, key), text, evidence)
    return bundle
