"""Recognisers, and what is asked of them."""

from typing import Annotated, Literal

from pydantic import BaseModel, Field

from dunlin.api.wire import Language, View

__all__ = ["EngineView", "HearRequest", "HowToHear", "ModelView", "RecogniseRequest"]


class HowToHear(BaseModel):
    """What hears the speech, and in which of the film's sounds; `model` null is the best one for
    the language, or with `quick` the quickest. `language` may be `auto`: the one that is heard."""

    engine: str
    language: Language | Literal["auto"]
    quick: bool = False
    spelled_numbers: bool = False
    """Numbers in words, where digits were written."""
    model: Annotated[str, Field(max_length=200)] | None = None
    stream: Annotated[int, Field(ge=0, le=1000)] = 0
    voice_focus: bool = False


class RecogniseRequest(HowToHear):
    as_english: bool = False
    """Writes down in English what is said in other languages, as captions of a new track."""


class HearRequest(HowToHear):
    """Hears a part of the film again, to be compared with the transcript's words there: `count` of
    them, from `first` on."""

    from_ms: Annotated[int, Field(ge=0)]
    to_ms: Annotated[int, Field(ge=0)]
    first: Annotated[int, Field(ge=0, le=2**31)]
    count: Annotated[int, Field(ge=0, le=2**31)]


class ModelView(View):
    """A model that was found: `languages` is empty when it knows many, `size_bytes` null when its
    engine carries it."""

    name: str
    languages: tuple[str, ...]
    size_bytes: int | None
    is_broken: bool
    words_wrong: float | None
    """Per cent of the words of held-out English talk that it gets wrong, where that was measured."""
    speed: float | None = None
    """How many times as fast as the film it last recognised here was; null before the first time."""


class EngineView(View):
    name: str
    title: str
    models: list[ModelView]
