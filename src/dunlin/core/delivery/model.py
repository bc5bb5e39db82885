"""A packing list: what is made for a client, and how each thing of it is made."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Annotated, Literal, TypeAlias

from pydantic import Field, TypeAdapter

from dunlin.core.delivery.alone import Transparent
from dunlin.core.delivery.encoding import AS_THE_FILM, Encoding, Passage
from dunlin.core.timecode import FrameRate

__all__ = [
    "DELIVERY",
    "ITEM",
    "PATTERN",
    "BurnedFilm",
    "CaptionFile",
    "CaptionsAlone",
    "Container",
    "Delivery",
    "Destination",
    "FilmWithTracks",
    "InsideTrack",
    "Item",
    "Playlist",
    "Report",
    "Thing",
    "Timeline",
    "Transcript",
    "WordsAbout",
    "tracks_in",
    "with_tracks",
]

PATTERN = "{title}_{language}_{what}_v{version}"
"""Of names, where nobody says another; what is empty is left out with its sign before it."""

_Id: TypeAlias = Annotated[str, Field(max_length=64)]
Container: TypeAlias = Literal["mp4", "mkv", "webm"]


@dataclass(frozen=True)
class CaptionFile:
    """A track as a caption file."""

    track: _Id
    format: Annotated[str, Field(max_length=40)]
    flatten: bool = False
    """Whether captions that are shown together are stacked in one, also where the format could hold them as they are."""
    kind: Literal["captions"] = "captions"


@dataclass(frozen=True)
class BurnedFilm:
    """The film with captions in its picture."""

    track: _Id
    encoding: Encoding = AS_THE_FILM
    version: _Id | None = None
    """Of the track; None is the film's own picture."""
    above: _Id | None = None
    """A track whose captions are drawn above these."""
    kind: Literal["burned"] = "burned"


@dataclass(frozen=True)
class CaptionsAlone:
    """Captions as they are drawn, on nothing, for editing programs."""

    track: _Id
    form: Transparent = "prores"
    version: _Id | None = None
    above: _Id | None = None
    height: Annotated[int, Field(ge=64, le=4320)] | None = None
    """Lines of the picture, if others than the film's."""
    rate: FrameRate | None = None
    """Frames a second, if others than the film's."""
    passage: Passage | None = None
    kind: Literal["alone"] = "alone"


@dataclass(frozen=True)
class InsideTrack:
    """A track inside a film."""

    track: _Id
    is_default: bool = False
    """Whether players show it unless somebody turns it off."""
    is_forced: bool = False
    """Whether they show it although captions are turned off."""


@dataclass(frozen=True)
class FilmWithTracks:
    """The film with caption tracks inside, which players show or hide."""

    tracks: Annotated[tuple[InsideTrack, ...], Field(min_length=1, max_length=60)]
    container: Container = "mp4"
    kind: Literal["inside"] = "inside"


@dataclass(frozen=True)
class Playlist:
    """Captions as segmented WebVTT with their playlists, as streams are served (RFC 8216), in an archive."""

    tracks: Annotated[tuple[_Id, ...], Field(min_length=1, max_length=60)]
    segment_seconds: Annotated[int, Field(ge=1, le=60)] = 6
    kind: Literal["playlist"] = "playlist"


@dataclass(frozen=True)
class Timeline:
    """The film and the captions of tracks on a timeline, for editing programs."""

    tracks: Annotated[tuple[_Id, ...], Field(min_length=1, max_length=60)]
    form: Literal["otio", "edl"] = "otio"
    rate: FrameRate | None = None
    """Frames a second that it counts, if others than the film's."""
    start: Annotated[str, Field(max_length=20)] = "01:00:00:00"
    """Timecode of the film's first frame there; a semicolon before the frames counts drop-frame."""
    findings: bool = True
    """Whether what is found in the captions comes along as markers."""
    kind: Literal["timeline"] = "timeline"


@dataclass(frozen=True)
class Transcript:
    """The words that were spoken: to read, or (`words`) with the times of each."""

    form: Literal["text", "docx", "html", "words"] = "docx"
    kind: Literal["transcript"] = "transcript"


@dataclass(frozen=True)
class WordsAbout:
    """Words about the film, of what is said in it: all to read, its chapters as a track, or all as data."""

    form: Literal["text", "chapters", "json"] = "text"
    kind: Literal["about"] = "about"


@dataclass(frozen=True)
class Report:
    """What is found in a track, and the hashes of the files that are delivered with it; it is made last."""

    track: _Id
    kind: Literal["report"] = "report"


Thing: TypeAlias = Annotated[
    CaptionFile | BurnedFilm | CaptionsAlone | FilmWithTracks | Playlist | Timeline | Transcript | WordsAbout | Report,
    Field(discriminator="kind"),
]  # fmt: skip
"""What can be delivered."""


@dataclass(frozen=True)
class Destination:
    """A host of films that a thing is sent to once it is made: captions as a language of a film there, a film as a new one."""

    connection: _Id
    film: Annotated[str, Field(max_length=200)] | None = None
    """The film there whose language captions become; None is the one that the project's film is there."""
    is_open: bool = False
    """Whether viewers see captions as soon as they are there; else they are a draft."""
    collection: Annotated[str, Field(max_length=200)] = ""
    """Where a film goes."""


@dataclass(frozen=True)
class Item:
    """A thing on a packing list."""

    thing: Thing
    place: float = 0.0
    """Where it stands in the list, among the others'."""
    name: Annotated[str, Field(max_length=300)] = ""
    """A pattern for its name, if another than the list's."""
    left_out: bool = False
    """Whether it stays on the list and is not made."""
    destination: Destination | None = None
    """Where it is sent, if it is."""


@dataclass(frozen=True)
class Delivery:
    """A packing list without its items."""

    name: Annotated[str, Field(min_length=1, max_length=200)]
    place: float = 0.0
    pattern: Annotated[str, Field(max_length=300)] = PATTERN
    version: Annotated[int, Field(ge=1, le=9999)] = 1
    taken_from: _Id | None = None
    """Id of the list of the house that it was made by, if it was."""


ITEM: TypeAdapter[Item] = TypeAdapter(Item)
DELIVERY: TypeAdapter[Delivery] = TypeAdapter(Delivery)


def tracks_in(thing: Thing) -> Iterator[str]:
    """Ids of the tracks that a thing is made of."""
    match thing:
        case FilmWithTracks():
            yield from (inside.track for inside in thing.tracks)
        case Timeline() | Playlist():
            yield from thing.tracks
        case BurnedFilm() | CaptionsAlone():
            yield thing.track
            if thing.above:
                yield thing.above
        case CaptionFile() | Report():
            yield thing.track
        case Transcript() | WordsAbout():
            pass


def with_tracks(thing: Thing, named: dict[str, str]) -> Thing:
    """A thing made of other tracks.

    :param named: what stands in the place of each id, or language, that it names
    """
    match thing:
        case FilmWithTracks():
            inside = tuple(replace(one, track=named[one.track]) for one in thing.tracks)
            return replace(thing, tracks=inside)
        case Timeline() | Playlist():
            return replace(thing, tracks=tuple(named[one] for one in thing.tracks))
        case BurnedFilm() | CaptionsAlone():
            above = named[thing.above] if thing.above else None
            return replace(thing, track=named[thing.track], above=above)
        case CaptionFile() | Report():
            return replace(thing, track=named[thing.track])
        case _:
            return thing
