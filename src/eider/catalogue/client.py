"""Asks a catalogue service; never of itself, only when the user says so."""

import httpx
import msgspec

from eider.catalogue.protocol import Answer, CatalogueEntry
from eider.errors import EiderError

TIMEOUT_S = 8.0
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
        response = httpx.get(f"{address.rstrip('/')}/v1/parts", params={"number": number}, timeout=TIMEOUT_S)
        response.raise_for_status()
    except (httpx.HTTPError, httpx.InvalidURL) as fault:
        raise CatalogueError(
            f"the catalogue at {address} did not answer: {fault}; check the address and the network"
        ) from fault
    if len(response.content) > LARGEST_ANSWER:
        raise CatalogueError(f"the catalogue at {address} sent more than {LARGEST_ANSWER >> 20} MB; that is no answer")
    try:
        return msgspec.json.decode(response.content, type=Answer).parts
    except msgspec.MsgspecError as fault:
        raise CatalogueError(f"the catalogue at {address} sent something else than its protocol: {fault}") from fault
