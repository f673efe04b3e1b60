"""A variant shares what is the same: all of it with another number, the symbol alone in another package."""

import pytest

from eider.commands.facts import fact_edits
from eider.commands.packages import package_edits
from eider.commands.parts.evaluation import rerun_recipes
from eider.commands.parts.variants import new_variant
from eider.commands.pins import symbol_edits
from eider.errors import InputError
from eider.library import Library
from eider.model.bundle import Bundle
from eider.services.releasing.part_releasing import release_part

WHEN = ("Skerry librarian", "2026-11-28T00:00:00Z")


@pytest.fixture
def released(library: Library, sound: Bundle) -> Bundle:
    release_part(library, sound, "first release")
    return library.load(sound.part.id)


def test_another_number_shares_all_items_and_their_revisions(library: Library, released: Bundle) -> None:
    made = new_variant(released, "number", "NVK-1216TR", {"Part number": "NVK-1216TR"}, library.settings, *WHEN)
    assert made.part.facts["Part number"].value == "NVK-1216TR"
    release_part(library, made, "on reels")
    again = library.load(made.part.id)
    for kind in ("package", "symbol", "footprint", "body"):
        assert getattr(again.part, kind) == getattr(released.part, kind), kind
    assert again.symbol.name == "NVK-1216T", "the shared symbol keeps the name that it was released with"
    assert again.part.origin is not None and again.part.origin.id == released.part.id
    assert again.part.release is not None and again.part.release.revision == 1


def test_another_package_shares_the_symbol_alone(library: Library, released: Bundle) -> None:
    made = new_variant(released, "package", "NVK-1216W", {}, library.settings, *WHEN)
    wider = rerun_recipes(package_edits.set_dimension(made, "E", "7.40–7.60"), library.rulebook())
    wider = fact_edits.set_fact(wider, "Part number", "NVK-1216W")
    release_part(library, wider, "the wide one")
    again = library.load(made.part.id)
    assert again.part.symbol == released.part.symbol
    assert again.part.package.id != released.part.package.id
    assert library.load(released.part.id) == released, "the part that it came from is as it was"


def test_a_shared_symbol_that_is_changed_in_one_stays_in_the_other(library: Library, released: Bundle) -> None:
    made = new_variant(released, "number", "NVK-1216TR", {}, library.settings, *WHEN)
    release_part(library, made, "on reels")
    other = library.load(made.part.id)
    changed = rerun_recipes(symbol_edits.set_arrangement(other, "number"), library.rulebook())
    release_part(library, changed, "by number")
    assert library.load(released.part.id).symbol == released.symbol
    assert library.load(made.part.id).part.symbol.id == released.part.symbol.id
    assert library.load(made.part.id).part.symbol.revision == 2


def test_a_part_that_was_never_released_or_a_name_that_is_taken_is_refused(
    library: Library, sound: Bundle, released: Bundle
) -> None:
    with pytest.raises(InputError, match="never released"):
        new_variant(sound, "number", "X", {}, library.settings, *WHEN)
    for name in ("", " ", released.part.name):
        with pytest.raises(InputError, match="its own name"):
            new_variant(released, "number", name, {}, library.settings, *WHEN)
