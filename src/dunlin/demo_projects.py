"""The demo's projects: a film with its captions, half translated, and an upright short."""

import json
import shutil
from collections.abc import Set
from contextlib import suppress
from dataclasses import asdict, replace
from pathlib import Path

from dunlin.api.services import Services
from dunlin.core.captions import ChangeCaptions, InsertCaptions
from dunlin.core.captions.edits import Change, DeleteCaptions
from dunlin.core.formats import Context, read_file
from dunlin.core.language.links.model import said_by_sources, stored_link
from dunlin.core.language.memory.tmx import read_tmx
from dunlin.core.language.terms.model import TermEntry
from dunlin.core.project import SetEntries, captions_of
from dunlin.core.project.targets import GLOSSARY, TRACKS, links_of
from dunlin.core.specs import read_spec
from dunlin.core.speech.transcript_files import words_of_json
from dunlin.core.styles.file import read_styles
from dunlin.jobs.beginning import begin_jobs
from dunlin.media.probe import probe
from dunlin.store.films import Film
from dunlin.store.log import Author, Step
from dunlin.store.projects import Project, UnknownProject
from dunlin.work.short import do_to_word, make_short, usual_look
from dunlin.work.specs import keep_spec
from dunlin.work.styles import give_speaker_style, keep_styles, styles_of_file
from dunlin.work.transcript import take_words
from dunlin.work.translating import begin_translation, links_in, remember

__all__ = ["DEMO_FILES", "load_demo"]

_SOURCES = Path(__file__).parent.parent.parent / "demo"
_PACKAGED = Path(__file__).parent / "demo"
DEMO_FILES = _PACKAGED if _PACKAGED.is_dir() else _SOURCES
_REMEMBERED = "Tide Tables"
"""The film that its memory is of."""
_SIGN = "fog-bell.sign.json"
"""The title, stuck to a sign in the picture, in a style of the demo's."""
_DUNLIN = Author("dunlin")
_DEMO_PROJECT, _SHORT_PROJECT = "the-fog-bell-at-quillan-point", "low-water"
_SHORT_SPEAKER = "Tomas Brandt"
_SHORT_EMOJI = (("bell", "🔔", "sway"), ("rained", "🌧️", "pop"))
"""By which words of the short there is one, and how it moves."""


def load_demo(services: Services) -> None:
    """The demo's projects: the film with its finished captions and its client's spec, and the upright short."""
    keep_spec(services, read_spec((DEMO_FILES / "ternholm.spec.json").read_text("utf-8")), _DUNLIN)
    for id_, load in ((_DEMO_PROJECT, _load_film), (_SHORT_PROJECT, _load_short)):
        with suppress(UnknownProject):
            services.projects.needs(id_)
            continue
        load(services)


def _style_demo(services: Services, speakers: Set[str | None]) -> None:
    """Its styles, those of its speakers by their names, and three that are kept for all projects."""
    keep_styles(services, read_styles((DEMO_FILES / "kept.styles.json").read_bytes()), _DUNLIN)
    styles = read_styles((DEMO_FILES / "fog-bell.styles.json").read_bytes())
    if step := styles_of_file(services.projects.get(_DEMO_PROJECT), styles):
        services.log.edit(_DEMO_PROJECT, [step], _DUNLIN)
    for name in styles:
        if name in speakers:
            project = services.projects.get(_DEMO_PROJECT)
            give_speaker_style(services, project, name, name, _DUNLIN)


def _add_project(services: Services, id_: str, title: str, name: str) -> Project:
    folder = services.settings.films / id_
    folder.mkdir(parents=True, exist_ok=True)
    shutil.copyfile(DEMO_FILES / name, folder / "original")
    facts = probe(folder / "original")
    film = Film(name, (folder / "original").stat().st_size, asdict(facts))
    return services.projects.add(title, film, id_=id_)


def _load_film(services: Services) -> None:
    project = _add_project(services, _DEMO_PROJECT, "The Fog Bell at Quillan Point", "fog-bell.mp4")
    name = "fog-bell.en.json"
    document = read_file((DEMO_FILES / name).read_bytes(), name, Context()).document
    step = Step(captions_of(project.tracks[0].id), InsertCaptions(document.captions))
    services.log.edit(project.id, [step], _DUNLIN)
    _style_demo(services, {caption.speaker for caption in document.captions})
    sign = read_file((DEMO_FILES / _SIGN).read_bytes(), _SIGN, Context()).document
    on_sign = Step(captions_of(project.tracks[0].id), InsertCaptions(sign.captions))
    services.log.edit(project.id, [on_sign], _DUNLIN)
    _translate(services)
    begin_jobs(services.queue, project)


def _translate(services: Services) -> None:
    """A German translation, half done, with its terms, and what is remembered of another film."""
    half = json.loads((DEMO_FILES / "fog-bell.de.json").read_text("utf-8"))
    project = services.projects.get(_DEMO_PROJECT)
    source_id = project.tracks[0].id
    begun = begin_translation(services, project, source_id, half["language"], _DUNLIN)
    [track_id] = begun.changed[TRACKS].touched
    project = services.projects.get(_DEMO_PROJECT)
    source, _ = services.log.track(source_id)
    links = links_in(services, project, track_id)
    by_source = {link.sources[0]: id_ for id_, link in links.items()}
    # Captions of a file get names of their own: they are found by their order.
    spoken = [caption.id for caption in source if caption.speaker]
    ids = {f"c{number}": by_source[id_] for number, id_ in enumerate(spoken, 1)}
    changed = {}
    for one in half["captions"]:
        link = links[ids[one["of"]]]
        said = one.get("said") or said_by_sources(source, link.sources)
        link = replace(link, progress=one.get("progress"), said=said if one["text"] else None)
        if link.progress == "draft":
            link = replace(link, drafted=one["text"], origin=_REMEMBERED)
        changed[ids[one["of"]]] = stored_link(link)
    texts = tuple(Change(caption=ids[one["of"]], text=one["text"]) for one in half["captions"])
    terms = [TermEntry.model_validate(term).model_dump(mode="json") for term in half["terms"]]
    steps = [
        Step(captions_of(track_id), DeleteCaptions(tuple(ids[one] for one in half["without"]))),
        Step(captions_of(track_id), ChangeCaptions(texts)),
        Step(links_of(track_id), SetEntries(changed)),
        Step(GLOSSARY, SetEntries({f"demo-{n}": term for n, term in enumerate(terms)})),
    ]
    services.log.edit(project.id, steps, _DUNLIN)
    confirmed = [ids[one["of"]] for one in half["captions"] if one.get("progress") == "done"]
    remember(services, services.projects.get(project.id), track_id, confirmed)
    with (DEMO_FILES / "tide-tables.tmx").open("rb") as file:
        services.memory.take_in(read_tmx(file, _REMEMBERED))


def _load_short(services: Services) -> None:
    """Its words, in the look that upright films begin with, and an emoji by two of them."""
    project = _add_project(services, _SHORT_PROJECT, "Low water", "low-water.mp4")
    words, _ = words_of_json((DEMO_FILES / "low-water.words.json").read_bytes())
    named = [replace(word, speaker=_SHORT_SPEAKER) for word in words]
    take_words(services, project, named, _DUNLIN)
    track_id = project.tracks[0].id
    make_short(services, services.projects.get(project.id), track_id, usual_look(services), _DUNLIN)
    for text, emoji, motion in _SHORT_EMOJI:
        track, _ = services.log.track(track_id)
        caption = next(caption for caption in track if text in caption.text)
        known = {"emoji": emoji, "emoji_motion": motion}
        do_to_word(
            services, services.projects.get(project.id), track_id, caption.id,
            caption.text.index(text), "set", _DUNLIN, known=known,
        )  # fmt: skip
    begin_jobs(services.queue, project)
