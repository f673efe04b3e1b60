"""The exit status of every command, which scripts rely on."""

DONE, BLOCKED, FAILED = 0, 1, 2
