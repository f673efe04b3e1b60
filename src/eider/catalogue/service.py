"""A stand-in catalogue service over HTTP, with entries from a file: for the demo, for tests, and to try against."""

import socket
import threading
from collections.abc import Sequence

import msgspec

from eider.catalogue.protocol import Answer, CatalogueEntry


def make_app(entries: Sequence[CatalogueEntry]):  # type: ignore[no-untyped-def]
    """The ASGI application that answers look-ups from these entries."""
    from starlette.applications import Starlette
    from starlette.requests import Request
    from starlette.responses import Response
    from starlette.routing import Route

    async def parts(request: Request) -> Response:
        wanted = request.query_params.get("number", "").strip().lower()
        found = tuple(entry for entry in entries if wanted and wanted in entry.part_number.lower())
        return Response(msgspec.json.encode(Answer(found)), media_type="application/json")

    return Starlette(routes=[Route("/v1/parts", parts)])


class StandIn:
    """The service on a free port of this machine, in a thread of its own, until it is closed."""

    def __init__(self, entries: Sequence[CatalogueEntry]) -> None:
        import uvicorn

        self._socket = socket.create_server(("127.0.0.1", 0))
        config = uvicorn.Config(make_app(entries), log_level="error", lifespan="off")
        self._server = uvicorn.Server(config)
        self._thread = threading.Thread(target=self._server.run, args=([self._socket],), daemon=True)
        self._thread.start()

    @property
    def address(self) -> str:
        """Where it listens."""
        host, port = self._socket.getsockname()[:2]
        return f"http://{host}:{port}"

    def close(self) -> None:
        """Stop listening."""
        self._server.should_exit = True
        self._thread.join(timeout=5.0)
        self._socket.close()
