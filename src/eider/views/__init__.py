"""What each step and screen shows, as frozen values: computed off the Qt thread, painted by the desktop."""
