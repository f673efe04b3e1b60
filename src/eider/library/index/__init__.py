"""The search index, derived from commits and working copies: `part_index` writes it, `index_reader` answers."""
