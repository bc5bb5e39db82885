"""A film in a language that nobody named: told by its sound, and written down in English beside it."""

import subprocess
from pathlib import Path

from tests.server import wait_for
from tests.ui.page import Page

SPANISH = (
    "Hoy vamos a hablar de la campana de niebla que cuelga en el puerto desde hace cien años."
    " Los pescadores la escuchan cada mañana cuando salen al mar."
)


def test_a_language_is_told_by_its_sound_and_drafted_in_english(page: Page, tmp_path: Path) -> None:
    sound = tmp_path / "campana.wav"
    subprocess.run(["espeak-ng", "-v", "es", "-s", "140", "-w", str(sound), SPANISH], check=True)
    project = page.new_project(sound)
    page.server.wait_idle()
    page.open_project(project, "transcribe")
    page.click("[data-auto-language]")
    page.click("[data-quick]")
    page.click("[data-recognise]")
    page.wait_text("[data-notice=told]", "Spanish")
    page.wait_text("[data-transcript]", "campana")
    page.click("[data-as-english]")
    page.find("[data-notice=draft]")
    page.click("[data-open-draft]")
    page.card(1)
    tracks = page.server.get(f"/api/projects/{project['id']}")["tracks"]
    assert [track["language"] for track in tracks] == ["es", "en"]
    drafted = wait_for(
        lambda: page.script("return document.querySelector('.card').innerText.toLowerCase()"),
        "the draft's first card",
    )
    assert {"today", "talk", "bell", "fog", "we", "port"} & set(drafted.replace(",", "").split())
