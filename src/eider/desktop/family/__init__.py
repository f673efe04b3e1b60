"""Family tables: one definition, a row for each part."""
