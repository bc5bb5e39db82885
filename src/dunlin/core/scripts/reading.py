"""What a script says: who speaks, what is said, and what is only described."""

import re
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass

__all__ = ["CHARACTERS_A_SECOND", "Passage", "Script", "read_script"]

# A name is short, and each of its words begins with a capital or is one like "van".
_NAME = r"(?:[^\W\d_a-z][\w.'’-]*|de|da|di|van|von|der|la|le|al|el|and|&|\d{1,2})"
_SPEAKS = re.compile(
    rf"\s*(?P<name>{_NAME}(?:\s+{_NAME}){{0,3}})\s*(?P<mark>:|\s[—–-]{{1,2}}\s)\s*(?P<rest>.*)"
)
CHARACTERS_A_SECOND = 15
"""A usual pace of speech: some 150 English words a minute, each with the space behind it."""
_DESCRIPTION = re.compile(r"\[[^\[\]]*\]")
_ALONE = re.compile(r"\s*(?:\[[^\[\]]*\]|\([^()]*\)|\*[^*]+\*)\s*")
_AFTER_NAME = re.compile(r"\s*\((?P<how>[^()]{1,60})\)\s*")


@dataclass(frozen=True)
class Passage:
    """What one speaker says without a break; or a sound or action that is described."""

    text: str
    speaker: str | None = None
    described: bool = False


@dataclass(frozen=True)
class Script:
    """A script's passages in order; `speakers` counts the passages of each."""

    passages: tuple[Passage, ...]

    @property
    def speakers(self) -> dict[str, int]:
        named = (passage.speaker for passage in self.passages if not passage.described)
        return dict(Counter(name for name in named if name).most_common())

    @property
    def said(self) -> str:
        """All that is said, without names and directions."""
        spoken = (passage.text for passage in self.passages if not passage.described)
        return _DESCRIPTION.sub("", "\n".join(spoken))

    @property
    def spoken_ms(self) -> int:
        """About how long it takes to say."""
        return len(self.said) * 1000 // CHARACTERS_A_SECOND

    @property
    def descriptions(self) -> int:
        return sum(passage.described for passage in self.passages) + sum(
            len(_DESCRIPTION.findall(passage.text))
            for passage in self.passages
            if not passage.described
        )


def read_script(
    text: str, *, lines: bool = True, names: bool = True, descriptions: bool = True
) -> Script:
    """Reads a script.

    A speaker is named at the beginning of a line: `NAME: ` or, in capitals, `NAME — `; alone on a
    line in that form, the name speaks what comes next. A speaker speaks until another one does, or an
    empty line comes. Directions stand in square brackets, or in any brackets alone on a line or
    behind a name; those that stay come as sound descriptions in square brackets.

    :param lines: whether each line is a passage; else each paragraph is, up to an empty line
    :param names: whether speakers are looked for
    :param descriptions: whether directions stay
    """
    found: list[Passage] = []
    speaker: str | None = None
    spoken = False
    open_: list[str] = []

    def close() -> None:
        nonlocal spoken
        if said := " ".join(" ".join(open_).split()):
            found.append(Passage(said, speaker))
            spoken = True
        open_.clear()

    for line in text.split("\n"):
        if not line.strip():
            close()
            # A name alone above an empty line still speaks what comes.
            speaker = None if spoken else speaker
            continue
        if _ALONE.fullmatch(line):
            close()
            if descriptions:
                found.append(Passage(_bracketed(line), None, True))
            continue
        if names and (named := _speaks(line)):
            close()
            speaker, line = named
            spoken = False
        for how, said in _directions(line):
            if how and descriptions:
                open_.append(how)
            elif said:
                open_.append(said)
        if lines:
            close()
    close()
    return Script(tuple(found))


def _speaks(line: str) -> tuple[str, str] | None:
    """Who speaks a line, and what; None when it names nobody."""
    match = _SPEAKS.fullmatch(line)
    if not match:
        return None
    name, rest = match["name"], match["rest"]
    # A dash parts sentences too: only a name in capitals is surely one.
    if match["mark"] != ":" and not name.isupper():
        return None
    if how := _AFTER_NAME.match(rest):
        rest = f"[{how['how']}] {rest[how.end() :]}"
    return " ".join(name.split()).rstrip("."), rest


def _directions(line: str) -> Iterator[tuple[str, str]]:
    """A line in pieces: what is described, or what is said."""
    at = 0
    for match in _DESCRIPTION.finditer(line):
        yield "", line[at : match.start()].strip()
        yield match.group(), ""
        at = match.end()
    yield "", line[at:].strip()


def _bracketed(line: str) -> str:
    return f"[{line.strip()[1:-1].strip()}]"
