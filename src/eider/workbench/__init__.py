"""Use cases without Qt: what the window and the command line both do."""
