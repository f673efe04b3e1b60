"""Categories saved in the settings of a library: the rest of the file stays, and what cannot be used is refused."""

from pathlib import Path

import pytest
from msgspec.structs import replace

from eider.errors import InputError
from eider.library import Library, open_library
from eider.library.errors import ConflictError
from eider.library.settings.category_settings import category_fault, category_lines, save_categories
from eider.library.settings.settings_file import with_section
from eider.model.codec import convert, parse_toml
from eider.model.library import Category, FactField, LibrarySettings

ODD = Category(
    title='He said "Ω"\\n', parent="passive", name_pattern=r"[A-Z]+\d{2}", description="{Größe} [x]",
    facts=(
        FactField("Größe", required=True, kind="choice", choices=("a", "b, c"), also=('"q"',)),
        FactField("Width", kind="number", unit="m", is_value=True, hidden=True),
    ),
)  # fmt: skip


def read(text: str) -> LibrarySettings:
    return convert(parse_toml(text, "x"), LibrarySettings, "x")


def test_the_rest_of_the_settings_stays_as_it_was_written(library: Library) -> None:
    text = (library.folder / "eider-library.toml").read_text(encoding="utf-8")
    text = text.replace("[symbols]", "# our grid\n[symbols]") + "\n# the end\n"
    made = with_section(text, "categories", category_lines({"odd": ODD, "passive": Category("Passive")}))
    assert read(made) == replace(read(text), categories={"odd": ODD, "passive": Category("Passive")})
    assert "# our grid" in made and made.startswith("# Settings of an Eider library")
    # Once more changes nothing.
    assert with_section(made, "categories", category_lines({"odd": ODD, "passive": Category("Passive")})) == made


def test_sections_after_the_categories_stay(library: Library) -> None:
    text = 'name = "x"\n[categories.a]\ntitle = "A"\n\n[symbols]\ngrid = 1.27\n[categories."b"]\ntitle = "B"\n'
    made = read(with_section(text, "categories", category_lines({"c": Category("C")})))
    assert (made.symbols.grid, list(made.categories)) == (1.27, ["c"])


def test_saved_categories_are_those_that_the_library_works_by(library: Library) -> None:
    before = dict(library.settings.categories)
    after = {**before, "passive": Category("Passive"), "odd": ODD}
    save_categories(library, after, "two more", replaces=before)
    assert library.settings.categories == open_library(library.folder).settings.categories == after
    with pytest.raises(ConflictError, match="meanwhile"):
        save_categories(library, before, "back", replaces=before)
    with pytest.raises(InputError, match="few words why"):
        save_categories(library, before, " ", replaces=after)


@pytest.mark.parametrize(
    ("category", "fault"),
    [
        (Category(" "), "no title"), (Category("A", parent="gone"), "“gone” is not a category"),
        (Category("A", facts=(FactField("x"), FactField("x"))), "x is there twice"),
        (Category("A", facts=(FactField(""),)), "no name"),
        (Category("A", name_pattern="["), "not a regular expression"),
        (Category("A", facts=(FactField("x", is_value=True), FactField("y", is_value=True))), "two facts are"),
        (Category("A", facts=(FactField("x", kind="choice"),)), "no choices"),
        (Category("A", description="{y}"), "template of the description"), (Category("A", parent="a"), "circle"),
    ],
)  # fmt: skip
def test_what_cannot_be_used_is_refused_with_a_reason(category: Category, fault: str, library: Library) -> None:
    assert fault in category_fault(LibrarySettings(name="", categories={"a": category}), "a")
    before = dict(library.settings.categories)
    with pytest.raises(InputError, match="category a"):
        save_categories(library, {**before, "a": category}, "x", replaces=before)
    assert library.settings.categories == before


def test_a_key_is_one_that_the_file_can_have() -> None:
    assert "small letters" in category_fault(LibrarySettings(name="", categories={"A b": Category("A")}), "A b")


def test_settings_written_otherwise_are_left(library: Library, tmp_path: Path) -> None:
    path = library.folder / "eider-library.toml"
    path.write_text('format = 2\nname = "x"\ncategories = { a = { title = "A" } }\n', encoding="utf-8")
    odd = open_library(library.folder)
    with pytest.raises(InputError, match="cannot be changed here"):
        save_categories(odd, {"b": Category("B")}, "x", replaces=odd.settings.categories)
    assert "categories = {" in path.read_text(encoding="utf-8")
