"""The description of the protocol by the OpenAPI Specification 3.1, made from the endpoints and the answers."""

from collections.abc import Iterator, Mapping
from typing import Any

import msgspec

from eider.catalogue.protocol import ENDPOINTS, Endpoint, Problem

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
