"""Where an item is used, and what following its newest revision would change."""
