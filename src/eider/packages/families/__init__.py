"""One module per family; each holds a `FAMILY`. See docs/guide/a-family.md."""
