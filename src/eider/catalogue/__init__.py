"""Supplier look-up: the protocol, its client, and the stand-in service that ships with Eider."""
