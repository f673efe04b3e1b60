"""Commands on a library: init, search, check, release, history, compare, report, rulebooks, variants."""
