"""Commands on a shared library: share, sync, claim, review, people, withdraw, impact."""
