"""What a translation is judged against: its source, caption by caption, the terms of its languages, and itself."""

import threading
from collections import OrderedDict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from dunlin.core.captions import Caption, Track
from dunlin.core.language.terms.between import terms_between as between
from dunlin.core.language.terms.model import TermEntry
from dunlin.core.project.targets import GLOSSARY, TRACKS, links_of
from dunlin.core.specs.translation import Against, Term, TermList, Translation
from dunlin.core.text.stems import term_places
from dunlin.core.text.words import words_to_compare
from dunlin.store.house import HOUSE
from dunlin.store.projects import Project
from dunlin.work.folder import DataFolder
from dunlin.work.replacing import track_entry

__all__ = ["TermFound", "source_of", "terms_between", "terms_for", "translation_of"]


def source_of(project: Project, track_id: str) -> str | None:
    """Id of the track that a track translates; None when it is none's translation, or that track was removed."""
    source = track_entry(project, track_id).get("translates")
    return source if source in project.records[TRACKS] else None


def translation_of(folder: DataFolder, project: Project, track_id: str) -> Translation | None:
    """What a track is judged against; None when it is no translation, or its source was removed."""
    source_id = source_of(project, track_id)
    if source_id is None:
        return None
    source, _ = folder.log.track(source_id)
    track, _ = folder.log.track(track_id)
    entries, _ = folder.log.record(project.id, links_of(track_id))
    language, target = project.track(source_id).language, project.track(track_id).language

    def sources(id_: str) -> list[Caption]:
        return [source[one] for one in entries.get(id_, {}).get("sources", ()) if one in source]

    def against(id_: str) -> Against | None:
        said = sources(id_)
        if not said:
            return None
        entry = entries[id_]
        text = "\n".join(caption.text for caption in said)
        speakers = len({caption.speaker for caption in said})
        return Against(text, entry.get("said"), entry.get("progress"), speakers)

    def twins(id_: str) -> Sequence[tuple[str, str]]:
        if id_ not in track:
            return ()
        here = track[id_]
        alike = set(_TRACKS.like(source_id, source, sources(id_)))
        of_alike = [other for other in _OF.targets(track_id, entries, alike) if other in track]
        others = {*of_alike, *_TRACKS.like(track_id, track, [here])} - {id_}
        found = []
        for other in sorted(others, key=lambda one: (track[one].in_ms, one)):
            if (track[other].in_ms, other) < (here.in_ms, id_) and (text := track[other].text):
                found.append((" ".join(one.text for one in sources(other)), text))
        return [pair for pair in found if pair[0]]

    return Translation(
        language, against, terms_between(folder, project, language, target), project.terms, twins
    )


def terms_between(folder: DataFolder, project: Project, language: str, target: str) -> TermList:
    """The terms of one language with what they are in another: the project's, and those of the house that it has none for."""
    own, _ = folder.log.record(project.id, GLOSSARY)
    house, _ = folder.log.record(HOUSE, GLOSSARY)
    key = (project.id, language, target)
    held = _TERMS.get(key)
    # Records that did not change are the same things.
    if held is None or held[0] is not own or held[1] is not house:
        entries = [TermEntry.model_validate(one) for one in (*house.values(), *own.values())]
        held = (own, house, TermList(between(entries, language, target), language))
        _TERMS[key] = held
        while len(_TERMS) > _HELD:
            del _TERMS[next(iter(_TERMS))]
    return held[2]


_TERMS: dict[tuple[str, str, str], tuple[Any, Any, TermList]] = {}
_HELD = 8
"""Tracks and term lists that are kept ready; those that were there first are made anew."""


@dataclass(frozen=True)
class TermFound:
    """A term of the list that stands in the source of a caption."""

    term: str
    targets: tuple[str, ...]
    forbidden: tuple[str, ...]
    is_there: bool
    """Whether one of its translations stands in the caption."""
    wrong: str | None
    """What is forbidden and stands there."""
    start: int
    end: int
    """From which to which character of what the sources say, in one line."""


def terms_for(
    folder: DataFolder, project: Project, track_id: str, caption_id: str
) -> list[TermFound]:
    """The terms that stand in the source of a caption, in their order, and what is there of them in the caption; names of the
    spelling list are terms that stay as they are."""
    translation = translation_of(folder, project, track_id)
    if translation is None or translation.terms is None:
        return []
    against = translation.against(caption_id)
    if against is None:
        return []
    language = project.track(track_id).language
    text = " ".join(folder.log.track(track_id)[0][caption_id].text.split())

    def stands(word: str, term: Term) -> bool:
        return any(term_places(text, word, language, as_written=term.as_written))

    said = " ".join(against.text.split())
    names = [
        TermFound(name, (name,), (), any(term_places(text, name, language)), None, start, end)
        for name in project.terms
        for start, end in term_places(said, name, translation.language)
    ]
    terms = [
        TermFound(
            term.source, term.targets, term.forbidden,
            any(stands(word, term) for word in term.targets),
            next((word for word in term.forbidden if stands(word, term)), None),
            start, end,
        )
        for term, start, end in translation.terms.found_in(said)
    ]  # fmt: skip
    listed = {one.term.lower() for one in terms}
    return sorted(
        [*terms, *(one for one in names if one.term.lower() not in listed)],
        key=lambda one: (one.start, -one.end),
    )


class _Words:
    """The captions of a track by their words, as they are in one state of it."""

    def __init__(self) -> None:
        self.track = Track()
        self.ids: dict[str, set[str]] = {}
        self._words: dict[str, str] = {}

    def bring_to(self, track: Track) -> None:
        """Looks again at what is otherwise in another state."""
        before, self.track = self.track.by_id, track
        for id_ in before.keys() - track.by_id.keys():
            self.ids[self._words.pop(id_)].discard(id_)
        for id_, caption in track.by_id.items():
            if before.get(id_) is not caption:
                if id_ in self._words:
                    self.ids[self._words[id_]].discard(id_)
                self._words[id_] = _key(caption.text)
                self.ids.setdefault(self._words[id_], set()).add(id_)


class _ByWords:
    """Captions of tracks by their words. One edit changes few of thousands: only these are looked at again."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._held: OrderedDict[str, _Words] = OrderedDict()

    def like(self, track_id: str, track: Track, captions: Sequence[Caption]) -> set[str]:
        """Ids of the captions of a track whose words are those of others."""
        with self._lock:
            held = self._held.setdefault(track_id, _Words())
            self._held.move_to_end(track_id)
            if len(self._held) > _HELD:
                self._held.popitem(last=False)
            # All captions of a track are judged by one state of it.
            if held.track is not track:
                held.bring_to(track)
            keys = {key for caption in captions if (key := _key(caption.text))}
            return {id_ for key in keys for id_ in held.ids.get(key, ())}


def _key(text: str) -> str:
    return " ".join(words_to_compare(text))


class _BySource:
    """Captions of translations by those that they are of."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._held: dict[str, tuple[Mapping[str, Any], dict[str, list[str]]]] = {}

    def targets(self, track_id: str, entries: Mapping[str, Any], sources: set[str]) -> set[str]:
        """Ids of the captions that are of any of these."""
        with self._lock:
            held = self._held.get(track_id)
            if held is None or held[0] is not entries:
                by_source: dict[str, list[str]] = {}
                for id_, entry in entries.items():
                    for one in entry["sources"]:
                        by_source.setdefault(one, []).append(id_)
                held = self._held[track_id] = (entries, by_source)
                while len(self._held) > _HELD:
                    del self._held[next(iter(self._held))]
            return {id_ for one in sources for id_ in held[1].get(one, ())}


_TRACKS = _ByWords()
_OF = _BySource()
