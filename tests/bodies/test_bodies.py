"""Bodies: true in every given length, one shape per lead, and the same in STEP, mesh and measure."""

from pathlib import Path

import numpy as np
import pytest

from eider.bodies.kernel.cad_kernel import location, make_shape
from eider.bodies.pictures.body_camera import Camera
from eider.bodies.pictures.body_mesh import Mesh, make_mesh
from eider.bodies.pictures.body_renderer import PictureStyle, Renderer, RenderError
from eider.bodies.solids.body_solids import board_solids, body_solids, fingerprint, measure_body
from eider.bodies.step_files.step_writer import step_file
from eider.geometry.plane import rectangle
from eider.geometry.solids import Cylinder, Prism, Solid, SolidPlacement, Strip
from eider.lands.pattern import make_pattern
from eider.model.package_sheet import PackageSheet
from eider.rulebooks import standard_rulebook


def volume(mesh: Mesh) -> float:
    """By the divergence theorem: it is right only where every facet faces outwards."""
    triangles = mesh.corners[:, :3].astype(float).reshape(-1, 3, 3)
    return float(np.einsum("ij,ij->i", triangles[:, 0], np.cross(triangles[:, 1], triangles[:, 2])).sum() / 6)


@pytest.mark.parametrize(
    ("shape", "expected"),
    [
        (Prism(rectangle(1, 2, 2, 3), 0.5, 1.5), 6.0),
        (Strip(((0, 0), (1, 0), (1, 1), (0, 1)), 2.0), 2.0),
        (Cylinder(3, 3, 1.0, 0.0, 2.0), 2 * np.pi),
        (Prism(rectangle(0, 0, 4, 4), 0, 1, (Cylinder(0, 0, 1.0, 0.5, 1.5),)), 16 - 0.5 * np.pi),
    ],
)
def test_meshes_are_closed_and_face_outwards(shape: Prism | Strip | Cylinder, expected: float) -> None:
    assert volume(make_mesh((Solid("x", "tin", shape),))) == pytest.approx(expected, rel=0.03)


def test_a_body_is_true_in_span_length_and_height(so8: PackageSheet) -> None:
    result = measure_body(body_solids(so8))
    # Nominal span 6.0 and length 4.9, height 1.75 at its maximum; body, mark and eight leads.
    assert result.bounds == ((-3.0, -2.45, 0.0), (3.0, 2.45, 1.75))
    assert result.solids == 10


def test_measure_mesh_and_kernel_agree(so8: PackageSheet) -> None:
    from OCP.Bnd import Bnd_Box
    from OCP.BRep import BRep_Builder
    from OCP.BRepBndLib import BRepBndLib
    from OCP.TopoDS import TopoDS_Compound

    solids = body_solids(so8)
    low, high = measure_body(solids).bounds
    whole, builder = TopoDS_Compound(), BRep_Builder()
    builder.MakeCompound(whole)
    for solid in solids:
        for place in solid.placements:
            builder.Add(whole, make_shape(solid).Located(location(place)))
    assert make_mesh(solids).bounds == (pytest.approx(low, abs=1e-5), pytest.approx(high, abs=1e-5))
    box = Bnd_Box()
    BRepBndLib.AddOptimal_s(whole, box, False, False)
    corners = [(p.X(), p.Y(), p.Z()) for p in (box.CornerMin(), box.CornerMax())]
    assert corners == [pytest.approx(low, abs=1e-6), pytest.approx(high, abs=1e-6)]


def test_step_holds_each_shape_once_with_names_colours_and_millimetres(so8: PackageSheet, tmp_path: Path) -> None:
    path = tmp_path / "body.step"
    path.write_bytes(step_file(body_solids(so8), "SO-8"))
    text = path.read_text()
    assert text.count("MANIFOLD_SOLID_BREP(") == 3
    # Ten instances of three shapes.
    assert text.count("NEXT_ASSEMBLY_USAGE_OCCURRENCE(") == 10
    assert "SI_UNIT(.MILLI.,.METRE.)" in text
    assert "COLOUR_RGB" in text
    assert "'lead 8'" in text
    assert "AUTOMOTIVE_DESIGN" in text


def test_the_file_bears_the_fingerprint_of_its_solids(so8: PackageSheet, tmp_path: Path) -> None:
    solids, path = body_solids(so8), tmp_path / "a.step"
    path.write_bytes(step_file(solids, "SO-8"))
    assert fingerprint(solids, "SO-8") in path.read_text().split("DATA;")[0]
    assert fingerprint(solids[:2], "SO-8") != fingerprint(solids, "SO-8") != fingerprint(solids, "SO8")


def test_reading_the_step_file_gives_the_same_box(so8: PackageSheet, tmp_path: Path) -> None:
    from OCP.Bnd import Bnd_Box
    from OCP.BRepBndLib import BRepBndLib
    from OCP.STEPControl import STEPControl_Reader

    path = tmp_path / "body.step"
    path.write_bytes(step_file(body_solids(so8), "SO-8"))
    reader = STEPControl_Reader()
    reader.ReadFile(str(path))
    reader.TransferRoots()
    box = Bnd_Box()
    BRepBndLib.AddOptimal_s(reader.OneShape(), box, False, False)
    assert (box.CornerMax().X(), box.CornerMax().Z()) == pytest.approx((3.0, 1.75), abs=1e-6)


def test_a_picture_shows_the_body(so8: PackageSheet) -> None:
    pattern = make_pattern(so8, "B", standard_rulebook())
    try:
        renderer = Renderer()
    except RenderError:
        pytest.skip("no OpenGL on this machine")
    renderer.show(make_mesh((*board_solids(pattern), *body_solids(so8))))
    image = renderer.picture(Camera(0.0, 90.0), 200, 160, PictureStyle())
    renderer.close()
    assert image.shape == (160, 200, 3)
    # From above: the dark body in the middle, background in the corner.
    assert image[80, 100].max() < 120
    assert image[2, 2].min() == 255


def test_a_turned_instance_is_measured_where_it_stands() -> None:
    solid = Solid("x", "tin", Prism(rectangle(1, 0, 2, 1), 0, 1), (SolidPlacement(turn=90.0, x=5.0),))
    assert measure_body((solid,)).bounds == ((4.5, 0.0, 0.0), (5.5, 2.0, 1.0))


def test_lands_of_one_form_are_one_solid_and_lie_where_the_pads_do(so8: PackageSheet) -> None:
    pattern = make_pattern(so8, "B", standard_rulebook())
    lands = [solid for solid in board_solids(pattern) if solid.material == "copper"]
    assert len(lands) == 1
    shape = lands[0].shape
    assert isinstance(shape, Prism)
    xs, ys = zip(*shape.outline, strict=True)
    found = {(min(xs) + p.x, min(ys) + p.y, max(xs) + p.x, max(ys) + p.y) for p in lands[0].placements}
    assert np.allclose(sorted(found), sorted(pad.box for pad in pattern.pads))
