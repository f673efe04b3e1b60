"""Symbols: what pin names mean, electrical types, the pin table, arrangement, standard graphics."""
