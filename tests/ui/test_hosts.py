"""Films taken from a host and captions sent back there, by keys; and the host's own pages as viewers and its keeper use them."""

from collections.abc import Iterator

import pytest
from selenium.webdriver import ActionChains, Keys
from selenium.webdriver.support.ui import Select

from tests.hosts.program import HostProgram
from tests.server import wait_for
from tests.ui.page import Page
from tests.ui.test_access import violations, violations_by_day_and_night
from tests.ui.test_packing import added, state

GERMAN = (
    b"WEBVTT\n\n00:00.500 --> 00:03.000\nDas ist Quillan Point,\nam letzten Tag des Februars.\n"
)


@pytest.fixture(scope="module")
def host(tmp_path_factory: pytest.TempPathFactory) -> Iterator[HostProgram]:
    host = HostProgram(tmp_path_factory.mktemp("host"), "--demo")
    yield host
    host.stop()


@pytest.fixture
def visited(page: Page, host: HostProgram) -> Iterator[Page]:
    """The page, where connections made before are gone."""
    for one in page.server.get("/api/hosts"):
        page.server.http.delete(f"/api/hosts/{one['id']}")
    yield page
    host.faults()


def connect(page: Page, host: HostProgram) -> None:
    page.browser.get(f"{page.server.url}/hosts")
    page.find("[data-address]").send_keys(host.url)
    page.find("[data-token]").send_keys(host.token() + "\n")
    page.find("[data-host-film]")


def film_there(host: HostProgram, title: str) -> dict:
    return next(film for film in host.get("/api/films")["films"] if film["title"] == title)


def test_a_film_is_taken_and_captions_go_back_to_it_by_keys(
    visited: Page, host: HostProgram
) -> None:
    page = visited
    page.browser.get(page.server.url)
    page.browser.execute_script("arguments[0].focus()", page.find("[data-from-host]"))
    page.press("ENTER")
    page.find("[data-address]").send_keys(host.url)
    page.find("[data-token]").send_keys("none" + "\n")
    page.wait_text("[data-connect-problem]", "does not know this token")
    page.find("[data-token]").clear()
    page.find("[data-token]").send_keys(host.token() + "\n")
    page.find("[data-host-film]")
    page.find("[data-search]").send_keys("quillan")
    wait_for(lambda: len(page.all("[data-host-film]")) == 1, "the one film")
    page.browser.execute_script("arguments[0].focus()", page.find("[data-take]"))
    page.press("ENTER")
    wait_for(lambda: "/transcribe" in page.browser.current_url, "the project")
    project = page.browser.current_url.split("/project/")[1].split("/")[0]
    page.server.wait_for_job(project, "fetch", "done", "failed")
    page.press("Alt+6")
    page.find("[data-list-begin]")
    page.press("n")
    page.find("[data-list-name]")
    added(page, "webvtt")
    # Captions that people made came along with the film; they are mended here, and go back.
    track = page.server.get(f"/api/projects/{project}")["tracks"][0]["id"]
    first = page.server.get(f"/api/tracks/{track}")["captions"][0]["id"]
    change = {
        "kind": "change-captions",
        "changes": [{"caption": first, "text": "This is the point."}],
    }
    body = {"base_revision": 10_000, "gesture": "mend", "operation": change}
    page.server.post(f"/api/tracks/{track}/edits", json=body)
    Select(page.find("[data-dial='send-to']")).select_by_index(1)
    page.find("[data-dial='film-there']")
    wait_for(lambda: "to Strandline" in page.find("[data-item]").text, "where it goes")
    page.press("ESCAPE", "m")
    wait_for(lambda: state(page, 0) == "same", "the captions to be sent")
    assert "sent" in page.find("[data-item]").text
    film = film_there(host, "The Fog Bell at Quillan Point")
    words = host.http.get(f"/api/films/{film['id']}/tracks/en").text
    assert "This is the point." in words
    # Somebody changes them there: the list says so, and they go over that only when asked to.
    version = {"If-Match": f'"{film["tracks"][0]["version"]}"'}
    host.http.put(f"/api/films/{film['id']}/tracks/en", content=GERMAN, headers=version)
    page.browser.refresh()
    page.wait_text("[data-item]", "changed on the host since")
    assert state(page, 0) == "open"
    page.click("[data-item]")
    page.press("Shift+m")
    wait_for(lambda: state(page, 0) == "same", "them to be sent anew")
    assert host.http.get(f"/api/films/{film['id']}/tracks/en").text == words
    # Where it can be read there.
    there = page.find("[data-page-there]").get_attribute("href")
    page.browser.get(there)
    page.find("[data-words]")


def test_a_host_that_fails_says_so_and_is_asked_again(visited: Page, host: HostProgram) -> None:
    page = visited
    connect(page, host)
    host.faults(refuse=500)
    page.find("[data-search]").send_keys("low")
    page.wait_text("[role=alert]", "goes wrong")
    host.faults()
    page.click("[role=alert] button")
    wait_for(lambda: not page.all("[role=alert]"), "the films")
    page.click("[data-disconnect]")
    page.click("[data-disconnect-now]")
    page.find("[data-address]")
    assert page.server.get("/api/hosts") == []


def test_viewers_turn_words_on_read_larger_and_in_another_language(
    page: Page, host: HostProgram
) -> None:
    film = film_there(host, "The Fog Bell at Quillan Point")
    address = f"/api/films/{film['id']}/tracks/de"
    draft = host.http.put(address, content=GERMAN).json()
    english = f"/api/films/{film['id']}/tracks/en"
    host.http.patch(english, json={"is_open": True}).raise_for_status()
    page.browser.get(f"{host.url}/film/{film['id']}")
    page.find("[data-language='en'] input:checked")
    assert not page.all("[data-language='de']")
    # A draft is seen by whoever has the address of its proof.
    page.browser.get(draft["page"])
    page.find("[data-language='de'] input:checked")
    page.browser.execute_script("document.querySelector('video').currentTime = 1")
    page.wait_text("[data-words]", "am letzten Tag des Februars.")
    size = "return parseFloat(getComputedStyle(document.querySelector('[data-words] p')).fontSize)"
    before = page.browser.execute_script(size)
    keys = ActionChains(page.browser)
    keys.send_keys("+").perform()
    wait_for(lambda: page.browser.execute_script(size) > before * 1.1, "larger words")
    keys.send_keys("w").perform()
    wait_for(lambda: not page.find("[data-words]").text, "no words")
    keys.send_keys("w").perform()
    page.wait_text("[data-words]", "Quillan Point")
    page.click("[data-track='de'] button")
    page.find("[data-track='de'][data-open='true']")
    page.browser.get(f"{host.url}/film/{film['id']}")
    page.find("[data-language='de']")
    ActionChains(page.browser).send_keys("n").perform()
    host.http.delete(address).raise_for_status()


def test_the_host_makes_captions_of_its_own_and_tokens(page: Page, host: HostProgram) -> None:
    film = film_there(host, "Low Water")
    page.browser.get(f"{host.url}/film/{film['id']}")
    page.click("[data-machine]")
    page.find("[data-track='en']")
    page.wait_text("[data-language='en']", "by machine")
    page.browser.get(f"{host.url}/programs")
    page.find("[data-token-form]")
    page.browser.find_element("css selector", "[data-token-form] input[type=text]").send_keys(
        " here" + Keys.ENTER
    )
    token = wait_for(lambda: page.find("[data-token]").text, "a token")
    assert host.client(token).account().name == "Dunlin here"


def test_axe_finds_nothing_serious_on_the_host_and_on_its_films_here(
    visited: Page, host: HostProgram
) -> None:
    page = visited
    connect(page, host)
    assert violations_by_day_and_night(page) == []
    film = film_there(host, "The Fog Bell at Quillan Point")
    for path in ("/", f"/film/{film['id']}", "/programs"):
        page.browser.get(f"{host.url}{path}")
        page.find("table")
        assert violations(page) == []
