"""Bodies of solids measured without a CAD kernel: against the kernel's own reading of them, and by hand."""

from pathlib import Path

import pytest
from msgspec.structs import replace

from eider.bodies.placement.alignment_target import AlignmentTarget, TerminalPlace, target_of_sheet
from eider.bodies.placement.model_measure import measured
from eider.bodies.solids.body_solids import body_solids
from eider.bodies.solids.materials import look_of
from eider.bodies.solids.solids_measure import measure_solids
from eider.bodies.step_files.step_reader import read_step
from eider.bodies.step_files.step_writer import step_file
from eider.geometry.plane import box_outline
from eider.geometry.solids import Prism, Solid, SolidPlacement
from eider.model.body import ImportedModel, ModelMeasure
from family_samples import SAMPLES, sample

BLOCK = Prism(box_outline((-0.5, -0.5, 0.5, 0.5)), 0.0, 1.0)
TIN, INK = look_of("tin"), look_of("marking")
PAIR = AlignmentTarget(
    terminals=(TerminalPlace("1", (-3.0, -0.5, -2.0, 0.5)), TerminalPlace("2", (2.0, -0.5, 3.0, 0.5))),
)
FEET = Solid("foot", "tin", BLOCK, (SolidPlacement(-2.5), SolidPlacement(2.5)), look=TIN)


@pytest.mark.parametrize("family", sorted(set(SAMPLES) - {"custom"}))
def test_every_terminal_of_a_generated_body_is_found(family: str) -> None:
    sheet = sample(family)
    target = target_of_sheet(sheet)
    measure = measure_solids(body_solids(sheet), target)
    assert {t.number for t in measure.terminals} == {place.number for place in target.terminals}
    assert abs(measure.seating) < 1e-6 and measure.pin1 == "found"


@pytest.mark.parametrize("family", ["gullwing-dual", "no-lead-quad", "ball-grid", "chip", "dual-in-line"])
def test_the_measure_is_the_one_that_the_kernel_takes(family: str, tmp_path: Path) -> None:
    sheet = sample(family)
    target, solids = target_of_sheet(sheet), body_solids(sheet)
    path = tmp_path / "body.step"
    path.write_bytes(step_file(solids, "body"))
    model = ImportedModel(sha256="0" * 64, file="", measure=ModelMeasure(bounds=((0, 0, 0), (0, 0, 0))))
    by_kernel = measured(model, read_step(path).model, 0, target).measure
    ours = measure_solids(solids, target)
    assert ours.seating == pytest.approx(by_kernel.seating, abs=1e-6)
    for mine, theirs in zip(ours.bounds, by_kernel.bounds, strict=True):
        assert mine == pytest.approx(theirs, abs=1e-5)
    assert [t.number for t in ours.terminals] == [t.number for t in by_kernel.terminals]
    for mine_at, its_at in zip(ours.terminals, by_kernel.terminals, strict=True):
        assert mine_at.box == pytest.approx(its_at.box, abs=1e-5)


def test_feet_that_are_missing_floating_or_elsewhere() -> None:
    whole = measure_solids((FEET,), PAIR)
    assert [(t.number, t.box) for t in whole.terminals] == [("1", (-3, -0.5, -2, 0.5)), ("2", (2, -0.5, 3, 0.5))]
    one = measure_solids((replace(FEET, placements=FEET.placements[:1]),), PAIR)
    assert [t.number for t in one.terminals] == ["1"]
    raised = tuple(replace(place, z=0.3) for place in FEET.placements)
    assert measure_solids((replace(FEET, placements=raised),), PAIR).seating == 0.3
    assert measure_solids((replace(FEET, material="housing", look=look_of("housing")),), PAIR).terminals == ()


def test_the_mark_of_a_body_tells_pin_1() -> None:
    def marked(x: float) -> ModelMeasure:
        return measure_solids((FEET, Solid("dot", "marking", BLOCK, (SolidPlacement(x, 0.0, 1.0),), look=INK)), PAIR)

    assert (marked(-1.0).pin1, marked(-1.0).mark_at) == ("found", "")
    assert (marked(1.0).pin1, marked(1.0).mark_at) == ("ambiguous", "2")
    assert marked(0.0).mark_at == ""
