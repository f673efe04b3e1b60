"""Rulebooks: a company's land-pattern rules as data, and the one that ships with Eider."""

from eider.rulebooks.rulebook import BodySize, GoalRow, Rulebook, load_rulebook, standard_rulebook

__all__ = ["BodySize", "GoalRow", "Rulebook", "load_rulebook", "standard_rulebook"]
