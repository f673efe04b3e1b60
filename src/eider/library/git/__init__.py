"""The library as a git repository: commits and their trailers (`versions`, `revision_trailers`), git's own index
and packs, and git itself for what goes over the network (`git_program`).
"""
