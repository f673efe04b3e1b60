"""The step Source."""
