"""Bill of materials."""
