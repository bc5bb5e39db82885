"""Things of packing lists as they were made: files in the folder of results, and what they were made of."""

from collections.abc import Mapping
from dataclasses import asdict, dataclass, fields
from typing import Any

from sqlalchemy import Engine, select
from sqlalchemy.dialects.sqlite import insert as upsert

from dunlin.store.tables import MadeRow

__all__ = ["Ingredient", "Made", "MadeThings"]


@dataclass(frozen=True)
class Ingredient:
    """Something that went into a thing, as it was then."""

    what: str
    """Such as `captions` or `styles`."""
    track: str | None
    """Id of the track it is of, where it is of one."""
    address: str
    """Of the target it is part of; empty where it is of none."""
    revision: int
    """The project's, when that target was last changed."""
    digest: str


@dataclass(frozen=True)
class Made:
    """A thing that was made. The time is milliseconds since 1970."""

    item_id: str
    job_id: str
    file: str
    name: str
    size_bytes: int
    sha256: str
    made_ms: int
    made_of: tuple[Ingredient, ...]


_COLUMNS = [getattr(MadeRow, field.name) for field in fields(Made)]


class MadeThings:
    """What was made, in a database; of each item of a list what was made last."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._writing = engine.execution_options(begin="IMMEDIATE")

    def of(self, project_id: str, delivery_id: str) -> Mapping[str, Made]:
        """What was made of a list, by the ids of its items."""
        query = select(*_COLUMNS).where(
            MadeRow.project_id == project_id, MadeRow.delivery_id == delivery_id
        )
        with self._engine.connect() as connection:
            rows = connection.execute(query).all()
        return {
            row.item_id: Made(
                **dict(row._mapping)
                | {"made_of": tuple(Ingredient(**part) for part in row.made_of)}
            )
            for row in rows
        }

    def keep(self, project_id: str, delivery_id: str, made: Made) -> str | None:
        """Has a thing stand for its item.

        :returns: the file that stood for it before, if there was one
        """
        before = self.of(project_id, delivery_id).get(made.item_id)
        values: dict[str, Any] = {"project_id": project_id, "delivery_id": delivery_id}
        values |= asdict(made) | {"made_of": [asdict(each) for each in made.made_of]}
        with self._writing.begin() as connection:
            into = upsert(MadeRow).values(values)
            connection.execute(into.on_conflict_do_update(set_=values))
        return before.file if before and before.file != made.file else None
