"""Tracks and records that were used, held in memory."""

from collections import OrderedDict
from typing import Any

from dunlin.core.project import Target
from dunlin.store.log.captions import read_track
from dunlin.store.log.moment import Moment
from dunlin.store.log.records import read_record

__all__ = ["HeldStates"]

# As many are held; what was not used for longest is read again.
_HELD = 200


class HeldStates:
    """States of targets, each with the revision it was read at; one that moved on since is read again.

    It is used by one thread at a time.
    """

    def __init__(self) -> None:
        self._held: OrderedDict[tuple[str, str], tuple[int | None, Any]] = OrderedDict()

    def at(self, now: Moment, address: str) -> Any:
        """A target as it is at a moment: a `Track`, or a `Record`."""
        revision = now.revision(address)
        held = self._held.get((now.project_id, address))
        if held is not None and held[0] == revision:
            self._held.move_to_end((now.project_id, address))
            return held[1]
        target = Target.at(address)
        if target.kind == "captions" and target.track:
            state: Any = read_track(now.connection, target.track)
        else:
            state = read_record(now.connection, now.project_id, address)
        self.hold(now.project_id, address, revision, state)
        return state

    def hold(self, project_id: str, address: str, revision: int | None, state: Any) -> None:
        """Keeps what a target is at a revision."""
        self._held[project_id, address] = (revision, state)
        self._held.move_to_end((project_id, address))
        if len(self._held) > _HELD:
            self._held.popitem(last=False)
