"""Asks a catalogue service; never of itself, only when the user says so."""

import time

import httpx
import msgspec

from eider.catalogue.protocol import Answer, CatalogueEntry
from eider.errors import EiderError

# Between two pieces of an answer, and for all of it.
TIMEOUT_S, TOTAL_S = 8.0, 15.0
LARGEST_ANSWER = 4 * 1024 * 1024


class CatalogueError(EiderError):
    """The catalogue did not answer, or not in its protocol."""


def look_up(address: str, number: str) -> tuple[CatalogueEntry, ...]:
    """Entries for a manufacturer part number, from the service at `address`.

    Raises:
        CatalogueError: no catalogue is set, or it gives no answer that can be read.
    """
    if not address:
        raise CatalogueError("no catalogue is set; name its address as “catalogue” in eider-library.toml")
    try:
        content = _fetch(f"{address.rstrip('/')}/v1/parts", number)
    except (httpx.HTTPError, httpx.InvalidURL, ValueError) as fault:
        raise CatalogueError(
            f"the catalogue at {address} did not answer: {fault}; check the address and the network"
        ) from fault
    try:
        return msgspec.json.decode(content, type=Answer).parts
    except (msgspec.MsgspecError, UnicodeDecodeError, RecursionError) as fault:
        raise CatalogueError(f"the catalogue at {address} sent something else than its protocol: {fault}") from fault


def _fetch(address: str, number: str) -> bytes:
    """What a service answers, unpacked: no more than so many bytes, and within so much time in all."""
    ends = time.monotonic() + TOTAL_S
    content = bytearray()
    with httpx.stream("GET", address, params={"number": number}, timeout=TIMEOUT_S) as response:
        response.raise_for_status()
        for piece in response.iter_bytes():
            content += piece
            if len(content) > LARGEST_ANSWER:
                raise CatalogueError(f"{address} sent more than {LARGEST_ANSWER >> 20} MB; that is no answer")
            if time.monotonic() > ends:
                raise CatalogueError(f"{address} took longer than {TOTAL_S:g} s to answer; try again later")
    return bytes(content)
