"""Bodies and symbols that several parts use: a change for one is offered to the others, and nothing is pushed."""

import pytest

from eider.commands.parts import body_edits, new_parts
from eider.commands.parts.shared_items import make_exclusive, use_item
from eider.demo.maker_models import CONVERTER, placed_model, step_of
from eider.errors import NotFoundError
from eider.library import Library
from eider.library.documents.attachments import DocumentKind
from eider.model.body import Body
from eider.model.bundle import Bundle
from eider.services.parts.shared_item_news import released_item, shared_item_news
from eider.services.releasing.part_releasing import release_part


def released(library: Library, bundle: Bundle, note: str) -> Bundle:
    release_part(library, bundle, note)
    return library.load_release(bundle.part.id)


@pytest.fixture
def first(sound: Bundle, library: Library) -> Bundle:
    """A released part with a model."""
    library.attachments.keep(DocumentKind.MODEL, step_of(CONVERTER))
    return released(library, body_edits.use_model(sound, placed_model(CONVERTER)), "first")


def test_a_body_changed_for_one_part_is_offered_to_the_other(first: Bundle, library: Library) -> None:
    other = new_parts.start_from_part(first, "NVK-2")
    other = released(library, use_item(other, "body", first.body, first.part.body), "second")
    assert other.part.body == first.part.body and other.body.id == first.body.id
    assert shared_item_news(library, other.part.body, "NVK-2").users == (first.part.name,)
    assert shared_item_news(library, other.part.body, "NVK-2").newer is None
    changed = released(library, body_edits.set_material(first, "body", "ferrite"), "of ferrite")
    assert changed.part.body.revision == 2
    # The other part keeps what it was released with.
    assert library.load(other.part.id).body.materials == {}
    newer = shared_item_news(library, other.part.body, "NVK-2").newer
    assert newer and (newer.revision, newer.note) == (2, "of ferrite")
    item, ref = released_item(library, "body", newer.id, newer.revision)
    assert isinstance(item, Body)
    followed = released(library, use_item(other, "body", item, ref), "follows")
    assert followed.part.body == changed.part.body and followed.body.materials == {"body": "ferrite"}
    assert shared_item_news(library, followed.part.body, "NVK-2").newer is None


def test_a_body_of_its_own_goes_its_own_way(first: Bundle, library: Library) -> None:
    other = new_parts.start_from_part(first, "NVK-2")
    shared = use_item(other, "body", first.body, first.part.body)
    own = make_exclusive(shared, "body")
    assert own.body.id != first.body.id and own.part.body.revision is None
    made = released(library, body_edits.set_material(own, "body", "ferrite"), "its own")
    assert made.part.body.id != first.part.body.id
    assert shared_item_news(library, first.part.body, first.part.name).users == ()


def test_a_revision_that_is_not_there_is_told(first: Bundle, library: Library) -> None:
    with pytest.raises(NotFoundError, match="has no revision 9"):
        released_item(library, "body", first.body.id, 9)
