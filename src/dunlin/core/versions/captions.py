"""The captions of a track as they are in a version."""

from collections.abc import Iterable, Mapping
from dataclasses import replace
from typing import Any

from dunlin.core.captions import Caption, Look, Track
from dunlin.core.captions.lineage import Lineage
from dunlin.core.captions.look import said_by
from dunlin.core.versions.model import Apart

__all__ = ["apart_inherited", "captions_in_version"]


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


def apart_inherited(apart: Mapping[str, Any], came: Lineage) -> dict[str, Any]:
    """What newly differs in a version after an edit: captions differ in what those did that they came of.

    :param apart: what differed, by the captions' ids, in whatever form
    """
    inherited = {
        id_: next((apart[one] for one in parents if one in apart), None)
        for id_, parents in came.parents.items()
        if id_ not in apart
    }
    return {id_: differs for id_, differs in inherited.items() if differs is not None}


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
