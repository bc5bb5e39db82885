"""Films that were brought into projects. Which of them a project shows is told by its log."""

import time
from dataclasses import asdict, dataclass, field
from typing import Any

from sqlalchemy import ColumnElement, Engine, delete, insert, select, update

from dunlin.core.messages import Told, message
from dunlin.core.timecode import FrameRate
from dunlin.store.tables import FilmRow

__all__ = ["FILM_COLUMNS", "Film", "Films", "UnknownFilm", "film_to_come", "read_film"]

_USUAL_RATE = FrameRate(25, 1)


class UnknownFilm(Told, LookupError):
    """There is no film of that id."""

    def __init__(self) -> None:
        super().__init__(message("film.gone"))


@dataclass(frozen=True)
class Film:
    """A film as it was brought in; `facts` is its probe as plain data."""

    label: str
    size_bytes: int
    facts: dict[str, Any]
    has_copy: bool = False
    sound_ends_ms: int | None = None
    picture_ends_ms: int | None = None
    id: str = ""
    """Empty where no film has been brought in yet."""
    project_id: str = ""
    came_ms: int = field(default_factory=lambda: time.time_ns() // 1_000_000)

    @property
    def rate(self) -> FrameRate:
        return FrameRate(**self.facts["frame_rate"])

    @property
    def duration_ms(self) -> int:
        return int(self.facts["duration_ms"])

    @property
    def has_sound(self) -> bool:
        return bool(self.facts["audio_streams"])


def film_to_come(rate: FrameRate | None) -> Film:
    """What stands for a project's film until there is one: nothing to see and nothing to hear.

    :param rate: the one that it will have; None is 25
    """
    facts = {
        "duration_ms": 0,
        "container": "",
        "video_codec": None,
        "audio_codec": None,
        "width": 0,
        "height": 0,
        "rotation": 0,
        "frame_rate": asdict(rate or _USUAL_RATE),
        "frame_rate_varies": False,
        "audio_streams": 0,
        "browser_plays": False,
    }
    return Film("", 0, facts)


FILM_COLUMNS = [getattr(FilmRow, name) for name in Film.__dataclass_fields__]


def read_film(values: Any) -> Film:
    """A film from the values of `FILM_COLUMNS`."""
    return Film(*values)


class Films:
    """The films in a database."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._writing = engine.execution_options(begin="IMMEDIATE")

    def add(self, film: Film) -> None:
        """Remembers a film of a project, which shows it once its log says so."""
        with self._writing.begin() as connection:
            connection.execute(insert(FilmRow).values(**asdict(film)))

    def get(self, film_id: str) -> Film:
        """:raises UnknownFilm:"""
        with self._engine.connect() as connection:
            found = connection.execute(select(*FILM_COLUMNS).where(FilmRow.id == film_id)).first()
        if found is None:
            raise UnknownFilm
        return read_film(found)

    def of_project(self, project_id: str) -> list[Film]:
        """The newest first."""
        return self._where(FilmRow.project_id == project_id)

    def of_size(self, size_bytes: int) -> list[Film]:
        """The newest first."""
        return self._where(FilmRow.size_bytes == size_bytes)

    def _where(self, condition: ColumnElement[bool]) -> list[Film]:
        asked = select(*FILM_COLUMNS).where(condition)
        with self._engine.connect() as connection:
            rows = connection.execute(asked.order_by(FilmRow.came_ms.desc(), FilmRow.id))
            return [read_film(row) for row in rows]

    def change(self, film_id: str, **values: Any) -> None:
        """Sets what was found out about a film."""
        with self._writing.begin() as connection:
            connection.execute(update(FilmRow).where(FilmRow.id == film_id).values(**values))

    def remove(self, film_id: str) -> None:
        with self._writing.begin() as connection:
            connection.execute(delete(FilmRow).where(FilmRow.id == film_id))
