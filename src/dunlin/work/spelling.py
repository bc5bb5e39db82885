"""Spelling in a project: the dictionary of a track's language, and the words that are right all the same."""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from dunlin.core.language.terms.model import TermEntry
from dunlin.core.messages import BadInput, message
from dunlin.core.project import SetEntries
from dunlin.core.project.targets import DICTIONARY, GLOSSARY
from dunlin.core.specs.spelling import Spelling
from dunlin.core.text.dictionaries import dictionary_for, unknown_words
from dunlin.store.house import HOUSE
from dunlin.store.log import Author, Done, Step, UnknownTrack
from dunlin.store.projects import Project
from dunlin.work.folder import DataFolder
from dunlin.work.glossary import Scope

__all__ = [
    "AcceptedWord",
    "Unknown",
    "accept_word",
    "accepted_words",
    "forget_word",
    "spelling_of",
    "unknown_in",
]

_WORD = re.compile(r"[^\W\d_]+")


@dataclass(frozen=True)
class AcceptedWord:
    """A word that is right although no dictionary has it."""

    word: str
    language: str
    """BCP 47 tag of the language alone."""
    scope: Scope


def spelling_of(folder: DataFolder, project: Project, track_id: str) -> Spelling | None:
    """What a track's words are held against; None where no dictionary ships for its language.

    Names of the spelling list, of speakers and of terms are right, and what people have added for the project or for all.
    """
    language = project.track(track_id).language
    dictionary = dictionary_for(language)
    if dictionary is None:
        return None
    track, _ = folder.log.track(track_id)
    names = [*project.terms, *(speaker["name"] for speaker in project.speakers)]
    names += sorted({caption.speaker for caption in track if caption.speaker})
    own = {
        one.word.lower()
        for one in accepted_words(folder, project.id)
        if one.language == _base(language)
    }
    known = _words_of(tuple(names)) | _words_of_terms(folder, project.id) | own
    return Spelling(dictionary, known)


def _words_of_terms(folder: DataFolder, project_id: str) -> frozenset[str]:
    """The words of all terms and their translations, of the project and of the house."""
    records = tuple(folder.log.record(owner, GLOSSARY)[0] for owner in (project_id, HOUSE))
    held = _TERMS.get(project_id)
    # Records that did not change are the same things.
    if held is None or any(one is not other for one, other in zip(held[0], records, strict=True)):
        entries = [TermEntry.model_validate(one) for record in records for one in record.values()]
        texts = [
            text
            for entry in entries
            for text in (entry.term, *(w for words in entry.translations.values() for w in words))
        ]
        held = _TERMS[project_id] = (records, _words_of(tuple(texts)))
        while len(_TERMS) > _HELD:
            del _TERMS[next(iter(_TERMS))]
    return held[1]


_HELD = 8
_TERMS: dict[str, tuple[tuple[Mapping[str, Any], ...], frozenset[str]]] = {}


@lru_cache(16)
def _words_of(texts: tuple[str, ...]) -> frozenset[str]:
    return frozenset(word.lower() for text in texts for word in (*_WORD.findall(text), text))


def _base(language: str) -> str:
    return language.split("-")[0].lower()


def accepted_words(folder: DataFolder, project_id: str) -> list[AcceptedWord]:
    """The words that were added for a project, and for all of them."""
    scopes: tuple[Scope, Scope] = ("project", "house")
    found = []
    for scope in scopes:
        entries, _ = folder.log.record(HOUSE if scope == "house" else project_id, DICTIONARY)
        found += [AcceptedWord(one["word"], one["language"], scope) for one in entries.values()]
    return sorted(found, key=lambda one: (one.word.casefold(), one.language, one.scope))


def accept_word(
    folder: DataFolder, project_id: str, scope: Scope, word: str, language: str, author: Author,
    *, key: str | None = None,
) -> Done:  # fmt: skip
    """Has a word be right from now on. :raises BadInput: when it is none"""
    if len(word.split()) != 1 or not _WORD.search(word):
        raise BadInput(message("spelling.no-word"))
    entry = {"word": word.strip(), "language": _base(language)}
    step = Step(DICTIONARY, SetEntries({_id(word, language): entry}))
    return folder.log.edit(HOUSE if scope == "house" else project_id, [step], author, key=key)


def forget_word(
    folder: DataFolder, project_id: str, scope: Scope, word: str, language: str, author: Author,
    *, key: str | None = None,
) -> Done:  # fmt: skip
    """Has it be judged by the dictionary again; it may not have been added."""
    step = Step(DICTIONARY, SetEntries({_id(word, language): None}))
    return folder.log.edit(HOUSE if scope == "house" else project_id, [step], author, key=key)


def _id(word: str, language: str) -> str:
    return f"{_base(language)} {word.strip().lower()}"


@dataclass(frozen=True)
class Unknown:
    """A word of a caption that the dictionary does not know."""

    word: str
    start: int
    end: int
    """From which character of the caption's text to which."""
    suggestions: tuple[str, ...]


def unknown_in(
    folder: DataFolder, project: Project, track_id: str, caption_id: str
) -> list[Unknown] | None:
    """The unknown words of a caption with what may have been meant; None where no dictionary ships for its language.

    :raises UnknownTrack: when the caption is gone
    """
    spelling = spelling_of(folder, project, track_id)
    if spelling is None:
        return None
    track, _ = folder.log.track(track_id)
    if caption_id not in track:
        raise UnknownTrack
    text = track[caption_id].text
    return [
        Unknown(
            text[start:end], start, end, tuple(spelling.dictionary.suggestions(text[start:end]))
        )
        for start, end in unknown_words(text, spelling.dictionary, spelling.known)
    ]
