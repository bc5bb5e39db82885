"""A delivery spec, and its JSON form."""

import json
from typing import Annotated, Any, Literal, Self

from pydantic import BaseModel, ConfigDict, Field, ValidationError, WithJsonSchema, model_validator

from dunlin.core.messages import Told, message

__all__ = ["RuleName", "Spec", "SpecError", "for_language", "read_spec", "write_spec"]

RuleName = Literal[
    "film-end", "first-caption", "overlap", "gap", "gap-to-close", "least-duration", "greatest-duration", "shot-change", "across-shot",
    "line-length", "lines", "safe-area", "line-balance", "line-shape", "last-word",
    "reading-speed", "words-per-minute", "sentence", "empty", "endless", "markup", "double-space",
    "space-before-mark", "dash", "ellipsis", "quotes", "sound-brackets", "sound-case", "numbers",
    "characters", "speaker-labels", "language", "spelling", "drawable", "italics", "nested-quotes",
    "outside", "covering", "letter-size", "contrast",
    "dash-second", "continuation", "density", "uncaptioned", "units", "number-format",
    "source-changed", "draft", "number-differs", "name-missing", "term", "untranslated", "end-mark",
    "translation-length", "speakers-differ", "two-ways",
]  # fmt: skip

_Count = Annotated[int, Field(ge=1, le=1_000)]
_Frames = Annotated[int, Field(ge=0, le=1_000)]
_Milliseconds = Annotated[int, Field(ge=0, le=3_600_000)]
# Told as a list of numbers: the page's types know no lists of a fixed length.
_LengthAndTime = Annotated[
    tuple[_Count, _Milliseconds],
    Field(strict=False),
    WithJsonSchema({"type": "array", "items": {"type": "integer"}}),
]


class SpecError(Told, ValueError):
    """A file is no delivery spec; the message says what is wrong."""


class Spec(BaseModel):
    """A named set of limits that captions are delivered within.

    A limit that is None, or False, is not asked for: its rule is off. docs/specs.md says how each
    is measured.
    """

    model_config = ConfigDict(frozen=True, extra="forbid", strict=True)

    id: Annotated[str, Field(max_length=64, pattern=r"^[A-Za-z0-9][A-Za-z0-9_.\-]*$")]
    name: Annotated[str, Field(min_length=1, max_length=200)]
    description: str = ""

    wide_characters_count_two: bool = False
    """East Asian wide characters (UAX #11, W and F) count as two."""
    spaces_count: bool = True
    """Spaces count for the reading speed."""
    punctuation_counts: bool = True
    """Punctuation counts for the reading speed."""

    characters_per_line: _Count | None = None
    lines: Annotated[int, Field(ge=1, le=20)] | None = None
    safe_area: Annotated[float, Field(gt=0, le=1, strict=False)] | None = None
    """Greatest part of the picture's width that a line takes in the house style."""
    no_wrapping: bool = True
    """No line is wider than its style leaves room for: it would wrap when it is drawn."""
    kept_from_edges: Annotated[float, Field(ge=0, le=0.25, strict=False)] | None = 0.0
    """Least distance of letters from the picture's edges, as a part of its width and of its height; with 0 they are on
    the picture."""
    no_covering: bool = True
    """Captions that are shown at the same time are not over each other."""
    least_letter_size: Annotated[float, Field(gt=0, le=0.5, strict=False)] | None = None
    """Least height of a line of letters, as a part of the picture's height."""
    least_contrast: Annotated[float, Field(ge=1, le=21, strict=False)] | None = None
    """Least contrast ratio of letters against what lies behind them."""
    line_balance: Annotated[int, Field(ge=1, le=100)] | None = None
    """Least length of the shortest line, in per cent of the longest."""
    line_shape: Literal["top-heavy", "bottom-heavy"] | None = None
    """Which of two lines may be the longer one."""
    no_single_last_word: bool = False

    reading_speed: Annotated[float, Field(gt=0, le=1000, strict=False)] | None = None
    """Greatest characters a second; line breaks never count."""
    words_per_minute: Annotated[float, Field(gt=0, le=10_000, strict=False)] | None = None
    children_reading_speed: Annotated[float, Field(gt=0, le=1000, strict=False)] | None = None
    """Greatest characters a second where the programme is for children."""
    for_children: bool = False
    """Whether it is: then the children's speed counts."""

    least_duration_ms: _Milliseconds | None = None
    least_duration_by_length: Annotated[
        tuple[_LengthAndTime, ...], Field(strict=False, max_length=20)
    ] = ()
    """Pairs of characters and milliseconds: a caption with so many characters or more is shown at
    least so long."""
    greatest_duration_ms: Annotated[int, Field(ge=1, le=3_600_000)] | None = None
    least_gap_frames: _Frames | None = None
    """Least number of frames without a caption between two captions."""
    least_gap_ms: _Milliseconds | None = None
    close_gaps_below_ms: _Milliseconds | None = None
    """A gap shorter than this is closed to the least gap."""
    overlap_allowed: bool = False
    shot_change_frames: Annotated[int, Field(ge=1, le=100)] | None = None
    """An edge nearer than this to a shot change, but not on it, is on it or further away."""

    shot_change_before_frames: Annotated[int, Field(ge=1, le=100)] | None = None
    """The same for an edge before the shot change, where the distance is another there."""
    shot_change_after_frames: Annotated[int, Field(ge=1, le=100)] | None = None
    """The same for an edge after it."""
    no_caption_across_shots: bool = False

    first_caption_ms: _Milliseconds | None = None
    """The first caption comes in no earlier."""
    captions_per_minute: _Count | None = None
    """Greatest number of captions that come in within a minute."""
    speech_without_caption_ms: _Milliseconds | None = None
    """The longest somebody may speak without a caption."""

    captions_per_sentence: _Count | None = None
    """Greatest number of captions that a sentence goes over."""
    no_empty: bool = True
    within_film: bool = True
    """No caption is shown when the film is over."""
    no_undrawable: bool = True
    """Every character is in one of the fonts that captions are drawn with."""
    no_markup: bool = True
    """No tags or codes of a file format are left in the text."""
    no_double_spaces: bool = True
    no_space_before_marks: bool = True
    dash: Literal["-", "- ", "–", "– ", "—", "— "] | None = None
    """How each of two speakers' lines begins."""
    dash_of_second_only: bool = False
    """Of two speakers in a caption, only the second has a dash."""
    ellipsis: Literal["…", "..."] | None = None
    ellipsis_from_pause_ms: _Milliseconds | None = None
    """A sentence that goes on in the next caption has ellipses after a pause of so long, and only then."""
    italics: Literal["none", "whole-lines"] | None = None
    nested_quotes_single: bool = False
    """A quotation inside another is in single marks."""
    unit_space: bool = False
    """A space stands between a number and its unit."""
    number_format: bool = False
    """Decimals and thousands are marked as the language has it."""
    quotes: Literal["straight", "curly", "guillemets", "low-high"] | None = None
    sound_brackets: Literal["square", "round"] | None = None
    """Brackets around descriptions of sounds."""
    sound_case: Literal["upper", "lower", "sentence"] | None = None
    numbers_in_words_below: Annotated[int, Field(ge=1, le=101)] | None = None
    characters: Literal["ascii", "latin-1", "ebu-stl", "latin", "cyrillic", "greek"] | None = None
    """The only characters there may be."""
    forbidden_characters: Annotated[str, Field(max_length=500)] = ""
    speaker_labels: Literal["none", "upper", "as-written"] | None = None
    """`NAME:` at the beginning of a line: not at all, in capitals, or as the name is written."""
    language: bool = False
    """Letters are those of the track's language."""
    spelled: bool = False
    """Words are in the dictionary of the track's language, where one ships, or were accepted."""

    source_current: bool = True
    """Of translations: the source says what it said when it was translated."""
    no_drafts: bool = True
    """Of translations: what a machine wrote was confirmed by a person."""
    no_untranslated: bool = True
    """Of translations: no words are the source's own."""
    numbers_kept: bool = True
    """Of translations: numbers and months are those of the source, in figures or in words."""
    names_kept: bool = True
    """Of translations: names of the spelling list that the source has are there."""
    terms_kept: bool = True
    """Of translations: terms are what the term list has, and nothing that it forbids."""
    end_marks_kept: bool = True
    """Of translations: a question stays one, and so does what is unfinished or exclaimed."""
    speakers_kept: bool = True
    """Of translations: as many speak as in the source."""
    translation_least_length: Annotated[int, Field(ge=1, le=100)] | None = 30
    """Of translations: least length in per cent of the source's, of sources with 20 characters and more."""
    translation_greatest_length: Annotated[int, Field(ge=100, le=1_000)] | None = 250
    """Of translations: greatest length in per cent of the source's."""
    translated_alike: bool = True
    """Of translations: the same is translated in the same way, and nothing else in that way."""

    programme_start: (
        Annotated[str, Field(pattern=r"^[0-9][0-9]:[0-5][0-9]:[0-5][0-9][:;][0-9][0-9]$")] | None
    ) = None
    """Timecode of the programme's first frame, for formats that count from it."""
    file_format: Annotated[str, Field(max_length=40, pattern=r"^[a-z0-9-]+$")] | None = None
    """Name of the format that is sent."""
    file_name: Annotated[str, Field(max_length=200)] = ""
    """With `{title}`, `{language}`, `{date}` and `{spec}`; the ending is the format's."""
    file_encoding: (
        Literal["utf-8", "utf-16-le", "utf-16-be", "windows-1252", "iso-8859-1", "iso-8859-15"]
        | None
    ) = None
    file_byte_order_mark: bool | None = None
    """None leaves it to the format."""
    file_line_ends: Literal["lf", "crlf"] | None = None

    advice: Annotated[tuple[RuleName, ...], Field(strict=False)] = (
        "double-space", "space-before-mark", "line-balance", "line-shape", "last-word", "sentence",
        "gap-to-close", "shot-change", "numbers", "number-format", "end-mark", "translation-length",
        "two-ways", "spelling",
    )  # fmt: skip
    """Rules whose findings are advice; those of all others are errors."""
    by_language: dict[str, dict[str, Any]] = Field(default_factory=dict)
    """Limits that are others in a language, by its BCP 47 tag."""

    @model_validator(mode="after")
    def _agrees(self) -> Self:
        least, greatest = self.least_duration_ms, self.greatest_duration_ms
        if least is not None and greatest is not None and least > greatest:
            raise ValueError("least_duration_ms is not above greatest_duration_ms")
        for tag, limits in self.by_language.items():
            if unknown := sorted(limits.keys() - (Spec.model_fields.keys() - _NOT_BY_LANGUAGE)):
                raise ValueError(f"by_language.{tag} has no limit called {unknown[0]!r}")
            if limits:
                whole = self.model_dump(exclude={"by_language"}) | limits
                try:
                    Spec.model_validate(whole)
                except ValidationError as error:
                    first = error.errors()[0]
                    place = ".".join(map(str, first["loc"]))
                    raise ValueError(f"by_language.{tag}: {place}: {first['msg']}") from None
        return self


_NOT_BY_LANGUAGE = {"id", "name", "description", "by_language"}


def for_language(spec: Spec, language: str) -> Spec:
    """The spec as it is for a language: its own limits for the tag, or for the part before a hyphen; and
    for children, where the programme is theirs."""
    for tag in (language, language.split("-")[0]):
        if limits := spec.by_language.get(tag):
            spec = Spec.model_validate(spec.model_dump(exclude={"by_language"}) | limits)
            break
    if spec.for_children and spec.children_reading_speed:
        return spec.model_copy(update={"reading_speed": spec.children_reading_speed})
    return spec


def read_spec(text: str) -> Spec:
    """Reads a spec's JSON.

    :raises SpecError: naming the limit that is missing, unknown or of the wrong kind
    """
    try:
        data = json.loads(text)
    except (ValueError, RecursionError) as error:
        raise SpecError(message("specs.no-json", reason=error)) from None
    if not isinstance(data, dict):
        raise SpecError(message("specs.no-object"))
    try:
        # JSON's way of looking at it: a list is a tuple's form there, a string a choice's.
        return Spec.model_validate_json(json.dumps(data))
    except ValidationError as error:
        first = error.errors()[0]
        name = ".".join(str(part) for part in first["loc"])
        if first["type"] == "extra_forbidden":
            raise SpecError(message("specs.no-such-limit", limit=name)) from None
        if first["type"] == "missing":
            raise SpecError(message("specs.limit-missing", limit=name)) from None
        reason = first["msg"].removeprefix("Value error, ")
        raise SpecError(
            message("specs.wrong", limit=name, reason=reason)
            if name
            else message("as-said.words", words=reason)
        ) from None


def write_spec(spec: Spec) -> str:
    """A spec as JSON that `read_spec` reads back: what it asks for, without what it does not."""
    return spec.model_dump_json(indent=2, exclude_defaults=True) + "\n"
