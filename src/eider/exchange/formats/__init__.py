"""The formats, one module each, its reader and writer side by side. A module that is put here is found by itself."""
