"""What is handed over, and what comes back."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal, TypeAlias

from dunlin.core.language.memory.pairs import in_one_line

__all__ = ["Change", "HandedOver", "Returned", "Row", "State", "Unit", "changes_of"]

State: TypeAlias = Literal["initial", "translated", "final"]
"""As XLIFF 2.0 has them (4.3.1.26): not translated, translated and not confirmed, confirmed."""


@dataclass(frozen=True)
class Unit:
    """A caption of a translation with what it translates."""

    id: str
    in_ms: int
    out_ms: int
    source: str
    """With its line breaks, as the target."""
    target: str
    state: State = "initial"
    most: int | None = None
    """Characters that can be read in its time; None without a limit."""
    speaker: str = ""


@dataclass(frozen=True)
class HandedOver:
    """A whole translation."""

    language: str
    """BCP 47 tags."""
    target: str
    title: str
    units: Sequence[Unit]


@dataclass(frozen=True)
class Row:
    """A unit as it came back."""

    source: str
    target: str
    id: str = ""
    """Nothing where the file has none."""
    in_ms: int | None = None
    state: State | None = None


@dataclass(frozen=True)
class Returned:
    """What a file says."""

    rows: Sequence[Row]
    language: str | None = None
    target: str | None = None


@dataclass(frozen=True)
class Change:
    """A caption that a file has otherwise."""

    caption: str
    before: str
    after: str
    said: str
    """What the file says was translated, in one line."""
    source_changed: bool
    """Whether the source says something else by now."""
    is_confirmed: bool
    """Whether the file says that it is final."""


def changes_of(units: Sequence[Unit], rows: Iterable[Row]) -> tuple[list[Change], list[Row]]:
    """What a file would change, in the order of the captions, and the rows that belong to none.

    A row is of the caption that has its id; else of the one that begins at its time and says the same; else of the only one
    that says the same. What is empty in the file changes nothing.
    """
    by_id = {unit.id: unit for unit in units}
    by_source: dict[str, list[Unit]] = {}
    for one in units:
        by_source.setdefault(in_one_line(one.source), []).append(one)
    found: dict[str, Change] = {}
    lost: list[Row] = []
    for row in rows:
        unit = _unit_of(row, by_id, by_source)
        if not unit:
            if row.target.strip():
                lost.append(row)
            continue
        is_confirmed = row.state == "final"
        said = in_one_line(row.source)
        differs = row.target != unit.target or (is_confirmed and unit.state != "final")
        if row.target.strip() and differs:
            current = in_one_line(unit.source)
            found[unit.id] = Change(
                unit.id, unit.target, row.target, said, bool(said) and said != current, is_confirmed
            )
    return [found[one.id] for one in units if one.id in found], lost


def _unit_of(
    row: Row, by_id: Mapping[str, Unit], by_source: Mapping[str, Sequence[Unit]]
) -> Unit | None:
    if row.id:
        return by_id.get(row.id)
    same = by_source.get(in_one_line(row.source), ())
    at_its_time = [unit for unit in same if unit.in_ms == row.in_ms]
    if at_its_time:
        return at_its_time[0]
    return same[0] if len(same) == 1 else None
