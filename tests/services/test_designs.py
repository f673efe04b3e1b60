"""Designs kept by their lists of parts, and found by what they use."""

from pathlib import Path

import pytest

from command_line import answer, eider
from eider.errors import InputError
from eider.library import Library, init_library, open_library
from eider.services.facts.bills import bill_columns, keep_design, make_bill, open_list
from eider.services.facts.designs import DesignUse, design_words, designs_using
from eider.services.releasing.impact import item_use, items_of
from eider.services.releasing.part_releasing import release_part
from eider.services.sharing.synchronising import open_shared, share_library, synchronise
from shared_libraries import REVIEWER, bare_server, capacitor, change_fact

NAME = "LYN-C1608-100N"


@pytest.fixture
def library(tmp_path: Path) -> Library:
    made = init_library(tmp_path / "library", "Skerry Fieldworks", REVIEWER)
    release_part(made, capacitor(made), "first release")
    return made


@pytest.fixture
def parts(tmp_path: Path) -> Path:
    path = tmp_path / "perch.csv"
    path.write_text(f'Reference,Part\n"C1, C2",{NAME}\nC9,{NAME}\nU1,unheard-of\n')
    return path


def test_where_used_finds_designs_and_says_when_newer_revisions_are_out(library: Library, parts: Path) -> None:
    bill = make_bill(library, open_list(library, parts), bill_columns(library))
    made = keep_design(library, "Weighing perch", bill, parts.name)
    part_id = library.find(NAME).id
    assert made.parts[part_id].references == ("C1", "C2", "C9") and made.by == REVIEWER.name
    (footprint,) = (head for head in items_of(library, NAME) if head.kind == "footprint")
    assert item_use(library, footprint).designs == (DesignUse("Weighing perch", 3, (NAME,), ()),)
    release_part(library, change_fact(library, part_id, "Shelf", "A7"), "A7")
    (use,) = designs_using(open_library(library.folder), {part_id})
    assert use.behind == (NAME,) and design_words([use]) == "Weighing perch (1 of its parts, newer revisions are out)"
    keep_design(library, "Weighing perch", make_bill(library, open_list(library, parts), bill_columns(library)), "x")
    assert designs_using(library, {part_id})[0].behind == () == designs_using(library, {"0" * 16})


def test_a_list_without_parts_or_a_design_without_a_name_is_refused(
    library: Library, parts: Path, tmp_path: Path
) -> None:
    bill = make_bill(library, open_list(library, parts), bill_columns(library))
    with pytest.raises(InputError, match="give the design a name"):
        keep_design(library, " ", bill, parts.name)
    (tmp_path / "other.csv").write_text("Reference,Part\nU1,unheard-of\n")
    with pytest.raises(InputError, match="no released part of this library"):
        keep_design(
            library, "x", make_bill(library, open_list(library, tmp_path / "other.csv"), bill_columns(library)), "x"
        )


def test_who_synchronises_hears_which_designs_have_what_came(library: Library, parts: Path, tmp_path: Path) -> None:
    answer("bom", library.folder, parts, "--keep-design", "Weighing perch")
    assert "designs: Weighing perch (1 of its parts)" in eider("used", library.folder, NAME).stdout
    server = f"file://{bare_server(tmp_path / 'server.git')}"
    share_library(library, server)
    theirs = open_shared(server, tmp_path / "theirs", REVIEWER)
    release_part(library, change_fact(library, library.find(NAME).id, "Shelf", "A7"), "A7")
    assert [use.name for use in synchronise(theirs).designs] == ["Weighing perch"]
