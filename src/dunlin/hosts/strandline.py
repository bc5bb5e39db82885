"""The host that ships with Dunlin, as docs/host.md says it is asked."""

import contextlib
import re
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Annotated, Any, TypeVar
from urllib.parse import quote

import httpx
from pydantic import BaseModel, Field, TypeAdapter, ValidationError

from dunlin.core.messages import BadInput, Message, message
from dunlin.hosts.model import (
    Account,
    Cancelled,
    Collection,
    FilmPage,
    HostError,
    HostFilm,
    HostTrack,
    NewFilm,
    TrackChangedThere,
)
from dunlin.settings import is_this_machine

__all__ = ["Strandline", "origin_of"]

_MOST_BYTES = 4 << 20
"""Of an answer that is no film."""
_SECONDS = httpx.Timeout(30.0, connect=5.0)
_CHUNK = 1 << 20
_LONGEST_WAIT_SECONDS = 20.0
# A name as the Domain Name System has them, or an address (RFC 3986, 3.2.2).
_HOST = re.compile(r"[A-Za-z0-9.-]+|[0-9A-Fa-f:.]+")
_NOT_LET = {"token-ended": "hosts.token-ended", "scope": "hosts.scope"}
_Told = TypeVar("_Told")
_Text = Annotated[str, Field(max_length=5000)]


class _Problem(BaseModel):
    problem: _Text = ""
    says: _Text = ""


class _Upload(BaseModel):
    id: _Text
    offset: Annotated[int, Field(ge=0)]
    film: HostFilm | None


_ANYTHING: TypeAdapter[Any] = TypeAdapter(Any)
_ACCOUNT, _COLLECTIONS = TypeAdapter(Account), TypeAdapter(tuple[Collection, ...])
_FILM, _FILMS, _TRACK = TypeAdapter(HostFilm), TypeAdapter(FilmPage), TypeAdapter(HostTrack)
_UPLOAD, _PROBLEM = TypeAdapter(_Upload), TypeAdapter(_Problem)


def origin_of(address: str) -> str:
    """The scheme, host and port of an address that somebody wrote.

    :raises BadInput: when it is none that a token may be sent to: on its way to another machine it must be enciphered
    """
    try:
        url = httpx.URL(address.strip() if "://" in address else f"https://{address.strip()}")
    except httpx.InvalidURL:
        raise BadInput(message("hosts.no-address")) from None
    if url.scheme not in ("http", "https") or not _HOST.fullmatch(url.host):
        raise BadInput(message("hosts.no-address"))
    if url.scheme == "http" and not is_this_machine(url.host):
        raise BadInput(message("hosts.not-enciphered", host=url.host))
    port = f":{url.port}" if url.port else ""
    host = f"[{url.host}]" if ":" in url.host else url.host
    return f"{url.scheme}://{host}{port}"


class Strandline:
    """The host at an address. No redirection is followed, and no more is read than an answer can be."""

    def __init__(
        self,
        origin: str,
        token: str,
        *,
        tries: int = 5,
        wait: Callable[[float], None] = time.sleep,
    ) -> None:
        """
        :param token: stands in no message, and in nothing that is logged
        :param tries: requests in a row that may bring nothing further before it is given up
        """
        self._origin, self._token, self._tries, self._wait = origin, token, tries, wait
        self._name = httpx.URL(origin).netloc.decode()

    def account(self) -> Account:
        return self._asked(_ACCOUNT, "GET", "account")

    def collections(self) -> tuple[Collection, ...]:
        return self._asked(_COLLECTIONS, "GET", "collections")

    def films(
        self, collection: str | None = None, search: str = "", after: str | None = None
    ) -> FilmPage:
        wanted = {"collection": collection, "search": search, "after": after}
        return self._asked(_FILMS, "GET", "films", params={k: v for k, v in wanted.items() if v})

    def film(self, id_: str) -> HostFilm | None:
        try:
            return self._asked(_FILM, "GET", f"films/{_part(id_)}")
        except _NotThere:
            return None

    def words(self, film: str, language: str) -> bytes:
        return self._body("GET", f"films/{_part(film)}/tracks/{_part(language)}")

    def send_track(
        self, film: str, language: str, webvtt: bytes, *, is_open: bool, over: str | None
    ) -> HostTrack:
        return self._asked(
            _TRACK, "PUT", f"films/{_part(film)}/tracks/{_part(language)}", params={"is_open": is_open}, content=webvtt,
            headers={"Content-Type": "text/vtt"} | ({"If-Match": f'"{over}"'} if over else {}),
        )  # fmt: skip

    def open_track(self, film: str, language: str, *, is_open: bool) -> HostTrack:
        return self._asked(
            _TRACK,
            "PATCH",
            f"films/{_part(film)}/tracks/{_part(language)}",
            json={"is_open": is_open},
        )

    def fetch_film(
        self,
        film: HostFilm,
        to: Path,
        progress: Callable[[float], None] = lambda part: None,
        cancelled: Callable[[], bool] = lambda: False,
    ) -> None:
        to.touch()
        failures = 0
        while (there := to.stat().st_size) < film.size_bytes:
            try:
                ended = self._fetch_on(film, to, there, progress, cancelled)
            except _TryAgain as again:
                failures = failures + 1 if to.stat().st_size == there else 0
                self._wait_for(again, failures, cancelled)
                continue
            if ended:
                break
        if (came := to.stat().st_size) != film.size_bytes:
            to.unlink()
            raise HostError(
                message("hosts.other-size", host=self._name, came=came, told=film.size_bytes)
            )

    def _fetch_on(
        self,
        film: HostFilm,
        to: Path,
        there: int,
        progress: Callable[[float], None],
        cancelled: Callable[[], bool],
    ) -> bool:
        """Brings the rest of a film; whether its end came."""
        more = {"Range": f"bytes={there}-", "If-Range": f'"{film.sha256}"'} if there else {}
        with self._answer("GET", f"films/{_part(film.id)}/file", headers=more) as response:
            if response.status_code == 416:
                return True
            # Another film is there by now, or the host knows no ranges: it is sent from its beginning.
            mode = "ab" if response.status_code == 206 else "wb"
            with to.open(mode) as file:
                for chunk in self._bytes_of(response):
                    if cancelled():
                        raise Cancelled
                    if file.tell() + len(chunk) > film.size_bytes:
                        raise HostError(
                            message("hosts.too-much", host=self._name, told=film.size_bytes)
                        )
                    file.write(chunk)
                    progress(file.tell() / film.size_bytes)
            return True

    def send_film(
        self,
        film: NewFilm,
        begun: str | None,
        begin: Callable[[str], None],
        progress: Callable[[float], None] = lambda part: None,
        cancelled: Callable[[], bool] = lambda: False,
    ) -> HostFilm:
        size = film.file.stat().st_size
        upload = self._begun(begun) or self._begin(film, size)
        begin(upload.id)
        failures = 0
        while upload.film is None:
            before = upload.offset
            if before > size:
                raise HostError(message("hosts.nonsense", host=self._name))
            try:
                content = _rest_of(film.file, before, progress, cancelled)
                headers = {"Upload-Offset": str(before), "Content-Length": str(size - before)}
                upload = self._once(
                    _UPLOAD,
                    "PATCH",
                    f"uploads/{_part(upload.id)}",
                    content=content,
                    headers=headers,
                )
            except _TryAgain as again:
                upload = self._asked(_UPLOAD, "GET", f"uploads/{_part(upload.id)}")
                failures = failures + 1 if upload.offset == before else 0
                self._wait_for(again, failures, cancelled)
            else:
                if upload.film is None and upload.offset == before:
                    raise HostError(message("hosts.nonsense", host=self._name))
        return upload.film

    def _begun(self, id_: str | None) -> _Upload | None:
        try:
            return self._asked(_UPLOAD, "GET", f"uploads/{_part(id_)}") if id_ else None
        except _NotThere:
            return None

    def _begin(self, film: NewFilm, size: int) -> _Upload:
        told = {"title": film.title, "collection": film.collection, "language": film.language,
                "name": film.name, "size_bytes": size, "sha256": film.sha256}  # fmt: skip
        return self._asked(_UPLOAD, "POST", "uploads", json=told)

    def _asked(self, told: TypeAdapter[_Told], method: str, path: str, **more: Any) -> _Told:
        """What a host answers, asked again where it may go better."""
        failures = 0
        while True:
            try:
                return self._once(told, method, path, **more)
            except _TryAgain as again:
                failures += 1
                self._wait_for(again, failures)

    def _body(self, method: str, path: str, **more: Any) -> bytes:
        with self._answer(method, path, **more) as response:
            body = bytearray()
            for chunk in self._bytes_of(response):
                body += chunk
                if len(body) > _MOST_BYTES:
                    raise HostError(message("hosts.nonsense", host=self._name))
        return bytes(body)

    def _once(self, told: TypeAdapter[_Told], method: str, path: str, **more: Any) -> _Told:
        body = self._body(method, path, **more)
        try:
            # Numbers and texts are taken for each other: what a host calls a version is its own affair.
            return told.validate_python(_as_told(_ANYTHING.validate_json(body)))
        except ValidationError:
            raise HostError(message("hosts.nonsense", host=self._name)) from None

    @contextlib.contextmanager
    def _answer(self, method: str, path: str, **more: Any) -> Iterator[httpx.Response]:
        """An answer that is one, its body still to come.

        :raises HostError: for all others
        """
        headers = {"Authorization": f"Bearer {self._token}", "Accept-Encoding": "identity"}
        headers |= more.pop("headers", {})
        try:
            with (
                httpx.Client(timeout=_SECONDS, follow_redirects=False, trust_env=False) as client,
                client.stream(
                    method, f"{self._origin}/api/{path}", headers=headers, **more
                ) as response,
            ):
                if not response.is_success and response.status_code != 416:
                    raise self._refused(response)
                yield response
        except httpx.TimeoutException:
            raise _TryAgain(message("hosts.slow", host=self._name)) from None
        except httpx.HTTPError:
            raise _TryAgain(message("hosts.gone", host=self._name)) from None

    def _bytes_of(self, response: httpx.Response) -> Iterator[bytes]:
        return response.iter_raw(_CHUNK)

    def _refused(self, response: httpx.Response) -> HostError:
        status, problem = response.status_code, self._problem(response)
        if response.is_redirect:
            return HostError(message("hosts.sends-on", host=self._name))
        if status in (401, 403):
            code = _NOT_LET.get(problem.problem, "hosts.token-unknown")
            return HostError(message(code, host=self._name))
        if status == 429 or status >= 500:
            code = "hosts.too-often" if status == 429 else "hosts.failing"
            return _TryAgain(message(code, host=self._name), response.headers.get("retry-after"))
        if status == 412:
            return TrackChangedThere(message("hosts.changed-there", host=self._name))
        if status == 404:
            return _NotThere(message("hosts.not-there", host=self._name))
        says = _plain(problem.says) or str(status)
        return HostError(message("hosts.refuses", host=self._name, says=says))

    def _problem(self, response: httpx.Response) -> _Problem:
        body = b""
        with contextlib.suppress(httpx.HTTPError):
            for chunk in response.iter_raw(_CHUNK):
                body += chunk
                if len(body) > 65_536:
                    break
        try:
            return _PROBLEM.validate_json(body)
        except ValidationError:
            return _Problem()

    def _wait_for(
        self, again: "_TryAgain", failures: int, cancelled: Callable[[], bool] = lambda: False
    ) -> None:
        """:raises HostError: when it was tried often enough
        :raises Cancelled:"""
        if cancelled():
            raise Cancelled
        if failures >= self._tries:
            raise HostError(again.message) from None
        self._wait(min(again.after_seconds or 0.25 * 2**failures, _LONGEST_WAIT_SECONDS))


class _TryAgain(HostError):
    """Something that may go better later."""

    def __init__(self, told: Message, after: str | None = None) -> None:
        super().__init__(told)
        self.after_seconds = float(after) if after and after.isdecimal() else None


class _NotThere(HostError):
    """What was asked for is not on the host."""


def _rest_of(
    file: Path, offset: int, progress: Callable[[float], None], cancelled: Callable[[], bool]
) -> Iterator[bytes]:
    size = file.stat().st_size
    with file.open("rb") as opened:
        opened.seek(offset)
        while chunk := opened.read(_CHUNK):
            if cancelled():
                raise Cancelled
            yield chunk
            progress(opened.tell() / size)


def _part(text: str) -> str:
    """A part of an address, whatever a host calls its things."""
    return quote(text, safe="")


def _as_told(value: Any) -> Any:
    """An answer with versions as texts, and texts without what cannot be shown."""
    if isinstance(value, dict):
        return {k: str(v) if k == "version" else _as_told(v) for k, v in value.items()}
    if isinstance(value, list):
        return [_as_told(each) for each in value]
    return _plain(value) if isinstance(value, str) else value


def _plain(text: str) -> str:
    return "".join(c if c.isprintable() else " " for c in text)[:5000]
