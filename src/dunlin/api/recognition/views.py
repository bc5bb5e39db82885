"""Recognisers, and what is asked of them."""

from typing import Annotated

from pydantic import BaseModel, Field

from dunlin.api.wire import Language, View

__all__ = ["EngineView", "HearRequest", "ModelView", "RecogniseRequest"]


class RecogniseRequest(BaseModel):
    """What hears the speech, and in which of the film's sounds; `model` null is the first one for
    the language."""

    engine: str
    language: Language
    model: Annotated[str, Field(max_length=200)] | None = None
    stream: Annotated[int, Field(ge=0, le=1000)] = 0
    voice_focus: bool = False


class HearRequest(RecogniseRequest):
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


class EngineView(View):
    name: str
    title: str
    models: list[ModelView]
