"""What only the CAD kernel can do: shapes, meshes, picking. Modules named kernel_… and cad_… load it when imported."""
