"""Writes solids as STEP with gmsh, a mesh generator that has a CAD kernel of its own: `with_gmsh.py JOBS.json`."""

import json
import math
import sys
from pathlib import Path
from typing import Any

import gmsh

Tags = list[tuple[int, int]]


def polygon(points: list[list[float]]) -> int:
    """A plane face through points in space; a point that comes twice makes no edge."""
    occ = gmsh.model.occ
    points = [point for index, point in enumerate(points) if math.dist(point, points[index - 1]) > 1e-9]
    corners = [occ.addPoint(*point) for point in points]
    edges = [occ.addLine(a, b) for a, b in zip(corners, corners[1:] + corners[:1], strict=True)]
    return int(occ.addPlaneSurface([occ.addCurveLoop(edges)]))


def cylinder(shape: dict[str, Any]) -> int:
    height = shape["z1"] - shape["z0"]
    return int(gmsh.model.occ.addCylinder(shape["x"], shape["y"], shape["z0"], 0, 0, height, shape["radius"]))


def made(shape: dict[str, Any]) -> Tags:
    """One shape, where it is defined."""
    occ = gmsh.model.occ
    if shape["kind"] == "cylinder":
        return [(3, cylinder(shape))]
    if shape["kind"] == "ball":
        low, high = (math.asin(max(-1.0, min(1.0, (shape[z] - shape["z"]) / shape["radius"]))) for z in ("z0", "z1"))
        return [(3, int(occ.addSphere(shape["x"], shape["y"], shape["z"], shape["radius"], angle1=low, angle2=high)))]
    if shape["kind"] == "strip":
        face = polygon([[x, -shape["width"] / 2, z] for x, z in shape["profile"]])
        return [tag for tag in occ.extrude([(2, face)], 0, shape["width"], 0) if tag[0] == 3]
    face = polygon([[x, y, shape["z0"]] for x, y in shape["outline"]])
    block = [tag for tag in occ.extrude([(2, face)], 0, 0, shape["z1"] - shape["z0"]) if tag[0] == 3]
    pockets = [(3, cylinder(pocket)) for pocket in shape["pockets"]]
    return occ.cut(block, pockets)[0] if pockets else block


def write(job: dict[str, Any]) -> None:
    """Make the solids of a job, place the whole, and write it."""
    gmsh.clear()
    occ = gmsh.model.occ
    everything: Tags = []
    for solid in job["solids"]:
        for x, y, z, turn in solid["placements"]:
            tags = made(solid["shape"])
            occ.rotate(tags, 0, 0, 0, 0, 0, 1, turn)
            occ.translate(tags, x, y, z)
            everything += tags
    if job["fused"] and len(everything) > 1:
        everything = occ.fuse(everything[:1], everything[1:])[0]
    turn, move, scale = job["turn"], job["move"], job["scale"]
    rows = [[scale * v for v in row] + [offset] for row, offset in zip(turn, move, strict=True)]
    occ.affineTransform(everything, [v for row in rows for v in row])
    occ.removeAllDuplicates() if job["fused"] else None
    occ.synchronize()
    gmsh.write(job["out"])


def main() -> None:
    gmsh.initialize()
    gmsh.option.setNumber("General.Verbosity", 1)
    for job in json.loads(Path(sys.argv[1]).read_text(encoding="utf-8")):
        write(job)
    gmsh.finalize()


if __name__ == "__main__":
    main()
