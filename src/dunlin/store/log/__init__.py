"""The log of a project: the one way in which anything in it changes."""

from dunlin.store.log.log import ProjectLog
from dunlin.store.log.model import (
    Author,
    Changed,
    Done,
    InTheWay,
    Operation,
    Outdated,
    Step,
    UnknownTrack,
    new_caption_id,
)

__all__ = [
    "Author",
    "Changed",
    "Done",
    "InTheWay",
    "Operation",
    "Outdated",
    "ProjectLog",
    "Step",
    "UnknownTrack",
    "new_caption_id",
]
