"""Rulebooks: a company's land-pattern rules as data, and the one that ships with Eider."""

from eider.rulebooks.rulebook import GoalRow, Rulebook, load_rulebook, standard_rulebook

__all__ = ["GoalRow", "Rulebook", "load_rulebook", "standard_rulebook"]
