"""The command line as a script sees it."""

import contextlib
import io
import json
import subprocess
import sys
from collections.abc import Mapping
from pathlib import Path

import av
import numpy as np
import pytest
from fastapi.testclient import TestClient

from dunlin.api import create_app
from dunlin.cli import main
from dunlin.core.styles.shelf import take_added
from dunlin.media.tracks_inside import tracks_inside
from dunlin.settings import Settings
from tests.conftest import DEMO, WINDOW, ffmpeg
from tests.faces import FAMILY, wide

SRT = "1\n00:00:01,000 --> 00:00:03,000\n<i>Hello</i> there\n\n2\n00:00:03,040 --> 00:00:03,400\nToo short\n"


def dunlin(*arguments: object, cwd: Path | None = None) -> subprocess.CompletedProcess[str]:
    """Runs a command in this process: a Python for each would take longer to start than to work."""
    out, err = io.StringIO(), io.StringIO()
    given = [str(argument) for argument in arguments]
    with (
        contextlib.redirect_stdout(out),
        contextlib.redirect_stderr(err),
        contextlib.chdir(cwd or Path.cwd()),
        pytest.raises(SystemExit) as ended,
    ):
        main(given)
    return subprocess.CompletedProcess(given, ended.value.code, out.getvalue(), err.getvalue())


def test_a_process_ends_with_the_code_and_says_what_is_wrong_on_stderr(tmp_path: Path) -> None:
    def ran(*arguments: str) -> tuple[int, str, str]:
        command = [sys.executable, "-m", "dunlin", *arguments]
        done = subprocess.run(command, capture_output=True, text=True, cwd=tmp_path)
        return done.returncode, done.stdout, done.stderr

    said = "dunlin: none.srt: No such file or directory\n"
    assert ran("convert", "none.srt", "-o", "o.vtt") == (2, "", said)
    code, listed, _ = ran("formats", "--json")
    assert (code, json.loads(listed)[0]["name"]) == (0, "srt")


@pytest.fixture
def srt(tmp_path: Path) -> Path:
    path = tmp_path / "in.srt"
    path.write_text(SRT)
    return path


def test_convert_writes_each_format_and_tells_losses(srt: Path, tmp_path: Path) -> None:
    for ending in ("vtt", "json", "srt"):
        assert dunlin("convert", srt, "-o", tmp_path / f"out.{ending}").returncode == 0
    assert "<i>Hello</i> there" in (tmp_path / "out.vtt").read_text()
    assert (tmp_path / "out.srt").read_text() == SRT
    lossy = dunlin("convert", DEMO / "fog-bell.en.json", "-o", tmp_path / "demo.srt")
    assert lossy.stderr == "note: SubRip cannot hold speakers (41 captions): dropped\n"
    named = dunlin("convert", srt, "-o", tmp_path / "plain.txt", "--to", "webvtt")
    assert named.returncode == 0
    assert (tmp_path / "plain.txt").read_text().startswith("WEBVTT")


def test_the_language_of_captions_is_told_and_written(srt: Path, tmp_path: Path) -> None:
    vtt, ttml = tmp_path / "out.vtt", tmp_path / "out.ttml"
    assert dunlin("convert", srt, "-o", vtt, "--language", "fi").returncode == 0
    assert vtt.read_text().startswith("WEBVTT\nLanguage: fi\n\n")
    assert dunlin("convert", vtt, "-o", ttml).returncode == 0
    assert 'xml:lang="fi"' in ttml.read_text()


def test_check_exits_by_what_it_finds(srt: Path) -> None:
    found = dunlin("check", srt, "--spec", "streaming", "--json")
    assert found.returncode == 1
    listed = json.loads(found.stdout)["findings"]
    assert {finding["rule"] for finding in listed} == {"gap", "least-duration", "reading-speed"}
    assert set(listed[0]) == {
        "rule", "caption", "in_ms", "out_ms", "measured", "limit", "unit", "weight", "message",
    }  # fmt: skip
    clean = dunlin("check", DEMO / "fog-bell.en.json", "--spec", DEMO / "ternholm.spec.json")
    assert (clean.returncode, clean.stdout) == (0, "")


def test_oddities_are_notes(tmp_path: Path) -> None:
    (tmp_path / "odd.srt").write_text("00:00:02,000 --> 00:00:01,000\nback\n")
    run = dunlin("convert", "odd.srt", "-o", "o.vtt", cwd=tmp_path)
    assert run.returncode == 0
    assert run.stderr.splitlines() == [
        "note: odd.srt:1: has no number",
        "note: odd.srt:1: ends before it starts; in and out swapped",
    ]


@pytest.mark.parametrize(
    ("arguments", "line"),
    [
        (["convert", "none.srt", "-o", "o.vtt"], "dunlin: none.srt: No such file or directory"),
        (["convert", "in.srt", "-o", "no/o.vtt"], "dunlin: no/o.vtt: No such file or directory"),
        (["convert", "in.srt", "-o", "o.doc"], "dunlin: o.doc: the extension '.doc' belongs to no format; known: .srt .vtt .ass .ssa .xml .ttml .dfxp .stl .scc .lrc .csv .tsv .txt .html .otio .edl .json"),
        (["convert", "empty.srt", "-o", "o.vtt"], "dunlin: empty.srt:1: the file is empty"),
        (["convert", "in.srt", "-o", "o.vtt", "--fps", "x"], "dunlin: 'x' is not a frame rate from 1 to 480"),
        (["check", "in.srt", "--spec", "none"], "dunlin: there is no spec called 'none'; there are broadcast, children, cjk, classroom, streaming, vertical-short, web-video, or a path"),
        (["check", "in.srt", "--spec", "in.srt"], "dunlin: in.srt: not JSON: Extra data: line 2 column 1 (char 2)"),
        (["probe", "in.srt"], "dunlin: in.srt: no film or sound can be read from it; it may be cut off or of another kind"),
        (["burn", "in.srt", "in.srt", "-o", "o.mkv"], "dunlin: o.mkv: the film is written as .mp4 .webm .mov"),
        (["check", "in.srt"], "dunlin: Missing option '--spec'."),
        (["nothing"], "dunlin: No such command 'nothing'."),
    ],
)  # fmt: skip
def test_bad_input_gets_one_line_and_leaves_nothing(
    srt: Path, tmp_path: Path, arguments, line: str
) -> None:
    (tmp_path / "empty.srt").write_text("")
    before = sorted(tmp_path.iterdir())
    run = dunlin(*arguments, cwd=tmp_path)
    assert (run.returncode, run.stderr.strip(), run.stdout) == (2, line, "")
    assert sorted(tmp_path.iterdir()) == before


def test_lists_are_for_people_and_for_scripts() -> None:
    assert dunlin("specs").stdout.splitlines()[-1].split() == ["web-video", "Web", "video"]
    assert {spec["id"] for spec in json.loads(dunlin("specs", "--json").stdout)} == {
        "streaming", "broadcast", "children", "web-video", "vertical-short", "classroom", "cjk",
    }  # fmt: skip
    formats = {f["name"]: f for f in json.loads(dunlin("formats", "--json").stdout)}
    assert formats["stl"]["endings"] == [".stl"]
    assert [name for name, f in formats.items() if not f["reads"]] == ["html"]
    assert json.loads(dunlin("styles", "--json").stdout)[0]["id"] == "house"


def test_probe_tells_what_a_film_is(films) -> None:
    facts = json.loads(dunlin("probe", films["ntsc"]).stdout)
    assert facts["frame_rate"] == {"numerator": 30000, "denominator": 1001}
    assert (facts["width"], facts["video_codec"], facts["audio_codec"]) == (1280, "h264", "aac")


def test_a_film_is_transcribed_and_its_captions_burned(films, tmp_path: Path) -> None:
    captions, film = tmp_path / "out.srt", tmp_path / "out.mp4"
    run = dunlin("transcribe", films["short"], "--spec", "web-video", "--quick", "-o", captions)
    assert run.returncode == 0, run.stderr
    assert "February" in captions.read_text()
    run = dunlin("burn", films["short"], captions, "-o", film, "--crf", 35, "--height", 240)
    assert run.returncode == 0, run.stderr
    assert json.loads(dunlin("probe", film).stdout)["height"] == 240
    silent = dunlin("transcribe", films["silent"], "-o", tmp_path / "s.srt")
    assert (silent.returncode, "no sound" in silent.stderr) == (2, True)
    assert not (tmp_path / "s.srt").exists()


FAULTY = (
    "1\n00:00:01,000 --> 00:00:03,000\nIt  hung for years .\n\n"
    "2\n00:00:03,040 --> 00:00:05,000\n3 men rang it\n"
)


def test_mend_writes_what_it_mended_and_says_what_it_left(tmp_path: Path) -> None:
    (tmp_path / "in.srt").write_text(FAULTY)
    run = dunlin("mend", "in.srt", "--spec", "classroom", "-o", "out.vtt", cwd=tmp_path)
    assert run.returncode == 0
    assert run.stdout.splitlines()[-1] == "3 mended, 1 left"
    assert any("numbers" in line and "person" in line for line in run.stdout.splitlines())
    assert "It hung for years." in (tmp_path / "out.vtt").read_text()
    again = dunlin("check", tmp_path / "out.vtt", "--spec", "classroom", "--json")
    assert {f["rule"] for f in json.loads(again.stdout)["findings"]} == {"numbers"}
    assert again.returncode == 0


def test_mend_of_one_rule_and_for_show(tmp_path: Path) -> None:
    (tmp_path / "in.srt").write_text(FAULTY)
    common = ("mend", "in.srt", "--spec", "streaming", "-o", "out.srt")
    shown = dunlin(*common, "--dry-run", cwd=tmp_path)
    assert (shown.returncode, (tmp_path / "out.srt").exists()) == (0, False)
    dunlin(*common, "--only", "gap", cwd=tmp_path)
    text = (tmp_path / "out.srt").read_text()
    assert "00:00:02,960" in text
    assert "It  hung" in text
    bad = dunlin(*common, "--only", "speed", cwd=tmp_path)
    assert (bad.returncode, len(bad.stderr.splitlines())) == (2, 1)


def test_convert_goes_through_every_format(srt: Path, tmp_path: Path) -> None:
    for ending in ("ass", "ttml", "stl", "lrc", "csv", "tsv", "txt", "html", "json"):
        target = tmp_path / f"out.{ending}"
        assert dunlin("convert", srt, "-o", target).returncode == 0
        if ending not in ("html", "txt"):
            assert dunlin("convert", target, "-o", tmp_path / "back.srt").returncode == 0
            assert "Hello" in (tmp_path / "back.srt").read_text()
    ebu = dunlin("convert", srt, "-o", tmp_path / "out.ttml", "--to", "ebu-tt-d")
    assert ebu.returncode == 0
    assert "urn:ebu:tt:distribution" in (tmp_path / "out.ttml").read_text()


def test_convert_flattens_and_reads_as_it_is_told(tmp_path: Path) -> None:
    overlapping = (
        "1\n00:00:01,000 --> 00:00:03,000\nGröße\n\n2\n00:00:02,000 --> 00:00:04,000\ntwo\n"
    )
    (tmp_path / "in.srt").write_bytes(overlapping.encode("cp1252"))
    run = dunlin(
        "convert", "in.srt", "-o", "o.srt", "--encoding", "cp1252", "--flatten", cwd=tmp_path
    )
    assert run.returncode == 0
    assert (tmp_path / "o.srt").read_text().count("-->") == 3
    assert "Größe\ntwo" in (tmp_path / "o.srt").read_text()


def test_a_file_of_a_hundred_megabytes_is_refused_unread(tmp_path: Path) -> None:
    with (tmp_path / "huge.srt").open("wb") as file:
        file.truncate(100 * 2**20)
    run = dunlin("convert", "huge.srt", "-o", "o.vtt", cwd=tmp_path)
    assert (run.returncode, run.stderr.strip()) == (
        2, "dunlin: huge.srt: larger than 64 MB: too large for a caption file",
    )  # fmt: skip
    assert not (tmp_path / "o.vtt").exists()


def test_retime_by_an_amount_through_anchors_and_to_another_rate(srt: Path, tmp_path: Path) -> None:
    def starts(*arguments: object) -> list[str]:
        done = dunlin("retime", srt, "-o", tmp_path / "out.srt", *arguments)
        assert done.returncode == 0, done.stderr
        lines = (tmp_path / "out.srt").read_text().splitlines()
        return [line.split(" --> ")[0] for line in lines if "-->" in line]

    assert starts("--by", 2000) == ["00:00:03,000", "00:00:05,040"]
    assert starts("--by", "-500") == ["00:00:00,500", "00:00:02,540"]
    assert starts("--anchor", "1000=3000", "--anchor", "3040=5080") == [
        "00:00:03,000",
        "00:00:05,080",
    ]
    assert starts("--anchor", "00:00:01=00:00:01.5") == ["00:00:01,500", "00:00:03,540"]
    assert starts("--from-fps", 25, "--to-fps", 50) == ["00:00:00,500", "00:00:01,520"]
    dropped = dunlin("retime", srt, "-o", tmp_path / "d.srt", "--by", -2000, "--below-zero", "drop")
    assert dropped.stderr == "note: 1 caption would start before zero: deleted\n"


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        ((), "give one of"),
        (("--by", 1, "--anchor", "1=2"), "give one of"),
        (("--from-fps", "25"), "go together"),
        (("--anchor", "1000"), "not an anchor"),
        (("--anchor", "1000=5000", "--anchor", "2000=1"), "cross"),
        (("--from-fps", "x", "--to-fps", "25"), "not a frame rate"),
    ],
)
def test_retime_says_what_it_does_not_understand(srt, tmp_path, arguments, said: str) -> None:
    done = dunlin("retime", srt, "-o", tmp_path / "out.srt", *arguments)
    assert done.returncode == 2
    assert done.stderr.startswith("dunlin: ")
    assert said in done.stderr
    assert done.stderr.count("\n") == 1
    assert not (tmp_path / "out.srt").exists()


def test_sync_finds_a_late_file_and_leaves_a_foreign_one(srt: Path, tmp_path: Path) -> None:
    late, found = tmp_path / "late.json", tmp_path / "found.json"
    assert dunlin("retime", DEMO / "fog-bell.en.json", "--by", 2000, "-o", late).returncode == 0
    done = dunlin("sync", late, "--media", DEMO / "fog-bell.mp4", "-o", found, "--json")
    assert done.returncode == 0, done.stderr
    told = json.loads(done.stdout)
    assert [set(piece) for piece in told["pieces"]] == [{"from_ms", "to_ms", "offset_ms", "rate"}]
    assert abs(told["pieces"][0]["offset_ms"] + 2000) <= 60
    assert told["agreement_after"] > told["agreement_before"]
    assert told["sure"] > 0.5
    assert found.exists()
    foreign = dunlin("sync", srt, "--media", DEMO / "fog-bell.mp4", "-o", tmp_path / "no.srt")
    assert foreign.returncode == 2
    assert "does not tell" in foreign.stderr
    assert not (tmp_path / "no.srt").exists()


def test_align_times_a_script(films, tmp_path: Path) -> None:
    script = tmp_path / "script.txt"
    script.write_text("This is Quillan Point, on the last day of February.\nI am Ilse Varga\n")
    done = dunlin("align", films["short"], script, "-o", tmp_path / "out.json")
    assert done.returncode == 0, done.stderr
    timed = json.loads((tmp_path / "out.json").read_text())["captions"]
    # The film's words begin at 6.6 and 10.4 seconds, of which this part leaves out six.
    assert [caption["in_ms"] for caption in timed] == pytest.approx([600, 4425], abs=120)
    silent = dunlin("align", films["silent"], script, "-o", tmp_path / "no.json")
    assert silent.returncode == 2
    assert "no sound" in silent.stderr
    assert not (tmp_path / "no.json").exists()


def test_a_transcript_is_written_and_captions_made_of_it(tmp_path: Path) -> None:
    words = [
        {"text": text, "start_ms": n * 400, "end_ms": n * 400 + 380, "speaker": "Ilse Varga"}
        for n, text in enumerate(
            [
                "The",
                "bell",
                "rang",
                "twice.",
                "Nobody",
                "came",
                "to",
                "the",
                "quay",
                "that",
                "night.",
            ]
        )
    ]
    transcript = tmp_path / "bell.words.json"
    transcript.write_text(json.dumps({"language": "en", "words": words}))
    made = tmp_path / "made.json"
    assert dunlin("make", transcript, "--words", 2, "--lines", 1, "-o", made).returncode == 0
    captions = json.loads(made.read_text())["captions"]
    texts = ["".join(span["text"] for span in caption["spans"]) for caption in captions]
    assert " ".join(texts) == " ".join(word["text"] for word in words)
    assert max(len(text.split()) for text in texts) == 2
    assert {caption["speaker"] for caption in captions} == {"Ilse Varga"}


@pytest.mark.parametrize(
    ("written", "said"),
    [
        ("nonsense", "not a transcript"),
        ('{"words": [{"text": "Hark"}]}', "words.0.start_ms"),
        ('{"words": [{"text": "Hark", "start_ms": 9, "end_ms": 1}]}', "word 1"),
        ('{"words": []}', "there is no transcript yet"),
    ],
)
def test_what_is_no_transcript_is_told_in_one_line(tmp_path: Path, written: str, said: str) -> None:
    transcript = tmp_path / "in.json"
    transcript.write_text(written)
    refused = dunlin("make", transcript, "-o", tmp_path / "out.srt")
    assert (refused.returncode, refused.stderr.count("\n")) == (2, 1)
    assert said in refused.stderr
    assert not (tmp_path / "out.srt").exists()


def test_letters_in_another_case_are_noted_where_a_format_has_none(tmp_path: Path) -> None:
    source = tmp_path / "in.json"
    source.write_text(json.dumps({"dunlin": "captions", "version": 1, "captions": [
        {"id": "a", "in_ms": 0, "out_ms": 900, "spans": [{"text": "Hark"}], "case": "upper"}
    ]}))  # fmt: skip
    done = dunlin("convert", source, "-o", tmp_path / "out.srt")
    assert (done.returncode, done.stderr) == (
        0, "note: SubRip cannot hold case (1 captions): written as shown\n"
    )  # fmt: skip
    assert "HARK" in (tmp_path / "out.srt").read_text()


@pytest.mark.parametrize("host", ["0.0.0.0", "192.168.7.7", "::", "studio.example"])
def test_nothing_is_opened_to_the_network_by_accident(host: str, tmp_path: Path) -> None:
    run = dunlin("serve", "--host", host, "--data", tmp_path / "data")
    assert run.returncode == 2
    assert "--open-to-network" in run.stderr
    assert not (tmp_path / "data").exists()


def test_a_film_that_ends_early_is_told_where(films, tmp_path: Path) -> None:
    captions = tmp_path / "a.srt"
    captions.write_text(SRT)
    for film, told in (
        ("cut-off", "readable part of this film"),
        ("sound-ends", "sound of this film"),
    ):
        heard = dunlin("transcribe", films[film], "--quick", "-o", tmp_path / f"{film}.words.json")
        assert (heard.returncode, f"{told} ends at" in heard.stderr) == (0, True)
    burned = dunlin("burn", films["cut-off"], captions, "-o", tmp_path / "burned.mp4")
    assert (burned.returncode, "readable part of this film ends at" in burned.stderr) == (0, True)


def pixels(picture: Path, shape: str = "rgba") -> np.ndarray:
    """Rows of pixels of a picture, or of the first frame of a film."""
    with av.open(str(picture)) as file:
        return next(file.decode(video=0)).to_ndarray(format=shape).astype(int)


def test_a_still_is_the_frame_that_is_burned(films, tmp_path: Path) -> None:
    captions, film, frame = tmp_path / "in.srt", tmp_path / "out.mp4", tmp_path / "frame.png"
    captions.write_text("1\n00:00:01,000 --> 00:00:03,000\n<b>The fog</b> <i>bell</i>\n")
    run = dunlin("still", films["brief"], captions, "--at", "1.5", "-o", tmp_path / "still.png")
    assert run.returncode == 0, run.stderr
    assert dunlin("burn", films["brief"], captions, "-o", film, "--crf", 1).returncode == 0
    ffmpeg("-ss", "1.5", "-i", str(film), "-frames:v", "1", "-update", "1", str(frame))
    before = tmp_path / "before.png"
    ffmpeg("-ss", "1.5", "-i", str(films["brief"]), "-frames:v", "1", "-update", "1", str(before))
    still, burned, bare = (pixels(p) for p in (tmp_path / "still.png", frame, before))
    drawn = np.abs(burned - bare).max(axis=2) > 60
    assert drawn.sum() > 500
    assert np.abs(still - burned)[drawn].mean() < 4
    assert np.abs(still - burned).mean() < 2
    late = dunlin("still", films["brief"], captions, "--at", "1:00:00", "-o", tmp_path / "late.png")
    assert (late.returncode, "no frame at 1:00:00" in late.stderr) == (2, True)
    assert not (tmp_path / "late.png").exists()


def test_captions_are_drawn_alone_on_nothing(tmp_path: Path) -> None:
    captions, alone = tmp_path / "in.srt", tmp_path / "alone.png"
    captions.write_text("1\n00:00:01,000 --> 00:00:03,000\nThe bell\n")
    run = dunlin("still", captions, "--alone", "640x360", "--at", "00:00:01.500", "-o", alone)
    assert run.returncode == 0, run.stderr
    drawn = pixels(alone)
    assert drawn.shape == (360, 640, 4)
    assert drawn[:200, :, 3].max() == 0
    assert drawn[300:, 250:390, 3].max() == 255
    # White letters, and their dark edge.
    assert (drawn[..., :3][drawn[..., 3] == 255].min(axis=1) > 240).sum() > 200
    for wrong in (["--alone", "640"], []):
        refused = dunlin("still", captions, *wrong, "--at", "1", "-o", tmp_path / "no.png")
        assert (refused.returncode, len(refused.stderr.splitlines())) == (2, 1)
    assert not (tmp_path / "no.png").exists()


def test_a_file_of_captions_is_drawn_in_the_styles_that_it_brings(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    captions, alone = tmp_path / "in.json", tmp_path / "alone.png"
    sign = {"colour": "#00FF00", "outline": 0.0, "shadow": 0.0, "size": 0.3}
    file = {"dunlin": "captions", "version": 1, "styles": {"Sign": sign}, "style": "Sign",
            "captions": [{"id": "a", "in_ms": 0, "out_ms": 1000, "spans": [{"text": "Bell"}]}]}  # fmt: skip
    captions.write_text(json.dumps(file))
    common = ("still", captions, "--alone", "640x360", "--at", "0.5", "-o", alone)
    assert dunlin(*common).returncode == 0

    def colours() -> set[tuple[int, ...]]:
        drawn = pixels(alone)
        return {tuple(colour) for colour in drawn[drawn[..., 3] == 255][:, :3].tolist()}

    assert colours() == {(0, 255, 0)}
    assert dunlin(*common, "--style", "house").returncode == 0
    assert (0, 255, 0) not in colours()
    unknown = dunlin(*common, "--style", "Song")
    assert (unknown.returncode, "there are house, Sign" in unknown.stderr) == (2, True)
    # One that is kept for all projects of this user has its name here too.
    monkeypatch.setenv("DUNLIN_DATA", str(tmp_path / "data"))
    with TestClient(
        create_app(Settings(data=tmp_path / "data", allowed_hosts=("testserver",)))
    ) as client:
        client.put("/api/styles/Song", json={"look": {**sign, "colour": "#0000FF"}})
    assert dunlin(*common, "--style", "Song").returncode == 0
    assert colours() == {(0, 0, 255)}
    assert "Song" in [style["id"] for style in json.loads(dunlin("styles", "--json").stdout)]


@pytest.mark.usefixtures("shelf")
def test_a_font_that_was_added_is_drawn_and_one_that_is_not_here_is_noted(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    captions, alone = tmp_path / "in.json", tmp_path / "alone.png"
    look = {"font": FAMILY, "outline": 0.0, "shadow": 0.0, "size": 0.2, "weight": 400}
    file = {"dunlin": "captions", "version": 1,
            "captions": [{"id": "a", "in_ms": 0, "out_ms": 1000, "spans": [{"text": "AB"}], "look": look}]}  # fmt: skip
    captions.write_text(json.dumps(file))
    common = ("still", captions, "--alone", "500x500", "--at", "0.5", "-o", alone)
    monkeypatch.setenv("DUNLIN_DATA", str(tmp_path / "data"))
    assert f"the fonts {FAMILY} are not here; Noto Sans stands in" in dunlin(*common).stderr
    settings = Settings(data=tmp_path / "data", allowed_hosts=("testserver",))
    with TestClient(create_app(settings), headers=WINDOW) as client:
        assert client.post("/api/fonts", content=wide()).status_code == 200
    take_added({})
    told = dunlin(*common)
    assert (told.returncode, told.stderr) == (0, "")
    rows, columns = np.nonzero(pixels(alone)[..., 3] > 128)
    # Two squares of 1000 units in a line of 1000, half as high as wide.
    assert columns.max() - columns.min() + 1 == pytest.approx(200, abs=2)
    assert rows.max() - rows.min() + 1 == pytest.approx(50, abs=2)
    assert FAMILY in dunlin("fonts").stdout


def test_a_script_is_drawn_in_its_own_styles(tmp_path: Path) -> None:
    script, alone = tmp_path / "in.ass", tmp_path / "alone.png"
    script.write_text(
        "[Script Info]\nPlayResX: 640\nPlayResY: 360\n[V4+ Styles]\n"
        "Format: Name, Fontname, Fontsize, PrimaryColour, Outline, Shadow\n"
        "Style: Sign,Oswald,120,&H0000FF00,0,0\n[Events]\n"
        "Format: Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text\n"
        "Dialogue: 0,0:00:00.00,0:00:01.00,Sign,,0,0,0,,{\\pos(320,200)\\an5}Bell\n"
    )
    assert dunlin("still", script, "--alone", "640x360", "--at", "0.5", "-o", alone).stderr == ""
    drawn = pixels(alone)
    assert {tuple(c) for c in drawn[drawn[..., 3] == 255][:, :3].tolist()} == {(0, 255, 0)}
    rows, columns = np.nonzero(drawn[..., 3] > 128)
    assert (rows.min() + rows.max()) / 2 == pytest.approx(200, abs=12)
    assert (columns.min() + columns.max()) / 2 == pytest.approx(320, abs=4)


def _srt(path: Path, *texts: str) -> Path:
    cues = [
        f"{n + 1}\n00:00:{3 * n:02},000 --> 00:00:{3 * n + 2:02},900\n{text}\n"
        for n, text in enumerate(texts)
    ]
    path.write_text("\n".join(cues), "utf-8")
    return path


def test_captions_are_paired_with_their_translation_and_checked_against_it(tmp_path: Path) -> None:
    source = _srt(
        tmp_path / "bell.srt", "It weighs 412 kilos.", "The pilot heard it, Ilse.", "Hang it high?"
    )
    target = _srt(
        tmp_path / "bell.de.srt",
        "Sie wiegt 421 Kilo.",
        "Der Pilot hörte sie, Ilse.",
        "Häng sie hoch?",
    )
    memory = tmp_path / "bell.tmx"
    done = dunlin("pair", source, target, "--from", "en", "--to", "de", "-o", memory)
    assert (done.returncode, done.stdout) == (0, "3 pairs\n")
    assert "Häng sie hoch?" in memory.read_text("utf-8")
    assert dunlin("pair", source, target, "-o", tmp_path / "x.tmx").returncode == 2
    terms = tmp_path / "terms.csv"
    terms.write_text("term,de,not de\npilot,Lotse,Pilot\n")
    checked = dunlin(
        "check", target, "--spec", "streaming", "--language", "de", "--against", source, "--terms", terms, "--json",
    )  # fmt: skip
    assert checked.returncode == 1
    rules = {finding["rule"] for finding in json.loads(checked.stdout)["findings"]}
    assert {"number-differs", "term"} <= rules
    alone = dunlin("check", target, "--spec", "streaming", "--language", "de", "--json")
    assert "number-differs" not in alone.stdout


def test_captions_are_drafted_by_memory_and_terms(tmp_path: Path) -> None:
    source = _srt(
        tmp_path / "bell.srt",
        "It weighs 412 kilos with its yoke.",
        "Fog bell!",
        "Nobody said this.",
    )
    became = _srt(tmp_path / "old.srt", "It weighs 399 kilos with its yoke.")
    was = _srt(tmp_path / "old.de.srt", "Sie wiegt 399 Kilo mit dem Joch.")
    memory, terms = tmp_path / "old.tmx", tmp_path / "terms.csv"
    assert dunlin("pair", became, was, "--from", "en", "--to", "de", "-o", memory).returncode == 0
    terms.write_text("term,de\nfog bell,Nebelglocke\n")
    asked = ("translate", source, "--to", "de", "--memory", memory, "--terms", terms)
    done = dunlin(*asked, "-o", tmp_path / "bell.de.json")
    assert (done.returncode, done.stdout) == (1, "drafted 2 of 3 captions\n")
    written = json.loads((tmp_path / "bell.de.json").read_text("utf-8"))
    said = ["".join(s["text"] for s in c.get("spans", ())) for c in written["captions"]]
    assert [text.replace("\n", " ") for text in said] == [
        "Sie wiegt 412 Kilo mit dem Joch.",
        "Nebelglocke!",
        "",
    ]
    assert written["language"] == "de"
    for wrong in (
        ["--engine", "nobody"],
        ["--engine", "speech-in-english"],
        ["--memory", tmp_path / "none.tmx"],
        ["--spec", "none"],
    ):
        refused = dunlin(*asked, *wrong, "-o", tmp_path / "x.srt")
        assert (refused.returncode, len(refused.stderr.splitlines())) == (2, 1)
        assert not (tmp_path / "x.srt").exists()


def test_a_packing_list_is_made_for_many_films_and_each_tells_how_it_went(
    films: Mapping[str, Path], tmp_path: Path
) -> None:
    film = tmp_path / "Fog.mp4"
    film.write_bytes(films["short"].read_bytes())
    words = [{"text": f"word{n}.", "start_ms": n * 600, "end_ms": n * 600 + 400} for n in range(6)]
    (tmp_path / "Fog.words.json").write_text(json.dumps({"language": "en", "words": words}))
    things = [
        {"kind": "captions", "track": "original", "format": "srt"},
        {"kind": "timeline", "tracks": ["original"]},
        {"kind": "report", "track": "original"},
    ]
    packing = tmp_path / "list.json"
    packing.write_text(json.dumps({"name": "Ternholm", "items": [{"thing": t} for t in things]}))
    mute = tmp_path / "Mute.mp4"
    mute.write_bytes(films["silent"].read_bytes())
    heard = tmp_path / "Heard.mp4"
    heard.write_bytes(films["short"].read_bytes())
    several = (film, mute, heard, tmp_path / "none.mp4")
    run = dunlin("deliver", *several, "--list", packing, "--out", tmp_path / "out")
    assert run.returncode == 2
    assert run.stdout.count("3 files in") == 2
    assert "none.mp4: not delivered" in run.stderr
    assert "Mute.mp4: not delivered: this film has no sound" in run.stderr
    # What was worked with on the way is gone.
    assert sorted(path.name for path in (tmp_path / "out").iterdir()) == ["Fog", "Heard"]
    assert "-->" in (tmp_path / "out/Heard/Heard_en_v1.srt").read_text()
    made = sorted(path.name for path in (tmp_path / "out/Fog").iterdir())
    assert made == ["Fog_en_report_v1.html", "Fog_en_timeline_v1.otio", "Fog_en_v1.srt"]
    assert "word0." in (tmp_path / "out/Fog/Fog_en_v1.srt").read_text()
    packing.write_text('{"name": "x", "items": [{"thing": {"kind": "no-such"}}]}')
    run = dunlin("deliver", film, "--list", packing, "--out", tmp_path / "out")
    assert (run.returncode, run.stderr.count("\n")) == (2, 1)
    assert "not a packing list" in run.stderr


def test_tracks_go_into_a_film_and_captions_onto_a_timeline(
    films: Mapping[str, Path], tmp_path: Path
) -> None:
    captions = tmp_path / "x.srt"
    captions.write_text("1\n00:00:01,000 --> 00:00:02,000\nFog\n")
    run = dunlin("mux", films["short"], f"{captions}:de:forced", "-o", tmp_path / "x.mp4")
    assert run.returncode == 0, run.stderr
    [track] = tracks_inside(tmp_path / "x.mp4")
    assert (track.language, track.is_forced) == ("de", True)
    assert (
        dunlin("mux", films["short"], f"{captions}:de:often", "-o", tmp_path / "y.mp4").returncode
        == 2
    )
    for ending in ("otio", "edl"):
        output = tmp_path / f"x.{ending}"
        assert dunlin("timeline", films["short"], captions, "-o", output).returncode == 0
        back = tmp_path / f"{ending}.srt"
        assert dunlin("convert", output, "-o", back).returncode == 0
        assert back.read_text() == captions.read_text()
    run = dunlin("timeline", films["short"], captions, "-o", tmp_path / "x.edl", "--start", "1:00")
    assert (run.returncode, run.stderr.count("\n")) == (2, 1)


def test_captions_alone_are_written_for_editing_programs(
    films: Mapping[str, Path], tmp_path: Path
) -> None:
    captions = tmp_path / "x.srt"
    captions.write_text("1\n00:00:00,200 --> 00:00:00,600\nFog\n")
    asked = ("burn", films["short"], captions, "--alone", "--height", 90, "--to", "0:01")
    for name in ("x.mov", "x.webm", "pictures"):
        run = dunlin(*asked, "-o", tmp_path / name)
        assert run.returncode == 0, run.stderr
    assert len(list((tmp_path / "pictures").iterdir())) == 25
    assert dunlin(*asked, "-o", tmp_path / "pictures").returncode == 2
    assert dunlin(*asked, "-o", tmp_path / "x.mp4").returncode == 2
    run = dunlin("burn", films["short"], captions, "--codec", "vp9", "-o", tmp_path / "z.mp4")
    assert (run.returncode, "written as .webm" in run.stderr) == (2, True)


def test_words_about_a_film_are_written_of_its_transcript_or_its_captions(tmp_path: Path) -> None:
    for source in (DEMO / "fog-bell.words.json", DEMO / "fog-bell.en.json"):
        output = tmp_path / "about.json"
        run = dunlin("digest", source, "-o", output)
        assert run.returncode == 0, run.stderr
        about = json.loads(output.read_text())
        assert set(about) == {"titles", "description", "keywords", "chapters", "passages"}
        assert about["chapters"][0]["at_ms"] == 0
        assert all(passage["why"] for passage in about["passages"])
    broken = tmp_path / "x.json"
    broken.write_text('{"words": 3}')
    run = dunlin("digest", broken, "-o", tmp_path / "y.json")
    assert (run.returncode, run.stderr.count("\n"), (tmp_path / "y.json").exists()) == (2, 1, False)
