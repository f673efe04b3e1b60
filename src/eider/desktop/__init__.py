"""The window: Qt 6 Widgets, and only here."""
