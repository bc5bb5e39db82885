"""Captions from elsewhere put in the place of those a track has."""

from collections.abc import Sequence
from dataclasses import replace

from dunlin.api.schemas import EditView
from dunlin.api.services import Services
from dunlin.api.views import edit_view
from dunlin.core.captions import Caption, ReplaceCaptions
from dunlin.store.edits import new_caption_id
from dunlin.store.projects import Project

__all__ = ["put_in_place"]


def put_in_place(
    here: Services,
    project: Project,
    track_id: str,
    captions: Sequence[Caption],
    *,
    gesture: str,
    actor: str,
    kept: frozenset[str] = frozenset(),
) -> EditView:
    """Makes a track's captions these, in one edit; each gets an id of its own.

    :param kept: ids of captions of the track that stay as they are, whether they are among these or not
    """
    track, revision = here.edits.track(track_id)
    put = tuple(replace(c, id=new_caption_id()) for c in captions if c.id not in kept)
    gone = tuple(caption.id for caption in track if caption.id not in kept)
    edited = here.edits.edit(
        track_id,
        ReplaceCaptions(gone, put),
        base_revision=revision,
        gesture=gesture,
        actor=actor,
    )
    return edit_view(here, project, track_id, edited, actor)
