"""Bodies to look at: meshes and scenes, the camera, the renderer, glTF."""
