"""Commands for what comes in and goes out: intake, publish."""
