"""How a packing list stands: what can be made, what was, what of that is out of date, and what is to be known first."""

import tempfile
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from hashlib import sha256
from pathlib import Path

from dunlin.core.delivery.model import CaptionFile, Item, Playlist, Report, tracks_in
from dunlin.core.delivery.naming import is_film
from dunlin.core.formats import FORMATS, Loss, losses
from dunlin.core.messages import Message, Told
from dunlin.core.project.targets import TRACKS
from dunlin.store.made import Made
from dunlin.store.projects import Project
from dunlin.store.sent import Sent
from dunlin.store.waivers import with_waivers
from dunlin.work.delivering import document_of
from dunlin.work.folder import DataFolder
from dunlin.work.judging import judge_of, waivers_in
from dunlin.work.packing.ingredients import Change, changes_since
from dunlin.work.packing.lists import PackingList, names_on
from dunlin.work.packing.making import prepared, what_is_missing
from dunlin.work.packing.sending import is_sent

__all__ = [
    "Standing",
    "TrackStanding",
    "files_before",
    "hashes_of_others",
    "in_order_of_making",
    "is_up_to_date",
    "standing_of",
    "tracks_before_delivery",
]


@dataclass(frozen=True)
class Standing:
    """How something on a packing list stands."""

    id: str
    item: Item
    name: str
    """What it is called today."""
    missing: Message | None
    """Why it cannot be made; None when it can."""
    losses: Sequence[Loss]
    """What its format cannot hold of its track."""
    made: Made | None
    changes: Sequence[Change]
    """What is otherwise than when it was made."""
    sent: Sent | None
    """How it was sent last to where it is to go."""
    is_sent: bool
    """Whether what was made last is where it is to go, if it is to go anywhere."""


@dataclass(frozen=True)
class TrackStanding:
    """What is to be known of a track before it goes out."""

    track: str
    errors: int
    """Findings at the level of errors that are neither mended nor waived."""
    drafts: int
    """Captions that no person has confirmed."""


def standing_of(
    folder: DataFolder, project: Project, delivery_id: str, packing: PackingList
) -> list[Standing]:
    """How everything on a list stands, in its order."""
    made, names = folder.made.of(project.id, delivery_id), names_on(project, packing)
    all_sent = folder.sent.of(project.id, delivery_id)
    standing = []
    for id_, item in packing.items.items():
        missing, was = what_is_missing(folder, project, item), made.get(id_)
        changes = _changes(folder, project, packing, item, made, was) if was else []
        lost = [] if missing else _losses(folder, project, item)
        sent = all_sent.get(id_) if item.destination else None
        arrived = is_sent(item, was, sent)
        standing.append(Standing(id_, item, names[id_], missing, lost, was, changes, sent, arrived))
    return standing


def _changes(
    folder: DataFolder,
    project: Project,
    packing: PackingList,
    item: Item,
    made: Mapping[str, Made],
    was: Made,
) -> Sequence[Change]:
    """What is otherwise than when a thing was made, as far as it would come out otherwise."""
    is_report = isinstance(item.thing, Report)
    files = files_before(packing, made) if is_report else ()
    changes = changes_since(folder, project, item, was, files)
    if not changes or is_report or is_film(item.thing):
        return changes
    # Not all that goes into a thing is seen in it: a plain file has no styles. Writing it tells, and takes no time.
    with tempfile.TemporaryDirectory() as name:
        path = Path(name) / "file"
        try:
            prepared(folder, project, item.thing)(path, lambda _: None, lambda: False)
        except Told:
            return changes
        return () if sha256(path.read_bytes()).hexdigest() == was.sha256 else changes


def _losses(folder: DataFolder, project: Project, item: Item) -> Sequence[Loss]:
    match item.thing:
        case CaptionFile():
            document = document_of(folder, project, item.thing.track)
            return losses(document, FORMATS[item.thing.format], project.film.rate)
        case Playlist():
            document = document_of(folder, project, item.thing.tracks[0])
            return losses(document, FORMATS["webvtt"], project.film.rate)
        case _:
            return ()


def is_up_to_date(
    folder: DataFolder, project: Project, delivery_id: str, packing: PackingList, id_: str
) -> bool:
    """Whether something was made, would come out the same, and is still on the disk."""
    made = folder.made.of(project.id, delivery_id)
    if id_ not in made or not (folder.settings.results / made[id_].file).is_file():
        return False
    return not _changes(folder, project, packing, packing.items[id_], made, made[id_])


def hashes_of_others(
    folder: DataFolder, project: Project, delivery_id: str, packing: PackingList
) -> dict[str, str]:
    """SHA-256 of what was made of a list, by the names of today; of what is left out, and of reports, none."""
    names = names_on(project, packing)
    before = _before_reports(packing, folder.made.of(project.id, delivery_id))
    return {names[id_]: made.sha256 for id_, made in before.items()}


def files_before(packing: PackingList, made: Mapping[str, Made]) -> list[str]:
    """SHA-256 of what was made of a list before its reports, which tell of it."""
    return [one.sha256 for one in _before_reports(packing, made).values()]


def _before_reports(packing: PackingList, made: Mapping[str, Made]) -> dict[str, Made]:
    return {
        id_: made[id_]
        for id_, item in packing.items.items()
        if id_ in made and not item.left_out and not isinstance(item.thing, Report)
    }


def in_order_of_making(packing: PackingList, ids: Sequence[str]) -> list[str]:
    """Ids in the order in which they are made: as they stand, what takes long behind the rest, and reports, which tell of all
    others, last. What is sent comes behind the films."""

    def turn(id_: str) -> int:
        item = packing.items[id_]
        if isinstance(item.thing, Report):
            return 3
        # Captions may be of a film that is sent before them.
        return 1 if is_film(item.thing) else 2 if item.destination else 0

    wanted = set(ids)
    return sorted((id_ for id_ in packing.items if id_ in wanted), key=turn)


def tracks_before_delivery(
    folder: DataFolder, project: Project, packing: PackingList
) -> list[TrackStanding]:
    """What is to be known of the tracks of all that is not left out, where there is something."""
    tracks = dict.fromkeys(
        track
        for item in packing.items.values()
        if not item.left_out
        for track in tracks_in(item.thing)
        if track in project.records[TRACKS]
    )
    found = [_of_track(folder, project, track) for track in tracks]
    return [one for one in found if one.errors or one.drafts]


def _of_track(folder: DataFolder, project: Project, track_id: str) -> TrackStanding:
    track, _ = folder.log.track(track_id)
    waived = waivers_in(folder, project.id, track_id, track)
    findings = with_waivers(judge_of(folder, project, track_id).findings(track), waived)
    left = [finding for finding in findings if finding.waived is None]
    drafts = sum(finding.rule == "draft" for finding in left)
    errors = sum(finding.weight == "error" and finding.rule != "draft" for finding in left)
    return TrackStanding(track_id, errors, drafts)
