"""The frame: start, window, actions, command field, dialogs."""
