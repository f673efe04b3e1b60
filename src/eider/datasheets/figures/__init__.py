"""Figures: found (`found_figures`), their lines, arrows and texts told apart (`drawing_marks`), and read as
outlines, lands or pinouts.
"""
