"""The fonts that ship, those that were added to them, and which of them draws which part of a text.

Text is drawn in its style's font as far as that has the letters; the rest in the family of their
script, Chinese characters in that of the text's language, and emoji as drawings. No font of the
machine is ever used, so that what is seen in one place is seen everywhere.
"""

import json
import zipfile
from collections import ChainMap
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from functools import cache, lru_cache
from importlib import resources
from itertools import groupby
from pathlib import Path
from typing import Any, Protocol, TypeVar

import regex
import uharfbuzz

__all__ = [
    "FONTS",
    "LATIN",
    "SHELF",
    "Family",
    "Layer",
    "Run",
    "Unbuilt",
    "as_emoji",
    "emoji_called",
    "emoji_layers",
    "families_of",
    "families_to_choose",
    "family_files",
    "font_file",
    "is_there",
    "kept_by_fonts",
    "runs_of",
    "ships",
    "take_added",
    "undrawable",
]

FONTS = Path(str(resources.files("dunlin") / "fonts"))
SHELF = FONTS / "shelf"

EMOJI_UNITS = 512
"""Side of the square that emoji are drawn on."""
LATIN = "Noto Sans"
"""The family of the shipped styles: Latin, Greek and Cyrillic, in three weights, upright and italic."""
_LATIN_FACES = {
    (400, False): "Regular",
    (400, True): "Italic",
    (700, False): "Bold",
    (700, True): "BoldItalic",
    (900, False): "Black",
    (900, True): "BlackItalic",
}
_BY_SCRIPT = {
    "Arabic": "Noto Sans Arabic",
    "Hebrew": "Noto Sans Hebrew",
    "Devanagari": "Noto Sans Devanagari",
    "Bengali": "Noto Sans Bengali",
    "Tamil": "Noto Sans Tamil",
    "Thai": "Noto Sans Thai",
    "Ethiopic": "Noto Sans Ethiopic",
    "Georgian": "Noto Sans Georgian",
    "Armenian": "Noto Sans Armenian",
    "Hiragana": "Noto Sans JP",
    "Katakana": "Noto Sans JP",
    "Hangul": "Noto Sans KR",
    "Bopomofo": "Noto Sans TC",
}
_SCRIPTS = regex.compile("|".join(rf"(?P<{name}>\p{{{name}}})" for name in _BY_SCRIPT))
_LETTERS = {
    name: regex.compile(rf"(?=\p{{L}})\p{{{name}}}")
    for name in ("Latin", "Greek", "Cyrillic", "Han", *_BY_SCRIPT)
}
_FEWEST_LETTERS = 20
_TRADITIONAL = ("zh-hant", "zh-tw", "zh-hk", "zh-mo", "yue")
# Marks that Chinese and Japanese write as wide as a character, and others narrow.
_WIDE_MARKS = frozenset("“”‘’…—·")
_WIDE_LANGUAGES = ("zh", "yue", "ja")
_HAN_LANGUAGES = ("zh", "yue", "ja", "ko")
_HAN = regex.compile(r"\p{Han}")
_CLUSTER = regex.compile(r"\X")
# Nothing is seen of these: joiners, direction marks, variation selectors, and spaces and breaks.
_UNSEEN = regex.compile(r"[\p{Default_Ignorable_Code_Point}\p{White_Space}]")
_SHOWN_AS_EMOJI = regex.compile(r"\p{Emoji_Presentation}")
_AS_TEXT, _AS_EMOJI = "\ufe0e", "\ufe0f"


class _Forgets(Protocol):
    def cache_clear(self) -> None: ...


_Cached = TypeVar("_Cached", bound=_Forgets)


class Unbuilt(RuntimeError):
    """The shelf was not put together: `make install` does it."""


@dataclass(frozen=True)
class Run:
    """A part of a text that one font draws, or one emoji."""

    text: str
    family: str | None
    """None where nothing on the shelf can draw it; it is a box then."""
    emoji: str | None = None
    """The name of its drawing, where it is an emoji."""


@dataclass(frozen=True)
class Family:
    """A family of fonts that captions can be set in."""

    name: str
    kind: str
    """What kind of letters it has: plain, narrow, slab, book, rounded, display, hand or typewriter; `own` of one that was
    added."""
    scripts: tuple[str, ...]
    """Unicode's names of the scripts that it has letters of, those it has most of first."""


@dataclass(frozen=True)
class Layer:
    """A filled path of an emoji, on a square of `EMOJI_UNITS` whose origin is the upper left."""

    colour: str
    opacity: float
    path: str
    """In the words of a render script: m, l and b."""


_added: dict[str, dict[str, Path]] = {}
"""The process's own: a font is there for all that is drawn in it, or for nothing."""
_caches: list[Callable[[], None]] = []


def kept_by_fonts(cached: _Cached) -> _Cached:
    """Has what is kept of fonts be forgotten when others are added: they may have the same names."""
    _caches.append(cached.cache_clear)
    return cached


@kept_by_fonts
@cache
def font_file(family: str, weight: int = 400, *, italic: bool = False) -> Path:
    """The file of a family's face, or of the nearest that it has.

    :raises Unbuilt: when it is not there
    """
    if family == LATIN:
        return FONTS / f"NotoSans-{_LATIN_FACES[900 if weight > 700 else weight, italic]}.ttf"
    files = _families()[family]
    path = files[min(files, key=lambda face: _unlike(face, weight, italic))]
    if not path.is_file():
        raise Unbuilt(f"{path} is not there; `make install` puts the fonts together")
    return path


def _unlike(face: str, weight: int, italic: bool) -> tuple[int, str]:
    """How unlike a face is to what is wanted, as the renderer counts (libass 0.17, ass_fontselect.c); of two alike the
    lighter one is taken."""
    told, *slanted = face.split()
    return _SLANT * (bool(slanted) != italic) + abs(int(told) - weight), face


_SLANT = 110


def family_files(family: str) -> list[Path]:
    """All files of a family, by the name that a script calls it; none of what is not on the shelf."""
    if family in (LATIN, f"{LATIN} Black"):
        return sorted(FONTS.glob("NotoSans-*.ttf"))
    return list(_families().get(family, {}).values())


@cache
def _listed() -> list[dict[str, Any]]:
    listed: list[dict[str, Any]] = json.loads((FONTS / "families.json").read_text("utf-8"))
    return listed


@cache
def _shipped() -> dict[str, dict[str, Path]]:
    return {
        one["family"]: {face: SHELF / file for face, file in one["files"].items()}
        for one in _listed()
    }


def take_added(families: Mapping[str, Mapping[str, Path]]) -> bool:
    """Has these families be there beside those that ship, and no others from now on.

    :param families: files by their faces (`400`, `700 italic`), by the names of families; a file never changes
    :returns: whether others were there
    """
    now = {name: dict(files) for name, files in families.items() if not ships(name)}
    if now == _added:
        return False
    _added.clear()
    _added.update(now)
    for forget in _caches:
        forget()
    return True


def ships(family: str) -> bool:
    """Whether a family of a name ships, however that is written."""
    return family.casefold() in {name.casefold() for name in (LATIN, f"{LATIN} Black", *_shipped())}


def is_there(family: str) -> bool:
    """Whether captions can be set in a family; else the Latin one stands in for it."""
    return family == LATIN or family in _families()


def _families() -> Mapping[str, Mapping[str, Path]]:
    return ChainMap(_shipped(), _added) if _added else _shipped()  # type: ignore[arg-type]


@kept_by_fonts
@cache
def families_to_choose() -> tuple[Family, ...]:
    """The families that captions can be set in; whatever one lacks is drawn by that of its script."""
    chosen = (
        (LATIN, "plain"),
        *((one["family"], one["kind"]) for one in _listed() if "kind" in one),
        *((family, "own") for family in sorted(_added)),
    )
    return tuple(Family(name, kind, _scripts_of(name)) for name, kind in chosen)


@kept_by_fonts
@cache
def _scripts_of(family: str) -> tuple[str, ...]:
    """Unicode's names of the scripts that a family has letters of, those it has most of first."""
    letters = "".join(map(chr, _covered(family)))
    counts = {name: len(pattern.findall(letters)) for name, pattern in _LETTERS.items()}
    # A letter or two, such as the sign of a unit, make no script.
    found = [name for name, count in counts.items() if count >= _FEWEST_LETTERS]
    return tuple(sorted(found, key=lambda name: -counts[name]))


@cache
def _fallbacks() -> tuple[str, ...]:
    """Families that draw what a chosen one has no letters for; those with a kind are there to be chosen."""
    return tuple(one["family"] for one in _listed() if "kind" not in one)


def runs_of(text: str, language: str, font: str = LATIN) -> tuple[Run, ...]:
    """A text in parts, each with the family that draws it.

    :param language: BCP 47 tag; tells whose forms Chinese characters have
    :param font: the family that draws all that it has letters for; the Latin one where it is not on the shelf
    """
    if font != LATIN and font in _families():
        return _parted(text, language, font)
    if _is_latin(text, language):
        return (Run(text, LATIN),) if text else ()
    return _parted(text, language, LATIN)


def _is_latin(text: str, language: str) -> bool:
    """Whether the Latin family draws all of a text, told at a glance."""
    if text.isascii():
        return True
    return _latin_letters().issuperset(text) and not language.lower().startswith(_WIDE_LANGUAGES)


@cache
def _latin_letters() -> frozenset[str]:
    return frozenset(map(chr, _covered(LATIN))) - {_AS_EMOJI} | {"\n"}


@kept_by_fonts
@lru_cache(4096)
def _parted(text: str, language: str, font: str) -> tuple[Run, ...]:
    pieces: list[tuple[str | None, str | None, str]] = []
    family: str | None = font
    for match in _CLUSTER.finditer(text):
        cluster = match[0]
        emoji = _emoji_named(cluster)
        seen = _UNSEEN.sub("", cluster)
        if emoji is None and seen:
            family = _family_of(seen, language, font)
        # What is not seen goes with what is before it.
        pieces.append((None if emoji else family, emoji, cluster))
    return tuple(
        Run("".join(cluster for *_, cluster in same), drawn, emoji)
        for (drawn, emoji, _), same in _joined(pieces)
    )


def _joined(
    pieces: list[tuple[str | None, str | None, str]],
) -> Iterator[tuple[tuple[str | None, str | None, int], list[tuple[str | None, str | None, str]]]]:
    """Pieces in a row that one font draws, together; each emoji stands alone."""
    numbered = enumerate(pieces)
    for key, same in groupby(
        numbered, lambda item: (item[1][0], item[1][1], item[0] if item[1][1] else -1)
    ):
        yield key, [piece for _, piece in same]


@kept_by_fonts
@lru_cache(8192)
def _family_of(cluster: str, language: str, font: str) -> str | None:
    points = frozenset(map(ord, cluster))
    return next((f for f in _candidates(cluster, language, font) if points <= _covered(f)), None)


def _candidates(cluster: str, language: str, font: str) -> Iterator[str]:
    """Families that may draw a cluster, the best first."""
    if font != LATIN:
        yield font
    wide = cluster in _WIDE_MARKS and language.lower().startswith(_WIDE_LANGUAGES)
    if not wide:
        yield LATIN
    if found := _SCRIPTS.search(cluster):
        assert found.lastgroup
        yield _BY_SCRIPT[found.lastgroup]
    han = _han_family(language)
    # A note or an arrow is no reason to fetch ten megabytes, where nothing else there needs them.
    if not language.lower().startswith(_HAN_LANGUAGES) and not _HAN.search(cluster):
        yield from ("Noto Sans Symbols", "Noto Sans Symbols 2")
    yield han
    # Also characters that another language writes, and marks of another script.
    yield from (family for family in _fallbacks() if family != han)


def _han_family(language: str) -> str:
    tag = language.lower()
    if tag.startswith("ja"):
        return "Noto Sans JP"
    if tag.startswith("ko"):
        return "Noto Sans KR"
    return "Noto Sans TC" if tag.startswith(_TRADITIONAL) else "Noto Sans SC"


@kept_by_fonts
@cache
def _covered(family: str) -> frozenset[int]:
    """Code points that a family has letters for."""
    return frozenset(uharfbuzz.Face(font_file(family).read_bytes()).unicodes)


def families_of(text: str, language: str, font: str = LATIN) -> list[str]:
    """The families that draw a text, in their order, each once."""
    return list(dict.fromkeys(run.family for run in runs_of(text, language, font) if run.family))


def undrawable(text: str, language: str) -> list[str]:
    """What of a text nothing on the shelf can draw, each once."""
    if _is_latin(text, language):
        return []
    missing = (run.text for run in runs_of(text, language) if not run.family and not run.emoji)
    clusters = (cluster for run in missing for cluster in _CLUSTER.findall(run))
    return list(dict.fromkeys(cluster for cluster in clusters if _UNSEEN.sub("", cluster)))


@lru_cache(8192)
def _emoji_named(cluster: str) -> str | None:
    """The drawing of an emoji; None of what is drawn as text."""
    as_emoji = _AS_EMOJI in cluster or _SHOWN_AS_EMOJI.search(cluster)
    if not as_emoji or _AS_TEXT in cluster:
        return None
    return emoji_called("-".join(f"{ord(point):04x}" for point in cluster if point != _AS_EMOJI))


def as_emoji(character: str) -> str | None:
    """A character as it is drawn as an emoji, with the mark that makes it one where it needs that; None of what is none."""
    ways = (character, f"{character}{_AS_EMOJI}")
    return next((way for way in ways if _emoji_named(way) is not None), None)


def emoji_called(name: str) -> str | None:
    """The drawing of an emoji, by its code points in hexadecimal digits with hyphens between them."""
    drawing = f"{name}.txt"
    return drawing if drawing in _drawings().NameToInfo else None


@cache
def _drawings() -> zipfile.ZipFile:
    path = SHELF / "emoji.zip"
    if not path.is_file():
        raise Unbuilt(f"{path} is not there; `make install` puts the fonts together")
    return zipfile.ZipFile(path)


@lru_cache(256)
def emoji_layers(name: str) -> tuple[Layer, ...]:
    """The layers of an emoji's drawing, the lowest first."""
    lines = _drawings().read(name).decode("ascii").splitlines()
    split = (line.split(" ", 2) for line in lines)
    return tuple(Layer(colour, float(opacity), path) for colour, opacity, path in split)
