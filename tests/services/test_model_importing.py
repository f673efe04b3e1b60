"""A maker's STEP file in a library: kept once by its sum, placed, released, exported as it stands."""

import hashlib
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace

from eider.bodies.placement.model_measure import placement_of
from eider.bodies.placement.model_placement import RigidPlacement, placed_mesh
from eider.bodies.step_files.step_process import import_step
from eider.bodies.step_files.step_text import StepError
from eider.commands.parts import body_edits, new_parts
from eider.demo.maker_models import CONVERTER, placed_model, step_of
from eider.errors import EiderError
from eider.library import Library
from eider.library.documents.attachments import DocumentKind, released_path
from eider.model.bundle import Bundle
from eider.services.checking.library_checking import check_files
from eider.services.parts.model_importing import import_model, measure_again, place_again, read_model
from eider.services.parts.part_rules import rules_for
from eider.services.publishing.exporting import documents_of, export_part
from eider.services.releasing.part_releasing import release_part, release_parts
from eider.services.tasks import CancelledError, Task


@pytest.fixture
def file(tmp_path: Path) -> Path:
    path = tmp_path / "NVK-1216T.step"
    path.write_bytes(step_of(CONVERTER))
    return path


@pytest.fixture
def apart(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    """A machine that has read no model yet."""
    monkeypatch.setenv("XDG_CACHE_HOME", str(tmp_path / "cache"))


@pytest.fixture
def modelled(sound: Bundle, library: Library) -> Bundle:
    """The converter with its maker's model."""
    library.attachments.keep(DocumentKind.MODEL, step_of(CONVERTER))
    return body_edits.use_model(sound, placed_model(CONVERTER))


def test_a_file_is_kept_as_it_came_and_placed(library: Library, sound: Bundle, file: Path, apart: None) -> None:
    told: list[str] = []
    (model,) = import_model(library, sound.sheet, file, Task(lambda _share, what: told.append(what)))
    # What the demo says of the file was made when the demo was; it still holds.
    assert model == placed_model(CONVERTER)
    assert told == [
        "reading NVK-1216T.step", "meshing NVK-1216T.step", "packing NVK-1216T.step", "placing it on its lands",
    ]  # fmt: skip
    assert library.attachments.read(DocumentKind.MODEL, model.sha256) == file.read_bytes()
    # The file says: inches, a corner at the origin, lying on its side. The box is that of the package: 6.4 × 5 × 1.2.
    assert (model.unit, model.measure.bounds) == ("in", ((-3.2, -2.5, 0.0), (3.2, 2.5, 1.2)))
    assert [terminal.number for terminal in model.measure.terminals] == [str(n) for n in range(1, 17)]


def test_what_was_read_is_known_the_next_time(
    library: Library, sound: Bundle, file: Path, apart: None, monkeypatch: pytest.MonkeyPatch
) -> None:
    (model,) = import_model(library, sound.sheet, file)
    monkeypatch.setattr("eider.services.parts.model_importing.import_step", None)
    assert read_model(library, model.sha256).triangles == model.measure.triangles
    assert place_again(library, model, sound.sheet) == (model,)


def test_a_damaged_note_is_made_anew(library: Library, modelled: Bundle, apart: None, tmp_path: Path) -> None:
    sha256 = placed_model(CONVERTER).sha256
    first = read_model(library, sha256)
    (note,) = (tmp_path / "cache").rglob("*.npz")
    note.write_bytes(b"no zip")
    assert read_model(library, sha256).triangles == first.triangles


def test_moved_and_turned_it_is_measured_anew(library: Library, modelled: Bundle) -> None:
    model = placed_model(CONVERTER)
    lifted = measure_again(library, body_edits.moved_model(model, 2, model.offset[2] + 0.5), modelled.sheet)
    assert lifted.measure.seating == pytest.approx(0.5)
    assert lifted.measure.bounds[1][2] == pytest.approx(1.7)
    assert lifted.chosen
    quarter = body_edits.turned_model(model, 2)
    turned = measure_again(library, quarter, modelled.sheet)
    (x0, y0, _), (x1, y1, _) = turned.measure.bounds
    assert (x1 - x0, y1 - y0) == (pytest.approx(5.0), pytest.approx(6.4))
    assert len(turned.measure.terminals) < 16
    for _ in range(3):
        quarter = body_edits.turned_model(quarter, 2)
    assert replace(quarter, chosen=False) == model


def test_a_release_keeps_the_file_once_for_all_parts(library: Library, modelled: Bundle) -> None:
    second = new_parts.start_from_part(modelled, "NVK-1216T-2")
    release_parts(library, (modelled, second), "both with the maker's model")
    sha256 = placed_model(CONVERTER).sha256
    path = released_path(DocumentKind.MODEL, sha256)
    assert hashlib.sha256(library.versions.read(path) or b"").hexdigest() == sha256
    assert library.attachments.path(DocumentKind.MODEL, sha256) == library.files.path(path)
    assert library.load_release(second.part.id).body.model == placed_model(CONVERTER)


def test_a_part_whose_file_is_gone_is_not_released(library: Library, sound: Bundle) -> None:
    with pytest.raises(EiderError, match=r"its model NVK-1216T\.step is no longer in the library"):
        release_part(library, body_edits.use_model(sound, placed_model(CONVERTER)), "without it")


def test_the_export_stands_on_its_lands(library: Library, modelled: Bundle, tmp_path: Path) -> None:
    documents = documents_of(library, modelled)
    keys = ["step", "step-ap242", "gltf"]
    made = export_part(modelled, keys, tmp_path / "out", rules_for(library, modelled), documents)
    assert [Path(name).suffix for name in made.files] == [".step", ".step", ".glb"]
    for name, protocol in zip(made.files, ("AP214", "AP242"), strict=False):
        model = import_step(Path(name)).model
        low, high = model.bounds
        assert np.allclose(low, (-3.2, -2.5, 0.0), atol=1e-6) and np.allclose(high, (3.2, 2.5, 1.2), atol=1e-6)
        assert (model.protocol, model.unit, len(model.solids), len(model.colours)) == (protocol, "mm", 18, 3)


def test_a_mesh_is_placed_like_its_model(library: Library, modelled: Bundle) -> None:
    step = read_model(library, placed_model(CONVERTER).sha256)
    low, high = placed_mesh(step.fine, placement_of(placed_model(CONVERTER))).bounds
    assert low == pytest.approx((-3.2, -2.5, 0.0), abs=1e-5)
    assert high == pytest.approx((3.2, 2.5, 1.2), abs=1e-5)
    assert len(step.coarse.corners) <= len(step.fine.corners)
    twice = placed_mesh(step.fine, RigidPlacement(scale=2.0)).corners
    assert np.allclose(np.linalg.norm(twice[:, 3:6], axis=1), 1.0, atol=1e-5)


def test_a_cancelled_reading_keeps_nothing(library: Library, sound: Bundle, file: Path) -> None:
    task = Task(lambda _share, _what: task.cancel())
    with pytest.raises(CancelledError):
        import_model(library, sound.sheet, file, task)
    assert not library.attachments.path(DocumentKind.MODEL, placed_model(CONVERTER).sha256).exists()


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"", "not a STEP file"),
        (b"ISO-10303-21;\nHEADER;", "cut short"),
        (b"ISO-10303-21;\nDATA;\n#1=CARTESIAN_POINT('',(0.,0.,0.));\nEND-ISO-10303-21;", "no solid, only points"),
        (b"ISO-10303-21;\nDATA;\n#1=ADVANCED_FACE('',(),#2,.T.);\nEND-ISO-10303-21;", "surfaces only"),
        (b"ISO-10303-21;\nDATA;\n#1=TESSELLATED_SOLID('',(),#2);\nEND-ISO-10303-21;", "triangles only"),
        (b"ISO-10303-21;\nDATA;\nENDSEC;\nEND-ISO-10303-21;", "is empty"),
        (
            b"ISO-10303-21;\nDATA;\n#1=MANIFOLD_SOLID_BREP('',#2);\nENDSEC;\nEND-ISO-10303-21;",
            "cannot be read|no shape",
        ),
    ],
)
def test_a_file_without_a_solid_gets_a_clear_word(tmp_path: Path, content: bytes, words: str) -> None:
    path = tmp_path / "bad.step"
    path.write_bytes(content)
    with pytest.raises(StepError, match=words):
        import_step(path)


def test_a_file_that_was_changed_under_its_sum_is_a_finding_of_the_library(library: Library, modelled: Bundle) -> None:
    release_part(library, modelled, "with the model")
    assert check_files(library) == ()
    path = library.attachments.path(DocumentKind.MODEL, placed_model(CONVERTER).sha256)
    path.write_bytes(path.read_bytes().replace(b"NVK-1216T", b"NVK-1217T"))
    (changed,) = [f for f in check_files(library) if f.check == "library.changed-model"]
    assert "is not the document that was attached" in changed.message
    path.unlink()
    library.attachments.path(DocumentKind.MODEL, placed_model(CONVERTER).sha256).unlink(missing_ok=True)
    (missing,) = [f for f in check_files(library) if f.check == "library.changed-model"]
    assert "is missing" in missing.message
