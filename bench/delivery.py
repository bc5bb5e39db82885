"""What leaves the house: films in each codec against the same encode without captions, captions alone, a packing list."""

import time
from collections.abc import Iterator
from pathlib import Path
from statistics import median

from bench.page import edit, insert
from bench.turns import least_of_each
from dunlin.core.captions import Caption, spans_of
from dunlin.core.delivery.encoding import Codec, Encoding, Passage
from dunlin.core.styles import Script, sheet_with
from dunlin.core.timecode import FrameRate
from dunlin.media.alone import write_alone
from dunlin.media.burn import burn
from dunlin.media.encoding import picture_codec, sound_codecs
from dunlin.media.probe import probe
from tests.conftest import FILM, ffmpeg
from tests.server import Server
from tests.ui.page import captions_every

__all__ = ["alone", "burning_in_codecs", "editing_beside_burns", "packing"]

_SECONDS = 12
"""Of the demo film that are written in each codec."""
_ITEMS, _CAPTIONS = 12, 2000
_BURNS, _EDITS = 20, 100


def _captions(seconds: int) -> list[Caption]:
    return [
        Caption(
            f"c{n}", n * 2000 + 200, n * 2000 + 1900, spans_of("The fog bell\nat Quillan Point")
        )
        for n in range(seconds // 2)
    ]


def burning_in_codecs(folder: Path) -> Iterator[tuple[Codec, float, float]]:
    """Codecs, with seconds for a burn and for the same encode without captions."""
    facts, captions, sheet = (
        probe(FILM),
        _captions(_SECONDS),
        sheet_with({}, None).in_language("en"),
    )
    for codec in ("hevc", "vp9", "prores"):
        encoding = Encoding(codec, passage=Passage(0, _SECONDS * 1000))
        output, plain = folder / f"burned{encoding.ending}", folder / f"plain{encoding.ending}"

        def plainly(encoding: Encoding = encoding, plain: Path = plain) -> None:
            ffmpeg(
                "-t", str(_SECONDS), "-i", str(FILM), "-map", "0:v:0", "-map", "0:a",
                "-vf", f"scale={facts.width}:{facts.height},setsar=1", *picture_codec(encoding, deep=False),
                *sound_codecs(FILM, encoding.ending), str(plain),
            )  # fmt: skip

        def burned(encoding: Encoding = encoding, output: Path = output) -> None:
            burn(FILM, facts, captions, sheet, output, encoding)

        mine, theirs = least_of_each(2, burned, plainly)
        yield codec, mine, theirs


def alone(folder: Path) -> tuple[float, float]:
    """Seconds for a minute of captions on nothing in ProRes 4444, 720 lines at 25 frames, and that minute."""
    seconds = 60
    start = time.perf_counter()
    write_alone(
        _captions(seconds), sheet_with({}, None).in_language("en"), Script(1280, 720), FrameRate(25),
        Passage(0, seconds * 1000), "prores", folder / "alone.mov",
    )  # fmt: skip
    return time.perf_counter() - start, float(seconds)


def packing(folder: Path) -> float:
    """Seconds from the press to the last of twelve files of 2,000 captions."""
    server = Server(folder / "packing")
    try:
        project = server.upload(FILM)
        track = project["tracks"][0]["id"]
        operation = {"kind": "insert-captions", "captions": captions_every(2000, _CAPTIONS)}
        body = {"base_revision": 0, "gesture": "g", "operation": operation}
        server.post(f"/api/tracks/{track}/edits", json=body)
        address = f"/api/projects/{project['id']}/deliveries/d"
        assert server.http.put(address, json={"delivery": {"name": "Ternholm"}}).is_success
        formats = [
            "srt",
            "webvtt",
            "ass",
            "ebu-tt-d",
            "imsc",
            "stl",
            "stl-teletext",
            "lrc",
            "csv",
            "tsv",
            "otio",
            "edl",
        ]
        items = {
            name: {"place": n, "thing": {"kind": "captions", "track": track, "format": name}}
            for n, name in enumerate(formats[:_ITEMS])
        }
        assert server.http.put(f"{address}/items", json={"items": items}).is_success
        server.wait_idle()
        start = time.perf_counter()
        server.post(f"{address}/make", json={})
        job = server.wait_for_job(project["id"], "pack", "done", "failed")
        taken = time.perf_counter() - start
        assert (job["state"], job["result"]["failed"]) == ("done", {})
        return taken
    finally:
        server.stop()


def editing_beside_burns(folder: Path) -> tuple[float, float]:
    """Median milliseconds of an edit, request to answer, while twenty burns are queued and made, and before."""
    server = Server(folder / "burns")
    try:
        project = server.upload(FILM)
        track = project["tracks"][0]["id"]
        insert(server, project, 100, 2000)
        server.wait_idle()
        before, revision = _edit_time(server, track, 1)
        encoding = {"passage": {"from_ms": 0, "to_ms": 4000}}
        for _ in range(_BURNS):
            server.post(f"/api/tracks/{track}/burn", json={"encoding": encoding})
        during, _ = _edit_time(server, track, revision)
        jobs = server.get(f"/api/projects/{project['id']}")["jobs"]
        assert any(job["kind"] == "burn" and job["state"] == "waiting" for job in jobs)
        return during, before
    finally:
        server.stop()


def _edit_time(server: Server, track: str, revision: int) -> tuple[float, int]:
    """Median milliseconds of an edit, request to answer, and the revision after the last."""
    taken = []
    for turn in range(_EDITS):
        change = {"caption": "c50", "text": f"Words {turn}"}
        start = time.perf_counter()
        operation = {"kind": "change-captions", "changes": [change]}
        revision = edit(server.http, track, revision, operation)
        taken.append(time.perf_counter() - start)
    return median(taken) * 1000, revision
