"""Term lists: a project's, and the house's, which all projects share."""

import uuid
from collections.abc import Iterable
from typing import Literal, TypeAlias

from dunlin.core.language.terms.model import TermEntry
from dunlin.core.project import SetEntries
from dunlin.core.project.targets import GLOSSARY
from dunlin.store.house import HOUSE
from dunlin.store.log import Author, Done, Step
from dunlin.work.folder import DataFolder

__all__ = ["Scope", "put_term", "remove_term", "take_terms", "terms_of"]

Scope: TypeAlias = Literal["project", "house"]


def _where(project_id: str, scope: Scope) -> str:
    return HOUSE if scope == "house" else project_id


def terms_of(folder: DataFolder, project_id: str, scope: Scope) -> dict[str, TermEntry]:
    """The terms of a list by their ids, in the order of the terms."""
    entries, _ = folder.log.record(_where(project_id, scope), GLOSSARY)
    found = {id_: TermEntry.model_validate(entry) for id_, entry in entries.items()}
    return dict(sorted(found.items(), key=lambda item: (item[1].term.casefold(), item[0])))


def put_term(
    folder: DataFolder,
    project_id: str,
    scope: Scope,
    id_: str,
    entry: TermEntry,
    author: Author,
    *,
    base: int | None = None,
    key: str | None = None,
) -> Done:
    """Makes the term of that id this one, or a new one. :raises Outdated: when another window changed it since"""
    step = Step(GLOSSARY, SetEntries({id_: entry.model_dump(mode="json")}), base)
    return folder.log.edit(_where(project_id, scope), [step], author, key=key)


def remove_term(
    folder: DataFolder,
    project_id: str,
    scope: Scope,
    id_: str,
    author: Author,
    *,
    key: str | None = None,
) -> Done:
    """Takes a term out of a list; there may be none of that id."""
    step = Step(GLOSSARY, SetEntries({id_: None}))
    return folder.log.edit(_where(project_id, scope), [step], author, key=key)


def take_terms(
    folder: DataFolder,
    project_id: str,
    scope: Scope,
    entries: Iterable[TermEntry],
    author: Author,
    *,
    key: str | None = None,
) -> int:
    """Takes terms in, each in the place of one of the same language that is called so.

    :returns: how many came in, or became others
    """
    known = terms_of(folder, project_id, scope)
    ids = {(entry.language, entry.term.casefold()): id_ for id_, entry in known.items()}
    changed = {}
    for entry in entries:
        id_ = ids.setdefault((entry.language, entry.term.casefold()), uuid.uuid4().hex[:12])
        if known.get(id_) != entry:
            changed[id_] = entry.model_dump(mode="json")
    if changed:
        step = Step(GLOSSARY, SetEntries(changed))
        folder.log.edit(_where(project_id, scope), [step], author, key=key)
    return len(changed)
