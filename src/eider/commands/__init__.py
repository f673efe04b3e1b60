"""What users do to a part, each as a pure function from part to part; undo history; the recipes run again."""
