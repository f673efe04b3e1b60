"""The command variant."""

from command_line import answer, eider
from eider.library import Library
from eider.model.bundle import Bundle
from eider.services.releasing.part_releasing import release_part


def test_a_variant_is_begun_as_a_working_copy(library: Library, sound: Bundle) -> None:
    release_part(library, sound, "first release")
    folder = str(library.folder)
    made = answer("variant", folder, "NVK-1216T", "--name", "NVK-1216TR", "--set", "Part number=NVK-1216TR")
    assert (made["name"], made["shares"]) == ("NVK-1216TR", ["package", "symbol", "footprint", "body"])
    row = library.find("NVK-1216TR")
    assert row.state == "draft" and row.facts["Part number"] == "NVK-1216TR"
    assert answer("variant", folder, "NVK-1216T", "--name", "NVK-1216W", "--package")["shares"] == ["symbol"]
    for arguments, says in (
        (("--name", "NVK-1216TR"), "There is a part NVK-1216TR already"),
        (("--set", "x"), "expected NAME=VALUE"),
        ((), "its own name"),
    ):
        assert says in eider("variant", folder, "NVK-1216T", *arguments, status=2).stderr
