"""A stand-in catalogue service over HTTP, with entries from memory: for the demo, for tests, and to try against."""

import asyncio
import hashlib
import socket
import threading
import time
from collections.abc import AsyncIterator, Awaitable, Callable, Iterator, Mapping, Sequence
from typing import TYPE_CHECKING, Any, get_args

import msgspec

from eider.catalogue.part_search import PartSearch
from eider.catalogue.protocol import (
    ALTERNATES,
    CATEGORIES,
    ENDPOINTS,
    MOST_ON_PAGE,
    PARTS,
    SUPPLIERS,
    CatalogueEntry,
    CategoryList,
    Endpoint,
    PartQuery,
    Problem,
    Supplier,
    SupplierList,
    Trouble,
)
from eider.errors import InputError

_REFERENCE = "#/components/schemas/{name}"
# Parameters that may be given several times, and those that are whole numbers.
REPEATED, NUMBERS = frozenset({"fact", "supplier", "exact"}), frozenset({"page", "size", "quantity"})
# Besides the answer: what else a service may say, and what that means.
_REFUSALS: Mapping[str, str] = {
    "400": "a parameter is not understood",
    "401": "an access token is wanted, or this one is unknown",
    "429": "too many requests; Retry-After says in how many seconds the next one is answered",
    "503": "the service cannot answer now; try again later",
}


def openapi_document() -> dict[str, Any]:
    """The whole description, as the service gives it under `/openapi.json`."""
    answers = [endpoint.answer for endpoint in ENDPOINTS]
    _, schemas = msgspec.json.schema_components([*answers, Problem], ref_template=_REFERENCE)
    return {
        "openapi": "3.1.0",
        "info": {
            "title": "Eider catalogue",
            "version": "1",
            "description": "Parts of several suppliers: facts, offers, standing, alternates.",
        },
        "paths": {endpoint.path: {"get": _operation(endpoint)} for endpoint in ENDPOINTS},
        "components": {
            "schemas": schemas,
            "securitySchemes": {"token": {"type": "http", "scheme": "bearer"}},
        },
        "security": [{}, {"token": []}],
    }


def _operation(endpoint: Endpoint) -> dict[str, Any]:
    responses: dict[str, Any] = {
        "200": {
            "description": endpoint.title,
            "headers": {"ETag": {"schema": {"type": "string"}}},
            "content": _json(endpoint.answer.__name__),
        },
        "304": {"description": "the answer with the ETag in If-None-Match still holds"},
    }
    responses |= {code: {"description": said, "content": _json("Problem")} for code, said in _REFUSALS.items()}
    return {"summary": endpoint.title, "parameters": list(_parameters(endpoint)), "responses": responses}


def _json(name: str) -> dict[str, Any]:
    return {"application/json": {"schema": {"$ref": _REFERENCE.format(name=name)}}}


def _parameters(endpoint: Endpoint) -> Iterator[dict[str, Any]]:
    for name, meaning in endpoint.parameters.items():
        kind: dict[str, Any] = {"type": "integer", "minimum": 1} if name in NUMBERS else {"type": "string"}
        yield {
            "name": name,
            "in": "query",
            "description": meaning,
            "schema": {"type": "array", "items": kind} if name in REPEATED else kind,
        }


if TYPE_CHECKING:
    from starlette.applications import Starlette
    from starlette.requests import Request
    from starlette.responses import Response

# How long *slow* waits, and how many bytes *huge* sends.
SLOW_S, HUGE = 3.0, 200 * 1024 * 1024
# The limit holds for this long (s).
WINDOW_S = 1.0
LARGEST_PAGE = 1_000_000


class ServiceManner(msgspec.Struct, frozen=True, kw_only=True):
    """How the service behaves.

    Attributes:
        token: what callers have to show; empty for nothing.
        limit: requests answered in a second; 0 for any number.
        fail_every: each so many-th request is answered with 503; 0 for none.
        trouble: *slow* answers after some seconds, *failing* never but with 503, *hanging* not at all, *lying* sends
            what is not an answer, *huge* sends 200 MB.
    """

    token: str = ""
    limit: int = 0
    fail_every: int = 0
    trouble: Trouble = "none"


class _Gate:
    """Lets requests in: counts them, and says who has to wait or stay out."""

    def __init__(self, manner: ServiceManner) -> None:
        self._manner = manner
        self._since, self._count, self._all = 0.0, 0, 0

    def refusal(self, request: "Request") -> "Response | None":
        """The answer to a request that is not let in; None for one that is."""
        manner = self._manner
        if manner.token and request.headers.get("authorization") != f"Bearer {manner.token}":
            return _answer(Problem("an access token is wanted"), 401)
        now = time.monotonic()
        if now - self._since >= WINDOW_S:
            self._since, self._count = now, 0
        self._count, self._all = self._count + 1, self._all + 1
        if manner.limit and self._count > manner.limit:
            return _answer(Problem("too many requests"), 429, {"Retry-After": "1"})
        if manner.trouble == "failing" or (manner.fail_every and self._all % manner.fail_every == 0):
            return _answer(Problem("the service cannot answer now"), 503)
        return None


def _answer(value: Any, status: int = 200, headers: dict[str, str] | None = None) -> "Response":
    from starlette.responses import Response

    return Response(msgspec.json.encode(value), status, headers, media_type="application/json")


def _tagged(value: Any, request: "Request") -> "Response":
    """An answer with its ETag; nothing but that where the caller has it already."""
    from starlette.responses import Response

    content = msgspec.json.encode(value)
    tag = f'"{hashlib.sha256(content).hexdigest()[:24]}"'
    if request.headers.get("if-none-match") == tag:
        return Response(status_code=304, headers={"ETag": tag})
    return Response(content, headers={"ETag": tag}, media_type="application/json")


async def _huge() -> AsyncIterator[bytes]:
    piece = b" " * 2**20
    for _ in range(HUGE // len(piece)):
        yield piece


async def _troubled(trouble: Trouble) -> "Response | None":
    """What a service in trouble sends in place of its answer; None where it answers after all."""
    from starlette.responses import HTMLResponse, StreamingResponse

    if trouble == "slow":
        await asyncio.sleep(SLOW_S)
    elif trouble == "hanging":
        await asyncio.sleep(3600)
    elif trouble == "lying":
        return HTMLResponse("<html><body>Welcome</body></html>")
    elif trouble == "huge":
        return StreamingResponse(_huge(), media_type="application/json")
    return None


def read_query(parameters: Any) -> PartQuery:
    """The query of a request; `parameters` gives texts by name, and `getlist` all of one name.

    Raises:
        InputError: a parameter is not understood.
    """
    size, page, quantity = (_number(parameters, n, d) for n, d in (("size", 20), ("page", 1), ("quantity", 0)))
    facts = [fact.partition("=") for fact in parameters.getlist("fact")]
    if size > MOST_ON_PAGE or len(parameters.getlist("exact")) > MOST_ON_PAGE:
        raise InputError(f"at most {MOST_ON_PAGE} parts can be asked for at a time")
    if wrong := next((name for name, equals, _ in facts if not equals), ""):
        raise InputError(f"fact={wrong[:40]} is not NAME=VALUE")
    return PartQuery(
        number=parameters.get("number", "").strip(),
        words=parameters.get("words", "").strip(),
        category=parameters.get("category", ""),
        facts=tuple((name, value) for name, _, value in facts),
        suppliers=tuple(parameters.getlist("supplier")),
        currency=parameters.get("currency", ""),
        in_stock=parameters.get("in_stock", "") == "1",
        quantity=quantity,
        exact=tuple(parameters.getlist("exact")),
        page=page,
        size=size,
    )


def _number(parameters: Any, name: str, default: int) -> int:
    text = parameters.get(name, "")
    if not text:
        return default
    if not (text.isascii() and text.isdigit() and 1 <= int(text[:8]) <= LARGEST_PAGE):
        raise InputError(f"{name}={text[:20]} is not a whole number from 1 to {LARGEST_PAGE:,}")
    return int(text)


def make_app(
    entries: Sequence[CatalogueEntry], suppliers: Sequence[Supplier] = (), manner: ServiceManner | None = None
) -> "Starlette":
    """The ASGI application that answers from these entries."""
    from starlette.applications import Starlette
    from starlette.routing import Route

    manner = manner or ServiceManner()
    search, gate, described = PartSearch(entries), _Gate(manner), openapi_document()
    answers: dict[str, Callable[[Any], Any]] = {
        SUPPLIERS.path: lambda _asked: SupplierList(tuple(suppliers)),
        CATEGORIES.path: lambda _asked: CategoryList(search.categories()),
        PARTS.path: lambda asked: search.page(read_query(asked)),
        ALTERNATES.path: lambda asked: search.alternates(asked.get("manufacturer", ""), asked.get("number", "")),
    }

    def served(work: Callable[[Any], Any]) -> Callable[["Request"], Awaitable["Response"]]:
        async def answer(request: "Request") -> "Response":
            refused = gate.refusal(request) or await _troubled(manner.trouble)
            if refused is not None:
                return refused
            try:
                return _tagged(work(request.query_params), request)
            except InputError as fault:
                return _answer(Problem(str(fault)), 400)

        return answer

    async def description(request: "Request") -> "Response":
        return _tagged(described, request)

    routes = [Route(path, served(work)) for path, work in answers.items()]
    return Starlette(routes=[*routes, Route("/openapi.json", description)])


def read_trouble(name: str) -> Trouble:
    """A kind of trouble by its name.

    Raises:
        InputError: there is no such kind.
    """
    known: tuple[Trouble, ...] = get_args(Trouble)
    found = next((kind for kind in known if kind == name), None)
    if found is None:
        raise InputError(f"“{name}” is not a kind of trouble; choose one of {', '.join(known)}")
    return found


class StandIn:
    """The service on a port of this machine (0: any that is free), in a thread of its own, until it is closed."""

    def __init__(
        self,
        entries: Sequence[CatalogueEntry],
        suppliers: Sequence[Supplier] = (),
        manner: ServiceManner | None = None,
        port: int = 0,
    ) -> None:
        try:
            import uvicorn

            app = make_app(entries, suppliers, manner)
        except ImportError as fault:
            raise InputError(
                f"the stand-in catalogue needs a package that is not installed ({fault.name}); "
                "install it with: pip install 'eider[stand-in]'"
            ) from fault
        try:
            self._socket = socket.create_server(("127.0.0.1", port))
        except OSError as fault:
            raise InputError(f"port {port} cannot be used: {fault.strerror}; choose another one") from fault
        config = uvicorn.Config(app, log_level="critical", lifespan="off", timeout_graceful_shutdown=0)
        self._server = uvicorn.Server(config)
        self._thread = threading.Thread(target=self._server.run, args=([self._socket],), daemon=True)
        self._thread.start()

    @property
    def address(self) -> str:
        """Where it listens."""
        host, port = self._socket.getsockname()[:2]
        return f"http://{host}:{port}"

    def wait(self) -> None:
        """Until the service ends; Ctrl+C raises KeyboardInterrupt here."""
        while self._thread.is_alive():
            self._thread.join(timeout=0.5)

    def close(self) -> None:
        """Stop listening."""
        self._server.should_exit = True
        self._thread.join(timeout=5.0)
        self._socket.close()
