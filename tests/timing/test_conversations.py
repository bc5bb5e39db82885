"""Who speaks, guessed in conversations of several synthesised voices that are not the demo film's."""

from itertools import permutations

import numpy as np
import pytest

from dunlin.core.speech import Word
from dunlin.core.speech.voices import passages, sounds, taught, voice_of, voices
from tests.voices import Conversation, conversation

TALKS = {
    "two in short turns": (("slt", "rms"), True),
    "three": (("slt", "rms", "awb"), False),
    "three in short turns": (("slt", "rms", "awb"), True),
    "four": (("slt", "rms", "awb", "kal16"), False),
}


def heard_in(talk: Conversation) -> tuple[list[tuple[int, int]], list[np.ndarray | None]]:
    places = passages(talk.words)
    spans = [(talk.words[a].start_ms, talk.words[b - 1].end_ms) for a, b in places]
    return places, [voice_of(sound) for sound in sounds([talk.sound], spans)]


def naming(talk: Conversation, places: list[tuple[int, int]], said: list[int]) -> tuple[int, ...]:
    """Who each voice is, when they are given the names that fit best."""
    count = max(*said, *talk.who) + 1
    return max(
        permutations(range(count)),
        key=lambda names: sum(
            names[voice] == talk.who[word]
            for (a, b), voice in zip(places, said, strict=True)
            for word in range(a, b)
        ),
    )


@pytest.mark.parametrize("name", TALKS)
def test_three_and_four_voices_are_told_apart_also_in_short_turns(name: str) -> None:
    names, short = TALKS[name]
    shares, sure = [], list[tuple[bool, float]]()
    for seed in range(2):
        talk = conversation(names, seed, short=short)
        places, heard = heard_in(talk)
        guesses = voices(heard)
        assert len({guess.voice for guess in guesses}) <= len(names) + 2
        best = naming(talk, places, [guess.voice for guess in guesses])
        right = [
            bool(best[g.voice] == talk.who[a]) for (a, _), g in zip(places, guesses, strict=True)
        ]
        shares.append(np.average(right, weights=[b - a for a, b in places]))
        sure += [(ok, guess.sure) for guess, ok in zip(guesses, right, strict=True)]
    of_right, of_wrong = (
        np.mean([value for ok, value in sure if ok is which] or [0]) for which in (True, False)
    )
    print(f"{name}: {min(shares):.2f} of the words right at least; {of_right:.2f} sure where right, "
          f"{of_wrong:.2f} where wrong")  # fmt: skip
    assert min(shares) >= 0.9
    assert of_wrong < of_right


def test_a_turn_put_right_teaches_the_rest() -> None:
    """Two voices that were taken for one: one turn of each is named, the others follow."""
    talk = conversation(("slt", "rms", "awb"), 3, short=False)
    places, heard = heard_in(talk)
    truth = [talk.who[a] for a, _ in places]
    merged = ["Ann" if who == 0 else "Ben" for who in truth]
    turn = next(n for n, who in enumerate(truth) if who == 2)
    merged[turn] = "Cleo"
    guesses, names = taught(heard, merged)
    found = [names[guess.voice] for guess in guesses]
    right = np.mean(
        [name == ("Ann", "Ben", "Cleo")[who] for name, who in zip(found, truth, strict=True)]
    )
    assert found[turn] == "Cleo"
    assert guesses[turn].sure == 1
    assert right >= 0.9


def test_names_given_to_a_few_turns_are_kept_and_reach_the_others() -> None:
    talk = conversation(("slt", "rms"), 1, short=False)
    places, heard = heard_in(talk)
    truth = [talk.who[a] for a, _ in places]
    named: list[str | None] = [None] * len(places)
    for who, name in enumerate(("Ann", "Ben")):
        named[truth.index(who)] = name
    guesses, names = taught(heard, named)
    assert [names[guess.voice] for guess in guesses] == [("Ann", "Ben")[who] for who in truth]


def test_nothing_named_and_nothing_put_right_is_the_guess_by_itself() -> None:
    talk = conversation(("slt", "rms"), 2, short=False)
    _, heard = heard_in(talk)
    guesses, names = taught(heard, [None] * len(heard))
    assert guesses == voices(heard)
    assert set(names) == {None}
    all_named: list[str | None] = [("Ann", "Ben")[guess.voice] for guess in guesses]
    again, named = taught(heard, all_named)
    assert again == guesses
    assert named == ["Ann", "Ben"]


def test_what_cannot_be_heard_keeps_its_name() -> None:
    low, high = np.full(13, 1.0), np.full(13, 2.0)
    guesses, names = taught([low, None, high, low], ["Ann", "Ben", "Ben", None])
    assert names[guesses[1].voice] == "Ben"
    assert guesses[1].sure == 0
    assert taught([], []) == ([], [])
    assert Word("a", 0, 1).speaker is None
