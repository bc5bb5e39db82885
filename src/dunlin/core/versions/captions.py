"""The captions of a track as they are in a version."""

from collections.abc import Iterable, Mapping
from dataclasses import replace

from dunlin.core.captions import Caption, Look, Track
from dunlin.core.captions.look import said_by
from dunlin.core.versions.model import Apart

__all__ = ["captions_in_version"]


def captions_in_version(captions: Iterable[Caption], apart: Mapping[str, Apart]) -> Track:
    """The captions that a version shows, with the places and looks they have there.

    :param apart: what differs, by the captions' ids; of captions that are gone nothing is asked
    """
    shown = []
    for caption in captions:
        differs = apart.get(caption.id)
        if differs is None:
            shown.append(caption)
        elif not differs.hidden:
            shown.append(_with(caption, differs))
    return Track.of(shown)


def _with(caption: Caption, differs: Apart) -> Caption:
    look = caption.look
    if differs.look:
        look = replace(look or Look(), **said_by(differs.look))
    return replace(
        caption,
        placement=differs.placement or caption.placement,
        style=differs.style or caption.style,
        look=look,
    )
