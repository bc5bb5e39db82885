"""Engines that draft translations: a model in a folder, a service over HTTP, and what is wrong with each."""

import json
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path

import ctranslate2
import pytest
import sentencepiece
from fastapi.testclient import TestClient

from dunlin.core.language.drafts.model import Draft, Known, Wanted
from dunlin.core.language.memory.pairs import Pair
from dunlin.core.language.terms.model import TermEntry
from dunlin.core.specs.translation import Term, TermList
from dunlin.engines import EngineError
from dunlin.engines.translators import translator_called, translators
from dunlin.engines.translators.models import translation_models
from dunlin.engines.translators.service import TranslationService
from dunlin.engines.whisper import Whisper
from dunlin.settings import Settings
from dunlin.stand_ins.translation_service import translation_service
from dunlin.store.memory import Memory
from tests.translation_models import make_translation_model

SAID = [
    Wanted("Hang the bell high.", to_ms=1000),
    Wanted("The fog came in.", from_ms=5000, to_ms=6000),
]


def known(language: str = "en", target: str = "de", terms: tuple[Term, ...] = ()) -> Known:
    return Known(language, target, lambda text: [], TermList(terms, language))


@pytest.fixture(scope="module")
def models(tmp_path_factory: pytest.TempPathFactory) -> Path:
    folder = tmp_path_factory.mktemp("models")
    make_translation_model(folder / "quay-en-de")
    make_translation_model(folder / "named", pair=("de", "en"))
    make_translation_model(folder / "nameless")
    make_translation_model(folder / "many", ["en", "de", "fr"])
    broken = make_translation_model(folder / "broken-en-de")
    whole = (broken / "model.bin").read_bytes()
    (broken / "model.bin").write_bytes(whole[: len(whole) // 2])
    (make_translation_model(folder / "bare-en-de") / "target.spm").unlink()
    return folder


def by_title(folder: Path) -> dict:
    return {model.title: model for model in translation_models([folder])}


def test_models_say_what_they_translate_or_why_they_cannot(models: Path) -> None:
    found = by_title(models)
    knows = {
        title: [pair for pair in ("en de", "de en", "en fr", "en ja") if model.knows(*pair.split())]
        for title, model in found.items()
    }
    assert knows == {
        "quay-en-de": ["en de"],
        "named": ["de en"],
        "many": ["en de", "de en", "en fr"],
        "broken-en-de": ["en de"],
        "nameless": [],
        "bare-en-de": [],
    }
    assert found["nameless"].fault.code == "drafts.model-of-no-languages"
    assert found["bare-en-de"].fault.code == "drafts.model-without-pieces"
    assert not {model.name for model in Whisper([models]).models()} & set(found)


@pytest.mark.parametrize("title", ["quay-en-de", "many"])
def test_a_model_is_asked_as_it_was_taught(models: Path, title: str) -> None:
    """Against CTranslate2 and SentencePiece by hand: the words that name languages, and the end, are where they belong."""
    folder = models / title
    pieces = sentencepiece.SentencePieceProcessor(
        model_file=str(
            next(folder.glob("*s*.spm")) if title != "many" else folder / "sentencepiece.bpe.model"
        )
    )
    many = title == "many"
    first, prefix = (["__en__"], [["__de__"]]) if many else ([], None)
    translator = ctranslate2.Translator(str(folder), compute_type="int8")
    drafts = list(by_title(models)[title].drafts(SAID, known()))
    asked = [pieces.encode(one.text, out_type=str) for one in SAID]
    came = translator.translate_batch(
        [[*first, *text, "</s>"] for text in asked],
        target_prefix=prefix and prefix * 2, beam_size=4,
        max_decoding_length=3 * max(map(len, asked)) + 10,
    )  # fmt: skip
    by_hand = [
        pieces.decode([p for p in one.hypotheses[0] if p not in ("__de__", "</s>")]) for one in came
    ]
    assert [draft.text if draft else "" for draft in drafts] == [
        " ".join(t.split()) for t in by_hand
    ]
    assert any(by_hand)


def test_a_broken_model_says_so_in_one_line(models: Path) -> None:
    with pytest.raises(EngineError) as told:
        list(by_title(models)["broken-en-de"].drafts(SAID, known()))
    assert told.value.message.code == "drafts.broken-model"
    assert "\n" not in str(told.value)


def test_engines_are_called_by_name_for_languages_they_know(models: Path, tmp_path: Path) -> None:
    settings = Settings(data=tmp_path, models=models)
    names = [engine.name for engine in translators(settings)]
    assert names[0] == "memory"
    assert "model:many" in names
    assert "service" not in names
    assert translator_called("model:many", "en-GB", "de-AT", settings).title == "many"
    for name, pair, code in [
        ("nobody", ("en", "de"), "engines.unknown"),
        ("model:quay-en-de", ("en", "fr"), "drafts.not-these"),
        ("model:nameless", ("en", "de"), "drafts.model-of-no-languages"),
    ]:
        with pytest.raises(EngineError) as told:
            translator_called(name, *pair, settings)
        assert told.value.message.code == code


@contextmanager
def serving(answer: Callable[[BaseHTTPRequestHandler, dict], None]) -> Iterator[str]:
    """A server on this machine that answers as told."""

    class Handler(BaseHTTPRequestHandler):
        def do_POST(self) -> None:
            body = self.rfile.read(int(self.headers["Content-Length"]))
            answer(self, json.loads(body))

        def log_message(self, *args: object) -> None:
            pass

    server = ThreadingHTTPServer(("127.0.0.1", 0), Handler)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    try:
        yield f"http://127.0.0.1:{server.server_port}/"
    finally:
        server.shutdown()
        server.server_close()


def send(handler: BaseHTTPRequestHandler, body: bytes, status: int = 200, **headers: str) -> None:
    handler.send_response(status)
    for name, value in headers.items():
        handler.send_header(name, value)
    handler.send_header("Content-Length", str(len(body)))
    handler.end_headers()
    handler.wfile.write(body)


def test_a_service_is_sent_what_it_needs_and_its_answer_is_made_plain() -> None:
    asked = []

    def answer(handler: BaseHTTPRequestHandler, body: dict) -> None:
        asked.append((handler.headers["Authorization"], body))
        texts = ["<b>H&auml;ng</b> sie\n\nhoch.\u0007", None]
        send(handler, json.dumps({"texts": texts, "by": "Quay desk"}).encode())

    bell = Term("bell", ("Glocke",), ("Schelle",))
    with serving(answer) as address:
        service = TranslationService(address, "secret-token")
        drafts = list(service.drafts(SAID, known(terms=(bell, Term("sea", ("Meer",))))))
    assert drafts == [Draft("Häng sie hoch.", "Quay desk"), None]
    [(token, body)] = asked
    assert token == "Bearer secret-token"
    assert (body["source"], body["target"]) == ("en", "de")
    assert [text["text"] for text in body["texts"]] == [one.text for one in SAID]
    assert body["terms"] == [{"term": "bell", "translations": ["Glocke"], "forbidden": ["Schelle"]}]


@pytest.mark.parametrize(
    ("body", "status", "headers", "code"),
    [
        (b"<html>busy</html>", 200, {}, "services.nonsense"),
        (b'{"texts": [1, 2]}', 200, {}, "services.nonsense"),
        (b'{"texts": ["one", "two", "three"]}', 200, {}, "drafts.other-count"),
        (b'{"texts": ["' + b"x" * 3_000_000 + b'", null]}', 200, {}, "services.nonsense"),
        (b"", 500, {}, "services.refused"),
        (b"", 302, {"Location": "http://elsewhere.invalid/"}, "services.refused"),
    ],
)
def test_a_service_that_answers_badly(body: bytes, status: int, headers: dict, code: str) -> None:
    with serving(lambda handler, _: send(handler, body, status, **headers)) as address:
        service = TranslationService(address, "secret-token")
        with pytest.raises(EngineError) as told:
            list(service.drafts(SAID, known()))
    assert told.value.message.code == code
    assert "secret-token" not in str(told.value)


def test_a_service_that_is_gone() -> None:
    with serving(lambda handler, _: None) as address:
        pass
    with pytest.raises(EngineError) as told:
        list(TranslationService(address).drafts(SAID, known()))
    assert told.value.message.code == "services.gone"


def test_the_stand_in_translates_by_its_memory_and_terms(tmp_path: Path) -> None:
    memory = Memory(tmp_path / "memory.db")
    memory.take_in([Pair("en", "de", "The fog came in.", "Der Nebel kam.", "Fog")])
    entry = TermEntry(term="bell", language="en", translations={"de": ("Glocke",)})
    client = TestClient(translation_service(memory, [entry]))
    asked = {"source": "en", "target": "de",
             "texts": [{"text": "The fog came in."}, {"text": "Bell!"}, {"text": "Never heard."}]}  # fmt: skip
    answer = client.post("/", json=asked).json()
    assert answer["texts"] == ["Der Nebel kam.", "Glocke!", None]
    assert "tand-in" in answer["by"]
    assert client.post("/", json={"texts": "?"}).status_code == 422
    memory.close()
