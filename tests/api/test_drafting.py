"""Drafts: asked for, put in, taken back, and never over what a person has written."""

from collections.abc import Callable, Iterator

import pytest
from fastapi.testclient import TestClient

from dunlin.core.language.drafts.model import Draft
from dunlin.core.language.memory.pairs import Pair
from dunlin.jobs.context import JobContext
from dunlin.jobs.drafting import draft_translation
from dunlin.media.ffmpeg import Cancelled
from dunlin.settings import Settings
from dunlin.store.log import Author
from dunlin.work.drafting import put_drafts
from dunlin.work.folder import DataFolder, open_folder
from tests.api.translations import OTHER, SAID, Translation, spoken_project
from tests.translation_models import make_translation_model


@pytest.fixture
def german(client: TestClient, new_project: Callable[..., dict]) -> Translation:
    return Translation(client, spoken_project(client, new_project))


@pytest.fixture
def folder(data_settings: Settings, german: Translation) -> Iterator[DataFolder]:
    opened = open_folder(data_settings)
    opened.memory.take_in(
        [
            Pair("en", "de", "It weighs 399 kilos.", "Sie wiegt 399 Kilo.", "Low Water"),
            Pair("en", "de", "Hang it high.", "Häng sie hoch.", "Low Water"),
        ]
    )
    yield opened
    opened.memory.close()


def ask(german: Translation, engine: str = "memory", **more):
    address = f"/api/tracks/{german.track}/translation/drafts"
    return german.client.post(address, json={"engine": engine} | more)


def done(folder: DataFolder, answer) -> dict:
    assert answer.status_code == 202, answer.text
    return draft_translation(JobContext(folder.jobs.get(answer.json()["id"]), folder))


def texts(german: Translation) -> list[str]:
    return ["".join(span["text"] for span in c["spans"]) for c in german.captions()]


def links(german: Translation) -> list[dict]:
    read = german.read()["links"]
    return [read[caption["id"]] for caption in german.captions()]


def test_all_that_is_empty_is_drafted_of_memory_and_marked_as_drafts(
    german: Translation, folder: DataFolder
) -> None:
    assert done(folder, ask(german))["put"] == 2
    assert texts(german) == ["", "Sie wiegt 412 Kilo.", "Häng sie hoch."]
    nothing, repaired, _ = links(german)
    assert nothing["progress"] is None
    assert (repaired["progress"], repaired["origin"]) == ("draft", "Low Water")
    assert (repaired["drafted"], repaired["said"]) == ("Sie wiegt 412 Kilo.", SAID[1])
    # One gesture: one step back takes all of it.
    german.undo(f"tracks/{german.track}/captions", f"tracks/{german.track}/links")
    assert texts(german) == ["", "", ""]
    assert [link["progress"] for link in links(german)] == [None] * 3


def test_nothing_is_put_over_what_a_person_wrote(german: Translation, folder: DataFolder) -> None:
    german.write(2, "Ganz nach oben damit.")
    asked = ask(german)
    # Written after it was asked for, in another window.
    german.write(1, "412 Kilo wiegt sie.")
    assert done(folder, asked)["put"] == 0
    assert texts(german)[1:] == ["412 Kilo wiegt sie.", "Ganz nach oben damit."]


def test_words_written_while_drafts_are_put_in_stay(
    german: Translation, folder: DataFolder, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Another window writes between the reading of the track and the writing of the drafts."""
    project = folder.projects.get(german.project["id"])
    first, second, third = (caption["id"] for caption in german.captions())
    edit, written = folder.log.edit, []

    def late(*given, **more):
        if not written:
            written.append(german.write(0, "Ich hatte eine Zeichnung."))
            assert written[0].status_code == 200
        return edit(*given, **more)

    monkeypatch.setattr(folder.log, "edit", late)
    drafts = {id_: Draft(f"Entwurf {id_}", "x") for id_ in (first, second, third)}
    assert put_drafts(folder, project, german.track, drafts, Author("me"), "job") == 2
    assert texts(german) == ["Ich hatte eine Zeichnung.", f"Entwurf {second}", f"Entwurf {third}"]


def test_a_draft_that_nobody_has_written_in_is_drafted_anew_and_a_confirmed_one_is_not(
    german: Translation, folder: DataFolder
) -> None:
    done(folder, ask(german))
    ids = [caption["id"] for caption in german.captions()]
    folder.memory.take_in([Pair("en", "de", SAID[1], "412 Kilo sind es.", "newer", 5)])
    assert done(folder, ask(german, captions=[ids[1]], anew=True))["put"] == 1
    assert texts(german)[1] == "412 Kilo sind es."
    german.write(1, "Die wiegt 412 Kilo!")
    german.progress({ids[2]: "done"})
    assert ask(german, captions=ids[1:], anew=True).json()["code"] == "drafts.nothing-to-draft"


def test_drafts_that_came_before_it_was_called_off_stay(
    german: Translation, folder: DataFolder, monkeypatch: pytest.MonkeyPatch
) -> None:
    asked = ask(german)
    context = JobContext(folder.jobs.get(asked.json()["id"]), folder)
    monkeypatch.setattr(context, "cancelled", lambda: True)
    with pytest.raises(Cancelled):
        draft_translation(context)
    assert sum(map(bool, texts(german))) == 1


def test_a_model_in_a_folder_drafts_and_breaks_lines_by_the_spec(
    german: Translation, folder: DataFolder
) -> None:
    make_translation_model(folder.settings.data / "models" / "quay-en-de")
    listed = german.client.get(f"/api/tracks/{german.track}/translators").json()
    assert "model:quay-en-de" in [one["name"] for one in listed]
    result = done(folder, ask(german, "model:quay-en-de"))
    assert result["put"] >= 2
    # What is remembered to the word goes before it.
    assert texts(german)[2] == "Häng sie hoch."
    by_model = [link["origin"] for link in links(german)[:2] if link["origin"]]
    assert set(by_model) == {"quay-en-de"}


@pytest.mark.parametrize(
    ("engine", "code"),
    [
        ("nobody", "engines.unknown"),
        ("speech-in-english", "drafts.not-these"),
        ("service", "engines.unknown"),
    ],
)
def test_an_engine_that_is_not_there_or_does_not_know_the_languages(
    german: Translation, engine: str, code: str
) -> None:
    answer = ask(german, engine)
    assert (answer.status_code, answer.json()["code"]) == (422, code)


def test_there_is_nothing_to_draft_without_a_source(german: Translation) -> None:
    german.client.put(f"/api/tracks/{german.track}/translation", json={"source": None})
    assert ask(german).json()["code"] == "drafts.no-source"
    assert german.client.get(f"/api/tracks/{german.track}/translators").json() == []


def test_drafts_of_one_person_are_not_taken_back_by_another(
    german: Translation, folder: DataFolder
) -> None:
    done(folder, ask(german))
    address = f"/api/projects/{german.project['id']}/undo"
    body = {"targets": [f"tracks/{german.track}/captions"]}
    assert german.client.post(address, json=body, headers=OTHER).status_code == 204
    assert texts(german)[2]
