"""Addresses of what edits are made on, within a project.

`tracks/ID/captions` are captions; `transcript` is the words; all others are records: `project` (title,
spec, and which film it shows), `tracks` (which there are, with name, language and spec), `speakers`, `terms` (the spelling list), `glossary` (terms
with their translations), `dictionary` (words that are right although no dictionary has them),
`specs` (those that were taken from the house, as they were then), `styles`, `tracks/ID/waivers`, `tracks/ID/links` (of a
translation: which captions of its source its own are of), `films/ID/shots` (the shot changes of a film), `deliveries` (the
packing lists), `deliveries/ID/items` (what is on one) and `about` (words about the film). The house
has `specs`, `styles`, `looks` (for short form), `glossary`, `dictionary`, `packing-lists` (whole ones, for any project), `fonts` (the files of families that were added) and `people` (their names, by their ids). What a version of a track keeps for itself, such as
the places of its captions in an upright picture, has an address below the track's: `tracks/ID/versions` are the
versions, and `tracks/ID/versions/VERSION/captions` what differs in one by caption.
"""

from dataclasses import dataclass
from typing import Literal

__all__ = [
    "ABOUT",
    "DELIVERIES",
    "DICTIONARY",
    "FONTS",
    "GLOSSARY",
    "LOOKS",
    "PACKING_LISTS",
    "PEOPLE",
    "PROJECT",
    "SPEAKERS",
    "SPECS",
    "STYLES",
    "TERMS",
    "TRACKS",
    "TRANSCRIPT",
    "Kind",
    "Target",
    "apart_in",
    "captions_of",
    "items_of",
    "links_of",
    "shots_in",
    "versions_of",
    "waivers_of",
]

PROJECT = "project"
ABOUT = "about"
TRACKS = "tracks"
SPEAKERS = "speakers"
TERMS = "terms"
GLOSSARY = "glossary"
DICTIONARY = "dictionary"
DELIVERIES = "deliveries"
PACKING_LISTS = "packing-lists"
SPECS = "specs"
STYLES = "styles"
LOOKS = "looks"
FONTS = "fonts"
PEOPLE = "people"
TRANSCRIPT = "transcript"

Kind = Literal["captions", "words", "record"]


def captions_of(track_id: str) -> str:
    """Address of a track's captions."""
    return f"{TRACKS}/{track_id}/captions"


def waivers_of(track_id: str) -> str:
    """Address of the findings of a track that are accepted as they are."""
    return f"{TRACKS}/{track_id}/waivers"


def versions_of(track_id: str) -> str:
    """Address of a track's versions."""
    return f"{TRACKS}/{track_id}/versions"


def links_of(track_id: str) -> str:
    """Address of what the captions of a translation know of those of its source."""
    return f"{TRACKS}/{track_id}/links"


def items_of(delivery_id: str) -> str:
    """Address of what is on a packing list."""
    return f"{DELIVERIES}/{delivery_id}/items"


def apart_in(track_id: str, version_id: str) -> str:
    """Address of what differs in a version of a track about its captions."""
    return f"{versions_of(track_id)}/{version_id}/captions"


def shots_in(film_id: str) -> str:
    """Address of a film's shot changes."""
    return f"films/{film_id}/shots"


@dataclass(frozen=True)
class Target:
    """An address, read."""

    address: str
    kind: Kind
    track: str | None = None
    """Id of the track it is part of, if it is."""

    @classmethod
    def at(cls, address: str) -> "Target":
        """The target at an address."""
        parts = address.split("/")
        track = parts[1] if parts[0] == TRACKS and len(parts) > 2 else None
        if address == TRANSCRIPT:
            return cls(address, "words")
        return cls(address, "captions" if track and parts[2] == "captions" else "record", track)
