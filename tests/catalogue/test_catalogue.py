"""The look-up over its real protocol, against the stand-in that ships with Eider, and against services in trouble."""

import contextlib
import gzip
import http.server
import json
import sqlite3
import ssl
import threading
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import httpx
import pytest

from catalogue.catalogue_entries import ENTRIES
from eider.catalogue.answer_cache import AnswerCache
from eider.catalogue.client import LARGEST_ANSWER, AskingPatience, Catalogue, CatalogueError
from eider.catalogue.protocol import PartQuery, Supplier
from eider.catalogue.service import ServiceManner, StandIn, read_trouble
from eider.demo.catalogue import SUPPLIERS, demo_entries
from eider.errors import EiderError, InputError

QUICK = AskingPatience(connect=1.0, piece=0.4, answer=0.6, total=1.5, tries=3, pause=0.01)
PATIENT = AskingPatience(connect=5.0, piece=10.0, answer=30.0, total=60.0, tries=3, pause=0.01)
LYN = PartQuery(number="LYN-R1-4K7")


@contextlib.contextmanager
def serving(**manner: object) -> Iterator[StandIn]:
    service = StandIn(ENTRIES, (Supplier("Kelp", "IE", ("EUR",)),), ServiceManner(**manner))  # type: ignore[arg-type]
    try:
        yield service
    finally:
        service.close()


@pytest.fixture(scope="module")
def service() -> Iterator[StandIn]:
    stand_in = StandIn(demo_entries(), SUPPLIERS)
    yield stand_in
    stand_in.close()


def test_a_number_is_found_with_facts_and_offers(service: StandIn) -> None:
    (entry,) = Catalogue(service.address).parts(PartQuery(number="nvk-1216t")).value.parts
    assert entry.facts["Supply voltage"] == "2.7 V to 5.3 V"
    assert [(o.supplier, o.stock, o.minimum) for o in entry.offers] == [
        ("Farewell Depot", 1840, 1),
        ("Kelp & Sons", 96, 1),
        ("Guillemot & Daughter", 5000, 2500),
    ]


def test_suppliers_categories_and_alternates_are_told(service: StandIn) -> None:
    catalogue = Catalogue(service.address)
    assert [s.name for s in catalogue.suppliers().value.suppliers] == [s.name for s in SUPPLIERS]
    by_key = {c.key: c for c in catalogue.categories().value.categories}
    assert by_key["capacitor"].facts["Dielectric"] == ("X7R",)
    assert catalogue.alternates("Lyng Passive", "LYN-C1608-100N").value.parts == ()


def test_every_part_of_the_demo_is_known() -> None:
    numbers = {entry.part_number for entry in demo_entries()}
    assert {"NVK-U100P", "BRM-CH16", "OHC-125-12R", "OHC-350-04", "LYN-R2012-4M7", "BRM-ECH47"} <= numbers
    assert len(numbers) == len(demo_entries())


@pytest.mark.parametrize("address", ["", "http://127.0.0.1:9", "nonsense", "http://", "https://127.0.0.1:9", "ftp://x"])
def test_no_service_is_told_in_words(address: str) -> None:
    with pytest.raises(CatalogueError, match="catalogue"):
        Catalogue(address, patience=QUICK).parts(LYN)


@pytest.mark.parametrize("address", ["https://127.0.0.1:9", "HTTPS://127.0.0.1:9"])
def test_certificates_are_verified_however_the_scheme_is_written(address: str, monkeypatch: pytest.MonkeyPatch) -> None:
    used: list[object] = []
    real = httpx.AsyncClient

    def client(*, verify: object, **settings: Any) -> httpx.AsyncClient:
        used.append(verify)
        return real(verify=verify, **settings)

    monkeypatch.setattr(httpx, "AsyncClient", client)
    with pytest.raises(CatalogueError, match="did not answer"):
        Catalogue(address, "shingle", patience=QUICK).parts(LYN)
    assert all(isinstance(verify, ssl.SSLContext) and verify.verify_mode == ssl.CERT_REQUIRED for verify in used)
    assert used


@pytest.mark.parametrize(
    ("trouble", "says"),
    [
        ("slow", "did not answer in time"),
        ("hanging", "did not answer in time"),
        ("failing", "answered 503: the service cannot answer now"),
        ("lying", "sent an invalid response"),
        ("huge", "sent more than 4 MB"),
    ],
)
def test_a_service_in_trouble_is_told_in_words(trouble: str, says: str) -> None:
    with serving(trouble=trouble) as troubled, pytest.raises(CatalogueError, match=says):
        Catalogue(troubled.address, patience=QUICK).parts(LYN)


def test_a_token_is_asked_for_and_shown() -> None:
    with serving(token="shingle") as guarded:
        for token in ("", "pebble"):
            with pytest.raises(CatalogueError, match="access token"):
                Catalogue(guarded.address, token).parts(LYN)
        assert Catalogue(guarded.address, "shingle").parts(LYN).value.total == 1


def test_one_that_asks_for_fewer_requests_is_given_time() -> None:
    with serving(limit=1) as limited:
        catalogue = Catalogue(limited.address, patience=AskingPatience(tries=3, total=10.0))
        said: list[str] = []
        told = Catalogue(limited.address, tell=said.append, patience=AskingPatience(tries=3, total=10.0))
        assert catalogue.parts(LYN).value.total == 1
        assert told.parts(LYN).value.total == 1
        assert any("waiting 1.0 s, as the catalogue asks for fewer requests" in words for words in said)
        with pytest.raises(CatalogueError, match="try again in 1 s"):
            Catalogue(limited.address, patience=AskingPatience(total=0.5)).parts(LYN)


def test_a_request_that_failed_is_made_again() -> None:
    with serving(fail_every=2) as shaky:
        catalogue = Catalogue(shaky.address, patience=QUICK)
        assert [catalogue.parts(LYN).value.total for _ in range(4)] == [1, 1, 1, 1]


def test_a_cancel_ends_the_waiting() -> None:
    calls: list[str] = []

    def tell(what: str) -> None:
        calls.append(what)
        if len(calls) > 3:
            raise EiderError("cancelled")

    with serving(trouble="hanging") as hanging, pytest.raises(EiderError, match="^cancelled$"):
        Catalogue(hanging.address, tell=tell).parts(LYN)
    assert len(calls) == 4, "nothing is done after the cancel"


def test_what_was_answered_is_used_again_with_its_age_and_asked_anew_by_its_tag(tmp_path: Path) -> None:
    cache = AnswerCache(tmp_path / "answers.sqlite")
    with serving() as service:
        first = Catalogue(service.address, cache=cache).parts(LYN)
        again = Catalogue(service.address, cache=cache).parts(LYN)
        assert again == first
        again = Catalogue(service.address, cache=cache).parts(LYN, again=True)
        assert again.value == first.value and again.at > first.at
        address = service.address
    old = Catalogue(address, cache=cache, patience=QUICK).parts(LYN, again=True)
    assert old.value == first.value and old.at == again.at
    assert "did not answer" in old.doubt
    with pytest.raises(CatalogueError, match="did not answer"):
        Catalogue(address, cache=cache, patience=QUICK).parts(PartQuery(number="other"))


def test_a_tag_that_still_holds_is_answered_without_a_body() -> None:
    with serving() as service:
        url = f"{service.address}/v1/parts?number=LYN"
        tag = httpx.get(url).headers["ETag"]
        same = httpx.get(url, headers={"If-None-Match": tag})
        assert (same.status_code, same.content) == (304, b"")
        assert httpx.get(url, headers={"If-None-Match": '"other"'}).status_code == 200


@pytest.mark.parametrize("query", ["size=101", "size=0", "page=-1", "quantity=1e9", "fact=Resistance", "page=%D9%A1"])
def test_a_parameter_that_is_not_understood_is_refused(query: str) -> None:
    with serving() as service:
        answer = httpx.get(f"{service.address}/v1/parts?number=LYN&{query}")
        assert answer.status_code == 400
        assert answer.json()["message"]


def test_the_service_describes_what_it_answers() -> None:
    with serving() as service:
        described = httpx.get(f"{service.address}/openapi.json").json()
        for path in described["paths"]:
            assert httpx.get(f"{service.address}{path}").status_code == 200
    page = described["components"]["schemas"]["PartPage"]
    assert set(page["required"]) == {"parts", "total"}


def test_many_numbers_are_asked_for_in_few_requests() -> None:
    with serving() as service:
        shares: list[float] = []
        found = Catalogue(service.address).exact_parts([e.part_number for e in ENTRIES] * 50, shares.append)
    assert {e.part_number for e in found} == {e.part_number for e in ENTRIES}
    assert shares == [0.0, 0.4, 0.8]


def test_a_damaged_cache_is_begun_anew(tmp_path: Path) -> None:
    path = tmp_path / "answers.sqlite"
    path.write_bytes(b"not a database at all" * 100)
    with serving() as service:
        cache = AnswerCache(path)
        assert Catalogue(service.address, cache=cache).parts(LYN).value.total == 1
        assert cache.known_part(("lyngpassive", "lynr14k7")) is not None
    with contextlib.closing(sqlite3.connect(path)) as db:
        assert db.execute("select count(*) from answers").fetchone() == (1,)


def test_where_nothing_can_be_kept_all_is_asked_for(tmp_path: Path) -> None:
    (tmp_path / "a file").write_text("")
    with serving() as service:
        catalogue = Catalogue(service.address, cache=AnswerCache(tmp_path / "a file" / "answers.sqlite"))
        assert catalogue.parts(LYN).value.total == 1


def test_a_port_that_is_taken_and_an_unknown_trouble_are_told(service: StandIn) -> None:
    port = int(service.address.rpartition(":")[2])
    with pytest.raises(InputError, match=f"port {port} cannot be used"):
        StandIn((), port=port)
    with pytest.raises(InputError, match="not a kind of trouble"):
        read_trouble("sulking")


def _listening(answer: Callable[[http.server.BaseHTTPRequestHandler], None]) -> http.server.ThreadingHTTPServer:
    class Other(http.server.BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            with contextlib.suppress(OSError):
                answer(self)

        def log_message(self, *_: object) -> None:
            """Nothing is said."""

    server = http.server.ThreadingHTTPServer(("127.0.0.1", 0), Other)
    threading.Thread(target=server.serve_forever, args=(0.01,), daemon=True).start()
    return server


def _sent(*headers: tuple[str, str], status: int = 200, body: bytes = b"") -> Callable[..., None]:
    def answer(handler: http.server.BaseHTTPRequestHandler) -> None:
        handler.send_response(status)
        for name, value in headers:
            handler.send_header(name, value)
        handler.end_headers()
        handler.wfile.write(body)

    return answer


def _dripping(handler: http.server.BaseHTTPRequestHandler) -> None:
    """A byte every so often, each within the time between two bytes."""
    handler.send_response(200)
    handler.end_headers()
    for _ in range(1000):
        handler.wfile.write(b" ")
        handler.wfile.flush()
        time.sleep(0.05)


_ZIPPED = gzip.compress(b" " * 64 * 2**20)
_DEEP = b"[" * 100_000
_NO_NUMBER = json.dumps({"parts": [], "total": "many"}).encode()


@pytest.mark.parametrize(
    ("answer", "says"),
    [
        (_sent(("Content-Encoding", "gzip"), body=_ZIPPED), "sent more than 4 MB"),
        (_sent(("Content-Encoding", "gzip"), body=b"not packed"), "did not answer"),
        (_dripping, "did not answer in time, within 0.6 s"),
        (_sent(body=b'{"parts": [{"number": "\xff\xfe"}]}'), "invalid response"),
        (_sent(body=_DEEP), "invalid response"),
        (_sent(body=_NO_NUMBER), "invalid response"),
        (_sent(body=b" " * (LARGEST_ANSWER + 1)), "sent more than"),
        (_sent(status=304), "nothing was known"),
        (_sent(("Location", "http://elsewhere.example"), status=302), "answered 302: Found"),
        (_sent(status=404, body=b"<html>"), "answered 404: Not Found"),
        (_sent(("Retry-After", "Fri, 31 Dec 2100 23:59:59 GMT"), status=429), "try again in"),
        (_sent(("Retry-After", "soon"), status=429), "asks for fewer requests"),
        (_sent(status=799), "answered 799: no reason given"),
    ],
)
def test_a_service_that_lies_or_dawdles_is_told(
    answer: Callable[[http.server.BaseHTTPRequestHandler], None], says: str
) -> None:
    server = _listening(answer)
    # Only who waits for a slow answer is in a hurry: 4 MB take longer on a busy machine.
    patience = QUICK if answer is _dripping else PATIENT
    try:
        with pytest.raises(CatalogueError, match=says):
            Catalogue(f"http://127.0.0.1:{server.server_address[1]}", patience=patience).parts(LYN)
    finally:
        server.shutdown()
        server.server_close()


def test_a_service_that_counts_too_many_pages_is_not_followed_for_ever() -> None:
    asked: list[str] = []

    def answer(handler: http.server.BaseHTTPRequestHandler) -> None:
        asked.append(handler.path)
        _sent(body=json.dumps({"parts": [], "total": 0, "pages": 10**9}).encode())(handler)

    server = _listening(answer)
    try:
        catalogue = Catalogue(f"http://127.0.0.1:{server.server_address[1]}", patience=QUICK)
        assert catalogue.exact_parts(["A", "B", "C"], lambda _share: None) == []
    finally:
        server.shutdown()
        server.server_close()
    assert len(asked) == 3
