"""The demo's films on a host's shelf."""

import shutil
import uuid
from hashlib import file_digest

from dunlin.core.formats import FORMATS, Context, read_file, written
from dunlin.demo_projects import DEMO_FILES
from dunlin.media.probe import probe
from dunlin.stand_ins.video_host.shelf import Shelf

__all__ = ["fill_with_demo"]

_FILMS = (
    ("Quillan Point", "fog-bell.mp4", "The Fog Bell at Quillan Point",
     "How a bell of 412 kilos came to the point, and who rang it."),
    ("Shorts", "low-water.mp4", "Low Water", "Tomas Brandt, at the harbour, when the tide is out."),
)  # fmt: skip
_TRACKS = {"fog-bell.mp4": (("en", "fog-bell.en.json"),)}


def fill_with_demo(shelf: Shelf) -> None:
    """Puts the demo's films into collections, the first with English captions that are open to viewers."""
    for collection, name, title, about in _FILMS:
        id_, source = uuid.uuid4().hex, DEMO_FILES / name
        shutil.copyfile(source, shelf.film_file(id_))
        with source.open("rb") as file:
            digest = file_digest(file, "sha256").hexdigest()
        shelf.add_film(
            id=id_, collection=shelf.collection_called(collection), title=title, about=about,
            language="en", name=name, size_bytes=source.stat().st_size, sha256=digest,
            duration_ms=probe(source).duration_ms,
        )  # fmt: skip
        for language, captions in _TRACKS.get(name, ()):
            reading = read_file((DEMO_FILES / captions).read_bytes(), captions, Context())
            words = written(reading.document, FORMATS["webvtt"], Context()).decode()
            shelf.write_track(id_, language, words, is_open=True, by="Tideline", seen=None)
