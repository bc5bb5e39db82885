"""The worker as a process, and whoever has one beside it."""

import logging
import os
import signal
import subprocess
import sys
import threading
from collections.abc import Iterator
from contextlib import contextmanager

from dunlin.jobs.queue import JobQueue
from dunlin.settings import Settings
from dunlin.work.folder import open_folder

__all__ = ["work", "worker_beside"]

_LOOK_AFTER_SECONDS = 1
_BEHIND = 10
"""Niceness of a worker: what it starts, such as ffmpeg, has it too."""


@contextmanager
def worker_beside(settings: Settings) -> Iterator[None]:
    """Has a worker, in a process of its own, do the jobs of a data folder meanwhile."""
    ending = threading.Event()
    keeper = threading.Thread(target=_keep_worker, args=(settings, ending))
    keeper.start()
    try:
        yield
    finally:
        ending.set()
        keeper.join()


def _keep_worker(settings: Settings, ending: threading.Event) -> None:
    command = [sys.executable, "-m", "dunlin", "worker", "--tied", "--data", str(settings.data)]
    environment = dict(os.environ)
    if settings.queue_url is None:
        environment.pop("DUNLIN_QUEUE_URL", None)
    while not ending.is_set():
        process = subprocess.Popen(command, stdin=subprocess.PIPE, env=environment)
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
    consumers = queue.workers()
    for consumer in consumers:
        consumer.start()
    # In the place of the consumers' own, which would break its jobs off as if they had failed.
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, lambda number, frame: ending.set())
    while not ending.wait(_LOOK_AFTER_SECONDS):
        for consumer in consumers:
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
