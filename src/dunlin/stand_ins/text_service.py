"""A stand-in for a service that reads: it goes by which letters words share, and knows nothing besides."""

from collections import Counter

import uvicorn
from fastapi import FastAPI

from dunlin.core.language.digest.centrality import content_words
from dunlin.core.text.words import words_of
from dunlin.engines.text_service import ChoiceAnswer, ChoiceAsked

__all__ = ["run_text_service", "text_service"]

_NAME = "Stand-in by likeness of letters"
_GRAM = 4
"""Letters in a row that words are held alike by: `weighs` and `weight` share three of these."""


def text_service() -> FastAPI:
    """An application that answers `POST /` as docs/words.md says."""
    app = FastAPI(title=_NAME, docs_url=None, redoc_url=None, openapi_url=None)

    @app.post("/")
    def choose(asked: ChoiceAsked) -> ChoiceAnswer:
        grams = [_grams(one, asked.language) for one in asked.sentences]
        whole: Counter[str] = Counter(gram for one in grams for gram in one)
        wanted = set(_grams(asked.question, asked.language)) if asked.task == "answer" else None

        def worth(n: int) -> float:
            own = set(grams[n])
            if wanted is not None:
                return sum(1 / whole[gram] for gram in own & wanted)
            return sum(whole[gram] for gram in own) / (len(own) + 8)

        worths = {n: worth(n) for n in range(len(grams))}
        best = sorted(worths, key=lambda n: (-worths[n], n))
        return ChoiceAnswer(sentences=[n for n in best if worths[n] > 0][: asked.count])

    return app


def _grams(text: str, language: str) -> list[str]:
    words = content_words(words_of(text, language), language)
    return [word[at : at + _GRAM] for word in words for at in range(max(len(word) - _GRAM + 1, 1))]


def run_text_service(port: int) -> None:
    """Serves on this machine alone, until it is stopped."""
    uvicorn.run(text_service(), host="127.0.0.1", port=port, log_level="warning")
