"""Runs the ffmpeg that ships with Dunlin: on files only, with progress, and stoppable."""

import ctypes
import fcntl
import os
import select
import signal
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import contextmanager, suppress
from functools import cache
from io import FileIO, TextIOWrapper
from pathlib import Path
from types import MappingProxyType
from typing import IO, cast

import imageio_ffmpeg

from dunlin.core.messages import Message, Told, message

__all__ = [
    "DEMUXERS",
    "Cancelled",
    "MediaError",
    "Output",
    "film_input",
    "open_options",
    "reading",
    "run_with_progress",
]

DEMUXERS = (
    "aac,ac3,aiff,amr,ape,asf,au,avi,caf,dts,dtshd,dv,eac3,flac,flv,gxf,matroska,webm,mov,mp4,m4a,"
    "3gp,3g2,mj2,mp3,mpeg,mpegts,mpegvideo,mxf,nut,ogg,rm,swf,truehd,tta,w64,wav,wtv,wv"
)
"""Containers that hold their sound and picture themselves.

Playlists, concatenations and manifests name other files and addresses, so none is read, whatever
a file calls itself.
"""


_PIPE_BYTES = 1 << 20
_STANDS_STILL_SECONDS = 120


class MediaError(Told):
    """A film cannot be read or made; the message is for the user."""


class Cancelled(Exception):
    """The work was called off while it ran."""


# Looked up here, since little may be done between fork and exec.
_C = ctypes.CDLL(None) if sys.platform == "linux" else None
_PR_SET_PDEATHSIG = 1


def _end_with_parent() -> None:
    """Where the system can, ends ffmpeg when its worker is killed: nobody would wait for it."""
    if _C is not None:
        _C.prctl(_PR_SET_PDEATHSIG, signal.SIGKILL)


@cache
def _executable() -> str:
    return str(imageio_ffmpeg.get_ffmpeg_exe())


def open_options() -> dict[str, str]:
    """Options with which PyAV opens a file as safely as `film_input` does."""
    return {"protocol_whitelist": "file", "format_whitelist": DEMUXERS}


def film_input(path: Path) -> list[str]:
    """Arguments that read one film, and nothing it may point at."""
    return [
        "-protocol_whitelist", "file", "-format_whitelist", DEMUXERS,
        "-i", f"file:{path.absolute()}",
    ]  # fmt: skip


class Output:
    """What ffmpeg writes, as an unbuffered stream; how it ended is told where it ends."""

    def __init__(self, process: subprocess.Popen[bytes], said: list[str]) -> None:
        assert process.stdout is not None
        self._process = process
        self._pipe = cast(FileIO, process.stdout)
        self._said = said

    def readinto(self, buffer: memoryview) -> int:
        """Fills a buffer with what is there; 0 at the end.

        :raises MediaError: when ffmpeg failed, or gave nothing for too long
        """
        self._wait()
        return self._pipe.readinto(buffer) or self._ended()

    def read(self, size: int) -> bytes:
        """As many bytes as are there, up to a size; none at the end. :raises MediaError: as `readinto`"""
        self._wait()
        if piece := self._pipe.read(size):
            return piece
        self._ended()
        return b""

    @property
    def last_said(self) -> Message | None:
        """The last thing ffmpeg complained about, in its own words."""
        return message("as-said.words", words=self._said[-1]) if self._said else None

    def _wait(self) -> None:
        if not select.select([self._pipe], [], [], _STANDS_STILL_SECONDS)[0]:
            raise MediaError(message("media.stands-still", seconds=_STANDS_STILL_SECONDS))

    def _ended(self) -> int:
        if self._process.wait(_STANDS_STILL_SECONDS) != 0:
            raise MediaError(
                self.last_said or message("media.ended-with", status=self._process.returncode)
            )
        return 0


@contextmanager
def reading(arguments: Sequence[str]) -> Iterator[Output]:
    """What ffmpeg writes to its output, as a stream; it is ended when the block is left."""
    # Unflushed packets go through the pipe in larger pieces.
    output = ["-flush_packets", "0", "pipe:1"]
    command = [_executable(), "-nostdin", "-v", "error", *arguments, *output]
    process = subprocess.Popen(
        command,
        stdin=subprocess.DEVNULL,
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        bufsize=0,
        preexec_fn=_end_with_parent,
    )
    assert process.stdout is not None
    assert process.stderr is not None
    said: list[str] = []
    listener = _listening(TextIOWrapper(process.stderr, errors="replace"), said)
    # Where a pipe can be made larger, ffmpeg and its reader wait for each other less.
    if hasattr(fcntl, "F_SETPIPE_SZ"):
        with suppress(OSError):
            fcntl.fcntl(process.stdout, fcntl.F_SETPIPE_SZ, _PIPE_BYTES)
    try:
        yield Output(process, said)
    finally:
        process.kill()
        process.stdout.close()
        process.wait()
        listener.join()


def run_with_progress(
    arguments: Sequence[str],
    output: Path,
    duration_ms: int,
    progress: Callable[[float], None],
    cancelled: Callable[[], bool] = lambda: False,
    folder: Path | None = None,
    environment: Mapping[str, str] = MappingProxyType({}),
) -> None:
    """Has ffmpeg write a file; it stands at `output` only when it is complete. Pictures that are numbered by a
    pattern, such as `%06d.png`, stand there as they are written.

    :param folder: where it runs, for filters that take names of files
    :param environment: what it finds in its environment besides what is there
    :param progress: told the part that is done, from 0 to 1, about twice a second
    :raises Cancelled: when `cancelled` came true while it ran
    :raises MediaError: with the last thing ffmpeg said
    """
    are_many = "%" in output.name
    draft = output if are_many else output.with_name(f".{output.name}.part")
    command = [
        _executable(), "-nostdin", "-y", "-v", "error", "-progress", "pipe:1", "-stats_period", "0.4",
        *arguments, "-f", _container(output), f"file:{draft.absolute()}",
    ]  # fmt: skip
    process = subprocess.Popen(
        command,
        stdin=subprocess.DEVNULL,
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        text=True,
        errors="replace",
        cwd=folder,
        env=os.environ | environment,
        preexec_fn=_end_with_parent,
    )
    assert process.stdout is not None
    assert process.stderr is not None
    said: list[str] = []
    listener = _listening(process.stderr, said)
    stopper = _Stopper(process)
    try:
        for line in process.stdout:
            stopper.alive()
            if cancelled():
                raise Cancelled
            name, _, value = line.strip().partition("=")
            if name == "out_time_us" and value.lstrip("-").isdigit():
                progress(min(max(int(value) / 1000 / max(duration_ms, 1), 0.0), 1.0))
        if process.wait() != 0:
            listener.join()
            if stopper.stood_still:
                raise MediaError(message("media.stands-still", seconds=_STANDS_STILL_SECONDS))
            raise MediaError(
                message("as-said.words", words=said[-1])
                if said
                else message("media.ended-with", status=process.returncode)
            )
        if not are_many:
            draft.replace(output)
    finally:
        stopper.done()
        process.kill()
        process.wait()
        if not are_many:
            draft.unlink(missing_ok=True)


class _Stopper:
    """Ends a process that says nothing for too long."""

    def __init__(self, process: subprocess.Popen[str]) -> None:
        self._process = process
        self._last = time.monotonic()
        self._done = threading.Event()
        self.stood_still = False
        threading.Thread(target=self._watch, daemon=True).start()

    def alive(self) -> None:
        """It said something."""
        self._last = time.monotonic()

    def done(self) -> None:
        """It needs no watching any more."""
        self._done.set()

    def _watch(self) -> None:
        while not self._done.wait(1):
            if time.monotonic() - self._last > _STANDS_STILL_SECONDS:
                self.stood_still = True
                self._process.kill()
                return


def _listening(stream: IO[str], said: list[str]) -> threading.Thread:
    """Keeps the last that is said on a stream. It is drained beside the output, or a talkative run would
    fill its pipe and stand still."""
    listener = threading.Thread(target=lambda: _keep_last(stream, said), daemon=True)
    listener.start()
    return listener


def _keep_last(stream: IO[str] | None, said: list[str]) -> None:
    for line in stream or ():
        said[:] = [*said[-9:], line.strip()]


def _container(output: Path) -> str:
    return {
        ".mp4": "mp4", ".m4a": "mp4", ".wav": "wav", ".png": "image2", ".mkv": "matroska",
        ".webm": "webm", ".mov": "mov", ".srt": "srt", ".ass": "ass", ".vtt": "webvtt",
    }[output.suffix]  # fmt: skip
