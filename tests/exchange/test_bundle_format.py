"""Eider bundles: what is written comes back the same; what is damaged or hostile is told."""

import hashlib
import json
import zipfile
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from eider.commands.facts import fact_edits
from eider.errors import InputError
from eider.exchange import archives
from eider.exchange.archives import archive_bytes, opened_archive
from eider.exchange.formats.bundle import MANIFEST, bundle_archive, read_bundle
from eider.library import Library
from eider.model.bundle import Bundle
from eider.model.codec import encode
from eider.model.part import DatasheetLink
from shared_libraries import capacitor

SHEET = b"%PDF-1.7 datasheet"
SUM = hashlib.sha256(SHEET).hexdigest()


@pytest.fixture
def part(library: Library) -> Bundle:
    return fact_edits.attach_datasheet(capacitor(library), DatasheetLink(SUM, "LYN-C.pdf", 2))


def _written(tmp_path: Path, data: bytes) -> Path:
    path = tmp_path / "parts.eider.zip"
    path.write_bytes(data)
    return path


def test_parts_come_back_with_their_documents(part: Bundle, tmp_path: Path) -> None:
    other = fact_edits.set_fact(part, "Shelf", "A7")
    data = bundle_archive([part, other], {SUM: SHEET})
    assert data == bundle_archive([part, other], {SUM: SHEET})
    read = read_bundle(_written(tmp_path, data))
    # Lengths are written to a nanometre.
    assert [encode(found) for found in read.parts] == [encode(part), encode(other)]
    assert read.documents == {SUM: SHEET}
    assert read.log == (f"datasheets/0/0/0/{'0' * 64}.pdf is missing or is not the file that it was",)
    with zipfile.ZipFile(tmp_path / "parts.eider.zip") as archive:
        # Two states of one part lie beside each other, what they share is there once.
        assert sum(name.endswith(".part.json") for name in archive.namelist()) == 2
        assert sum(name.endswith(".footprint.json") for name in archive.namelist()) == 1


def test_a_part_with_a_changed_item_is_left_out_and_told(part: Bundle, tmp_path: Path) -> None:
    path = _written(tmp_path, bundle_archive([part], {SUM: SHEET}))
    with opened_archive(path) as archive:
        files = {name: archive.read(name) for name in archive.names}
    footprint = next(name for name in files if name.endswith(".footprint.json"))
    read = read_bundle(_written(tmp_path, archive_bytes({**files, footprint: files[footprint] + b" "})))
    assert read.parts == () and "is not the file that the manifest tells" in read.log[0]
    manifest = json.loads(files[MANIFEST])
    manifest["parts"][0]["items"]["body"] = manifest["parts"][0]["items"]["symbol"]
    read = read_bundle(_written(tmp_path, archive_bytes({**files, MANIFEST: json.dumps(manifest).encode()})))
    assert read.parts == () and part.part.name in read.log[0]


@pytest.mark.parametrize(
    ("files", "says"),
    [
        ({"x": b""}, "has no manifest.json"),
        ({MANIFEST: b"{}"}, "is not an Eider bundle"),
        ({MANIFEST: b'{"format": "eider-bundle/9", "parts": [], "files": {}}'}, "has the format eider-bundle/9"),
    ],
)
def test_what_is_no_bundle_says_why(files: dict[str, bytes], says: str, tmp_path: Path) -> None:
    with pytest.raises(InputError, match=says):
        read_bundle(_written(tmp_path, archive_bytes(files)))


@pytest.mark.parametrize("name", ["../victim", "/victim", "a/../../victim", "a\\b", "C:/victim"])
def test_names_that_lead_out_are_not_read(name: str, tmp_path: Path) -> None:
    path = _written(tmp_path, b"")
    with zipfile.ZipFile(path, "w") as archive:
        archive.writestr(name, b"x")
        archive.writestr("sound", b"y")
    with opened_archive(path) as opened:
        assert opened.names == ("sound",) and "leads out" in opened.left_out[0]


def test_links_twins_and_encrypted_files_are_not_read(tmp_path: Path) -> None:
    path = _written(tmp_path, b"")
    link = zipfile.ZipInfo("link")
    link.external_attr = 0o120777 << 16
    with zipfile.ZipFile(path, "w") as archive:
        archive.writestr(link, b"/etc/passwd")
        archive.writestr("twin", b"first")
        with pytest.warns(UserWarning, match="Duplicate"):
            archive.writestr("twin", b"second")
    with opened_archive(path) as opened:
        assert opened.names == ("twin",)
        assert ["link" in told or "twice" in told for told in opened.left_out] == [True, True]


def test_what_would_unpack_to_too_much_is_refused(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = _written(tmp_path, archive_bytes({"zeros": bytes(40 * 2**20)}))
    with pytest.raises(InputError, match="would unpack to 40 MB"), opened_archive(path):
        pass
    monkeypatch.setattr(archives, "MOST_FILES", 3)
    with (
        pytest.raises(InputError, match="holds 4 files"),
        opened_archive(_written(tmp_path, archive_bytes({str(number): b"" for number in range(4)}))),
    ):
        pass


@settings(max_examples=60, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.data())
def test_a_damaged_bundle_is_read_in_part_or_refused(part: Bundle, tmp_path: Path, data: st.DataObject) -> None:
    whole = bytearray(bundle_archive([part], {SUM: SHEET}))
    for _ in range(data.draw(st.integers(1, 8))):
        whole[data.draw(st.integers(0, len(whole) - 1))] = data.draw(st.integers(0, 255))
    try:
        read = read_bundle(_written(tmp_path, bytes(whole[: data.draw(st.integers(0, len(whole)))])))
    except InputError:
        return
    assert all(encode(found) == encode(part) for found in read.parts)
