"""The server and its worker as processes, and the demo project."""

import logging
import os
import shutil
import signal
import subprocess
import sys
import threading
from collections.abc import Set
from contextlib import suppress
from dataclasses import asdict, replace
from pathlib import Path

import uvicorn

from dunlin.api import create_app
from dunlin.api.services import Services, open_services
from dunlin.core.captions import InsertCaptions
from dunlin.core.formats import Context, read_file
from dunlin.core.project import captions_of
from dunlin.core.specs import read_spec
from dunlin.core.speech.transcript_files import words_of_json
from dunlin.core.styles.file import read_styles
from dunlin.jobs.queue import JobQueue, begin_jobs
from dunlin.media.probe import probe
from dunlin.settings import Settings
from dunlin.store.films import Film
from dunlin.store.log import Author, Step
from dunlin.store.projects import Project, UnknownProject
from dunlin.work.folder import open_folder
from dunlin.work.short import do_to_word, make_short, usual_look
from dunlin.work.specs import keep_spec
from dunlin.work.styles import give_speaker_style, keep_styles, styles_of_file
from dunlin.work.transcript import take_words

__all__ = ["serve", "work"]

_SOURCES = Path(__file__).parent.parent.parent / "demo"
_PACKAGED = Path(__file__).parent / "demo"
_DEMO = _PACKAGED if _PACKAGED.is_dir() else _SOURCES
_SIGN = "fog-bell.sign.json"
"""The title, stuck to a sign in the picture, in a style of the demo's."""
_DUNLIN = Author("dunlin")
_LOOK_AFTER_SECONDS = 1
_BEHIND = 5
"""Niceness of a worker: what it starts, such as ffmpeg, has it too."""
_DEMO_PROJECT, _SHORT_PROJECT = "the-fog-bell-at-quillan-point", "low-water"
_SHORT_SPEAKER = "Tomas Brandt"
_SHORT_EMOJI = (("bell", "🔔", "sway"), ("rained", "🌧️", "pop"))
"""By which words of the short there is one, and how it moves."""


def serve(settings: Settings, *, host: str, port: int, demo: bool) -> None:
    """Serves until it is told to end; the worker is started again whenever it dies."""
    services = open_services(settings)
    if demo:
        _load_demo(services)
    services.engine.dispose()
    services.memory.close()
    if host not in settings.allowed_hosts:
        settings = settings.model_copy(update={"allowed_hosts": (*settings.allowed_hosts, host)})
    # uvicorn hands a signal on after it has shut down; the worker is to be ended before that ends us.
    signal.signal(signal.SIGTERM, lambda number, frame: sys.exit(0))
    ending = threading.Event()
    keeper = threading.Thread(target=_keep_worker, args=(settings, ending))
    keeper.start()
    print(f"Dunlin is at http://{host}:{port}", flush=True)
    try:
        uvicorn.run(
            create_app(settings),
            host=host,
            port=port,
            log_level="warning",
            timeout_graceful_shutdown=2,
        )
    finally:
        ending.set()
        keeper.join()


def _keep_worker(settings: Settings, ending: threading.Event) -> None:
    command = [sys.executable, "-m", "dunlin", "worker", "--tied", "--data", str(settings.data)]
    while not ending.is_set():
        process = subprocess.Popen(command, stdin=subprocess.PIPE)
        while process.poll() is None and not ending.wait(0.2):
            pass
        if process.poll() is None:
            process.terminate()
            try:
                process.wait(5)
            except subprocess.TimeoutExpired:
                process.kill()
                process.wait()


def work(settings: Settings, *, tied: bool = False) -> None:
    """Does jobs until it is told to end.

    :param tied: end also when standard input is closed, as it is when the server that holds its
        other end is killed
    """
    # Work in the background gives way to whoever types, and to the film that plays.
    os.nice(_BEHIND)
    ending = threading.Event()
    if tied:
        threading.Thread(target=_end_with_input, args=(ending,), daemon=True).start()
    logging.basicConfig(level=logging.WARNING, format="worker: %(message)s")
    folder = open_folder(settings)
    queue = JobQueue(folder)
    consumer = queue.worker()
    consumer.start()
    # In the place of the consumer's own, which would break its jobs off as if they had failed.
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, lambda number, frame: ending.set())
    while not ending.wait(_LOOK_AFTER_SECONDS):
        consumer.check_worker_health()
    # A worker that waited for its jobs to end would keep the user waiting; they are taken up again.
    try:
        queue.hand_back()
    finally:
        os._exit(0)


def _end_with_input(ending: threading.Event) -> None:
    # Read without a buffer: its lock would be missed when the process ends otherwise.
    while os.read(0, 4096):
        pass
    ending.set()


def _style_demo(services: Services, speakers: Set[str | None]) -> None:
    """Its styles, those of its speakers by their names, and three that are kept for all projects."""
    keep_styles(services, read_styles((_DEMO / "kept.styles.json").read_bytes()), _DUNLIN)
    styles = read_styles((_DEMO / "fog-bell.styles.json").read_bytes())
    if step := styles_of_file(services.projects.get(_DEMO_PROJECT), styles):
        services.log.edit(_DEMO_PROJECT, [step], _DUNLIN)
    for name in styles:
        if name in speakers:
            project = services.projects.get(_DEMO_PROJECT)
            give_speaker_style(services, project, name, name, _DUNLIN)


def _load_demo(services: Services) -> None:
    """The demo's projects: the film with its finished captions and its client's spec, and the upright short."""
    keep_spec(services, read_spec((_DEMO / "ternholm.spec.json").read_text("utf-8")), _DUNLIN)
    for id_, load in ((_DEMO_PROJECT, _load_film), (_SHORT_PROJECT, _load_short)):
        with suppress(UnknownProject):
            services.projects.needs(id_)
            continue
        load(services)


def _add_project(services: Services, id_: str, title: str, name: str) -> Project:
    folder = services.settings.films / id_
    folder.mkdir(parents=True, exist_ok=True)
    shutil.copyfile(_DEMO / name, folder / "original")
    facts = probe(folder / "original")
    film = Film(name, (folder / "original").stat().st_size, asdict(facts))
    return services.projects.add(title, film, id_=id_)


def _load_film(services: Services) -> None:
    project = _add_project(services, _DEMO_PROJECT, "The Fog Bell at Quillan Point", "fog-bell.mp4")
    name = "fog-bell.en.json"
    document = read_file((_DEMO / name).read_bytes(), name, Context()).document
    step = Step(captions_of(project.tracks[0].id), InsertCaptions(document.captions))
    services.log.edit(project.id, [step], _DUNLIN)
    _style_demo(services, {caption.speaker for caption in document.captions})
    sign = read_file((_DEMO / _SIGN).read_bytes(), _SIGN, Context()).document
    on_sign = Step(captions_of(project.tracks[0].id), InsertCaptions(sign.captions))
    services.log.edit(project.id, [on_sign], _DUNLIN)
    begin_jobs(services.queue, project)


def _load_short(services: Services) -> None:
    """Its words, in the look that upright films begin with, and an emoji by two of them."""
    project = _add_project(services, _SHORT_PROJECT, "Low water", "low-water.mp4")
    words, _ = words_of_json((_DEMO / "low-water.words.json").read_bytes())
    named = [replace(word, speaker=_SHORT_SPEAKER) for word in words]
    take_words(services, project, named, _DUNLIN)
    track_id = project.tracks[0].id
    make_short(services, services.projects.get(project.id), track_id, usual_look(services), _DUNLIN)
    for text, emoji, motion in _SHORT_EMOJI:
        track, _ = services.log.track(track_id)
        caption = next(caption for caption in track if text in caption.text)
        known = {"emoji": emoji, "emoji_motion": motion}
        do_to_word(
            services, services.projects.get(project.id), track_id, caption.id,
            caption.text.index(text), "set", _DUNLIN, known=known,
        )  # fmt: skip
    begin_jobs(services.queue, project)
