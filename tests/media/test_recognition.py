"""The demo film's speech against its script, whose word times are known."""

import json
from difflib import SequenceMatcher

import jiwer
import numpy as np
import pytest

from dunlin.core.speech import Word
from dunlin.core.text.joints import bare_word
from dunlin.engines import EngineError, engine_called, engines
from dunlin.engines.aligner import sharpened
from dunlin.engines.whisper import Whisper
from dunlin.media.sound import speech_blocks
from tests.conftest import DEMO, FILM

TRUTH = [
    Word(w["text"], w["start_ms"], w["end_ms"])
    for w in json.loads((DEMO / "fog-bell.words.json").read_text())["words"]
]


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
def heard() -> list[Word]:
    return list(engine_called("whisper").recognise(speech_blocks(FILM, 30), "en"))


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


def test_quick_hearing_finds_as_many_places_of_the_text(heard: list[Word]) -> None:
    quick = list(engine_called("whisper").recognise(speech_blocks(FILM, 30), "en", quick=True))
    assert len(start_errors(quick)) > 0.9 * len(start_errors(heard))


def test_forced_alignment_sharpens_word_times(heard: list[Word]) -> None:
    sound = np.concatenate(list(speech_blocks(FILM, 30)))
    before, after = start_errors(heard), start_errors(sharpened(heard, sound))
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
    assert sharpened([], quiet[0]) == []


def test_where_nobody_speaks_whisper_hears_nobody() -> None:
    noise = np.random.default_rng(1).normal(0, 60, 16_000 * 60).astype(np.int16)
    for sound in (np.zeros(16_000 * 60, np.int16), noise):
        assert list(engine_called("whisper").recognise(iter([sound]), "en")) == []


class Manytongued:
    """Stands in for a model of many languages, which no package carries."""

    def detect_language(self, samples: np.ndarray, **how: object) -> tuple[str, float, list]:
        assert samples.dtype == np.float32
        return "fi", 0.93, []


def test_a_model_of_many_languages_tells_which_is_spoken(tmp_path, monkeypatch) -> None:
    sound = [np.zeros(8_000, np.int16)] * 2
    blocks = iter(sound)
    assert engine_called("whisper").language_heard(blocks) is None
    assert engine_called("pocketsphinx").language_heard(blocks) is None
    assert len(list(blocks)) == 2
    (tmp_path / "many").mkdir()
    (tmp_path / "many" / "model.bin").write_bytes(b"")
    monkeypatch.setattr("dunlin.engines.whisper._loaded", lambda folder: Manytongued())
    assert Whisper([tmp_path]).language_heard(sound, "many") == ("fi", 0.93)
    assert Whisper([tmp_path]).language_heard(sound, "tiny English") is None


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
