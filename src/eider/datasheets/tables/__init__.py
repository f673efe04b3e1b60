"""Tables: found (`table_blocks`), made into grids (`table_grid`, `open_rows`), told apart by their headings, and
read as pins, dimensions or facts.

`value_reading` reads one cell as a length; `table_capture` is the way in for a rectangle on a page.
"""
