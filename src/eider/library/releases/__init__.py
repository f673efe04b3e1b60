"""One commit for one release, whole or not at all: `release_commit` plans and makes it, `release_recovery`
finishes what a killed process left.
"""
