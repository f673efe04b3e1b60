"""What build servers and git servers ask for: SARIF, a baseline, and a hook that refuses parts with blockers."""

import json
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

from command_line import eider
from eider.commands.facts.fact_edits import set_fact
from eider.errors import EiderError
from eider.library import Library
from eider.library.documents.working_copies import WorkingCopy
from eider.library.releases.release_commit import release_bundles
from eider.library.settings.people_settings import PeopleSettings, people_settings
from eider.model.bundle import Bundle
from eider.services.releasing.part_releasing import release_part
from eider.services.sharing.people import change_people
from eider.services.sharing.synchronising import synchronise
from shared_libraries import change_fact, git, shared_pair

HOOK = Path(__file__).parent.parent.parent / "packaging" / "hooks" / "pre-receive"


@pytest.fixture
def doubtful(library: Library, sound: Bundle) -> Library:
    """A library with one part that has a caution and a blocker."""
    bad = set_fact(set_fact(sound, "Operating temperature", "warm"), "Manufacturer", "")
    library.copies.save(WorkingCopy(bundle=bad))
    return library


def test_sarif_names_rules_levels_and_parts(doubtful: Library) -> None:
    document = json.loads(eider("check", doubtful.folder, "--format", "sarif", status=1).stdout)
    (run,) = document["runs"]
    assert document["version"] == "2.1.0" and run["tool"]["driver"]["name"] == "Eider"
    rules = [rule["id"] for rule in run["tool"]["driver"]["rules"]]
    levels = {result["ruleId"]: result["level"] for result in run["results"]}
    assert levels["facts.required"] == "error" and levels["facts.wrong-kind"] == "warning"
    for result in run["results"]:
        assert rules[result["ruleIndex"]] == result["ruleId"]
    place = next(r for r in run["results"] if r["ruleId"] == "facts.required")["locations"][0]["logicalLocations"][0]
    assert place == {"name": "NVK-1216T", "fullyQualifiedName": "NVK-1216T/facts.Manufacturer"}


def test_what_is_in_the_baseline_does_not_count(doubtful: Library, tmp_path: Path) -> None:
    known = tmp_path / "known.json"
    eider("check", doubtful.folder, "--write-baseline", known, status=1)
    said = eider("check", doubtful.folder, "--baseline", known)
    assert "0 blockers" in said.stdout
    row = doubtful.find("NVK-1216T")
    doubtful.copies.save(WorkingCopy(bundle=set_fact(doubtful.load(row.id), "Part number", "")))
    new = eider("check", doubtful.folder, "--baseline", known, status=1).stdout
    assert "Part number is empty" in new and "Manufacturer is empty" not in new
    known.write_text("no list", encoding="utf-8")
    assert "is not a baseline" in eider("check", doubtful.folder, "--baseline", known, status=2).stderr
    assert "cannot be read" in eider("check", doubtful.folder, "--baseline", tmp_path / "x", status=2).stderr


def test_the_hook_refuses_a_push_whose_parts_have_blockers(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, sound: Bundle
) -> None:
    server, ours, theirs = shared_pair(tmp_path, lambda _library: sound)
    shutil.copy(HOOK, server / "hooks" / "pre-receive")
    monkeypatch.setenv("EIDER", f"{sys.executable} -m eider")
    monkeypatch.setenv("PYTHONPATH", str(Path("src").resolve()))
    release_part(ours, change_fact(ours, sound.part.id, "Shelf", "A7"), "sound")
    assert git(server, "rev-parse", "main") == ours.versions.head
    head = git(server, "rev-parse", "main")
    synchronise(theirs)
    head = git(server, "rev-parse", "main")
    # A revision that an Eider without checks would make.
    bad = set_fact(theirs.load(sound.part.id), "Manufacturer", "")
    with pytest.raises(EiderError, match="refuses it.*parts have blockers.*Manufacturer is empty"):
        release_bundles(theirs, [bad], "unsound")
    assert git(server, "rev-parse", "main") == head == theirs.versions.head
    with pytest.raises(EiderError, match="Manufacturer is empty"):
        release_part(theirs, bad, "unsound")


def test_the_hook_refuses_releases_that_a_role_does_not_allow(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, sound: Bundle
) -> None:
    server, ours, theirs = shared_pair(tmp_path, lambda _library: sound)
    roles = PeopleSettings({ours.person().email: "librarian", theirs.person().email: "reviewer"}, False, False)
    change_people(ours, roles, "roles", replaces=people_settings(ours.settings))
    synchronise(theirs)
    shutil.copy(HOOK, server / "hooks" / "pre-receive")
    monkeypatch.setenv("EIDER", f"{sys.executable} -m eider")
    monkeypatch.setenv("PYTHONPATH", str(Path("src").resolve()))
    head = git(server, "rev-parse", "main")
    # What an Eider without roles would push.
    with pytest.raises(EiderError, match="a role does not allow it.*reviewer: by the way"):
        release_bundles(theirs, [set_fact(theirs.load(sound.part.id), "Shelf", "B2")], "by the way")
    assert git(server, "rev-parse", "main") == head == theirs.versions.head
    release_part(ours, change_fact(ours, sound.part.id, "Shelf", "A7"), "sound")
    assert git(server, "rev-parse", "main") == ours.versions.head


@pytest.mark.parametrize("name", ["--write-baseline=config", "--help", "two words"])
def test_a_file_named_like_an_option_is_no_option_of_the_hook(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, sound: Bundle, name: str
) -> None:
    server, ours, _ = shared_pair(tmp_path, lambda _library: sound)
    shutil.copy(HOOK, server / "hooks" / "pre-receive")
    monkeypatch.setenv("EIDER", f"{sys.executable} -m eider")
    monkeypatch.setenv("PYTHONPATH", str(Path("src").resolve()))
    config, head = (server / "config").read_bytes(), git(server, "rev-parse", "main")
    place = next((ours.folder / "parts").rglob("*.part.json")).parent
    (place / f"{name}.part.json").write_text("{}")
    git(ours.folder, "add", "--", str(place))
    git(ours.folder, "commit", "--quiet", "-m", "by hand")
    pushed = subprocess.run(
        ["git", "-C", str(ours.folder), "push", "--quiet", str(server), "HEAD:main"],
        capture_output=True, text=True, check=False,
    )  # fmt: skip
    assert pushed.returncode and f"{name}.part.json" in pushed.stderr and "library.unreadable-file" in pushed.stderr
    assert (server / "config").read_bytes() == config
    assert git(server, "rev-parse", "main") == head
