"""Hosts of films: what Dunlin asks of one, and the client of the one that ships."""

from dunlin.hosts.model import (
    Account,
    Cancelled,
    Collection,
    FilmPage,
    HostError,
    HostFilm,
    HostTrack,
    NewFilm,
    TrackChangedThere,
    VideoHost,
)
from dunlin.hosts.strandline import Strandline, origin_of

__all__ = [
    "Account",
    "Cancelled",
    "Collection",
    "FilmPage",
    "HostError",
    "HostFilm",
    "HostTrack",
    "NewFilm",
    "Strandline",
    "TrackChangedThere",
    "VideoHost",
    "origin_of",
]
