"""Things of packing lists as they were sent to hosts of films."""

from collections.abc import Mapping
from dataclasses import asdict, dataclass, fields

from sqlalchemy import Engine, select
from sqlalchemy.dialects.sqlite import insert as upsert

from dunlin.store.tables import SentRow

__all__ = ["Sent", "SentThings"]


@dataclass(frozen=True)
class Sent:
    """A thing that was sent, or is being sent. The time is milliseconds since 1970."""

    item_id: str
    connection: str
    """Id of the connection it went by."""
    sha256: str
    film: str | None = None
    """Its film on the host."""
    language: str | None = None
    """The language it is there, of captions."""
    version: str | None = None
    """What the host called it when it was sent."""
    is_open: bool = False
    page: str = ""
    """Where it is looked at there."""
    begun: str | None = None
    """What names a sending that has not come through."""
    sent_ms: int | None = None


_COLUMNS = [getattr(SentRow, field.name) for field in fields(Sent)]


class SentThings:
    """What was sent, in a database; of each item of a list what was sent last."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._writing = engine.execution_options(begin="IMMEDIATE")

    def of(self, project_id: str, delivery_id: str) -> Mapping[str, Sent]:
        """What was sent of a list, by the ids of its items."""
        query = select(*_COLUMNS).where(
            SentRow.project_id == project_id, SentRow.delivery_id == delivery_id
        )
        with self._engine.connect() as connection:
            return {row.item_id: Sent(**dict(row._mapping)) for row in connection.execute(query)}

    def keep(self, project_id: str, delivery_id: str, sent: Sent) -> None:
        """Remembers what was sent in the place of what was before."""
        values = {"project_id": project_id, "delivery_id": delivery_id, **asdict(sent)}
        with self._writing.begin() as connection:
            connection.execute(upsert(SentRow).values(values).on_conflict_do_update(set_=values))
