"""Revisions: made, withdrawn, restored, compared, and what they change elsewhere.

`part_releasing` is the one way to a released revision; `impact` and `rulebook_effects` tell what follows from one.
"""
