"""How a project's captions look: its styles, and those that its speakers have."""

from dunlin.core.project.targets import SPEAKERS, STYLES
from dunlin.core.styles import Look, Style, StyleSheet
from dunlin.store.projects import Project

__all__ = ["sheet_of"]


def sheet_of(project: Project) -> StyleSheet:
    """The styles of a project by name, and the looks of its speakers where they have one."""
    styles = {name: Style(name, name, **entry) for name, entry in project.records[STYLES].items()}
    speakers = {
        name: _whole(styles[entry["style"]])
        for name, entry in project.records[SPEAKERS].items()
        if entry.get("style") in styles
    }
    return StyleSheet(styles=styles, speakers=speakers)


def _whole(style: Style) -> Look:
    """All that a style says, as a look to be laid over another."""
    return Look(
        **{name: value for name, value in vars(style).items() if name not in ("id", "name")}
    )
