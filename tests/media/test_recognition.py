"""The demo film's speech against its script, whose word times are known."""

import json
import subprocess
from difflib import SequenceMatcher
from pathlib import Path

import jiwer
import numpy as np
import pytest

from dunlin.core.speech import Word
from dunlin.core.speech.activity import levels, speech_stretches
from dunlin.core.speech.languages import SpokenPassage
from dunlin.core.text.joints import bare_word
from dunlin.engines import EngineError, engine_called, engines
from dunlin.engines.aligning import aligner_for, words_on_sound
from dunlin.engines.languages import passages_by_language
from dunlin.engines.whisper import Whisper
from dunlin.media.sound import sound_between, speech_blocks
from dunlin.settings import Settings
from tests.conftest import DEMO, FILM, Films, ffmpeg
from tests.stories import STORIES, STORY
from tests.voices import over, read_aloud

TRUTH = [
    Word(w["text"], w["start_ms"], w["end_ms"])
    for w in json.loads((DEMO / "fog-bell.words.json").read_text())["words"]
    if w["end_ms"] < 60_000
]
"""Of the first minute, which is what is listened to."""


def start_errors(words: list[Word]) -> np.ndarray:
    """Milliseconds by which words start off the truth, for the words that were heard right."""
    matcher = SequenceMatcher(
        None, [bare_word(w.text) for w in TRUTH], [bare_word(w.text) for w in words], False
    )
    return np.array(
        [
            abs(words[block.b + i].start_ms - TRUTH[block.a + i].start_ms)
            for block in matcher.get_matching_blocks()
            for i in range(block.size)
        ]
    )


@pytest.fixture(scope="module")
def heard(films: Films) -> list[Word]:
    whisper = engine_called("whisper", Settings().model_folders)
    return list(whisper.recognise(speech_blocks(films["minute"], 30), "en"))


def test_the_demo_film_is_heard_with_few_errors(heard: list[Word]) -> None:
    plain = jiwer.Compose(
        [
            jiwer.ToLowerCase(),
            jiwer.RemovePunctuation(),
            jiwer.Strip(),
            jiwer.ReduceToListOfListOfWords(),
        ]
    )
    said, understood = (" ".join(w.text for w in words) for words in (TRUTH, heard))
    rate = jiwer.wer(said, understood, reference_transform=plain, hypothesis_transform=plain)
    assert rate < 0.15


def test_words_have_times_and_confidence(heard: list[Word]) -> None:
    assert all(0 <= word.confidence <= 1 for word in heard)
    assert any(word.confidence < 0.5 for word in heard)
    assert all(word.start_ms <= word.end_ms for word in heard)


def test_quick_hearing_finds_as_many_places_of_the_text(heard: list[Word], films: Films) -> None:
    whisper = engine_called("whisper", Settings().model_folders)
    quick = list(whisper.recognise(speech_blocks(films["minute"], 30), "en", quick=True))
    assert len(start_errors(quick)) > 0.9 * len(start_errors(heard))


def test_forced_alignment_sharpens_word_times(heard: list[Word], films: Films) -> None:
    sound = np.concatenate(list(speech_blocks(films["minute"], 30)))
    before, after = (
        start_errors(heard),
        start_errors(words_on_sound(heard, [sound], aligner_for("en"))),
    )
    assert np.median(after) <= 20
    assert np.percentile(after, 95) <= 80
    assert np.median(after) < np.median(before) / 2


def test_pocketsphinx_works_when_nothing_else_is_there(films) -> None:
    words = list(engine_called("pocketsphinx").recognise(speech_blocks(films["short"], 30), "en"))
    assert len(words) > 8
    assert {"day", "february", "harbour"} & {word.text.lower() for word in words}


def test_silence_gives_no_words() -> None:
    quiet = [np.zeros(16_000 * 3, np.int16)]
    assert list(engine_called("pocketsphinx").recognise(iter(quiet), "en")) == []
    assert words_on_sound([], quiet, aligner_for("en")) == []


def test_where_nobody_speaks_whisper_hears_nobody() -> None:
    noise = np.random.default_rng(1).normal(0, 60, 16_000 * 60).astype(np.int16)
    for sound in (np.zeros(16_000 * 60, np.int16), noise):
        assert (
            list(engine_called("whisper", Settings().model_folders).recognise(iter([sound]), "en"))
            == []
        )


def test_only_a_model_of_many_languages_can_tell_them() -> None:
    assert engine_called("pocketsphinx").language_chances(np.zeros(16_000, np.int16)) is None
    whisper = engine_called("whisper", Settings().model_folders)
    assert whisper.language_chances(np.zeros(16_000, np.int16), "tiny English") is None
    chances = whisper.language_chances(sound_between(FILM, 6_000, 20_000))
    assert chances is not None
    assert abs(sum(chances.values()) - 1) < 0.05


def test_a_language_without_a_model_is_refused() -> None:
    for engine in engines().values():
        with pytest.raises(EngineError, match="fi"):
            list(engine.recognise(iter(()), "fi"))
    with pytest.raises(EngineError, match="no engine called"):
        engine_called("parrot")


def test_models_are_found_in_folders(tmp_path) -> None:
    for name, words in (("small", 51_865), ("small-english", 51_864)):
        folder = tmp_path / name
        folder.mkdir()
        (folder / "model.bin").write_bytes(b"")
        (folder / "vocabulary.txt").write_text("x\n" * words)
    found = {model.name: model.languages for model in Whisper([tmp_path]).models()}
    assert found["small"] == ()
    assert found["small-english"] == ("en",)


SAID = {
    "es": "Buenos días. Hoy vamos a hablar de la campana de niebla que cuelga en el puerto desde hace cien años."
    " Los pescadores la escuchan cada mañana cuando salen al mar. Nadie sabe quién la hizo.",
    "it": "Buongiorno. Oggi parliamo della campana della nebbia che è appesa nel porto da cento anni."
    " I pescatori la sentono ogni mattina quando escono in mare. Nessuno sa chi l'ha fatta.",
}


@pytest.fixture(scope="module")
def three_languages(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The beginning of the demo film, then Spanish, then Italian, by robotic voices."""
    folder = tmp_path_factory.mktemp("languages")
    for language, text in SAID.items():
        command = [
            "espeak-ng",
            "-v",
            language,
            "-s",
            "140",
            "-w",
            str(folder / f"{language}.wav"),
            f"{text} {text}" if language == "it" else text,
        ]
        subprocess.run(command, check=True)
    ffmpeg("-t", "18", "-i", str(FILM), "-i", str(folder / "es.wav"), "-i", str(folder / "it.wav"),
           "-filter_complex", "[0:a]aresample=16000,aformat=channel_layouts=mono[a];[1:a]aresample=16000[b];"
           "[2:a]aresample=16000[c];[a][b][c]concat=n=3:v=0:a=1", str(folder / "three.wav"))  # fmt: skip
    return folder / "three.wav"


def languages_of(film: Path) -> list[SpokenPassage]:
    speech = speech_stretches(levels(speech_blocks(film, 30)))
    engine = engine_called("whisper", Settings().model_folders)
    return passages_by_language(
        engine, speech, lambda window: sound_between(film, window.start_ms, window.end_ms)
    )


def test_the_language_of_the_demo_film_is_told(films: Films) -> None:
    (passage,) = languages_of(films["minute"])
    assert passage.language == "en"
    assert passage.sure > 0.9


def test_three_languages_in_one_film_are_told_apart(three_languages: Path) -> None:
    told = languages_of(three_languages)
    assert [passage.language for passage in told] == ["en", "es", "it"]
    # The first goes over into the second at 18 s, where a window begins with its speech.
    assert abs(told[1].start_ms - 18_000) < 2_500


def test_who_speaks_another_language_in_turn_is_told_turn_by_turn() -> None:
    turns = [read_aloud(STORY[9:12], "awb"), read_aloud(STORIES["es"][6:8], "es")] * 2
    sound = np.concatenate([over(turn, "nothing") for turn in turns])
    engine = engine_called("whisper", Settings().model_folders)
    told = passages_by_language(
        engine,
        speech_stretches(levels([sound])),
        lambda window: sound[window.start_ms * 16 : window.end_ms * 16],
    )
    assert [passage.language for passage in told] == ["en", "es", "en", "es"]
    starts = np.cumsum([0, *(len(turn.sound) for turn in turns)])[:-1] / 16
    # A turn begins with its first word, after its pause.
    assert all(
        0 <= p.start_ms - start < 2_600 for p, start in zip(told[1:], starts[1:], strict=True)
    )


def test_spanish_is_written_down_in_english(three_languages: Path) -> None:
    engine = engine_called("whisper", Settings().model_folders)
    sound = sound_between(three_languages, 18_000, 30_000)
    said = [bare_word(w.text) for w in engine.recognise([sound], "es")]
    english = [bare_word(w.text) for w in engine.recognise([sound], "es", as_english=True)]
    assert {"campana", "puerto"} & set(said)
    assert {"bell", "fog", "port", "years"} & set(english)
    assert not {"campana", "puerto"} & set(english)


@pytest.mark.parametrize("kind", ["noise", "hum", "applause", "tune"])
def test_no_word_is_made_up_where_nobody_speaks(kind: str) -> None:
    random = np.random.default_rng(3)
    at = np.arange(40 * 16_000) / 16_000
    if kind == "noise":
        sound = random.normal(0, 0.05, len(at))
    elif kind == "hum":
        sound = 0.2 * np.sin(2 * np.pi * 50 * at) + 0.1 * np.sin(2 * np.pi * 150 * at)
    elif kind == "applause":
        # Many claps a second, each a short burst.
        claps = np.zeros(len(at))
        claps[random.integers(0, len(at), 6000)] = random.uniform(0.2, 1, 6000)
        burst = random.normal(0, 1, 400) * np.exp(-np.arange(400) / 60)
        sound = 0.2 * np.convolve(claps, burst, "same")
    else:
        notes = 220 * 2 ** (random.integers(0, 12, 80) / 12)
        each = np.repeat(notes, len(at) // 80)
        fade = np.tile(np.exp(-np.arange(len(at) // 80) / 3000), 80)
        sound = 0.3 * np.sin(2 * np.pi * np.cumsum(each) / 16_000) * fade
    samples = (np.clip(sound, -1, 1) * 32767).astype(np.int16)
    engine = engine_called("whisper", Settings().model_folders)
    for language in ("en", "de"):
        assert [w.text for w in engine.recognise([samples], language)] == []
