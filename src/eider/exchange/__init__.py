"""Open formats, one module each, read and/or write; the registry names those in which a part is exported."""
