"""Writes meshes as glTF 2.0 binary (Khronos Group): metres, y upwards, a material for each colour."""

import json
import struct
from typing import Any

import numpy as np

from eider.bodies.pictures.body_mesh import Mesh

MAGIC, VERSION = 0x46546C67, 2
JSON_CHUNK, BINARY_CHUNK = 0x4E4F534A, 0x004E4942
# Roughness of what does not shine at all, and of what shines most.
MATT, GLOSS = 0.8, 0.2
FLOATS, ARRAY_BUFFER, TRIANGLES = 5126, 34962, 4
# Millimetres with z upwards to metres with y upwards.
TO_METRES = np.array([[1, 0, 0], [0, 0, 1], [0, -1, 0]], dtype=np.float32) / 1000


def gltf_binary(mesh: Mesh, name: str) -> bytes:
    """The mesh as the content of a `.glb` file."""
    colours, of_corner = np.unique(mesh.corners[:, 6:], axis=0, return_inverse=True)
    pieces: list[bytes] = []
    views: list[dict[str, Any]] = []
    accessors: list[dict[str, Any]] = []

    def put(values: np.ndarray[Any, np.dtype[np.float32]], *, with_limits: bool) -> int:
        data = np.ascontiguousarray(values, dtype="<f4").tobytes()
        at = sum(map(len, pieces))
        pieces.append(data)
        views.append({"buffer": 0, "byteOffset": at, "byteLength": len(data), "target": ARRAY_BUFFER})
        accessor = {"bufferView": len(views) - 1, "componentType": FLOATS, "count": len(values), "type": "VEC3"}
        if with_limits:
            accessor |= {"min": values.min(axis=0).tolist(), "max": values.max(axis=0).tolist()}
        accessors.append(accessor)
        return len(accessors) - 1

    primitives = []
    for index in range(len(colours)):
        corners = mesh.corners[of_corner.reshape(-1) == index]
        places = put((corners[:, :3] @ TO_METRES.T).astype(np.float32), with_limits=True)
        normals = put((corners[:, 3:6] @ (TO_METRES.T * 1000)).astype(np.float32), with_limits=False)
        attributes = {"POSITION": places, "NORMAL": normals}
        primitives.append({"attributes": attributes, "material": index, "mode": TRIANGLES})
    document = {
        "asset": {"version": "2.0", "generator": "Eider"},
        "scene": 0,
        "scenes": [{"nodes": [0]}],
        "nodes": [{"mesh": 0, "name": name}],
        "meshes": [{"name": name, "primitives": primitives}],
        "materials": [_material(colour) for colour in colours.tolist()],
        "buffers": [{"byteLength": sum(map(len, pieces))}],
        "bufferViews": views,
        "accessors": accessors,
    }
    return _container(json.dumps(document, ensure_ascii=False).encode(), b"".join(pieces))


def _material(look: list[float]) -> dict[str, Any]:
    """Of red, green, blue and shine; glTF has its colours linear, ours are sRGB (IEC 61966-2-1)."""
    *colour, shine = look
    linear = [c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in colour]
    metallic = {
        "baseColorFactor": [*(round(c, 6) for c in linear), 1.0],
        "metallicFactor": 0.0,
        "roughnessFactor": round(MATT - (MATT - GLOSS) * shine, 4),
    }
    return {"pbrMetallicRoughness": metallic}


def _container(text: bytes, binary: bytes) -> bytes:
    """Header and two chunks, each filled up to four bytes (glTF 2.0, section 4.4)."""
    text += b" " * (-len(text) % 4)
    binary += b"\0" * (-len(binary) % 4)
    chunks = struct.pack("<II", len(text), JSON_CHUNK) + text + struct.pack("<II", len(binary), BINARY_CHUNK) + binary
    return struct.pack("<III", MAGIC, VERSION, 12 + len(chunks)) + chunks
