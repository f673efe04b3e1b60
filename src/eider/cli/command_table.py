"""Every command: where it is, and its summary. `eider --help` prints them without importing any command."""

from collections.abc import Mapping
from typing import NamedTuple


class CommandEntry(NamedTuple):
    """The module below `eider.cli` and the name in it that make a command, and what it does in one line."""

    module: str
    name: str
    summary: str


COMMANDS: Mapping[str, CommandEntry] = {
    "open": CommandEntry("window", "open_window", "Open the window on a library."),
    "lands": CommandEntry("packages.lands", "lands", "Compute the land pattern of a package sheet."),
    "joints": CommandEntry("packages.lands", "joints", "Show the solder joint that each pad of a pattern gives."),
    "letters": CommandEntry("packages.letters", "letters", "List the dimensions that a package family asks for."),
    "yield": CommandEntry("packages.joint_yield", "yield_command", "Simulate the solder joints of a package."),
    "paste": CommandEntry("packages.paste", "paste", "Show the paste on each land beside what its joint wants."),
    "pitch": CommandEntry("packages.pitch", "pitch", "Show how a pitch error adds up over a row."),
    "tape": CommandEntry("packages.tape", "tape", "Show how a part lies in its tape, and by how much it is turned."),
    "body": CommandEntry("packages.model", "body", "Write the 3D body of a package sheet as STEP or glTF."),
    "align": CommandEntry("packages.model", "align", "Find how a STEP model sits on the lands of a package."),
    "symbol": CommandEntry("packages.symbol", "symbol", "Make a symbol from a pin table."),
    "init": CommandEntry("library.library_commands", "init", "Create a library in a new or empty folder."),
    "search": CommandEntry("library.search", "search", "Find parts by words, values and wildcards."),
    "check": CommandEntry("library.check", "check", "Run all checks on a library or on some of its parts."),
    "release": CommandEntry("library.library_commands", "release", "Release parts as their next revision."),
    "used": CommandEntry("sharing.impact", "used", "List the parts and families that use an item."),
    "impact": CommandEntry("sharing.impact", "impact", "Show what following the newest revision would change."),
    "withdraw": CommandEntry("sharing.withdraw", "withdraw", "Withdraw a released part, or reinstate it."),
    "people": CommandEntry("sharing.people", "people", "Show or change who may do what in a library."),
    "history": CommandEntry("library.library_commands", "history", "List released revisions: who, when, why."),
    "restore": CommandEntry("library.library_commands", "restore", "Make a working copy of an old revision."),
    "diff": CommandEntry("library.comparison", "diff", "Show how two revisions of a part differ."),
    "report": CommandEntry("library.health", "report", "Write a report on the health of a library."),
    "duplicates": CommandEntry("library.health", "duplicates", "Find items that are equal or nearly equal."),
    "export": CommandEntry("library.library_commands", "export", "Export released parts in open formats."),
    "intake": CommandEntry("exchange.intake", "intake", "Compare files from elsewhere with the library; import them."),
    "draft": CommandEntry("datasheets.draft", "draft", "Draft a part from a datasheet, with what to confirm."),
    "print": CommandEntry("packages.print_lands", "print_lands", "Write land patterns at true size, for printing."),
    "publish": CommandEntry("exchange.publish", "publish", "Write every released part to a folder, in open formats."),
    "capture": CommandEntry("datasheets.capture", "capture_command", "Read a table or figure on a datasheet page."),
    "evidence": CommandEntry("datasheets.evidence", "evidence", "Show where each value of a part came from."),
    "pinout": CommandEntry("packages.pinout", "pinout", "Show where each pin is; compare with the pinout figure."),
    "houses": CommandEntry("datasheets.houses", "houses", "List what was learned of each house's datasheets."),
    "verify": CommandEntry("datasheets.verify", "verify", "Read cited values again and list those that differ."),
    "measure": CommandEntry("packages.measure", "measure", "Measure a distance in a land pattern."),
    "facts": CommandEntry("facts.fact_commands", "facts", "Show or change the facts of many parts as a table."),
    "bom": CommandEntry("facts.bill", "bom", "Make a bill of materials from a parts list."),
    "variant": CommandEntry("library.variant", "variant", "Create a variant of a released part."),
    "family": CommandEntry("facts.family", "family", "Show, make or release the members of a family table."),
    "catalogue": CommandEntry("facts.catalogue", "catalogue", "Look parts up at suppliers."),
    "share": CommandEntry("sharing.shared_library", "share", "Share a library through an empty git repository."),
    "sync": CommandEntry("sharing.shared_library", "sync", "Synchronise a shared library with its server."),
    "claim": CommandEntry("sharing.shared_library", "claim", "Reserve a part of a shared library."),
    "unclaim": CommandEntry("sharing.shared_library", "unclaim", "Give back the claim on a part."),
    "settle": CommandEntry("sharing.shared_library", "settle", "Resolve a conflict between two changes of a part."),
    "review": CommandEntry("sharing.review", "review", "List pending reviews, or request, approve or decline one."),
    "rulebook": CommandEntry("library.rulebook", "rulebook", "Show rulebooks; try, compare and save changes."),
    "demo": CommandEntry("demo", "demo", "Try Eider on invented parts."),
}
