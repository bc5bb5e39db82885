"""A script paired with its translation, with lines joined, parted and missing."""

import random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from dunlin.core.language.pairing import Paired, Passage, paired
from tests.unit.language.made_up import script, words


def found(source: list[str], target: list[str]) -> list[Paired]:
    return paired(
        [Passage(text) for text in source], [Passage(text) for text in target], "xx", "yy"
    )


@pytest.mark.parametrize("seed", range(3))
def test_98_of_100_pairs_of_400_lines_are_right(seed: int) -> None:
    source, target, right = script(seed, 400)
    pairs = {(pair.sources, pair.targets) for pair in found(source, target)}
    part = len(pairs & right) / len(right)
    print(f"{part:.3f} of {len(right)} pairs right")
    assert part >= 0.98


def test_pairs_that_are_wrong_are_doubtful_and_few_that_are_right() -> None:
    wrong, right_ones = [], []
    for seed in range(3, 6):
        source, target, right = script(seed, 400)
        for pair in found(source, target):
            if pair.sources and pair.targets:
                where = right_ones if (pair.sources, pair.targets) in right else wrong
                where.append(pair.is_doubtful)
    print(
        f"{sum(wrong)} of {len(wrong)} wrong pairs doubtful, {sum(right_ones)} of {len(right_ones)} right ones"
    )
    assert sum(wrong) >= 0.7 * len(wrong) > 0
    assert sum(right_ones) <= 0.03 * len(right_ones)


@settings(max_examples=25)
@given(st.lists(st.text(max_size=30), max_size=12), st.lists(st.text(max_size=30), max_size=12))
def test_every_passage_is_in_one_pair_and_in_order(source: list[str], target: list[str]) -> None:
    pairs = found(source, target)
    assert [at for pair in pairs for at in pair.sources] == list(range(len(source)))
    assert [at for pair in pairs for at in pair.targets] == list(range(len(target)))
    assert all(0 <= pair.sureness <= 1 for pair in pairs)


def test_a_line_that_only_one_side_has_is_alone_and_doubtful() -> None:
    source = [
        "It weighs 412 kilos, all of it.",
        "A wholly other line of many words, which nobody has translated for this film at all.",
        "Ring it 3 times, Ilse, now!",
    ]
    target = ["Sie wiegt 412 Kilo, alles in allem.", "Läut sie 3 Mal, Ilse, jetzt!"]
    pairs = found(source, target)
    assert [(pair.sources, pair.targets) for pair in pairs] == [
        ((0,), (0,)),
        ((1,), ()),
        ((2,), (1,)),
    ]
    assert [pair.is_doubtful for pair in pairs] == [False, True, False]


def test_a_great_part_that_one_side_alone_has_is_left_alone() -> None:
    source, target, _ = script(9, 60)
    more = [f"{word} {word} {word} {word}." for word in words(random.Random(1), 200)]
    pairs = found(source, [*target[:20], *more, *target[20:]])
    alone = {at for pair in pairs if not pair.sources for at in pair.targets}
    assert len(alone & set(range(20, 220))) > 80
    assert found([], more[:3])[0].targets == (0,)
    assert found(source[:2], []) == [Paired((0,), (), 0.0), Paired((1,), (), 0.0)]


def test_times_tell_where_words_do_not() -> None:
    source = [Passage("One.", 0, 900), Passage("Two.", 1000, 1900), Passage("Six.", 9000, 9900)]
    target = [Passage("Eins.", 0, 900), Passage("Acht.", 9000, 9900)]
    pairs = paired(source, target, "en", "de")
    assert ((2,), (1,)) in {(pair.sources, pair.targets) for pair in pairs}
