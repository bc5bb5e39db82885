"""Words moved between captions by hand, and what else is done to single words.

What comes out are the captions that take the place of those whose words were touched. Where somebody moved a boundary, the word
that begins there says so, and no other rhythm takes it away.
"""

from collections.abc import Sequence
from dataclasses import replace
from typing import Any, Literal, TypeAlias

from dunlin.core.captions.model import Caption, Span, Track
from dunlin.core.messages import BadInput, message
from dunlin.core.short.making import (
    Setting,
    captions_in_two_lines,
    captions_of_groups,
    groups_that_fit,
)
from dunlin.core.short.words import (
    ShortWord,
    with_spoken,
    words_of_captions,
)

__all__ = ["Deed", "Moved", "done_to_word"]

Deed: TypeAlias = Literal[
    "carry-back",
    "carry-on",
    "break",
    "join",
    "leave-out",
    "set",
    "two-lines",
    "fewer-words",
    "in-line",
]
"""To carry a word, with those before it in its caption, to the caption before; with those after it, to the one after; to begin
a caption with it; to join its caption to the one before; to leave it out; to say what is known of it; to have its caption in
two lines, or parted so that it fits; or to have the emoji by it in the line, as a word behind it that is told with it."""

Moved: TypeAlias = tuple[tuple[str, ...], tuple[Caption, ...]]
"""Ids of captions whose place is taken, and those that take it; a new one's id begins with `short-`."""


def done_to_word(
    track: Track,
    caption_id: str,
    offset: int,
    deed: Deed,
    by: Setting,
    known: dict[str, Any] | None = None,
) -> Moved:
    """What becomes of captions when something is done to a word.

    :param offset: character of the caption's text that the word begins with, or has
    :param known: of `set`: fields of `Spoken`, and what they shall be
    :raises BadInput: when there is no such caption or word, or none to carry it to
    """
    if caption_id not in track or track[caption_id].is_shape:
        raise BadInput(message("edits.no-such-caption", caption=caption_id))
    place = track.index(caption_id)
    before, here, after = (_words(track, place + off, by.language) for off in (-1, 0, 1))
    number = _number_at(track[caption_id], here, offset)
    if deed == "set":
        here = [*here[:number], with_spoken(here[number], **(known or {})), *here[number + 1 :]]
        return _put(track, [place], [here], by)
    if deed == "in-line":
        word = here[number]
        if not word.spoken.emoji:
            return _put(track, [place], [here], by)
        drawn = ShortWord((Span(word.spoken.emoji),), word.end_ms, word.end_ms, word.speaker)
        bare = with_spoken(word, emoji=None, emoji_place=None, emoji_motion=None)
        return _put(track, [place], [[*here[:number], bare, drawn, *here[number + 1 :]]], by)
    if deed == "two-lines":
        return _placed(track, [place], captions_in_two_lines(here, by))
    if deed == "fewer-words":
        groups = groups_that_fit(here, by)
        return _put(track, [place], [groups[0], *map(_begun, groups[1:])], by)
    if deed == "leave-out":
        return _put(track, [place], [_kept(here, [*here[:number], *here[number + 1 :]])], by)
    if deed == "break":
        if not number:
            return _put(track, [place], [_begun(here)], by)
        return _put(track, [place], [here[:number], _begun(here[number:])], by)
    if deed == "carry-on":
        if not after:
            raise BadInput(message("looks.no-neighbour"))
        carried = [*_begun(here[number:]), *(_free(word) for word in after)]
        taken = _kept(after, carried)
        return _put(track, [place, place + 1], [here[:number], taken], by)
    if not before:
        raise BadInput(message("looks.no-neighbour"))
    if deed == "join":
        return _put(track, [place - 1, place], [[*before, _joined(here[0]), *here[1:]]], by)
    taken, left = [_free(word) for word in here[: number + 1]], here[number + 1 :]
    stay = _kept(here, _begun(left)) if left else []
    return _put(track, [place - 1, place], [[*before, *taken], stay], by)


def _words(track: Track, place: int, language: str) -> list[ShortWord]:
    caption = track.at(place)
    return words_of_captions([caption], language) if caption and not caption.locked else []


def _number_at(caption: Caption, words: Sequence[ShortWord], offset: int) -> int:
    """The number of the word at a character of a caption's text."""
    at = 0
    for number, word in enumerate(words):
        at = caption.text.index(word.text, at) + len(word.text)
        if offset < at:
            return number
    raise BadInput(message("looks.no-such-word"))


def _begun(words: Sequence[ShortWord]) -> list[ShortWord]:
    return [_begins(words[0]), *words[1:]]


def _begins(word: ShortWord) -> ShortWord:
    return with_spoken(word, boundary="break")


def _joined(word: ShortWord) -> ShortWord:
    return replace(with_spoken(word, boundary="join"), caption=None)


def _free(word: ShortWord) -> ShortWord:
    return replace(with_spoken(word, boundary=None), caption=None)


def _kept(was: Sequence[ShortWord], now: Sequence[ShortWord]) -> list[ShortWord]:
    """Words of a caption that is the same still, whichever of them it begins with now."""
    first = next(word.caption for word in was if word.caption)
    return [replace(word, caption=None if n else first) for n, word in enumerate(now)]


def _put(
    track: Track, places: Sequence[int], groups: Sequence[Sequence[ShortWord]], by: Setting
) -> Moved:
    return _placed(track, places, captions_of_groups([group for group in groups if group], by))


def _placed(track: Track, places: Sequence[int], captions: Sequence[Caption]) -> Moved:
    """Captions in the place of those at some places, going out where they meet the next one or where the last of those did."""
    old = [caption for place in places if (caption := track.at(place))]
    made = list(captions)
    following = track.at(places[-1] + 1)
    if made and following and made[-1].out_ms > following.in_ms >= made[-1].in_ms:
        made[-1] = replace(made[-1], out_ms=max(following.in_ms, made[-1].in_ms + 1))
    elif (
        made
        and old[-1].out_ms > made[-1].out_ms
        and (not following or following.in_ms >= old[-1].out_ms)
    ):
        # What came after stays as near as it was.
        made[-1] = replace(made[-1], out_ms=old[-1].out_ms)
    return tuple(caption.id for caption in old), tuple(made)
