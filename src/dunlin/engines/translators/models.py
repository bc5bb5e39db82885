"""Translation models of CTranslate2 in folders on this machine, of the Marian and the M2M kind.

A folder holds `model.bin`, `config.json` and vocabularies as CTranslate2's converters write them, and SentencePiece's
models: `source.spm` and `target.spm`, or one for both, `sentencepiece.bpe.model` or `spm.model`. A model of the M2M kind has a
word for each of its languages in its vocabulary (`__de__`). One of the Marian kind knows one pair: `languages.json` beside it says
which (`{"source": "en", "target": "de"}`), or else the end of the folder's name (`…-en-de`).
"""

import json
import re
from collections.abc import Iterable, Iterator, Sequence
from functools import cache
from pathlib import Path

import ctranslate2
import sentencepiece

from dunlin.core.language.drafts.model import Draft, Known, Wanted
from dunlin.core.language.drafts.passages import parted_like, passages_of
from dunlin.core.messages import Message, message
from dunlin.engines.model_folders import TRANSLATION_SPEC, folders_with_models, is_of_kind
from dunlin.engines.recogniser import EngineError
from dunlin.settings import computing_threads

__all__ = ["TranslationModel", "translation_models"]

_SOURCE_PIECES = ("source.spm", "sentencepiece.bpe.model", "spm.model")
_TARGET_PIECES = ("target.spm", *_SOURCE_PIECES[1:])
_VOCABULARIES = ("source_vocabulary", "shared_vocabulary")
_PAIR = re.compile(r"[-_]([a-z]{2,3})[-_]([a-z]{2,3})$")
_LANGUAGE_WORD = re.compile(r"^__([a-z]{2,3})__$")
_END = "</s>"
_AT_ONCE = 16
"""Passages; so many are translated side by side."""
_BEAM = 4
_LONGEST = 256
"""Pieces of a passage."""
_GROWS_BY, _AND = 3, 10
"""What comes of a passage has no more pieces than so many times its own, and some: a model that goes round in a circle is
stopped."""


def translation_models(folders: Iterable[Path]) -> list["TranslationModel"]:
    """The models in folders of such, each in a folder of its own; those of other kinds are passed over."""
    return [
        TranslationModel(path)
        for path in folders_with_models(folders)
        if is_of_kind(path, TRANSLATION_SPEC)
    ]


class TranslationModel:
    """A model in a folder."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.title = folder.name
        self.name = f"model:{folder.name}"
        self.fault: Message | None = None
        self._pair: tuple[str, str] | None = None
        self._many: frozenset[str] = frozenset()
        try:
            self._pair, self._many = _languages(folder)
        except (OSError, ValueError, KeyError, TypeError) as error:
            self.fault = message(
                "drafts.broken-model", model=folder.name, reason=_first_line(error)
            )
            return
        if not self._many and self._pair is None:
            self.fault = message("drafts.model-of-no-languages", model=folder.name)
        elif not (_there(folder, _SOURCE_PIECES) and _there(folder, _TARGET_PIECES)):
            self.fault = message("drafts.model-without-pieces", model=folder.name)

    def knows(self, source: str, target: str) -> bool:
        pair = source.split("-")[0].lower(), target.split("-")[0].lower()
        return self.fault is None and (
            pair == self._pair or (pair[0] != pair[1] and set(pair) <= self._many)
        )

    def drafts(self, wanted: Sequence[Wanted], known: Known) -> Iterator[Draft | None]:
        """Sentences that go on over captions are translated whole, and then parted as these are."""
        try:
            translator, source, target = _opened(self.folder)
            passages = passages_of(wanted, known.language)
            came: dict[int, str] = {}
            done = 0
            for at in range(0, len(passages), _AT_ONCE):
                some = passages[at : at + _AT_ONCE]
                texts = self._translated(translator, source, target, some, known)
                for passage, text in zip(some, texts, strict=True):
                    parts = parted_like(text, [len(one.text) for one in passage], known.target)
                    came |= {id(one): part for one, part in zip(passage, parts, strict=True)}
                last = some[-1][-1]
                while done < len(wanted):
                    one = wanted[done]
                    done += 1
                    text = came.pop(id(one), "")
                    yield Draft(text, self.title) if text else None
                    if one is last:
                        break
            for _ in wanted[done:]:
                yield None
        except (RuntimeError, ValueError, OSError) as error:
            raise EngineError(
                message("drafts.broken-model", model=self.title, reason=_first_line(error))
            ) from None

    def _translated(
        self,
        translator: ctranslate2.Translator,
        source: sentencepiece.SentencePieceProcessor,
        target: sentencepiece.SentencePieceProcessor,
        passages: Sequence[Sequence[Wanted]],
        known: Known,
    ) -> list[str]:
        pieces = [
            source.encode(" ".join(one.text for one in passage if one.text), out_type=str)
            for passage in passages
        ]
        end = [] if _adds_its_end(self.folder) else [_END]
        prefix = None
        if self._many:
            first = [f"__{known.language.split('-')[0].lower()}__"]
            prefix = [[f"__{known.target.split('-')[0].lower()}__"]] * len(pieces)
        else:
            first = []
        longest = min(max(map(len, pieces)), _LONGEST)
        results = translator.translate_batch(
            [[*first, *found[:_LONGEST], *end] for found in pieces],
            target_prefix=prefix, beam_size=_BEAM, max_decoding_length=_GROWS_BY * longest + _AND,
        )  # fmt: skip
        texts = []
        for result in results:
            said = [p for p in result.hypotheses[0] if not _LANGUAGE_WORD.match(p) and p != _END]
            texts.append(" ".join(target.decode(said).split()))
        return texts


def _languages(folder: Path) -> tuple[tuple[str, str] | None, frozenset[str]]:
    """The pair that a model knows, or the many of its vocabulary."""
    words = _vocabulary(folder)
    many = frozenset(m[1] for word in words if (m := _LANGUAGE_WORD.match(word)))
    if len(many) > 1:
        return None, many
    told = folder / "languages.json"
    if told.is_file():
        said = json.loads(told.read_text("utf-8"))
        return (str(said["source"]).lower(), str(said["target"]).lower()), frozenset()
    named = _PAIR.search(folder.name.lower())
    return (named.group(1), named.group(2)) if named else None, frozenset()


def _vocabulary(folder: Path) -> list[str]:
    for name in _VOCABULARIES:
        if (folder / f"{name}.json").is_file():
            return [str(word) for word in json.loads((folder / f"{name}.json").read_text("utf-8"))]
        if (folder / f"{name}.txt").is_file():
            return (folder / f"{name}.txt").read_text("utf-8").splitlines()
    raise ValueError("it has no vocabulary")


def _adds_its_end(folder: Path) -> bool:
    """Whether CTranslate2 itself ends a sentence, as the model's converter said."""
    told = json.loads((folder / "config.json").read_text("utf-8"))
    return bool(told.get("add_source_eos"))


def _there(folder: Path, names: Sequence[str]) -> Path | None:
    return next((folder / name for name in names if (folder / name).is_file()), None)


@cache
def _opened(
    folder: Path,
) -> tuple[
    ctranslate2.Translator,
    sentencepiece.SentencePieceProcessor,
    sentencepiece.SentencePieceProcessor,
]:
    source, target = _there(folder, _SOURCE_PIECES), _there(folder, _TARGET_PIECES)
    return (
        ctranslate2.Translator(
            str(folder), device="cpu", compute_type="int8", intra_threads=computing_threads()
        ),
        sentencepiece.SentencePieceProcessor(model_file=str(source)),
        sentencepiece.SentencePieceProcessor(model_file=str(target)),
    )


def _first_line(error: Exception) -> str:
    return (str(error).splitlines() or [type(error).__name__])[0]
