"""Tracks in short form, looks that are kept, and what other windows do in between."""

from collections.abc import Callable

import pytest
from fastapi.testclient import TestClient

from dunlin.core.short.looks import shipped_looks, write_look
from dunlin.store.log import Author
from dunlin.work.transcript import take_words
from tests.unit.short.heard import TALK, heard

Look = dict


@pytest.fixture
def project(client: TestClient, new_project: Callable[..., dict]) -> dict:
    made = new_project()
    here = client.app.state.services
    take_words(here, here.projects.get(made["id"]), heard(TALK), Author("tab"))
    return made


class Short:
    """A track, by the requests of a page in short form."""

    def __init__(self, client: TestClient, project: dict) -> None:
        self.client, self.project = client, project
        self.address = f"/api/tracks/{project['tracks'][0]['id']}"

    def captions(self) -> list[dict]:
        return self.client.get(self.address).json()["captions"]

    def texts(self) -> list[str]:
        return ["".join(s["text"] for s in c["spans"]).replace("\n", " ") for c in self.captions()]

    def revision(self) -> int:
        return self.client.get(self.address).json()["revision"]

    def state(self) -> dict:
        return self.client.get(f"{self.address}/short").json()

    def set_in(self, look: Look, base: int | None = None, **more):
        body = {"base_revision": self.revision() if base is None else base, "gesture": "g"}
        return self.client.post(f"{self.address}/short", json={**body, "look": look, **more})

    def do(self, caption: str, offset: int, deed: str, base: int | None = None, **known):
        body = {
            "base_revision": self.revision() if base is None else base,
            "gesture": f"{deed}{offset}",
        }
        body |= {"caption": caption, "offset": offset, "deed": deed, "known": known or None}
        return self.client.post(f"{self.address}/short/words", json=body)


@pytest.fixture
def short(client: TestClient, project: dict) -> Short:
    return Short(client, project)


def look_called(client: TestClient, called: str, **changes) -> Look:
    looks = {each["look"]["name"]: each["look"] for each in client.get("/api/looks").json()}
    return {**looks[called], **changes}


def test_a_track_is_set_in_a_look_with_its_words_style_and_default(
    client: TestClient, short: Short
) -> None:
    assert short.state()["look"] is None
    assert short.set_in(look_called(client, "Ferry")).status_code == 200
    assert " ".join(short.texts()).split() == TALK.split()
    (track,) = client.get(f"/api/projects/{short.project['id']}").json()["tracks"]
    assert (track["style"], track["spec_id"]) == ("Ferry", "vertical-short")
    state = short.state()
    assert (state["look"], state["words"]) == ("Ferry", len(TALK.split()))
    assert 0 < state["weighty"] <= 0.13 * state["words"]
    assert [len(example.split()) for example in state["examples"]][:2] == [1, 2]
    # Undone in one step, with all of it.
    targets = [f"tracks/{track['id']}/captions", "tracks", "styles"]
    undone = client.post(f"/api/projects/{short.project['id']}/undo", json={"targets": targets})
    assert undone.status_code == 200
    (track,) = client.get(f"/api/projects/{short.project['id']}").json()["tracks"]
    assert (track["style"], track["spec_id"], short.captions()) == (None, None, [])


def test_lines_of_captions_that_are_told_are_read_apart(client: TestClient, short: Short) -> None:
    short.set_in(look_called(client, "Dye"))
    first, *_ = short.captions()
    assert first["script"] is None
    drawn = client.post(f"{short.address}/drawn", json={"captions": [first["id"], "nobody"]}).json()
    assert list(drawn["lines"]) == [first["id"]]
    assert drawn["lines"][first["id"]].count("Dialogue") > 5


def test_another_rhythm_changes_captions_and_no_words(client: TestClient, short: Short) -> None:
    short.set_in(look_called(client, "Ferry"))
    before = short.texts()
    ids = [caption["id"] for caption in short.captions()]
    first = short.captions()[0]["id"]
    short.do(first, 0, "set", emphasis=2)
    short.set_in(look_called(client, "Ferry", rhythm={"by": "amount", "amount": 1}))
    assert " ".join(short.texts()) == " ".join(before)
    assert short.texts() == TALK.split()
    # A caption that begins with the same word is the same one, and what somebody set stays.
    assert set(ids) <= {caption["id"] for caption in short.captions()}
    assert short.captions()[0]["spans"][0]["spoken"]["emphasis"] == 2


def test_words_are_carried_and_left_out(client: TestClient, short: Short) -> None:
    short.set_in(look_called(client, "Ferry", rhythm={"by": "amount", "amount": 2}))
    second = short.captions()[1]["id"]
    before = short.texts()
    assert short.do(second, 0, "carry-back").status_code == 200
    assert short.texts()[0] == f"{before[0]} {before[1].split()[0]}"
    assert short.do(short.captions()[0]["id"], 0, "leave-out").status_code == 200
    assert "They" not in " ".join(short.texts()).split()
    words = client.get(f"/api/projects/{short.project['id']}/words").json()["words"]
    assert words[0]["text"] == "They"


def test_what_another_window_touched_in_between_is_not_written_over(
    client: TestClient, short: Short
) -> None:
    short.set_in(look_called(client, "Ferry"))
    seen = short.revision()
    first = short.captions()[0]["id"]
    edit = {"kind": "change-captions", "changes": [{"caption": first, "text": "Somebody hung"}]}
    body = {"base_revision": seen, "gesture": "elsewhere", "operation": edit}
    other = {"Dunlin-Window": "other", "Dunlin-Person": "other"}
    assert client.post(f"{short.address}/edits", json=body, headers=other).status_code == 200
    assert short.do(first, 0, "leave-out", base=seen).status_code == 409
    refused = short.set_in(
        look_called(client, "Ferry", rhythm={"by": "amount", "amount": 1}), base=seen
    )
    assert refused.status_code == 409
    assert short.texts()[0].startswith("Somebody hung")


def test_a_style_that_another_window_changed_is_not_written_over(
    client: TestClient, short: Short
) -> None:
    look = look_called(client, "Ferry")
    short.set_in(look)
    address = f"/api/projects/{short.project['id']}/styles"
    seen = client.get(address).json()["revision"]
    other = {"Dunlin-Window": "other", "Dunlin-Person": "other"}
    changed = {"look": {**look["style"], "colour": "#C0FFEE"}}
    assert client.put(f"{address}/Ferry", json=changed, headers=other).status_code == 200
    # Another size, of the style as it was before.
    mine = {**look, "style": {**look["style"], "size": 0.05}}
    assert short.set_in(mine, styles_revision=seen).status_code == 409
    (style,) = client.get(address).json()["styles"]
    assert style["look"]["colour"] == "#C0FFEE"
    # Another rhythm says nothing of the style, but brings it along: it is refused just so, and made anew of what there is.
    rhythm = {**look, "rhythm": {"by": "amount", "amount": 1}}
    assert short.set_in(rhythm, styles_revision=seen).status_code == 409
    rhythm["style"] = style["look"]
    newest = client.get(address).json()["revision"]
    assert short.set_in(rhythm, styles_revision=newest).status_code == 200


def test_an_edit_whose_answer_was_lost_is_done_once(client: TestClient, short: Short) -> None:
    look = look_called(client, "Ferry")
    body = {"base_revision": short.revision(), "gesture": "g", "look": look}
    answers = [
        client.post(f"{short.address}/short", json=body, headers={"Idempotency-Key": "k1"})
        for _ in range(2)
    ]
    # Asked again, all is so already.
    assert [answer.status_code for answer in answers] == [200, 204]
    assert short.revision() == answers[0].json()["revision"]


def test_captions_that_are_locked_stay(client: TestClient, short: Short) -> None:
    short.set_in(look_called(client, "Ferry"))
    kept = short.captions()[1]
    edit = {"kind": "change-captions", "changes": [{"caption": kept["id"], "locked": True}]}
    body = {"base_revision": short.revision(), "gesture": "lock", "operation": edit}
    client.post(f"{short.address}/edits", json=body)
    short.set_in(look_called(client, "Ferry", rhythm={"by": "amount", "amount": 1}))
    now = next(caption for caption in short.captions() if caption["id"] == kept["id"])
    assert now["spans"] == kept["spans"]
    assert (now["in_ms"], now["out_ms"]) == (kept["in_ms"], kept["out_ms"])


def test_without_words_there_is_nothing_to_set(
    client: TestClient, new_project: Callable[..., dict]
) -> None:
    empty = Short(client, new_project())
    refused = empty.set_in(look_called(client, "Ferry"))
    assert refused.status_code == 422
    assert refused.json()["code"] == "looks.nothing-said"
    assert empty.do("nobody", 0, "break").json()["code"] == "looks.not-in-one"


def test_looks_are_kept_and_one_is_that_of_upright_films(client: TestClient) -> None:
    own = look_called(client, "Ferry", name="Ours")
    client.put("/api/looks", json={"look": own, "default": True})
    first, *others = client.get("/api/looks").json()
    assert (first["look"]["name"], first["kept"], first["default"]) == ("Ours", True, True)
    assert not any(each["default"] for each in others)
    file = client.get("/api/look-file", params={"name": "Ours"})
    assert client.delete("/api/looks/Ours").status_code == 204
    assert client.delete("/api/looks/Ours").status_code == 404
    assert "Ours" not in [each["look"]["name"] for each in client.get("/api/looks").json()]
    assert client.post("/api/look-file", content=file.content).status_code == 200
    assert client.get("/api/looks").json()[0]["look"]["style"] == first["look"]["style"]


@pytest.mark.parametrize(
    ("change", "code"),
    [
        (lambda file: file.replace(b'"version": 1', b'"version": 2'), "looks.newer"),
        (lambda file: file.replace(b'"rhythm"', b'"rhythms"'), "looks.file-wrong"),
        (lambda file: file[:100], "looks.file-wrong"),
        (lambda file: b"", "looks.file-wrong"),
    ],
)
def test_a_look_file_that_cannot_be_read_is_told(client: TestClient, change, code: str) -> None:
    data = change(write_look(shipped_looks()["ferry"]))
    refused = client.post("/api/look-file", content=data)
    assert (refused.status_code, refused.json()["code"]) == (422, code)
    assert not any(each["kept"] for each in client.get("/api/looks").json())


def test_looks_are_drawn_with_words_of_the_film(client: TestClient, short: Short) -> None:
    drawn = client.get(f"{short.address}/look-specimens", params={"near_ms": 0}).json()
    assert len(drawn["names"]) == len(shipped_looks())
    assert "hung" in drawn["script"]
    assert 1000 < drawn["loop_ms"] < 10_000


def put_heading(short: Short, text: str, base: int | None = None, **more):
    body = {"base_revision": short.revision() if base is None else base, "gesture": text or "-"}
    headers = more.pop("headers", {})
    body |= {"text": text, "style": "Heading", **more}
    return short.client.put(f"{short.address}/heading", json=body, headers=headers)


def headings_of(short: Short) -> list[dict]:
    return [c for c in short.captions() if c["style"] == "Heading"]


def test_a_heading_is_proposed_put_rewritten_and_taken_away(short: Short) -> None:
    assert put_heading(short, "Too early").status_code == 422
    short.set_in(look_called(short.client, "Foghorn"))
    proposed = short.client.get(f"{short.address}/headings").json()
    assert proposed
    assert put_heading(short, proposed[0]["text"]).status_code == 200
    [made] = headings_of(short)
    assert made["locked"]
    assert made["in_ms"] == 0
    # No rhythm takes it, and it stands within what is seen.
    words = len(short.captions())
    short.set_in(look_called(short.client, "Pencil"))
    assert headings_of(short)[0]["id"] == made["id"]
    assert len(short.captions()) > words
    long = "Nobody who was alive had heard it ring before that evening"
    assert put_heading(short, long, instead=made["id"]).status_code == 200
    [other] = headings_of(short)
    text = "".join(span["text"] for span in other["spans"])
    assert text.count("\n") == 1
    assert text.replace("\n", " ") == long
    assert other["id"] not in [one["caption"] for one in short.state()["tight"]]
    assert put_heading(short, "", instead=other["id"]).status_code == 200
    assert headings_of(short) == []
    assert put_heading(short, "").status_code == 204


def test_a_heading_of_another_window_is_not_joined_by_a_second(short: Short) -> None:
    short.set_in(look_called(short.client, "Foghorn"))
    seen = short.revision()
    other = {"Dunlin-Window": "other", "Dunlin-Person": "other"}
    assert put_heading(short, "Low water", seen, headers=other).status_code == 200
    assert put_heading(short, "High water", seen).status_code == 409
    [one] = headings_of(short)
    assert one["spans"][0]["text"] == "Low water"
    again = {"Idempotency-Key": "h1"}
    for _ in range(2):
        done = put_heading(short, "High water", instead=one["id"], headers=again)
        assert done.status_code == 200
    assert len(headings_of(short)) == 1
