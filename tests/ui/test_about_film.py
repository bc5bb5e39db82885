"""Words about the film, by keys: begun, made otherwise, written by hand, made clips, and questions asked."""

from tests.server import wait_for
from tests.ui.page import Page
from tests.ui.test_access import violations_by_day_and_night

SAID = [
    "I had one drawing, and a letter.", "It weighs 412 kilos.", "Nobody alive had heard it ring.",
    "We hung it at low water in March.", "The first rope broke before noon.", "Nobody was hurt that day.",
]  # fmt: skip


def spoken(page: Page, films) -> dict:
    captions = [
        {"id": f"s{n}", "in_ms": n * 1200, "out_ms": n * 1200 + 1100, "spans": [{"text": text}]}
        for n, text in enumerate(SAID)
    ]
    return page.new_project(films["short"], captions)


def opened(page: Page, project: dict) -> None:
    page.open_project(project, "deliver")
    page.find("[data-list='about']")
    page.press("]")
    page.find("[data-about-begin]")


def begun(page: Page, films) -> dict:
    """A project whose words about the film were written."""
    project = spoken(page, films)
    opened(page, project)
    page.press("Shift+a")
    page.find("[data-piece=title]")
    return project


def current(page: Page) -> str:
    return page.find("[data-about-film] li[aria-current=true]").text


def texts(page: Page, kind: str) -> list[str]:
    return [one.text for one in page.all(f"[data-piece={kind}] .text")]


def go_to(page: Page, kind: str) -> None:
    for _ in range(40):
        if page.find("[data-about-film] li[aria-current=true]").get_attribute("data-piece") == kind:
            return
        page.press("ARROW_DOWN")
    raise AssertionError(kind)


def test_pieces_are_begun_made_otherwise_written_and_kept(page: Page, films) -> None:
    begun(page, films)
    go_to(page, "short")
    [before] = texts(page, "short")
    assert before in SAID
    page.press("a")
    wait_for(lambda: texts(page, "short") != [before], "another one")
    [other] = texts(page, "short")
    assert other in SAID
    page.press("+")
    wait_for(lambda: len(texts(page, "short")[0]) > len(other), "a longer one")
    page.press("-")
    wait_for(lambda: texts(page, "short") == [other], "it to be as it was")
    page.press("ENTER")
    page.find("[data-piece=short] textarea")
    page.type(" Written by hand.\n")
    wait_for(lambda: texts(page, "short") == ["Written by hand."], "what was written")
    page.press("DELETE")
    wait_for(lambda: not page.all("[data-piece=short]"), "it to be gone")
    page.press("Ctrl+z")
    wait_for(lambda: texts(page, "short") == ["Written by hand."], "it to be back")
    page.browser.refresh()
    page.find("[data-list='about']").click()
    wait_for(lambda: texts(page, "short") == ["Written by hand."], "what was kept")


def test_a_passage_becomes_a_film_on_the_list_and_questions_are_answered(page: Page, films) -> None:
    project = spoken(page, films)
    opened(page, project)
    page.press("Shift+a")
    page.find("[data-piece=passage]")
    go_to(page, "passage")
    page.press("c")
    page.wait_text("[data-about-film] [role=status]", "on the packing list Clips")
    address = f"/api/projects/{project['id']}/deliveries"
    [named] = page.server.get(address)["deliveries"]
    [item] = page.server.get(f"{address}/{named['id']}")["items"]
    piece = next(
        one["piece"]
        for one in page.server.get(f"/api/projects/{project['id']}/about")["pieces"]
        if one["piece"]["kind"] == "passage"
    )
    passage = item["item"]["thing"]["encoding"]["passage"]
    assert passage["from_ms"] == piece["said"][0]["from_ms"]
    page.press("q")
    page.type("how many kilos\n")
    page.wait_text("[data-answer]", "It weighs 412 kilos.")
    page.press("ENTER")
    wait_for(
        lambda: page.script("return document.querySelector('video').currentTime") > 1,
        "it to be heard",
    )


def test_a_film_in_which_nothing_is_said_says_what_to_do(page: Page, films) -> None:
    page.open_project(page.new_project(films["silent"], []), "deliver")
    page.find("[data-list='about']").click()
    page.wait_text("[data-about-film]", "Nothing is said here yet")


def test_axe_finds_nothing_serious_in_the_words_about_a_film(page: Page, films) -> None:
    opened(page, spoken(page, films))
    page.press("Shift+a")
    page.find("[data-piece=passage]")
    assert violations_by_day_and_night(page) == []


def test_what_is_written_by_hand_is_not_lost_to_another_window(page: Page, films) -> None:
    project = begun(page, films)
    go_to(page, "short")
    about = f"/api/projects/{project['id']}/about"

    def elsewhere() -> dict:
        return page.server.get(about)

    def write(words: str) -> None:
        page.press("ENTER")
        page.find("[data-piece=short] textarea")
        page.type(words)

    # Another window asks for another one meanwhile: what is typed stays under the hand, and is told.
    write("Mine.")
    said_at = page.find("[data-piece=short] .time").text
    found = elsewhere()
    short = next(one for one in found["pieces"] if one["piece"]["kind"] == "short")
    body = {"how": "another", "base_revision": found["revision"]}
    theirs = page.server.post(f"{about}/{short['id']}", json=body)
    [other] = [one["piece"]["text"] for one in theirs["pieces"] if one["id"] == short["id"]]
    wait_for(lambda: page.find("[data-piece=short] .time").text != said_at, "their change to come")
    assert page.find("[data-piece=short] textarea").get_property("value") == "Mine."
    page.press("ENTER")
    page.wait_text("[data-left]", "You had written: Mine.")
    assert texts(page, "short") == [other]
    page.click("[data-put-left]")
    wait_for(lambda: texts(page, "short") == ["Mine."], "it to be put there")
    assert not page.all("[data-left]")

    # Another window takes it off: it can be put back with what was written.
    write("Mine again.")
    gone = {"pieces": {short["id"]: None}, "base_revision": elsewhere()["revision"]}
    page.server.http.put(about, json=gone).raise_for_status()
    page.wait_text("[data-left]", "You had written: Mine again.")
    assert not page.all("[data-piece=short]")
    page.click("[data-put-left]")
    wait_for(lambda: texts(page, "short") == ["Mine again."], "it to be back")
    kept = {one["piece"]["text"] for one in elsewhere()["pieces"]}
    assert "Mine again." in kept


def test_what_cannot_be_stored_waits_and_is_told(page: Page, films) -> None:
    project = begun(page, films)
    page.wait_text("[data-saved]", "Saved")
    count = len(texts(page, "title"))
    with page.offline():
        page.press("DELETE")
        page.find("[data-unsaved]")
        assert "Saved" not in page.find("[data-saved]").text
    page.wait_text("[data-saved]", "Saved")
    pieces = page.server.get(f"/api/projects/{project['id']}/about")["pieces"]
    assert sum(one["piece"]["kind"] == "title" for one in pieces) == count - 1
