"""Parts on their way out: `format_registry` knows the formats, `exporting` writes one part, `library_publishing`
keeps a folder up to date with all of them, `printing` prints land patterns to scale.
"""
