"""Short form on the command line: looks listed, captions made in one, and a short made of a film in one go."""

import json
from pathlib import Path

import av
import pytest

from dunlin.core.short.looks import shipped_looks, write_look
from tests.conftest import DEMO, ffmpeg
from tests.test_cli import dunlin

WORDS = DEMO / "low-water.words.json"


def test_looks_are_listed_for_people_and_for_scripts() -> None:
    assert "Tide coming in" in dunlin("looks").stdout
    listed = json.loads(dunlin("looks", "--json").stdout)
    assert [look["id"] for look in listed] == list(shipped_looks())
    assert listed[0]["rhythm"]["by"] == "amount"


def test_captions_are_made_in_a_look_that_ships_or_is_a_file(tmp_path: Path) -> None:
    output = tmp_path / "out.json"
    assert dunlin("make", WORDS, "--look", "Ferry", "--words", "2", "-o", output).returncode == 0
    made = json.loads(output.read_bytes())
    assert made["style"] == "Ferry"
    assert made["styles"]["Ferry"]["spoken_by"] == "slide"
    assert max(len(c["spans"]) for c in made["captions"]) <= 3
    spoken = [s for c in made["captions"] for s in c["spans"] if s["text"].strip()]
    said = json.loads(WORDS.read_bytes())["words"]
    assert [s["spoken"]["start_ms"] for s in spoken] == [word["start_ms"] for word in said]
    file = tmp_path / "own.json"
    file.write_bytes(write_look(shipped_looks()["dye"]))
    script = tmp_path / "out.ass"
    assert dunlin("make", WORDS, "--look", file, "-o", script).returncode == 0
    assert script.read_text().count("Dialogue") > 100
    # It is read as the captions that it is, not as what draws them.
    again = tmp_path / "again.json"
    assert dunlin("convert", script, "-o", again).returncode == 0
    assert 5 < len(json.loads(again.read_bytes())["captions"]) < 40


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (["make", WORDS, "--look", "nobody", "-o", "out.json"], "no look is called nobody"),
        (["make", WORDS, "--look", "dye", "--spec", "children", "-o", "out.json"], "not by both"),
        (["make", WORDS, "--look", WORDS, "-o", "out.json"], "no file of a look"),
        (["short", WORDS, "--window", "9:0", "-o", "out.mp4"], "is no window"),
        (["short", WORDS, "-o", "out.mov"], "out.mov"),
    ],
)
def test_what_is_wrong_is_told_in_one_line_and_nothing_is_left(
    arguments: list[object], said: str, tmp_path: Path
) -> None:
    done = dunlin(*arguments, cwd=tmp_path)
    assert done.returncode == 2
    assert said in done.stderr
    assert len(done.stderr.splitlines()) == 1
    assert list(tmp_path.iterdir()) == []


def test_a_short_is_made_of_a_film_through_an_upright_window(tmp_path: Path) -> None:
    film, output = tmp_path / "talk.mp4", tmp_path / "short.mp4"
    ffmpeg("-ss", "6", "-t", "4", "-i", str(DEMO / "fog-bell.mp4"), "-c:v", "libx264", "-preset", "ultrafast", "-c:a", "aac", str(film))  # fmt: skip
    done = dunlin("short", film, "--look", "foghorn", "--window", "9:16@0.6", "-o", output)
    assert done.returncode == 0, done.stderr
    with av.open(str(output)) as made:
        picture = made.streams.video[0]
        assert (picture.width, picture.height) == (404, 720)
        # The plate behind the words is russet, and nothing else in this film is.
        russet = [_has_russet(frame.to_ndarray(format="rgb24")) for frame in made.decode(video=0)]
    assert 20 < sum(russet) < len(russet)


def _has_russet(frame) -> bool:
    red, green, blue = (frame[..., n].astype(int) for n in range(3))
    return bool(
        ((abs(red - 166) < 14) & (abs(green - 82) < 14) & (abs(blue - 43) < 14)).sum() > 400
    )
