"""Models that the library has already, for a package like this one."""

import pytest

from eider.commands.packages import package_edits
from eider.commands.parts import body_edits, new_parts
from eider.commands.parts.evaluation import rerun_recipes
from eider.demo.maker_models import CONVERTER, placed_model, step_of
from eider.library import Library
from eider.library.documents.attachments import DocumentKind
from eider.model.bundle import Bundle
from eider.rulebooks import standard_rulebook
from eider.services.parts.near_bodies import near_bodies, use_near_body
from eider.services.releasing.part_releasing import release_part


def with_length(bundle: Bundle, letter: str, text: str) -> Bundle:
    return rerun_recipes(package_edits.set_dimension(bundle, letter, text), standard_rulebook())


@pytest.fixture
def stocked(library: Library, sound: Bundle) -> Library:
    """A library in which the converter is released with its maker's model."""
    library.attachments.keep(DocumentKind.MODEL, step_of(CONVERTER))
    release_part(library, body_edits.use_model(sound, placed_model(CONVERTER)), "with its model")
    return library


def test_a_part_of_the_same_package_finds_it_with_nothing_that_differs(stocked: Library, sound: Bundle) -> None:
    (near,) = near_bodies(stocked, new_parts.start_from_part(sound, "NVK-2"))
    assert (near.name, near.distance, near.fits, near.differences) == ("NVK-1216T", 0.0, True, ())
    assert near.users == ("NVK-1216T",)
    assert use_near_body(stocked, near, sound.sheet) == placed_model(CONVERTER)


def test_a_longer_package_is_told_by_how_much_and_in_what(stocked: Library, sound: Bundle) -> None:
    # D of the converter is 4.9 to 5.1: the middles are 0.3 apart, and 5.2 to 5.4 does not overlap.
    other = with_length(new_parts.start_from_part(sound, "NVK-2"), "D", "5.2–5.4")
    (near,) = near_bodies(stocked, other)
    assert near.distance == pytest.approx(0.3)
    assert not near.fits
    assert [difference.letter for difference in near.differences] == ["D"]


def test_a_far_package_another_count_and_the_part_itself_are_not_offered(stocked: Library, sound: Bundle) -> None:
    far = with_length(new_parts.start_from_part(sound, "NVK-2"), "D", "9.2–9.4")
    assert near_bodies(stocked, far) == ()
    fewer = package_edits.set_pins(new_parts.start_from_part(sound, "NVK-3"), "14")
    assert near_bodies(stocked, fewer) == ()
    assert near_bodies(stocked, stocked.load_release(stocked.find("NVK-1216T").id)) == ()


def test_a_library_without_models_has_none_to_offer(library: Library, sound: Bundle) -> None:
    release_part(library, sound, "generated")
    assert near_bodies(library, new_parts.start_from_part(sound, "NVK-2")) == ()
