"""Scripts of a made-up language with their translation, and which lines are of which."""

import random

__all__ = ["script", "words"]

VOWELS, CONSONANTS = "aeiou", "bdfgklmnprstvw"
NAMES = ["Ilse", "Brandt", "Orla", "Quillan"]


def words(rng: random.Random, count: int) -> list[str]:
    return [
        "".join(rng.choice(CONSONANTS) + rng.choice(VOWELS) for _ in range(rng.randint(1, 4)))
        for _ in range(count)
    ]


def script(seed: int, lines: int) -> tuple[list[str], list[str], set[tuple]]:
    """Lines of a made-up language, their translation word by word, and which are of which: 5 % of them are joined, 5 % parted,
    3 % missing in the translation."""
    rng = random.Random(seed)
    vocabulary = words(rng, 600)
    translated = dict(zip(vocabulary, words(rng, 600), strict=True))
    source, target, right = [], [], set()
    while len(source) < lines:
        said = [rng.choice(vocabulary) for _ in range(rng.randint(2, 11))]
        became = [translated[word] for word in said]
        if rng.random() < 0.15:
            number = str(rng.randint(3, 999))
            said.insert(1, number)
            became.append(number)
        if rng.random() < 0.15:
            name = rng.choice(NAMES)
            said.append(name)
            became.insert(1, name)
        end = rng.choices(".?!", [8, 1, 1])[0]
        line, other = " ".join(said) + end, " ".join(became) + end
        way = rng.random()
        at = len(source)
        source.append(line)
        if way < 0.03:
            right.add(((at,), ()))
        elif way < 0.08 and len(became) > 3:
            half = len(became) // 2
            right.add(((at,), (len(target), len(target) + 1)))
            target += [" ".join(became[:half]), " ".join(became[half:]) + end]
        elif way < 0.13 and at and right and (last := _last_pair(right, at - 1, len(target))):
            right.remove(last)
            right.add(((at - 1, at), last[1]))
            target[-1] += " " + other
        else:
            right.add(((at,), (len(target),)))
            target.append(other)
    return source, target, right


def _last_pair(right: set[tuple], at: int, targets: int) -> tuple | None:
    pair = ((at,), (targets - 1,))
    return pair if pair in right else None
