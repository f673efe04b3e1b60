"""Who released what, when and why."""
