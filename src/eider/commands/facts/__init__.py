"""What users do to facts: of one part, across parts, from suppliers, and of the members of a family."""
