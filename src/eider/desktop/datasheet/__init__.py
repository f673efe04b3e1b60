"""The datasheet pane: pages, search, clicks, rectangles, cut-outs."""
