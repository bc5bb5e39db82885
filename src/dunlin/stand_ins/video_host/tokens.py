"""Who may ask for what: tokens with scopes and an end, and how often each may ask."""

import secrets
import time
import uuid
from collections import deque
from collections.abc import Sequence
from dataclasses import dataclass, field
from hashlib import sha256
from typing import Literal, TypeAlias, get_args

from sqlalchemy import Engine, delete, select
from sqlalchemy.orm import Session

from dunlin.stand_ins.video_host.tables import TokenRow

__all__ = ["SCOPES", "Holder", "RateLimit", "Scope", "Token", "Tokens"]

Scope: TypeAlias = Literal["films:read", "films:write", "captions:write"]
SCOPES: tuple[Scope, ...] = get_args(Scope)
_DAY_MS = 86_400_000
_BYTES = 32


@dataclass(frozen=True)
class Holder:
    """Whoever asks: the page of the host itself, or a program with a token."""

    name: str
    scopes: frozenset[str]
    token: str | None = None
    """Id of the token; None for the page."""
    expires_ms: int | None = None


@dataclass(frozen=True)
class Token:
    """A token without its secret."""

    id: str
    name: str
    scopes: tuple[str, ...]
    expires_ms: int
    made_ms: int


class Tokens:
    """The tokens of a host."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def make(self, name: str, scopes: Sequence[Scope], days: float) -> tuple[Token, str]:
        """A new token, with its secret, which is told this once."""
        secret, now = secrets.token_urlsafe(_BYTES), time.time_ns() // 1_000_000
        row = TokenRow(
            id=uuid.uuid4().hex, name=name, digest=_digest(secret), scopes=list(scopes),
            expires_ms=now + round(days * _DAY_MS), made_ms=now,
        )  # fmt: skip
        with Session(self._engine) as session:
            session.add(row)
            session.flush()
            token = _token(row)
            session.commit()
        return token, secret

    def all(self) -> list[Token]:
        with Session(self._engine) as session:
            return [
                _token(row) for row in session.scalars(select(TokenRow).order_by(TokenRow.made_ms))
            ]

    def revoke(self, id_: str) -> None:
        with Session(self._engine) as session:
            session.execute(delete(TokenRow).where(TokenRow.id == id_))
            session.commit()

    def holder(self, secret: str) -> Holder | None:
        """Who has a token; None when there is none of that secret. Whether it has ended is told by its end."""
        with Session(self._engine) as session:
            row = session.scalar(select(TokenRow).where(TokenRow.digest == _digest(secret)))
            if row is None:
                return None
            return Holder(row.name, frozenset(row.scopes), row.id, row.expires_ms)


def _token(row: TokenRow) -> Token:
    return Token(row.id, row.name, tuple(row.scopes), row.expires_ms, row.made_ms)


def _digest(secret: str) -> str:
    return sha256(secret.encode()).hexdigest()


@dataclass
class RateLimit:
    """How often each token may ask in a minute."""

    a_minute: int = 600
    _asked: dict[str, deque[float]] = field(default_factory=dict)

    def wait_seconds(self, token: str) -> float:
        """0 when it may ask now, which is counted; else the seconds until it may."""
        now = time.monotonic()
        asked = self._asked.setdefault(token, deque())
        while asked and now - asked[0] >= 60:
            asked.popleft()
        if len(asked) >= self.a_minute:
            return 60 - (now - asked[0])
        asked.append(now)
        return 0
