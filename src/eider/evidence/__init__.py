"""Where the values of a part come from."""
