"""Dunlin as the client of a host that is a program of its own, with its faults turned on."""

import logging
from collections.abc import Callable, Iterator
from dataclasses import replace
from hashlib import sha256
from pathlib import Path

import httpx
import pytest
from hypothesis import given
from hypothesis import strategies as st

import dunlin.hosts.strandline as strandline
from dunlin.core.messages import BadInput
from dunlin.hosts import (
    Cancelled,
    HostError,
    NewFilm,
    Strandline,
    TrackChangedThere,
    VideoHost,
    origin_of,
)
from tests.conftest import Films
from tests.hosts.program import HostProgram

ENGLISH = b"WEBVTT\n\n00:01.000 --> 00:02.000\nFog\n"
OTHER = b"WEBVTT\n\n00:01.000 --> 00:02.000\nFog bell\n"
_100_GB = 100 << 30


@pytest.fixture(scope="module")
def host(tmp_path_factory: pytest.TempPathFactory) -> Iterator[HostProgram]:
    host = HostProgram(tmp_path_factory.mktemp("host"), "--demo")
    yield host
    host.stop()


@pytest.fixture(autouse=True)
def _no_faults(host: HostProgram) -> Iterator[None]:
    yield
    host.faults()


@pytest.fixture
def client(host: HostProgram) -> VideoHost:
    return host.client()


def new_film(client: VideoHost, file: Path) -> NewFilm:
    [collection, *_] = client.collections()
    digest = sha256(file.read_bytes()).hexdigest()
    return NewFilm(file, file.name, "Fog", collection.id, "en", digest)


def refused(what: Callable[[], object]) -> str:
    """The code of the message that a host's refusal is told by."""
    with pytest.raises(HostError) as told:
        what()
    return told.value.message.code


def test_films_are_listed_by_collection_and_found_by_title(client: VideoHost) -> None:
    account = client.account()
    assert (account.host, account.name) == ("Strandline", "Dunlin")
    assert [one.name for one in client.collections()] == ["Quillan Point", "Shorts"]
    point, _ = client.collections()
    assert [film.title for film in client.films(point.id).films] == [
        "The Fog Bell at Quillan Point"
    ]
    [found] = client.films(search="low wat").films
    assert found.title == "Low Water"
    assert client.film(found.id) == found
    assert client.film("none") is None
    assert client.film("../account") is None


def test_a_film_is_sent_and_comes_back_as_it_was(
    client: VideoHost, films: Films, tmp_path: Path
) -> None:
    begun: list[str] = []
    parts: list[float] = []
    sent = client.send_film(new_film(client, films["short"]), None, begun.append, parts.append)
    assert (len(begun), sent.title, parts[-1]) == (1, "Fog", 1.0)
    assert 7_000 < sent.duration_ms < 9_000
    client.fetch_film(sent, tmp_path / "film")
    assert (tmp_path / "film").read_bytes() == films["short"].read_bytes()
    # Sent once more under the same name, nothing goes twice: it is there.
    again = client.send_film(new_film(client, films["short"]), begun[0], begun.append)
    assert again.id == sent.id


def test_what_broke_off_goes_on_where_it_was(
    host: HostProgram, client: VideoHost, films: Films, tmp_path: Path
) -> None:
    film, parts = films["short"], []
    host.faults(break_after=100_000)
    sent = client.send_film(new_film(client, film), None, lambda id_: None, parts.append)
    assert sent.size_bytes == film.stat().st_size
    host.faults(break_after=100_000)
    parts.clear()
    client.fetch_film(sent, tmp_path / "film", parts.append)
    assert (tmp_path / "film").read_bytes() == film.read_bytes()
    assert parts == sorted(parts)


def test_a_film_of_a_hundred_gigabytes_goes_on_at_its_end(
    host: HostProgram, client: VideoHost, tmp_path: Path
) -> None:
    """Both files have holes in the place of what is there already, so that no disk is filled."""
    [film, *_] = client.films().films
    large, here = replace(film, size_bytes=_100_GB), tmp_path / "here"
    there = host.data / "films" / film.id
    kept, rest = there.read_bytes(), 3 << 20
    for path in (there, here):
        with path.open("wb") as file:
            file.truncate(_100_GB - (rest if path == here else 0))
    parts: list[float] = []
    client.fetch_film(large, here, parts.append)
    assert here.stat().st_size == _100_GB
    assert parts[0] > 0.99
    there.write_bytes(kept)

    told = NewFilm(here, "large.mp4", "Large", film.collection, "en", "0" * 64)
    begun: list[str] = []
    with pytest.raises(Cancelled):
        client.send_film(told, None, begun.append, cancelled=lambda: True)
    arriving = host.data / "uploads" / begun[0]
    with arriving.open("r+b") as file:
        file.truncate(_100_GB - rest)
    seen: list[float] = []

    def cancelled() -> bool:
        return len(seen) > 0

    with pytest.raises(Cancelled):
        client.send_film(told, begun[0], begun.append, seen.append, cancelled)
    assert seen[0] > 0.99
    assert begun[1] == begun[0]
    arriving.unlink()


def test_memory_stays_bounded_while_a_large_film_goes_both_ways(
    host: HostProgram, client: VideoHost, tmp_path: Path
) -> None:
    large = tmp_path / "large"
    with large.open("wb") as file:
        file.truncate(400 << 20)

    def most_kb() -> int:
        status = Path(f"/proc/{host.process.pid}/status").read_text()
        return int(status.split("VmHWM:")[1].split()[0])

    before = most_kb()
    told = NewFilm(large, "large.mp4", "Large", client.collections()[0].id, "en", "0" * 64)
    # What came is not what was told, as its hash says: it is refused, and nothing of it stays.
    begun: list[str] = []
    assert refused(lambda: client.send_film(told, None, begun.append)) == "hosts.refuses"
    assert not (host.data / "uploads" / begun[0]).exists()
    [film, *_] = client.films().films
    there = host.data / "films" / film.id
    kept = there.read_bytes()
    with there.open("wb") as file:
        file.truncate(400 << 20)
    client.fetch_film(replace(film, size_bytes=400 << 20), tmp_path / "film")
    there.write_bytes(kept)
    assert most_kb() - before < 100_000


def test_a_track_is_sent_replaced_and_opened_and_never_over_what_was_not_seen(
    host: HostProgram, client: VideoHost
) -> None:
    [film, *_] = client.films(search="low").films
    first = client.send_track(film.id, "de", ENGLISH, is_open=False, over=None)
    assert (first.language, first.is_open, first.by_machine) == ("de", False, False)
    # The same language twice, however it is written.
    with pytest.raises(TrackChangedThere):
        client.send_track(film.id, "DE", OTHER, is_open=False, over=None)
    second = client.send_track(film.id, "de", OTHER, is_open=True, over=first.version)
    with pytest.raises(TrackChangedThere):
        client.send_track(film.id, "de", ENGLISH, is_open=True, over=first.version)
    assert second.is_open
    assert not client.open_track(film.id, "de", is_open=False).is_open
    history = host.get(f"/api/films/{film.id}/tracks/de/history")
    assert [str(one["version"]) for one in history] == [second.version, first.version]
    now = client.film(film.id)
    assert now is not None
    assert [one.version for one in now.tracks] == [second.version]
    assert (
        refused(lambda: client.send_track(film.id, "fi", b"no", is_open=True, over=None))
        == "hosts.refuses"
    )
    assert (
        refused(lambda: client.send_track("gone", "fi", OTHER, is_open=True, over=None))
        == "hosts.not-there"
    )


@pytest.mark.parametrize(
    ("faults", "code"),
    [
        ({"refuse": 429}, "hosts.too-often"),
        ({"refuse": 500}, "hosts.failing"),
        ({"refuse": 401}, "hosts.token-unknown"),
        ({"refuse": 403}, "hosts.token-unknown"),
        ({"redirect_to": "http://localhost:9/api/films"}, "hosts.sends-on"),
        ({"answer": "markup"}, "hosts.nonsense"),
        ({"answer": "megabytes"}, "hosts.nonsense"),
    ],
)
def test_what_goes_wrong_there_is_told_in_one_message(
    faults: dict[str, object], code: str, host: HostProgram, client: VideoHost
) -> None:
    host.faults(**faults)
    assert refused(client.films) == code


def test_what_goes_wrong_for_a_moment_is_asked_again(host: HostProgram, client: VideoHost) -> None:
    host.faults(refuse=429, times=2)
    assert client.films().films
    host.faults(refuse=503, times=3)
    assert client.collections()


def test_a_host_that_lies_about_sizes_is_not_believed(
    host: HostProgram, client: VideoHost, tmp_path: Path
) -> None:
    host.faults(lie_about_size=True)
    [film] = client.films(search="low").films
    assert refused(lambda: client.fetch_film(film, tmp_path / "film")) == "hosts.other-size"
    assert not (tmp_path / "film").exists()
    host.faults()
    small = replace(film, size_bytes=1000)
    assert refused(lambda: client.fetch_film(small, tmp_path / "film")) == "hosts.too-much"


def test_tokens_end_are_revoked_and_may_not_do_everything(host: HostProgram, films: Films) -> None:
    ended = host.client(host.token(days=1e-9))
    assert refused(ended.films) == "hosts.token-ended"
    reader = host.client(host.token("films:read"))
    [film, *_] = reader.films().films
    assert (
        refused(lambda: reader.send_track(film.id, "de", ENGLISH, is_open=True, over=None))
        == "hosts.scope"
    )
    assert (
        refused(lambda: reader.send_film(new_film(reader, films["short"]), None, lambda i: None))
        == "hosts.scope"
    )
    assert refused(host.client("made-up").films) == "hosts.token-unknown"
    # Revoked while a film is on its way.
    sender, begun = host.client(host.token()), []
    told = new_film(sender, films["short"])

    def revoke(id_: str) -> None:
        begun.append(id_)
        for token in host.get("/api/tokens"):
            host.http.delete(f"/api/tokens/{token['id']}").raise_for_status()

    assert refused(lambda: sender.send_film(told, None, revoke)) == "hosts.token-unknown"
    assert host.client().send_film(told, begun[0], begun.append).id == begun[0]


def test_a_host_that_died_in_the_middle_is_sent_the_rest_when_it_is_back(
    films: Films, tmp_path: Path
) -> None:
    host = HostProgram(tmp_path, "--demo")
    token, begun, film = host.token(), [], films["short"]
    client = host.client(token)
    told = new_film(client, film)
    upload = httpx.post(
        f"{host.url}/api/uploads",
        headers={"Authorization": f"Bearer {token}"},
        json={"title": told.title, "collection": told.collection, "language": "en", "name": told.name,
              "size_bytes": film.stat().st_size, "sha256": told.sha256},
    ).json()["id"]  # fmt: skip
    (host.data / "uploads" / upload).write_bytes(film.read_bytes()[:100_000])
    host.process.kill()
    host.process.join()
    assert refused(lambda: client.send_film(told, upload, begun.append)) == "hosts.gone"
    back = HostProgram(tmp_path, port=host.port)
    try:
        assert client.send_film(told, upload, begun.append).id == upload
        assert begun == [upload]
    finally:
        back.stop()


@pytest.mark.parametrize("place", ["uploads", "films"])
def test_what_came_whole_before_the_host_died_becomes_a_film(
    place: str, host: HostProgram, client: VideoHost, films: Films
) -> None:
    begun: list[str] = []
    told = new_film(client, films["half"])
    with pytest.raises(Cancelled):
        client.send_film(told, None, begun.append, cancelled=lambda: True)
    (host.data / "uploads" / begun[0]).unlink()
    (host.data / place / begun[0]).write_bytes(films["half"].read_bytes())
    there = client.send_film(told, begun[0], begun.append)
    assert (there.id, there.sha256) == (begun[0], told.sha256)
    client.fetch_film(there, host.data / "back")
    assert (host.data / "back").read_bytes() == films["half"].read_bytes()
    (host.data / "back").unlink()
    host.http.delete(f"/api/films/{there.id}").raise_for_status()


def test_a_host_that_is_too_slow_says_so(
    host: HostProgram, client: VideoHost, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(strandline, "_SECONDS", httpx.Timeout(0.05, connect=5))
    host.faults(slow_ms=2000)
    assert refused(client.films) == "hosts.slow"


def test_a_host_that_is_gone_says_so(tmp_path: Path) -> None:
    gone = Strandline("http://127.0.0.1:9", "token", wait=lambda seconds: None)
    assert refused(gone.films) == "hosts.gone"


def test_a_token_stands_in_no_log_and_no_message(
    host: HostProgram, caplog: pytest.LogCaptureFixture
) -> None:
    token = host.token()
    with caplog.at_level(logging.DEBUG):
        host.client(token).films()
        host.faults(refuse=500)
        with pytest.raises(HostError) as told:
            host.client(token).films()
    assert token not in caplog.text + str(told.value) + repr(told.value)


@given(st.text(max_size=40) | st.from_regex(r"https?://[a-z0-9.:\[\]@/-]{0,30}", fullmatch=True))
def test_whatever_is_written_for_an_address_is_one_or_is_refused(address: str) -> None:
    try:
        origin = origin_of(address)
    except BadInput:
        return
    assert origin_of(origin) == origin
    assert origin.startswith(("https://", "http://127.", "http://localhost", "http://[::1]"))


def test_a_token_goes_to_other_machines_enciphered_alone() -> None:
    assert origin_of("127.0.0.1:8602/film/x") == "https://127.0.0.1:8602"
    assert origin_of("http://[::1]:8602") == "http://[::1]:8602"
    assert origin_of("films.example") == "https://films.example"
    for wrong in ("http://films.example", "ftp://127.0.0.1", "", "http://", "https://a b"):
        with pytest.raises(BadInput):
            origin_of(wrong)
