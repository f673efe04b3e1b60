"""Bodies that Eider makes: from a package, composed by hand, their measures and materials."""
