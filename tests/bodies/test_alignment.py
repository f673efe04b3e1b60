"""Models of other programs, lying anyhow: the placement that is found is the true one, or more than one is offered."""

import json
import lzma
from functools import cache
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from msgspec.structs import replace

from eider.bodies.placement.alignment import Alignment, align_model
from eider.bodies.placement.alignment_target import AlignmentTarget, TerminalPlace, target_of_pattern, target_of_sheet
from eider.bodies.placement.contacts import turned, turns
from eider.bodies.step_files.step_model import FaceKind, FloatArray, StepModel
from eider.bodies.step_files.step_reader import read_step
from eider.geometry.limits import Limits
from eider.lands.pattern import make_pattern
from eider.rulebooks import standard_rulebook
from family_samples import foreign_sample

FOREIGN = Path(__file__).parent / "foreign"
TRUTH: dict[str, dict[str, Any]] = json.loads((FOREIGN / "truth.json").read_text())
# Of each family one fused solid that gmsh wrote and one assembly in inches by the kernel; `tools/measure_alignment`
# takes them all, each in twelve more ways.
CHOSEN = sorted(name for name in TRUTH if name.endswith(("-1", "-3")))
# Nothing on these bodies tells one end from the other.
WITHOUT_MARK = {"chip", "chip-array", "can", "header", "axial", "radial"}


@pytest.fixture(scope="module")
def folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    return tmp_path_factory.mktemp("foreign")


@cache
def foreign(name: str, folder: Path) -> StepModel:
    path = folder / f"{name}.step"
    path.write_bytes(lzma.decompress((FOREIGN / f"{name}.step.xz").read_bytes()))
    return read_step(path).model


def laid(model: StepModel, turn: FloatArray, move: FloatArray) -> StepModel:
    """The model lying in another way."""
    faces = turned(model.faces, turn)
    faces = replace(faces, low=faces.low + move, high=faces.high + move, centre=faces.centre + move)
    return replace(model, faces=faces)


def true_ones(found: Alignment, turn: FloatArray, move: FloatArray, scale: float = 1.0) -> list[bool]:
    """For each placement whether it takes the model back to where its body was made, within 0.01 mm."""
    result = []
    for placement in found.placements:
        back = np.array(placement.rotation) * placement.scale
        straight = np.abs(back @ turn * scale - np.eye(3)).max() < 1e-6
        result.append(bool(straight and np.abs(back @ move + np.array(placement.offset)).max() < 0.01))
    return result


@pytest.mark.parametrize("name", CHOSEN)
def test_the_placement_of_a_foreign_model_is_found_or_said_to_be_ambiguous(name: str, folder: Path) -> None:
    truth, model = TRUTH[name], foreign(name, folder)
    assert model.unit == {"mm": "mm", "INCH": "in", "M": "m"}[truth["unit"]]
    assert model.protocol == {"AP242DIS": "AP242", "AP203": "AP203"}.get(truth.get("schema", ""), "AP214")
    target = target_of_sheet(foreign_sample(truth["family"]))
    turn, move = np.array(truth["turn"]), np.array(truth["move"])
    for further in (np.eye(3), turns()[7]):
        found = align_model(laid(model, further, np.zeros(3)), target)
        right = true_ones(found, further @ turn, further @ move, truth.get("scale", 1.0))
        assert any(right), found.doubts
        if truth["family"] in WITHOUT_MARK:
            # Fused to one solid that is flat underneath, terminals cannot be told from the body.
            assert found.placements[0].pin1 in ("ambiguous", "unknown")
            assert found.doubts
        elif truth.get("fused") and truth["family"] in ("flat-lead", "cylinder"):
            # Leads are flush with the body, and of one solid without colours a band is hardly seen.
            assert found.placements[0].pin1 in ("ambiguous", "unknown")
            assert found.doubts
        else:
            # A round body can lie on any side of it: then all of them are listed.
            assert (found.placements[0].pin1, found.doubts) == ("found", ())
            assert len(right) == 1 or truth["family"] == "cylinder"
            assert len(found.placements[0].terminals) == len(target.terminals)


def test_inches_that_were_taken_for_millimetres_are_found_and_said(folder: Path) -> None:
    found = align_model(foreign("gullwing-dual-2", folder), target_of_sheet(foreign_sample("gullwing-dual")))
    assert found.placements[0].scale == pytest.approx(25.4)
    assert found.doubts == ("the model fits only when it is taken 25.4 times as large: its unit is wrong",)


def test_names_and_colours_of_a_foreign_assembly_are_read(folder: Path) -> None:
    model = foreign("gullwing-dual-3", folder)
    assert [solid.name for solid in model.solids] == ["本体", "знак № 1", *["Вывод"] * 8]
    assert len(model.colours) == 3
    assert all(solid.is_sound for solid in model.solids)


@pytest.mark.parametrize("name", ["gullwing-dual-1", "ball-grid-3"])
def test_faces_look_outwards_and_close_the_solid(name: str, folder: Path) -> None:
    faces = foreign(name, folder).faces
    # The divergence theorem: for a polyhedron a third of the sum of area times distance is the volume, and it does
    # not change with the origin. A sphere adds its own.
    flat = faces.kind == FaceKind.PLANE
    if (faces.kind == FaceKind.OTHER).any() or (faces.kind == FaceKind.CYLINDER).any():
        assert (faces.area > 0).all()
    volume = float((faces.area * (faces.direction * faces.centre).sum(axis=1))[flat].sum() / 3)
    low, high = faces.low.min(axis=0), faces.high.max(axis=0)
    assert 0 < volume < float(np.prod(high - low)) or name.startswith("ball")


def test_a_mirrored_model_is_not_taken_for_a_sound_one(folder: Path) -> None:
    model = foreign("gullwing-dual-3", folder)
    faces = model.faces
    mirror = np.array([-1.0, 1.0, 1.0])
    ends = np.stack([faces.low * mirror, faces.high * mirror])
    mirrored = replace(
        faces, low=ends.min(axis=0), high=ends.max(axis=0), centre=faces.centre * mirror,
        direction=faces.direction * mirror,
    )  # fmt: skip
    found = align_model(replace(model, faces=mirrored), target_of_sheet(foreign_sample("gullwing-dual")))
    assert found.placements[0].pin1 == "ambiguous"
    assert found.mark_at in ("4", "8")
    assert "as near to" in found.doubts[0]


def test_a_model_stands_on_the_pads_of_a_pattern(folder: Path) -> None:
    truth = TRUTH["gullwing-dual-3"]
    pattern = make_pattern(foreign_sample("gullwing-dual"), "B", standard_rulebook())
    found = align_model(foreign("gullwing-dual-3", folder), target_of_pattern(pattern))
    assert true_ones(found, np.array(truth["turn"]), np.array(truth["move"])) == [True]
    assert all(terminal.inside > 0 for terminal in found.placements[0].terminals)


def test_a_model_with_other_terminals_is_placed_by_its_box_and_that_is_said(folder: Path) -> None:
    box = (-1.0, -1.0, 1.0, 1.0)
    target = AlignmentTarget(terminals=(TerminalPlace("1", (40, 40, 41, 41)), TerminalPlace("2", (60, 60, 61, 61))))
    found = align_model(foreign("gullwing-dual-3", folder), target)
    assert found.placements == ()
    assert "does not tell the size" in found.doubts[0]
    sized = replace(target, outline=(-3.0, -2.45, 3.0, 2.45), height=Limits(nom=1.75))
    found = align_model(foreign("gullwing-dual-3", folder), sized)
    assert {placement.pin1 for placement in found.placements} == {"unknown"}
    assert "placed by its box" in found.doubts[0]
    assert align_model(foreign("gullwing-dual-3", folder), replace(target, outline=box)).placements == ()


def test_a_missing_terminal_is_named(folder: Path) -> None:
    target = target_of_sheet(foreign_sample("gullwing-dual"))
    more = replace(target, terminals=(*target.terminals, TerminalPlace("9", (-0.2, 4.0, 0.2, 4.6))))
    found = align_model(foreign("gullwing-dual-3", folder), more)
    assert "nothing of the model is at 9" in found.doubts[0]
    assert len(found.placements[0].terminals) == 8
