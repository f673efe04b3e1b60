"""Parts from elsewhere, looked at and taken."""
