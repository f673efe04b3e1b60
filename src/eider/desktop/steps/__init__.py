"""One module per step of the trail."""
