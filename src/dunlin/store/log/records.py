"""Records of a project, read from the database and written to it."""

from collections.abc import Iterable
from typing import Any

from sqlalchemy import Connection, bindparam, delete, select
from sqlalchemy.dialects.sqlite import insert as upsert

from dunlin.core.project.records import Record
from dunlin.store.tables import RecordRow

__all__ = ["read_record", "read_records", "write_entries"]


_VALUES = (
    select(RecordRow.address, RecordRow.key, RecordRow.value)
    .where(
        RecordRow.project_id == bindparam("project"),
        RecordRow.address.in_(bindparam("addresses", expanding=True)),
    )
    .order_by(RecordRow.key)
)


def read_record(connection: Connection, project_id: str, address: str) -> Record:
    """The values at an address, by key."""
    return read_records(connection, project_id, [address])[address]


def read_records(
    connection: Connection, project_id: str, addresses: Iterable[str]
) -> dict[str, dict[str, Any]]:
    """The values at each of some addresses, by key."""
    found: dict[str, dict[str, Any]] = {address: {} for address in addresses}
    rows = connection.execute(_VALUES, {"project": project_id, "addresses": list(found)})
    for address, key, value in rows:
        found[address][key] = value
    return found


def write_entries(
    connection: Connection, project_id: str, address: str, record: Record, touched: Iterable[str]
) -> None:
    """Makes the rows of the touched keys what the record says."""
    for key in touched:
        if key not in record:
            connection.execute(
                delete(RecordRow).where(
                    RecordRow.project_id == project_id,
                    RecordRow.address == address,
                    RecordRow.key == key,
                )
            )
            continue
        statement = upsert(RecordRow).values(
            project_id=project_id, address=address, key=key, value=record[key]
        )
        connection.execute(statement.on_conflict_do_update(set_={"value": record[key]}))
