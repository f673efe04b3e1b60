"""The base of every error that is meant for a person."""


class EiderError(Exception):
    """Something could not be done; the message says what, where, and what to do.

    The command line prints the message as one line and exits with 2; the desktop shows it in place.
    """


class InputError(EiderError):
    """Something given by the user (a file, a field, an option) cannot be read."""


class NotFoundError(EiderError):
    """A thing named by the user is not there."""
