"""What leaves the house, played by the browser as somebody who gets it would: films, and their captions as text tracks."""

from typing import Any

from tests.conftest import Films
from tests.server import Server
from tests.ui.page import Page, captions_every

_PLAY = """
const [film, captions, done] = arguments
const video = document.body.appendChild(document.createElement('video'))
video.src = film
video.muted = true
const track = video.appendChild(Object.assign(document.createElement('track'), { default: true, srclang: 'en', src: captions }))
track.track.mode = 'showing'
const shown = []
video.ontimeupdate = () => {
  const active = [...(track.track.activeCues ?? [])].map((cue) => cue.text)
  if (active.length) shown.push([video.currentTime, active])
  if (video.currentTime > 0.8) {
    video.pause()
    done({ shown, cues: [...track.track.cues].map((cue) => [cue.startTime, cue.endTime, cue.text]), width: video.videoWidth })
  }
}
video.onerror = () => done({ error: video.error.message })
video.play()
"""


def made(server: Server, project: dict[str, Any], things: list[dict[str, Any]]) -> list[str]:
    """Addresses of things of a packing list, once they are made."""
    address = f"/api/projects/{project['id']}/deliveries/d"
    server.http.put(address, json={"delivery": {"name": "Ternholm"}}).raise_for_status()
    items = {f"i{n}": {"place": n, "thing": thing} for n, thing in enumerate(things)}
    server.http.put(f"{address}/items", json={"items": items}).raise_for_status()
    server.post(f"{address}/make", json={})
    job = server.wait_for_job(project["id"], "pack", "done", "failed")
    assert (job["state"], job["result"]["failed"]) == ("done", {})
    return [f"{address}/items/{id_}/file" for id_ in items]


def test_films_play_and_their_captions_are_shown(page: Page, films: Films) -> None:
    server = page.server
    captions = captions_every(400, 4, 300)
    project = page.new_project(films["short"], captions)
    track, passage = project["tracks"][0]["id"], {"from_ms": 0, "to_ms": 1500}
    burned = [
        {
            "kind": "burned",
            "track": track,
            "encoding": {"codec": codec, "height": 180, "passage": passage},
        }
        for codec in ("h264", "vp9")
    ]
    inside = [
        {"kind": "inside", "container": container, "tracks": [{"track": track, "is_default": True}]}
        for container in ("mp4", "webm")
    ]
    text = {"kind": "captions", "track": track, "format": "webvtt"}
    *played, webvtt = made(server, project, [*burned, *inside, text])
    page.open_project(project, "deliver")
    page.browser.set_script_timeout(60)
    for film in played:
        seen = page.browser.execute_async_script(_PLAY, film, webvtt)
        assert "error" not in seen, seen
        assert seen["width"]
        assert [cue[:2] for cue in seen["cues"]] == [
            [one["in_ms"] / 1000, one["out_ms"] / 1000] for one in captions
        ]
        assert seen["shown"]
        for at, active in seen["shown"]:
            told = [
                one["spans"][0]["text"]
                for one in captions
                if one["in_ms"] <= at * 1000 < one["out_ms"]
            ]
            # The cues that are active are those of a moment before the time that is told.
            assert active == told or not told
