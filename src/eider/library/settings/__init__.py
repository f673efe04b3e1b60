"""`eider-library.toml`: read and changed field by field, with its history in git."""
