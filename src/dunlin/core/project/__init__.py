"""What a project consists of: targets that edits are made on, and the edits of all but its captions."""

from dunlin.core.project.records import SetEntries, entries_between, set_entries
from dunlin.core.project.targets import Target, captions_of, shots_in, waivers_of
from dunlin.core.project.transcript import (
    PlacedWord,
    ReplaceWords,
    TakeRun,
    replace_words,
    spread,
)

__all__ = [
    "PlacedWord",
    "ReplaceWords",
    "SetEntries",
    "TakeRun",
    "Target",
    "captions_of",
    "entries_between",
    "replace_words",
    "set_entries",
    "shots_in",
    "spread",
    "waivers_of",
]
