"""Findings that somebody accepted as they are, with the reason."""

import time
from collections.abc import Iterable
from dataclasses import dataclass

from sqlalchemy import Engine, delete, select, update
from sqlalchemy.dialects.sqlite import insert as upsert

from dunlin.core.captions import Caption, Track
from dunlin.core.specs import Finding
from dunlin.store.tables import TrackRow, WaiverRow

__all__ = ["Waiver", "Waivers", "with_waivers"]


@dataclass(frozen=True)
class Waiver:
    """A waived finding, and the caption as it was then."""

    caption: str
    rule: str
    reason: str
    in_ms: int
    out_ms: int
    text: str

    def stands(self, caption: Caption) -> bool:
        """Whether the caption still is what was waived."""
        return (caption.in_ms, caption.out_ms, caption.text) == (self.in_ms, self.out_ms, self.text)


class Waivers:
    """The waivers in a database."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._writing = engine.execution_options(begin="IMMEDIATE")

    def of(self, track_id: str, track: Track) -> dict[tuple[str, str], Waiver]:
        """The waivers that stand, by rule and caption."""
        columns = (
            WaiverRow.caption_id, WaiverRow.rule, WaiverRow.reason,
            WaiverRow.in_ms, WaiverRow.out_ms, WaiverRow.text,
        )  # fmt: skip
        with self._engine.connect() as connection:
            rows = connection.execute(select(*columns).where(WaiverRow.track_id == track_id))
            found = [Waiver(*row) for row in rows]
        return {
            (waiver.rule, waiver.caption): waiver
            for waiver in found
            if waiver.caption in track and waiver.stands(track[waiver.caption])
        }

    def waive(self, track_id: str, caption: Caption, rule: str, reason: str) -> None:
        """Accepts a finding about a caption as it is."""
        values = {
            "reason": reason,
            "in_ms": caption.in_ms,
            "out_ms": caption.out_ms,
            "text": caption.text,
            "made_ms": time.time_ns() // 1_000_000,
        }
        with self._writing.begin() as connection:
            statement = upsert(WaiverRow).values(
                track_id=track_id, caption_id=caption.id, rule=rule, **values
            )
            connection.execute(statement.on_conflict_do_update(set_=values))
            connection.execute(_judged_anew(track_id))

    def take_back(self, track_id: str, caption_id: str, rule: str) -> None:
        """Forgets a waiver."""
        with self._writing.begin() as connection:
            connection.execute(
                delete(WaiverRow).where(
                    WaiverRow.track_id == track_id,
                    WaiverRow.caption_id == caption_id,
                    WaiverRow.rule == rule,
                )
            )
            connection.execute(_judged_anew(track_id))


def _judged_anew(track_id: str):  # type: ignore[no-untyped-def]
    return update(TrackRow).where(TrackRow.id == track_id).values(judged=time.time_ns() // 1000)


def with_waivers(found: Iterable[Finding], waivers: dict[tuple[str, str], Waiver]) -> list[Finding]:
    """Findings, those that are waived with the reason."""
    findings = list(found)
    if waivers:
        for finding in findings:
            if waiver := waivers.get((finding.rule, finding.caption)):
                finding.waived = waiver.reason
    return findings
