"""3D bodies: neutral solids to STEP and meshes, and pictures of them. Open CASCADE is loaded on first use only."""
