"""Widgets that know no screen: tables, drawing canvas, 3D view, fields, layouts."""
