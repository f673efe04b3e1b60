"""Commands on facts: facts across parts, family tables, bills of materials, the supplier catalogue."""
