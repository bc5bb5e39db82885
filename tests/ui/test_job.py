"""The whole job, from a film to what is delivered, with the pictures compared."""

import io
from pathlib import Path

import av
import numpy as np
from PIL import Image

from tests.conftest import FILM, ffmpeg
from tests.server import Server, wait_for
from tests.ui.page import Page

DEMO = {"id": "the-fog-bell-at-quillan-point"}


def test_a_dropped_film_is_recognised_captioned_checked_and_delivered(
    page: Page, films, downloads: Path, server: Server
) -> None:
    page.open("/")
    page.wait_text(".row", "The Fog Bell at Quillan Point")
    page.find("input[type=file]").send_keys(str(films["short"]))
    page.click("[data-quick]")
    page.click("[data-recognise]")
    page.find("[data-job=recognise][data-state=running]")
    page.find("[data-transcript] p span")
    page.click("[data-make-captions]")
    page.click("[data-accept-captions]:enabled")
    page.find(".card")
    project = next(p for p in server.get("/api/projects") if p["title"] == "short")
    assert page.stored(project)
    page.press("ARROW_DOWN", "ENTER")
    page.find("textarea")
    page.press("END")
    page.type(" and on and on and on without an end in sight")
    page.press("ESCAPE", "Alt+5")
    page.wait_text(".told", "Line too long")
    page.press("ARROW_DOWN", "g")
    page.find(".card.current")
    page.press("Ctrl+z", "Alt+6")
    page.click("[data-format=srt]")
    page.click("[data-format=webvtt]")
    wait_for(lambda: (downloads / "short.en.vtt").exists(), "the WebVTT file")
    wait_for(lambda: (downloads / "short.en.srt").exists(), "the SRT file")
    first = page.stored(project)[0][2]
    assert first in (downloads / "short.en.srt").read_text()
    assert (downloads / "short.en.vtt").read_text().startswith("WEBVTT\n")
    page.click("[data-burn]")
    page.find("[data-job=burn][data-state=running]")
    page.click("[data-download]")
    burned = downloads / "short.en.mp4"
    wait_for(burned.exists, "the film")
    with av.open(str(burned)) as film:
        assert film.streams.video[0].codec_context.name == "h264"
        assert film.streams.audio[0].codec_context.name == "aac"


def test_a_film_is_dropped_anywhere_on_the_page(page: Page, server: Server) -> None:
    film = server.get(f"/api/projects/{DEMO['id']}")["film"]["id"]
    page.open("/")
    page.find(".row")
    page.script(
        "fetch(arguments[0]).then((answer) => answer.blob()).then((film) => {"
        " const dataTransfer = new DataTransfer();"
        " dataTransfer.items.add(new File([film], 'dropped ü.mp4'));"
        " for (const kind of ['dragover', 'drop'])"
        "  document.body.dispatchEvent(new DragEvent(kind, {dataTransfer, bubbles: true})) })",
        f"/api/films/{film}/file",
    )
    page.find("[data-recognise]")
    page.wait_text(".title", "dropped ü")


def test_recognition_is_called_off_and_asked_for_again(page: Page, server: Server, films) -> None:
    project = page.new_project(films["talk"])
    page.open_project(project, "transcribe")
    page.click("[data-quick]")
    page.click("[data-recognise]")
    page.find("[data-transcript] p span")
    page.click("[data-job=recognise] .acts button")
    page.find("[data-job=recognise][data-state=cancelled]")
    page.find("[data-transcript] p span").click()
    wait_for(lambda: page.clock() > "00:00:00.100", "the playhead to go to the word")
    page.wait_text("[data-job=recognise] .acts button", "Try again").click()
    page.find("[data-job=recognise][data-state=running]")
    server.http.delete(f"/api/projects/{project['id']}")


def test_a_film_the_browser_cannot_play_is_worked_on_while_it_is_copied(page: Page, films) -> None:
    project = page.new_project(films["old"])
    page.open_project(project)
    page.press("n")
    page.find("textarea")
    page.type("Written meanwhile")
    page.press("ESCAPE")
    wait_for(lambda: page.stored(project) == [(0, 2000, "Written meanwhile")], "the caption")
    wait_for(
        lambda: page.script("return document.querySelector('video').readyState") >= 2,
        "the copy to play",
    )


def test_sound_alone_and_film_without_sound_say_so(page: Page, films) -> None:
    page.open_project(page.new_project(films["sound"]))
    page.wait_text(".cover", "Sound without picture")
    page.press("SPACE")
    wait_for(lambda: page.clock() > "00:00:00.300", "the sound to play")
    page.press("k")
    page.open_project(page.new_project(films["silent"]), "transcribe")
    page.wait_text(".none", "no sound")
    page.click(".none a")
    page.wait_text(".silent", "no sound")
    page.press("n")
    page.find("textarea")


def test_what_is_no_film_is_refused_in_words(page: Page, tmp_path: Path) -> None:
    playlist = tmp_path / "films.mp4"
    playlist.write_text(f"#EXTM3U\n#EXTINF:8,\nfile://{FILM}\n")
    page.open("/")
    page.find("input[type=file]").send_keys(str(playlist))
    page.wait_text("[role=alert]", "films.mp4 was not imported: no film or sound can be read")


def test_a_cut_off_film_says_where_it_ends(page: Page, films, server: Server) -> None:
    project = page.new_project(films["cut-off"])
    server.wait_for_job(project["id"], "peaks", "done")
    page.open_project(project)
    page.wait_text(".early", "readable part of this film ends at")
    project = page.new_project(films["sound-ends"])
    server.wait_for_job(project["id"], "peaks", "done")
    page.open_project(project)
    page.wait_text(".early", "The sound of this film ends at 4 s; the picture goes on")


def test_a_client_s_spec_is_chosen_and_judged_by_at_once(page: Page, server: Server) -> None:
    page.open_project(DEMO, "check")
    page.wait_text(".rules", "5 findings")
    page.click("[data-spec]")
    page.wait_text(".v-list-item", "Ternholm Pictures").click()
    page.wait_text(".clean", "No findings against Ternholm Pictures")
    server.http.patch(f"/api/projects/{DEMO['id']}", json={"spec_id": "streaming"})


LOOKS = [
    {"font": "Vollkorn", "italic": True, "turn": -7, "tilt_y": 20, "background": "#8C3B22",
     "background_opacity": 0.6, "background_corners": 0.02, "line_spacing": 1.2},
    {"depth": True, "shadow": 0.012, "shadow_direction": 120, "shadow_colour": "#A6522B",
     "outline_softness": 0.004, "letter_spacing": 0.05, "stretch": 0.9, "strike": True},
    {"font": "Caveat", "size": 0.1, "opacity": 0.7, "outline": 0.008, "outline_colour": "#3F6B78"},
]  # fmt: skip


def test_what_is_seen_is_what_is_burned(page: Page, server: Server, tmp_path: Path) -> None:
    """The film and its overlay as they are on the screen, against the frame of the burned film."""
    begun = tmp_path / "begun.mp4"
    ffmpeg("-i", str(FILM), "-t", "22", "-c", "copy", str(begun))
    demo = server.get(f"/api/projects/{DEMO['id']}")["tracks"][0]["id"]
    captions = [c for c in server.get(f"/api/tracks/{demo}")["captions"] if c["out_ms"] < 21_500]
    # In any script, with emoji, and wherever a line runs from.
    captions[1]["spans"] = [{"text": "霧の鐘が鳴った。🔔 Ring!\nقالت: «نعم» (12) ❤️"}]
    # In another family, on a ground, turned; with soft edges and letters cut from a board; words of their own.
    captions[2]["look"] = LOOKS[0]
    captions[3]["look"] = LOOKS[1]
    first, _, rest = "".join(span["text"] for span in captions[0]["spans"]).partition(" ")
    captions[0]["spans"] = [{"text": f"{first} ", "look": LOOKS[2]}, {"text": rest}]
    said = ("id", "in_ms", "out_ms", "spans", "look")
    project = page.new_project(begun, [{name: c[name] for name in said} for c in captions])
    job = server.post(
        f"/api/tracks/{project['tracks'][0]['id']}/burn", json={"encoding": {"crf": 4}}
    )
    server.wait_for_job(project["id"], "burn", "done")
    page.open_project(project)
    page.card(1)
    # As large as the film, so that its pixels and the preview's are the same ones.
    page.script(
        "document.querySelector('.frame').style.cssText ="
        " 'position: fixed; left: 0; top: 0; width: 1280px; height: 720px; z-index: 99'"
    )
    wanted = {caption["in_ms"]: _preview(page, caption) for caption in captions}
    assert len(wanted) >= 4
    film = server.http.get(f"/api/jobs/{job['id']}/file").content
    with av.open(io.BytesIO(film)) as burned, av.open(str(begun)) as plain:
        for drawn, bare in zip(burned.decode(video=0), plain.decode(video=0), strict=False):
            preview = wanted.pop(round(drawn.time * 1000), None)
            if preview is None:
                continue
            frame, under = (f.to_ndarray(format="rgb24").astype(float) for f in (drawn, bare))
            rows, columns = np.nonzero(np.abs(frame - under).max(axis=2) > 40)
            region = np.s_[rows.min() : rows.max() + 1, columns.min() : columns.max() + 1]
            assert np.abs(frame[region] - under[region]).mean() > 8
            assert np.abs(frame[region] - preview[region]).mean() < 3
    assert wanted == {}


def _preview(page: Page, caption: dict) -> np.ndarray:
    """The film with its overlay on the first frame of a caption, as it is on the screen."""
    page.press("Ctrl+k")
    page.type("".join(span["text"] for span in caption["spans"]).replace("\n", " ")[:24])
    page.find(f"#hit-{caption['id']}")
    page.press("ENTER")
    page.find(f"[data-overlay='{caption['in_ms']}']")
    picture = page.still_picture(1280, 720)
    return np.asarray(Image.open(io.BytesIO(picture)).convert("RGB")).astype(float)
