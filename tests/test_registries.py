"""Walks over what is registered: checks, families, formats, roles, conventions; and refusals of what is double."""

import pickle
import re

import pytest

from eider.bodies.solids.materials import look_of, standard_materials
from eider.checks import all_checks
from eider.checks.check_inputs import INPUTS
from eider.checks.registry import check
from eider.drawings.role_styles import styles
from eider.errors import EiderError, InputError, NotFoundError
from eider.geometry.lengths import LengthError
from eider.lands.adjustments import AdjustmentError
from eider.library.errors import ConflictError, LibraryError, ReadOnlyError
from eider.model.codec import DocumentError, decode, encode
from eider.model.finding import Severity
from eider.model.part import Part
from eider.model.symbol import PIN_TYPES
from eider.packages.family import SheetError
from eider.packages.registry import all_families
from eider.rulebooks.rulebook import RulebookError
from eider.services.publishing.format_registry import all_formats, export_format, export_formats
from eider.symbols.conventions import conventions
from eider.views.step_registry import all_steps


@pytest.mark.parametrize("entry", all_checks().values(), ids=lambda e: e.id)
def test_checks_are_named_by_area_and_read_something(entry) -> None:  # type: ignore[no-untyped-def]
    assert re.fullmatch(r"[a-z]+\.[a-z0-9-]+", entry.id)
    assert entry.reads
    assert entry.reads <= set(INPUTS)
    assert entry.title[0].isupper()
    assert entry.quick_fix is None or entry.quick_fix.title


def test_a_double_or_malformed_check_is_refused() -> None:
    for check_id in (next(iter(all_checks())), "Lands.Upper", "nodot"):
        with pytest.raises(TypeError, match="malformed or taken"):
            check(check_id, Severity.NOTE, reads=("sheet",))(lambda _view: iter(()))


@pytest.mark.parametrize("family", all_families().values(), ids=lambda f: f.key)
def test_families_declare_letters_that_can_be_shown(family) -> None:  # type: ignore[no-untyped-def]
    keys = [letter.key for letter in family.letters]
    assert len(set(keys)) == len(keys)
    assert family.pin_fault(family.default_pins) == ""
    assert any(family.pin_fault(pins) for pins in range(4))
    for letter in family.letters:
        assert letter.meaning
        assert not letter.reference or letter.reference in keys
        assert letter.typical[0] <= letter.typical[1]


def test_formats_are_found_and_unknown_ones_name_the_known() -> None:
    assert set(export_formats()) >= {
        "step",
        "step-ap242",
        "gltf",
        "svg",
        "pdf",
        "json",
        "bundle",
        "ipc2581",
        "edif",
        "dxf",
        "gerber",
        "idf",
        "xlsx",
        "print",
        "csv",
        "proof",
        "html",
    }
    assert [key for key, entry in all_formats().items() if entry.read_pins][:4] == ["csv", "xlsx", "bsdl", "ibis"]
    with pytest.raises(
        InputError, match="step, step-ap242, gltf, svg, pdf, json, bundle, idf, ipc2581, edif, dxf, gerber, csv"
    ):
        export_format("nonsense")


def test_every_style_has_colours_of_both_palettes() -> None:
    for appearance in ("light", "dark"):
        for role, style in styles(appearance).items():
            assert style.stroke or style.fill, role
            assert all(re.fullmatch("#[0-9A-F]{6}", c) for c in (style.stroke, style.fill) if c)
            assert 0 < style.alpha <= 1


def test_type_rules_and_words_name_known_types() -> None:
    rules = conventions()
    assert {rule.type for rule in rules.types} <= set(PIN_TYPES)
    assert set(rules.words) <= set(PIN_TYPES)
    words = [word for spelled in rules.words.values() for word in spelled]
    assert len(set(words)) == len(words)
    assert all(word == word.lower() for word in words)


def test_materials_have_colours_and_unknown_ones_are_grey() -> None:
    looks = [look_of(name) for name in standard_materials()]
    assert all(0 <= part <= 1 for look in looks for part in (*look.colour, look.shine))
    assert look_of("unobtainium").colour == (0.6, 0.6, 0.6)


def test_steps_are_the_eight_of_the_work() -> None:
    assert [step.title for step in all_steps().values()] == [
        "Source",
        "Pins",
        "Package",
        "Lands",
        "Body",
        "Match",
        "Facts",
        "Review",
    ]


@pytest.mark.parametrize(
    "fault",
    [
        LengthError("0.3 x", 4, "a number"),
        SheetError("b is missing", "b"),
        AdjustmentError("x"),
        RulebookError("x"),
        LibraryError("x"),
        ConflictError("x"),
        ReadOnlyError("x"),
        DocumentError("x"),
        NotFoundError("x"),
    ],
    ids=lambda f: type(f).__name__,
)
def test_errors_cross_process_borders(fault: EiderError) -> None:
    again = pickle.loads(pickle.dumps(fault))
    assert type(again) is type(fault)
    assert str(again) == str(fault)
    assert isinstance(again, EiderError)


@pytest.mark.parametrize("text", ["", "{}", "[]", "{", '{"format": 5}', "\x00", '"part"'])
def test_what_is_no_document_is_refused_with_its_file(text: str) -> None:
    with pytest.raises(DocumentError, match="a/b.json"):
        decode(text, Part, "a/b.json")


def test_lengths_are_written_without_noise() -> None:
    assert encode({"a": 0.1 + 0.2, "b": -0.0, "c": 2.0, "d": 1 / 3}) == (
        '{\n  "a": 0.3,\n  "b": 0,\n  "c": 2,\n  "d": 0.333333\n}\n'
    )
