"""What a line of sight meets, and exact distances: figures worked out from the shapes by hand."""

import math
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from eider.bodies.kernel.picked_items import PickedItem
from eider.bodies.kernel.picking import GapRequest, PickRequest
from eider.bodies.pictures.body_camera import Camera, Framing, SightLine
from eider.bodies.pictures.body_scene import BodyScene, SceneModel
from eider.bodies.placement.model_placement import RigidPlacement, moved_direction, moved_place
from eider.bodies.step_files.step_writer import step_file
from eider.geometry.plane import box_outline
from eider.geometry.solids import Ball, Cylinder, Prism, Solid, SolidPlacement

BLOCK = Solid("block", "tin", Prism(box_outline((-2.0, -1.0, 2.0, 1.0)), 0.5, 1.5))
POST = Solid("post", "tin", Cylinder(0.0, 0.0, 0.4, 0.0, 3.0), (SolidPlacement(5.0, 0.0), SolidPlacement(8.0, 0.0)))
DROP = Solid("drop", "tin", Ball(-6.0, 0.0, 1.0, 1.0, 0.0, 2.0))
SCENE = BodyScene((BLOCK, POST, DROP))


def down(x: float, y: float, reach: float = 0.05) -> SightLine:
    """A line of sight from above."""
    return SightLine((x, y, 100.0), (0.0, 0.0, -1.0), reach)


def picked(line: SightLine, scene: BodyScene = SCENE, model: str = "", section: float = math.inf) -> PickedItem:
    found = PickRequest(scene, model, line, section)()
    assert found is not None
    return found


def test_a_level_face_is_met_with_its_height_and_area() -> None:
    top = picked(down(0.3, 0.2))
    assert (top.kind, top.solid, top.is_flat) == ("face", "block", True)
    assert top.at == pytest.approx((0.3, 0.2, 1.5))
    assert top.centre == pytest.approx((0.0, 0.0, 1.5)) and top.direction == pytest.approx((0.0, 0.0, 1.0))
    assert top.size == pytest.approx(4.0 * 2.0)
    assert (top.low, top.high) == (pytest.approx((-2.0, -1.0, 1.5)), pytest.approx((2.0, 1.0, 1.5)))


def test_near_an_edge_or_corner_that_is_met() -> None:
    edge = picked(down(0.3, 0.97))
    assert edge.kind == "edge" and edge.size == pytest.approx(4.0) and edge.centre == pytest.approx((0.0, 1.0, 1.5))
    corner = picked(down(1.97, 0.98))
    assert corner.kind == "point" and corner.at == pytest.approx((2.0, 1.0, 1.5))
    # The same place with a keener eye is on the face.
    assert picked(down(1.97, 0.98, reach=0.001)).kind == "face"


def test_round_faces_and_edges_tell_diameter_and_centre() -> None:
    side = picked(SightLine((5.1, -50.0, 1.0), (0.0, 1.0, 0.0), 0.01))
    assert side.radius == pytest.approx(0.4) and side.centre[:2] == pytest.approx((5.0, 0.0))
    rim = picked(down(5.39, 0.0, reach=0.02))
    assert rim.kind == "edge" and rim.radius == pytest.approx(0.4) and rim.centre == pytest.approx((5.0, 0.0, 3.0))
    assert rim.size == pytest.approx(2 * math.pi * 0.4)
    ball = picked(down(-6.2, 0.1, reach=0.01))
    assert ball.radius == pytest.approx(1.0) and ball.centre == pytest.approx((-6.0, 0.0, 1.0))


def test_what_is_cut_away_is_not_met() -> None:
    assert PickRequest(SCENE, "", down(5.0, 0.0), 4.0)() is None
    along = SightLine((50.0, 0.0, 1.0), (-1.0, 0.0, 0.0), 0.01)
    assert picked(along).solid == "post" and picked(along, section=4.0).solid == "block"
    assert PickRequest(SCENE, "", down(20.0, 0.0), math.inf)() is None


def test_the_least_distance_of_round_things_is_exact() -> None:
    """Between posts 3 mm apart of 0.8 mm each 2.2 mm stay free; the triangles of a picture would tell more."""
    first = picked(SightLine((5.0, -50.0, 1.0), (0.0, 1.0, 0.0), 0.001))
    second = picked(SightLine((8.0, -50.0, 1.0), (0.0, 1.0, 0.0), 0.001))
    gap = GapRequest(SCENE, "", first, second)()
    assert gap.least == pytest.approx(3.0 - 0.8, abs=1e-9)
    assert gap.between_centres == pytest.approx((3.0, 0.0, 0.0)) and gap.angle == pytest.approx(0.0)
    top = picked(down(0.0, 0.0))
    assert GapRequest(SCENE, "", top, first)().angle == pytest.approx(0.0)
    front = picked(SightLine((0.0, -50.0, 1.0), (0.0, 1.0, 0.0), 0.001))
    assert GapRequest(SCENE, "", top, front)().angle == pytest.approx(90.0)


def test_faces_of_a_model_are_met_where_it_is_placed(tmp_path: Path) -> None:
    path = tmp_path / "block.step"
    path.write_bytes(step_file((BLOCK,), "block"))
    # Turned by a quarter about z, moved, and taken twice as large: 4 by 2 mm come to be 8 by 4, the long side along y.
    placement = RigidPlacement(((0.0, -1.0, 0.0), (1.0, 0.0, 0.0), (0.0, 0.0, 1.0)), (10.0, 20.0, -1.0), 2.0)
    scene = BodyScene(model=SceneModel("0" * 64, placement))
    top = picked(down(10.5, 21.0, reach=0.001), scene, str(path))
    assert (top.solid, top.size) == ("block", pytest.approx(32.0))
    assert top.centre == pytest.approx((10.0, 20.0, 2.0))
    assert (top.low[:2], top.high[:2]) == (pytest.approx((8.0, 16.0)), pytest.approx((12.0, 24.0)))


places = st.tuples(*(st.floats(-3, 3) for _ in range(3)))
cameras = st.builds(
    Camera,
    st.floats(-180, 180),
    st.floats(-90, 90),
    st.floats(0.3, 20),
    st.tuples(st.floats(-1, 1), st.floats(-1, 1)),
)


@given(places, cameras, st.sampled_from([(900.0, 700.0), (300.0, 800.0)]))
def test_the_line_of_sight_through_a_place_goes_through_it(
    place: tuple[float, float, float], camera: Camera, size: tuple[float, float]
) -> None:
    framing = Framing((-4.0, -3.0, 0.0), (4.0, 3.0, 1.5), *size)
    ((x, y),) = framing.in_picture(camera, np.array([place])).tolist()
    line = framing.sight_line(camera, x, y, 6.0)
    along = np.array(place) - np.array(line.start)
    assert np.linalg.norm(np.cross(along, line.direction)) < 1e-6
    # A place farther along its reach beside the line is 6 pixels away.
    beside = np.array(place) + line.reach * np.cross(line.direction, _upright(line.direction))
    ((x2, y2),) = framing.in_picture(camera, np.array([beside])).tolist()
    assert math.hypot(x2 - x, y2 - y) == pytest.approx(6.0, rel=1e-6)


def _upright(direction: tuple[float, float, float]) -> np.ndarray:  # type: ignore[type-arg]
    """A direction at right angles to another."""
    other = np.eye(3)[int(np.argmin(np.abs(direction)))]
    made = np.cross(direction, other)
    return made / np.linalg.norm(made)


@given(places)
def test_a_place_of_a_model_follows_its_placement(place: tuple[float, float, float]) -> None:
    was = RigidPlacement(((0.0, -1.0, 0.0), (1.0, 0.0, 0.0), (0.0, 0.0, 1.0)), (1.0, 2.0, 3.0))
    now = RigidPlacement(((1.0, 0.0, 0.0), (0.0, 0.0, -1.0), (0.0, 1.0, 0.0)), (-5.0, 0.0, 1.0))
    in_model = moved_place(place, was, RigidPlacement())
    assert moved_place(in_model, RigidPlacement(), now) == pytest.approx(moved_place(place, was, now))
    assert moved_place(moved_place(place, was, now), now, was) == pytest.approx(place)
    assert moved_direction((1.0, 0.0, 0.0), was, RigidPlacement()) == pytest.approx((0.0, -1.0, 0.0))
