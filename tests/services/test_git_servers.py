"""Sharing through real git servers on the network: git's daemon, git's http-backend, and a bare folder."""

from collections.abc import Callable
from contextlib import AbstractContextManager, nullcontext
from pathlib import Path

import pytest

from eider.demo.parts import LIBRARIAN
from eider.library import init_library
from eider.model.bundle import Bundle
from eider.services.releasing.part_releasing import release_part
from eider.services.sharing.claims import all_claims, claim_part
from eider.services.sharing.reviews import judge_review, request_review
from eider.services.sharing.synchronising import open_shared, share_library, synchronise
from git_servers import git_daemon, git_over_http
from shared_libraries import REVIEWER, bare_server, change_fact, git, sound_server


def _by_path(folder: Path) -> AbstractContextManager[str]:
    return nullcontext(str(folder))


@pytest.mark.parametrize("serve", [git_daemon, git_over_http, _by_path])
def test_a_part_is_claimed_reviewed_released_and_followed(
    serve: Callable[[Path], AbstractContextManager[str]], sound: Bundle, tmp_path: Path
) -> None:
    ours = init_library(tmp_path / "ours", "Skerry Fieldworks", LIBRARIAN)
    release_part(ours, sound, "first release")
    server = bare_server(tmp_path / "server" / "parts.git")
    git(server, "config", "http.receivepack", "true")
    with serve(tmp_path / "server") as folder:
        address, part_id = f"{folder}/parts.git", sound.part.id
        share_library(ours, address)
        theirs = open_shared(address, tmp_path / "theirs", REVIEWER)
        assert [row.revision for row in theirs.search()] == [1]
        claim_part(ours, part_id, sound.part.name, "for the shelf")
        change_fact(ours, part_id, "Shelf", "A7")
        request_review(ours, part_id, "a shelf")
        synchronise(theirs)
        assert all_claims(theirs)[part_id].by == LIBRARIAN.name
        judge_review(theirs, part_id, "approved", "as it is")
        synchronise(ours)
        release_part(ours, ours.load(part_id), "on the shelf")
        received = synchronise(theirs).received
        assert [(entry.name, entry.revision) for entry in received] == [(sound.part.name, 2)]
        assert theirs.load(part_id).part.facts["Shelf"].value == "A7"
        assert all_claims(theirs) == {}, "the release gives the claim back"
    sound_server(server)
