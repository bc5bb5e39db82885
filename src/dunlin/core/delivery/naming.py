"""What a thing is called in names, and the ending of its file."""

from dunlin.core.delivery import alone
from dunlin.core.delivery.model import (
    BurnedFilm,
    CaptionFile,
    CaptionsAlone,
    FilmWithTracks,
    Playlist,
    Report,
    Thing,
    Timeline,
    Transcript,
    WordsAbout,
)
from dunlin.core.formats import FORMATS

__all__ = ["is_film", "what_it_is"]


def what_it_is(thing: Thing) -> tuple[str, str]:
    """The word for a thing in its name, empty for caption files, and its ending with the dot."""
    match thing:
        case CaptionFile():
            module = FORMATS.get(thing.format)
            return "", module.ENDINGS[0] if module else ""
        case BurnedFilm():
            return "burned", thing.encoding.ending
        case CaptionsAlone():
            return "titles", alone.ENDINGS[thing.form]
        case FilmWithTracks():
            return "tracks", f".{thing.container}"
        case Playlist():
            return "stream", ".zip"
        case Timeline():
            return "timeline", f".{thing.form}"
        case Transcript():
            return "transcript", {"text": ".txt", "words": ".words.json"}.get(
                thing.form, f".{thing.form}"
            )
        case WordsAbout():
            what = "chapters" if thing.form == "chapters" else "about"
            return what, {"text": ".txt", "chapters": ".vtt", "json": ".json"}[thing.form]
        case Report():
            return "report", ".html"


def is_film(thing: Thing) -> bool:
    """Whether making it takes as long as a film does: one is made after the other."""
    return isinstance(thing, BurnedFilm | CaptionsAlone | FilmWithTracks)
