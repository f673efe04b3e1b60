"""Asks a catalogue service; never of itself, only when the user says so."""

import asyncio
import ssl
import time
from collections.abc import Callable, Coroutine, Iterable, Mapping, Sequence
from email.utils import parsedate_to_datetime
from functools import lru_cache
from http import HTTPStatus
from typing import TYPE_CHECKING, Any, Generic, NamedTuple, TypeVar
from urllib.parse import urlencode

import msgspec

from eider.catalogue.answer_cache import AnswerCache, KeptAnswer
from eider.catalogue.protocol import (
    ALTERNATES,
    CATEGORIES,
    MOST_ON_PAGE,
    PARTS,
    SUPPLIERS,
    CatalogueEntry,
    CategoryList,
    Endpoint,
    PartPage,
    PartQuery,
    Problem,
    SupplierList,
)
from eider.errors import EiderError

if TYPE_CHECKING:
    import httpx
    from tenacity import RetryCallState

T = TypeVar("T")
LARGEST_ANSWER = 4 * 1024 * 1024
# How often (s) it is asked whether the user has cancelled.
POLL_S = 0.05
# What is worth another try: too many requests, and a service or what is before it that cannot answer now.
_AGAIN = frozenset({429, 500, 502, 503, 504})
# A service that asks for more is not waited for anyway (s).
_LONGEST_WAIT = 1e6


class CatalogueError(EiderError):
    """The catalogue did not answer, or not in its protocol."""


class AskingPatience(msgspec.Struct, frozen=True):
    """How long is waited (s): to connect, between two pieces of an answer, for one answer, for all tries together.

    Between two tries it waits `pause`, then twice as long, and so on; or as long as the service asks for.
    """

    connect: float = 4.0
    piece: float = 8.0
    answer: float = 15.0
    total: float = 40.0
    tries: int = 4
    pause: float = 0.5


class Answered(NamedTuple, Generic[T]):
    """An answer, when it was last known to hold (s since 1970), and why it is not newer where it should be."""

    value: T
    at: float
    doubt: str = ""


LARGEST_PORT = 65_535


class _RefusedError(Exception):
    """The service did not give a usable answer; `wait` is how long (s) it asks callers to hold off."""

    def __init__(self, message: str, *, is_final: bool, wait: float = 0.0) -> None:
        super().__init__(message)
        self.is_final, self.wait = is_final, wait


class Catalogue:
    """A service by its address.

    Args:
        token: what is shown where the service asks for it.
        cache: what was answered before; an answer younger than `fresh_s` is used without asking.
        tell: hears what is being done, at least each twentieth of a second, and may raise to cancel.
    """

    def __init__(
        self,
        address: str,
        token: str = "",
        cache: AnswerCache | None = None,
        tell: Callable[[str], None] = lambda _what: None,
        patience: AskingPatience | None = None,
        fresh_s: float = 600.0,
    ) -> None:
        if not address:
            raise CatalogueError("no catalogue is set; name its address as “catalogue” in eider-library.toml")
        self._address, self._token, self._cache = address.rstrip("/"), token, cache
        self._tell, self._patience, self._fresh_s = tell, patience or AskingPatience(), fresh_s
        self._doing = ""

    def suppliers(self) -> Answered[SupplierList]:
        """The suppliers of the service. Raises CatalogueError, as all that ask."""
        return self._ask(SUPPLIERS, (), SupplierList)

    def categories(self) -> Answered[CategoryList]:
        """The categories of the service."""
        return self._ask(CATEGORIES, (), CategoryList)

    def parts(self, query: PartQuery, *, again: bool = False) -> Answered[PartPage]:
        """The parts that fit; `again` asks the service even where its answer is fresh."""
        found = self._ask(PARTS, query.parameters(), PartPage, again=again)
        is_whole = not (query.suppliers or query.currency or query.in_stock or query.quantity)
        if self._cache and is_whole and not found.doubt:
            self._cache.keep_parts(found.value.parts, found.at)
        return found

    def alternates(self, manufacturer: str, number: str) -> Answered[PartPage]:
        """Parts that a supplier would send in place of one."""
        return self._ask(ALTERNATES, (("manufacturer", manufacturer), ("number", number)), PartPage)

    def exact_parts(self, numbers: Sequence[str], tell_share: Callable[[float], None]) -> list[CatalogueEntry]:
        """All that is known under whole part numbers, asked for again in as few requests as can be.

        Raises:
            CatalogueError: the service does not answer.
        """
        found: list[CatalogueEntry] = []
        for start in range(0, len(numbers), MOST_ON_PAGE):
            tell_share(start / len(numbers))
            chunk = tuple(numbers[start : start + MOST_ON_PAGE])
            page = pages = 1
            while page <= pages:
                asked = self.parts(PartQuery(exact=chunk, size=MOST_ON_PAGE, page=page), again=True)
                if asked.doubt:
                    raise CatalogueError(asked.doubt)
                found += asked.value.parts
                # A service that counts its pages wrongly is not followed for ever.
                page, pages = page + 1, min(asked.value.pages, len(chunk))
        return found

    def _ask(
        self, endpoint: Endpoint, parameters: Iterable[tuple[str, str]], kind: type[T], *, again: bool = False
    ) -> Answered[T]:
        request = f"{endpoint.path}?{urlencode(list(parameters))}".rstrip("?")
        kept = self._kept(request, kind)
        if kept and not again and 0 <= time.time() - kept[1].at < self._fresh_s:
            return Answered(kept[0], kept[1].at)
        try:
            answer = self._run(self._patiently(request, kept[1].tag if kept else ""))
        except _RefusedError as refused:
            message = f"the catalogue at {self._address} {refused}"
            if kept is None:
                raise CatalogueError(message) from refused
            return Answered(kept[0], kept[1].at, message)
        if answer is None and kept is not None:
            answer = kept[1]._replace(at=time.time())
        if answer is None:
            raise CatalogueError(f"the catalogue at {self._address} says that nothing changed, but nothing was known")
        value = self._decoded(answer.body, kind)
        if self._cache:
            self._cache.keep(request, answer)
        return Answered(value, answer.at)

    def _kept(self, request: str, kind: type[T]) -> tuple[T, KeptAnswer] | None:
        answer = self._cache.read(request) if self._cache else None
        if answer is None:
            return None
        try:
            return msgspec.json.decode(answer.body, type=kind), answer
        except msgspec.MsgspecError:
            return None

    def _decoded(self, body: bytes, kind: type[T]) -> T:
        try:
            return msgspec.json.decode(body, type=kind)
        except (msgspec.MsgspecError, UnicodeDecodeError, RecursionError) as fault:
            raise CatalogueError(f"the catalogue at {self._address} sent an invalid response: {fault}") from fault

    def _run(self, work: Coroutine[Any, Any, T]) -> T:
        """Do the work, and look all the time whether the user has cancelled."""

        async def watched() -> T:
            running = asyncio.ensure_future(work)
            try:
                while not running.done():
                    self._tell(self._doing)
                    await asyncio.wait({running}, timeout=POLL_S)
                return running.result()
            finally:
                running.cancel()

        return asyncio.run(watched())

    async def _patiently(self, request: str, tag: str) -> KeptAnswer | None:
        """The answer, after some tries; None where that with this ETag still holds."""
        # Loaded with the first request, as httpx is.
        from tenacity import AsyncRetrying, retry_if_exception, stop_after_attempt, stop_before_delay

        patience = self._patience
        tries = AsyncRetrying(
            retry=retry_if_exception(lambda fault: isinstance(fault, _RefusedError) and not fault.is_final),
            wait=lambda state: _asked_to_wait(state) or patience.pause * 2 ** (state.attempt_number - 1),
            stop=stop_after_attempt(patience.tries) | stop_before_delay(patience.total),
            before=lambda state: self._say_try(state.attempt_number),
            before_sleep=self._say_wait,
            reraise=True,
        )
        try:
            return await tries(self._once, request, tag)
        except _RefusedError as refused:
            if refused.wait and tries.statistics["attempt_number"] < patience.tries:
                raise _RefusedError(f"{refused}; try again in {refused.wait:.0f} s", is_final=True) from refused
            raise

    def _say_try(self, attempt: int) -> None:
        self._doing = f"asking {self._address}" if attempt == 1 else f"asking {self._address}, try {attempt}"

    def _say_wait(self, state: "RetryCallState") -> None:
        refused = state.outcome.exception() if state.outcome else None
        self._doing = f"waiting {state.upcoming_sleep:.1f} s, as the catalogue {refused}"

    async def _once(self, request: str, tag: str) -> KeptAnswer | None:
        # Loaded with the first request: the window opens without it.
        import httpx

        patience = self._patience
        limits = httpx.Timeout(patience.piece, connect=patience.connect)
        headers = {"Accept": "application/json"}
        headers |= {"If-None-Match": tag} if tag else {}
        headers |= {"Authorization": f"Bearer {self._token}"} if self._token else {}
        try:
            # Certificates are read for https alone; that takes longer than a whole request on this machine.
            address = httpx.URL(self._address)
            if (address.port or 0) > LARGEST_PORT:
                raise _RefusedError(f"has a port above {LARGEST_PORT}; check the address", is_final=True)
            verify = _certificates() if address.scheme == "https" else False
            async with (
                asyncio.timeout(patience.answer),
                httpx.AsyncClient(timeout=limits, headers=headers, verify=verify) as client,
                client.stream("GET", f"{self._address}{request}") as response,
            ):
                return await _read(response)
        except TimeoutError as fault:
            raise _RefusedError(
                f"did not answer in time, within {patience.answer:g} s; try again later", is_final=True
            ) from fault
        except httpx.TimeoutException as fault:
            raise _RefusedError("did not answer in time; try again later", is_final=False) from fault
        except httpx.TransportError as fault:
            raise _RefusedError(
                f"did not answer: {fault}; check the address and the network", is_final=False
            ) from fault
        except (httpx.HTTPError, httpx.InvalidURL, ValueError) as fault:
            raise _RefusedError(f"did not answer: {fault}; check the address", is_final=True) from fault


def _asked_to_wait(state: "RetryCallState") -> float:
    """How long (s) the service asked to be left alone; 0 where it did not."""
    refused = state.outcome.exception() if state.outcome else None
    return refused.wait if isinstance(refused, _RefusedError) else 0.0


async def _read(response: "httpx.Response") -> KeptAnswer | None:
    """The body of an answer, unpacked, of no more than so many bytes."""
    if response.status_code == 304:
        return None
    content = bytearray()
    async for piece in response.aiter_bytes():
        content += piece
        if len(content) > LARGEST_ANSWER:
            raise _RefusedError(f"sent more than {LARGEST_ANSWER >> 20} MB; that is not an answer", is_final=True)
    if response.status_code != 200:
        raise _refusal(response.status_code, response.headers, bytes(content))
    return KeptAnswer(bytes(content), response.headers.get("ETag", ""), time.time())


def _refusal(status: int, headers: Mapping[str, str], content: bytes) -> _RefusedError:
    if status == 401:
        return _RefusedError(
            "asks for an access token, or does not know this one; enter it under Suppliers", is_final=True
        )
    if status == 429:
        return _RefusedError("asks for fewer requests", is_final=False, wait=_retry_after(headers))
    try:
        said = msgspec.json.decode(content, type=Problem).message
    except (msgspec.MsgspecError, UnicodeDecodeError, RecursionError):
        said = next((known.phrase for known in HTTPStatus if known == status), "") or "no reason given"
    wait = _retry_after(headers) if status == 503 else 0.0
    return _RefusedError(f"answered {status}: {said[:200]}", is_final=status not in _AGAIN, wait=wait)


def _retry_after(headers: Mapping[str, str]) -> float:
    """How long (s) the service wants to be left alone: a number of seconds, or a date (RFC 9110, 10.2.3)."""
    text = headers.get("Retry-After", "").strip()
    if text.isascii() and text.isdigit():
        return min(float(text[:12]), _LONGEST_WAIT)
    try:
        return min(max(parsedate_to_datetime(text).timestamp() - time.time(), 0.0), _LONGEST_WAIT)
    except (ValueError, OverflowError):
        return 0.0


@lru_cache(maxsize=1)
def _certificates() -> ssl.SSLContext:
    import httpx

    return httpx.create_ssl_context()
