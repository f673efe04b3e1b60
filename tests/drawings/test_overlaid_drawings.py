"""Two drawings over each other: what both have, what only one has, and that nothing is lost."""

from hypothesis import given
from hypothesis import strategies as st

from eider.drawings.overlaid_drawings import is_same_drawing, overlaid
from eider.drawings.primitives import Area, DimensionLine, Disc, Drawing, Line, Primitive, Text
from eider.drawings.role_styles import styles
from eider.model.address import PadAddress

SQUARE = ((0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0))
WIDER = ((0.0, 0.0), (1.05, 0.0), (1.05, 1.0), (0.0, 1.0))
BOX = (0.0, 0.0, 1.0, 1.0)


def _drawing(*items: Primitive) -> Drawing:
    return Drawing(items, BOX)


def test_what_differs_has_another_line_as_well_as_another_colour() -> None:
    left = _drawing(Area(SQUARE, "copper", PadAddress("1")), Area(SQUARE, "mask"))
    right = _drawing(Area(WIDER, "copper", PadAddress("1")), Area(SQUARE, "mask", PadAddress("1")))
    made = overlaid(left, right).primitives
    assert [(type(item).__name__, item.role) for item in made if isinstance(item, Line | Area)] == [
        ("Area", "in both"),
        ("Line", "only right"),
        ("Line", "only left"),
    ]
    looks = styles()
    assert looks["only left"].dash and not looks["only right"].dash
    assert looks["only right"].width > looks["only left"].width > looks["in both"].width


def test_a_text_is_signed_where_only_one_side_has_it() -> None:
    left = _drawing(Text((0, 0), "EN", 1.0, "pin name"), Text((0, 1), "1", 1.0, "pin number"))
    right = _drawing(Text((0, 0), "SHDN", 1.0, "pin name"), Text((0, 2), "1", 1.0, "pin number"))
    texts = [item.text for item in overlaid(left, right).primitives if isinstance(item, Text)]
    assert texts == ["+SHDN", "1", "−EN", "1"]


def test_dimensions_are_those_of_the_right_one_and_those_that_differ_stand_out() -> None:
    old = DimensionLine((0, 0), (1, 0), "top", "E", "1.00")
    new = DimensionLine((0, 0), (1.05, 0), "top", "E", "1.05")
    same = DimensionLine((0, 0), (0, 1), "left", "D", "1.00")
    made = overlaid(_drawing(old, same), _drawing(new, same)).primitives
    assert [(item.text, item.role) for item in made if isinstance(item, DimensionLine)] == [
        ("1.00", "dimension"),
        ("1.05", "hand"),
    ]


def test_each_alone_keeps_its_look_and_the_box_of_both() -> None:
    left = Drawing((Disc((0, 0), 1.0, "copper"),), (-1.0, -1.0, 1.0, 1.0))
    right = Drawing((Disc((5, 0), 1.0, "copper"),), (4.0, -1.0, 6.0, 1.0))
    for shown, drawing in (("left", left), ("right", right)):
        alone = overlaid(left, right, shown)  # type: ignore[arg-type]
        assert alone.primitives == drawing.primitives and alone.box == (-1.0, -1.0, 6.0, 1.0)


coordinate = st.floats(-5, 5).map(lambda value: round(value, 2))
items = st.one_of(
    st.builds(lambda x, y: Disc((x, y), 0.5, "copper"), coordinate, coordinate),
    st.builds(lambda x, y: Line(((x, y), (y, x)), "silkscreen", None, 0.12), coordinate, coordinate),
    st.builds(lambda x, text: Text((x, 0.0), text, 1.0, "pin name"), coordinate, st.sampled_from("ABC")),
)


@given(st.lists(items, max_size=8, unique=True), st.lists(items, max_size=8, unique=True))
def test_everything_of_both_is_drawn_once(left: list[Primitive], right: list[Primitive]) -> None:
    made = overlaid(_drawing(*left), _drawing(*right)).primitives
    assert len(made) == len(set(left) | set(right))
    count = [sum(item.role.startswith(role) for item in made) for role in ("in both", "only left", "only right")]  # type: ignore[union-attr]
    both = set(left) & set(right)
    assert count == [len(both), len(set(left) - both), len(set(right) - both)]
    assert is_same_drawing(_drawing(*left), _drawing(*right)) == (set(left) == set(right))
