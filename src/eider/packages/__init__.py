"""Package families: one module each in `families`, found by the registry, from which everything else follows."""
