"""Words about a film: chapters of talks whose topics are known, planted passages, key words, and odd transcripts."""

import json
import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.formats import Context, read_file
from dunlin.core.language.digest.chapters import chapter_starts
from dunlin.core.language.digest.keywords import keywords
from dunlin.core.language.digest.sentences import Said, Sentence, sentences_of
from dunlin.core.language.digest.strength import strongest
from dunlin.core.language.digest.words_about import as_data, words_about
from dunlin.core.language.digest.writing import as_chapters, as_text
from dunlin.core.text.joints import small_words
from dunlin.core.text.words import joined_words
from tests.conftest import DEMO
from tests.unit.language.made_up import words

LANGUAGES = ["en", "de", "fr"]


def timed(texts: list[str], pace_ms: int = 400) -> list[Said]:
    return [Said(text, n * pace_ms, n * pace_ms + pace_ms - 50) for n, text in enumerate(texts)]


def sentence_of(chance: random.Random, topic: list[str], language: str) -> list[str]:
    """A made-up sentence: words of a topic among small ones."""
    small = sorted(word for word in small_words(language) if word.isalpha())
    count = chance.randint(6, 12)
    texts = [chance.choice(topic if chance.random() < 0.55 else small) for _ in range(count)]
    return [texts[0].capitalize(), *texts[1:-1], f"{texts[-1]}."]


def talk(seed: int, language: str) -> tuple[list[Sentence], list[int]]:
    """A talk of four to six topics, some of whose words are said throughout; and the sentences that topics begin with."""
    chance = random.Random(seed)
    vocabulary = words(chance, 400)
    shared, rest = vocabulary[:30], vocabulary[30:]
    texts: list[str] = []
    begins: list[int] = []
    count = 0
    for number in range(chance.randint(4, 6)):
        topic = rest[number * 40 : number * 40 + 40] + chance.sample(shared, 10)
        begins.append(count)
        for _ in range(chance.randint(8, 16)):
            texts += sentence_of(chance, topic, language)
            count += 1
    return sentences_of(timed(texts), language), begins


@pytest.mark.parametrize("language", LANGUAGES)
def test_chapters_begin_within_one_sentence_of_where_the_topic_turns(language: str) -> None:
    found = all_ = 0
    for seed in range(10):
        sentences, begins = talk(seed, language)
        starts = chapter_starts(sentences, language)
        assert starts[0] == 0
        all_ += len(begins)
        found += sum(any(abs(start - begin) <= 1 for start in starts) for begin in begins)
        # Nor is it parted everywhere.
        assert len(starts) <= len(begins) + 2
    assert found / all_ >= 0.8


def test_two_of_three_planted_passages_are_found_in_eight_of_ten_talks() -> None:
    right = 0
    for seed in range(10):
        chance = random.Random(seed)
        vocabulary = words(chance, 500)
        topic, strong = vocabulary[:60], vocabulary[60:]
        lines = [sentence_of(chance, topic, "en") for _ in range(60)]
        planted = []
        for place in (15, 30, 45):
            name, year = chance.choice(strong).capitalize(), str(chance.randint(1800, 1999))
            said = [
                chance.choice(topic).capitalize(),
                name,
                *chance.sample(strong, 5),
                year,
                *chance.sample(topic, 4),
            ]
            lines[place] = [*said[:-1], f"{said[-1]}."]
            planted.append(" ".join(lines[place]))
        found = strongest(sentences_of(timed([text for line in lines for text in line])), most=5)
        right += sum(any(one in passage.text for passage in found) for one in planted) >= 2
        assert not found[0].text.startswith(" ".join(lines[0]))
    assert right >= 8


def test_every_sentence_of_a_description_was_said() -> None:
    sentences, _ = talk(3, "en")
    said = [word for sentence in sentences for word in sentence.words]
    about = words_about(said)
    spoken = " ".join(word.text for word in said)
    for described in (about.short, about.middle, about.long):
        for sentence in described.split(". "):
            assert sentence.rstrip(".") in spoken
    assert len(about.short) <= len(about.middle) <= len(about.long)
    for passage in about.passages:
        assert passage.text in spoken
        assert passage.from_ms < passage.to_ms


def test_key_words_are_those_that_are_said_often_pairs_as_pairs() -> None:
    text = "The fog bell rings. A fog bell is old. The fog bell fell. Harbours have a harbour keeper. The bells ring."
    found = keywords(sentences_of(timed(text.split())), "en")
    assert found[0] == "fog bell"
    assert "the" not in found
    assert len(set(found)) == len(found)


def test_names_and_what_a_talk_turns_on_are_its_key_words() -> None:
    for film, language, wanted in [
        ("fog-bell.en.json", "en", {"Quillan Point", "Ilse Varga", "Tomas Brandt", "bell", "fog"}),
        (
            "fog-bell.de.json",
            "de",
            {"Quillan Point", "Ilse Varga", "Tomas Brandt", "Glocke", "Hafen"},
        ),
    ]:
        captions = json.loads((DEMO / film).read_text())["captions"]
        text = " ".join(
            one["text"] if "text" in one else "".join(span["text"] for span in one["spans"])
            for one in captions
        )
        assert wanted <= set(keywords(sentences_of(timed(text.split())), language, 10))


def test_a_name_keeps_its_capitals_a_word_that_only_begins_a_sentence_does_not() -> None:
    text = "Lanterns burn on Orla Rock. Lanterns burn late. Orla Rock is far. We saw no lanterns, Orla Rock was dark."
    found = keywords(sentences_of(timed(text.split())), "en")
    assert "Orla Rock" in found
    assert "lanterns" in found or "lanterns burn" in found
    assert not any(one[0].isupper() for one in found if one != "Orla Rock")


@given(
    texts=st.lists(st.text(st.characters(exclude_categories=["C", "Z"]), min_size=1), max_size=60),
    language=st.sampled_from(["en", "de", "ja", "hi", "ar", "tlh"]),
)
def test_key_words_are_said_within_one_sentence(texts: list[str], language: str) -> None:
    sentences = sentences_of(timed(texts), language)
    said = [joined_words(one.texts).lower() for one in sentences]
    found = keywords(sentences, language)
    assert all(any(one.lower() in line for line in said) for one in found)
    assert len(set(found)) == len(found)


@pytest.mark.parametrize(
    ("text", "language"),
    [("", "en"), ("Fog", "en"), ("one two three four five six seven eight nine ten", "en"), ("A single sentence only.", "en"),
     ("Der Nebel kommt. The fog comes. Die Glocke läutet. The bell rings.", "de"), ("霧が来る。鐘が鳴る。", "ja"),
     ("qaq wew rtr. yty uiu. opo asa dfd.", "tlh"), ("... ... !", "en")],
)  # fmt: skip
def test_whatever_was_said_it_is_told_without_fault(text: str, language: str) -> None:
    about = words_about(timed(text.split()), language)
    data = as_data(about)
    assert set(data) == {"titles", "description", "keywords", "chapters", "passages"}
    if text:
        assert data["chapters"][0]["at_ms"] == 0
        assert data["description"]["short"]
    else:
        assert not any([data["titles"], data["chapters"], data["passages"], data["keywords"]])


def test_chapters_are_a_track_and_lines_to_paste() -> None:
    sentences, _ = talk(5, "en")
    said = [word for sentence in sentences for word in sentence.words]
    about = words_about(said)
    track = read_file(as_chapters(about, said[-1].end_ms + 500), "x.vtt", Context()).document
    assert [c.in_ms for c in track.captions] == [chapter.at_ms for chapter in about.chapters]
    assert [c.text for c in track.captions] == [chapter.title for chapter in about.chapters]
    assert track.captions[-1].out_ms == said[-1].end_ms + 500
    text = as_text(about).decode()
    assert f"0:00 {about.chapters[0].title}" in text.split("\n")
