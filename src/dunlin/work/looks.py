"""How a project's captions look: its styles, and those that its speakers have."""

from dataclasses import fields

from dunlin.core.project.targets import SPEAKERS, STYLES
from dunlin.core.styles import Look, Style, StyleSheet
from dunlin.store.projects import Project

__all__ = ["sheet_of"]


def sheet_of(project: Project, track_id: str) -> StyleSheet:
    """The styles of a project by name, and the looks of its speakers where they have one, for words in
    the language of a track."""
    styles = {name: Style(name, name, **entry) for name, entry in project.records[STYLES].items()}
    speakers = {
        name: _whole(styles[entry["style"]])
        for name, entry in project.records[SPEAKERS].items()
        if entry.get("style") in styles
    }
    language = project.track(track_id).language
    return StyleSheet(styles=styles, speakers=speakers).in_language(language)


def _whole(style: Style) -> Look:
    """All that a style says, as a look to be laid over another."""
    return Look(**{each.name: getattr(style, each.name) for each in fields(Look)})
