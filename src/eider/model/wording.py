"""How counts and sentences are written, for every message and table alike."""

from collections.abc import Sequence


def counted(count: int, noun: str, plural: str = "") -> str:
    """A count with its noun: “1 part”, “2 parts”; `plural` where it is not the noun with an s."""
    return f"{count:,} {noun if count == 1 else plural or f'{noun}s'}"


def sentence(text: str) -> str:
    """A text with a capital letter first; a first word of one letter is a dimension's and stays as it is."""
    first = text.partition(" ")[0].rstrip(":,")
    return text[0].upper() + text[1:] if len(first) > 1 and first.isalpha() and first.islower() else text


def named(noun: str, names: Sequence[str], most: int = 8) -> str:
    """Things by name: “pad 3”, “pads 3 and 14”, “pads 1, 2, 3 and 37 more” beyond `most`."""
    if len(names) == 1:
        return f"{noun} {names[0]}"
    shown = list(names[:most])
    last = f"{len(names) - most} more" if len(names) > most else shown.pop()
    return f"{noun}s {', '.join(shown)} and {last}"
