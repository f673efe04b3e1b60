"""The look-up over its real protocol, against the stand-in that ships with Eider."""

import contextlib
import gzip
import http.server
import threading
import time
from collections.abc import Callable, Iterator

import pytest

from eider.catalogue.client import LARGEST_ANSWER, CatalogueError, look_up
from eider.catalogue.service import StandIn
from eider.demo.catalogue import demo_entries


@pytest.fixture
def service() -> Iterator[StandIn]:
    stand_in = StandIn(demo_entries())
    yield stand_in
    stand_in.close()


def test_a_number_is_found_with_facts_and_offers(service: StandIn) -> None:
    (entry,) = look_up(service.address, "nvk-1216t")
    assert entry.facts["Supply voltage"] == "2.7 V to 5.3 V"
    assert [(o.supplier, o.stock) for o in entry.offers] == [("Farewell Depot", 1840), ("Kelp & Sons", 96)]


def test_a_piece_of_a_number_finds_all_and_nothing_finds_nothing(service: StandIn) -> None:
    assert len(look_up(service.address, "LYN-C1608")) == 20
    assert look_up(service.address, "unheard-of") == ()
    assert look_up(service.address, "") == ()


@pytest.mark.parametrize("address", ["", "http://127.0.0.1:9", "nonsense", "http://"])
def test_no_service_is_told_in_words(address: str) -> None:
    with pytest.raises(CatalogueError, match="catalogue"):
        look_up(address, "NVK-1216T")


@pytest.mark.parametrize(
    ("sent", "says"),
    [(b"<html>hello</html>", "something else than its protocol"), (b" " * (LARGEST_ANSWER + 1), "sent more than")],
    ids=["a page", "too much"],
)
def test_something_else_than_the_protocol_is_refused(sent: bytes, says: str) -> None:
    class Other(http.server.BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            self.send_response(200)
            self.end_headers()
            self.wfile.write(sent)

        def log_message(self, *_arguments: object) -> None:
            pass

    with http.server.HTTPServer(("127.0.0.1", 0), Other) as server:
        threading.Thread(target=server.handle_request, daemon=True).start()
        with pytest.raises(CatalogueError, match=says):
            look_up(f"http://127.0.0.1:{server.server_port}", "X")


def _listening(answer: Callable[[http.server.BaseHTTPRequestHandler], None]) -> http.server.ThreadingHTTPServer:
    class Other(http.server.BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            with contextlib.suppress(OSError):
                answer(self)

        def log_message(self, *_: object) -> None:
            """Nothing is said."""

    server = http.server.ThreadingHTTPServer(("127.0.0.1", 0), Other)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    return server


def _packed(handler: http.server.BaseHTTPRequestHandler) -> None:
    """A few kilobytes that unpack to 64 MB."""
    handler.send_response(200)
    handler.send_header("Content-Encoding", "gzip")
    handler.end_headers()
    handler.wfile.write(gzip.compress(b" " * 64 * 2**20))


def _dripping(handler: http.server.BaseHTTPRequestHandler) -> None:
    """A byte every so often, each within the time between two bytes."""
    handler.send_response(200)
    handler.end_headers()
    for _ in range(1000):
        handler.wfile.write(b" ")
        handler.wfile.flush()
        time.sleep(0.05)


def _no_text(handler: http.server.BaseHTTPRequestHandler) -> None:
    handler.send_response(200)
    handler.end_headers()
    handler.wfile.write(b'{"parts": [{"number": "\xff\xfe"}]}')


@pytest.mark.parametrize(
    ("answer", "says"),
    [(_packed, "sent more than 4 MB"), (_dripping, "took longer than 0.5 s"), (_no_text, "something else than")],
)
def test_a_service_that_lies_or_dawdles_is_told(
    answer: Callable[[http.server.BaseHTTPRequestHandler], None], says: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("eider.catalogue.client.TOTAL_S", 0.5)
    server = _listening(answer)
    try:
        with pytest.raises(CatalogueError, match=says):
            look_up(f"http://127.0.0.1:{server.server_address[1]}", "NVK-1216T")
    finally:
        server.shutdown()
        server.server_close()
