"""What goes to the client with the captions: by which spec, with which figures, and what is left."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from statistics import mean
from typing import Any

from jinja2 import Environment, PackageLoader

from dunlin.core.captions.model import Track
from dunlin.core.messages import message
from dunlin.core.specs.judge import Judge
from dunlin.core.specs.model import Spec
from dunlin.core.specs.rules import OF_TRANSLATIONS, RULES, Finding
from dunlin.core.timecode import FrameRate, clock

__all__ = ["Figures", "FilmFacts", "figures_of", "report_page"]


@dataclass(frozen=True)
class Figures:
    """A track in numbers."""

    captions: int
    words: int
    characters: int
    shown_ms: int
    mean_speed: float
    greatest_speed: float
    longest_line: int
    shortest_ms: int
    longest_ms: int


def figures_of(track: Track, judge: Judge) -> Figures:
    """Figures of a whole track; zeros for an empty one."""
    all_measures = [judge.place(track, index).measures for index in range(len(track))]
    if not all_measures:
        return Figures(0, 0, 0, 0, 0.0, 0.0, 0, 0, 0)
    durations = [measures.duration_ms for measures in all_measures]
    speeds = [measures.reading_speed for measures in all_measures]
    words = sum(measures.words_per_minute * measures.duration_ms for measures in all_measures)
    return Figures(
        len(all_measures),
        round(words / 60_000),
        sum(measures.characters for measures in all_measures),
        sum(durations),
        mean(speeds),
        max(speeds),
        max(measures.longest_line for measures in all_measures),
        min(durations),
        max(durations),
    )


_PAGES = Environment(
    loader=PackageLoader("dunlin.core.specs", "pages"),
    autoescape=True,
    trim_blocks=True,
    lstrip_blocks=True,
)
_PAGES.filters["clock"] = clock


@dataclass(frozen=True)
class FilmFacts:
    """What the report tells of the film; its name is empty until it is there."""

    name: str
    duration_ms: int
    rate: FrameRate

    @property
    def frames_a_second(self) -> str:
        """Rounded to thousandths, as `25` or `23.976`."""
        return f"{self.rate.numerator / self.rate.denominator:.3f}".rstrip("0").rstrip(".")


def _speed_counts(spec: Spec) -> str:
    """What is counted for the reading speed, in words."""
    codes = {
        (True, True): "spaces-and-punctuation",
        (True, False): "spaces",
        (False, True): "punctuation",
    }
    code = codes.get((spec.spaces_count, spec.punctuation_counts), "letters")
    return str(message(f"report.{code}"))


def _told(limit: Any) -> Any:
    """A limit's value; pairs of characters and milliseconds one after the other."""
    if not isinstance(limit, tuple):
        return limit
    return ", ".join(f"{count} → {ms} ms" for count, ms in limit)


def report_page(
    *,
    title: str,
    language: str,
    made: str,
    author: str,
    film: FilmFacts,
    spec: Spec,
    figures: Figures,
    track: Track,
    findings: Sequence[Finding],
    hashes: Mapping[str, str],
    is_translation: bool = False,
) -> str:
    """The report as a page that needs nothing from elsewhere and prints well.

    :param made: the day it was made, as it shall stand there
    :param author: who made it; empty where nobody said
    :param findings: all that were found; those that are waived are listed apart
    :param hashes: SHA-256 of the files that belong to it, by their names
    :param is_translation: whether it was judged against a source: then what is asked of translations is told, too
    """
    named = {
        name: getattr(spec, name)
        for rule in RULES
        if is_translation or rule not in OF_TRANSLATIONS
        for name in rule.limits
    }
    if spec.for_children and spec.children_reading_speed:
        # Theirs is the one that counts, and is told as what it is.
        del named["reading_speed"]
        named["children_reading_speed"] = spec.children_reading_speed
    asked = {name: value for name, value in named.items() if value not in (None, False, "", ())}
    # What counts for the speed is told beside it.
    limits = [
        message(f"limits-on.{name}")
        if value is True
        else message(f"limits.{name}", value=_told(value))
        for name, value in asked.items()
        if name not in ("spaces_count", "punctuation_counts")
    ]
    left = [finding for finding in findings if finding.waived is None]
    return _PAGES.get_template("report.html").render(
        title=title,
        language=language,
        made=made,
        spec=spec,
        author=author,
        film=film,
        limits=limits,
        speed_counts=_speed_counts(spec),
        errors=sum(finding.weight == "error" for finding in left),
        advice=sum(finding.weight == "advice" for finding in left),
        figures=figures,
        numbers={caption.id: n for n, caption in enumerate(track, 1)},
        texts={finding.caption: track[finding.caption].text for finding in findings},
        left=left,
        waived=[finding for finding in findings if finding.waived is not None],
        hashes=hashes,
    )
