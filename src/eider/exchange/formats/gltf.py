"""glTF 2.0 binary (Khronos Group): the 3D body as triangles, placed on its lands, coloured."""

from pathlib import Path

from eider.bodies.pictures.gltf_writer import gltf_binary
from eider.bodies.placement.model_measure import placement_of
from eider.bodies.placement.model_placement import placed_mesh
from eider.bodies.solids.body_solids import body_solids
from eider.bodies.step_files.step_process import import_step
from eider.exchange.format_spec import ExportSource, FormatSpec
from eider.library.atomic_files import write_atomic
from eider.library.item_paths import safe_name


def _write(source: ExportSource, folder: Path) -> list[Path]:
    bundle = source.bundle
    if bundle.body.model is not None:
        mesh = placed_mesh(import_step(source.model_file()).fine, placement_of(bundle.body.model))
    else:
        # The CAD kernel takes a second to load: for other formats it is not needed.
        from eider.bodies.pictures.body_mesh import make_mesh

        mesh = make_mesh(body_solids(bundle.sheet, bundle.body, source.materials))
    path = folder / f"{safe_name(bundle.body.name)}.glb"
    write_atomic(path, gltf_binary(mesh, bundle.body.name))
    return [path]


FORMAT = FormatSpec(
    key="gltf",
    title="Body as glTF 2.0 binary",
    suffixes=(".glb",),
    order=12,
    loses="solids (triangles only), symbol, lands and facts",
    is_default=False,
    write=_write,
)
