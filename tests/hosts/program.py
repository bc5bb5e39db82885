"""The host as the program that it is, for tests."""

from pathlib import Path
from typing import Any

from dunlin.hosts import Strandline
from dunlin.stand_ins.video_host.tokens import SCOPES
from tests.server import Server

__all__ = ["HostProgram"]

_PAGE = {"Strandline-Page": "1"}


class HostProgram(Server):
    """`dunlin host`, done to as on its page."""

    def __init__(self, data: Path, *options: str, port: int | None = None) -> None:
        super().__init__(
            data, *options, port=port, command="host", answers="/api/account", headers=_PAGE
        )

    def token(self, *scopes: str, days: float = 1) -> str:
        asked = {"name": "Dunlin", "scopes": scopes or SCOPES, "days": days}
        return str(self.post("/api/tokens", json=asked)["token"])

    def client(self, token: str | None = None) -> Strandline:
        return Strandline(self.url, token or self.token(), wait=lambda seconds: None)

    def faults(self, **faults: Any) -> None:
        """Has these faults from now on, and no others."""
        self.http.put("/api/faults", json=faults).raise_for_status()
