"""Work on what may be hostile, done in a process of its own that can be ended."""

import logging
import multiprocessing
import resource
from collections.abc import Callable
from functools import cache
from multiprocessing.connection import Connection
from multiprocessing.context import ForkServerContext
from typing import Any, ParamSpec, TypeVar, cast

from dunlin.core.messages import BadInput, Told, message

__all__ = ["SECONDS", "apart", "within"]

SECONDS = 30.0
"""How long one file may take; one of two hundred thousand captions takes about seven."""

_BYTES = 3 * 2**30
"""How much memory its process may ask for."""

# What the processes are forked from has this loaded once, so that none of them takes long to begin.
_LOADED = [
    "__main__",
    "dunlin.core.formats",
    "dunlin.core.language.handover.reading",
    "dunlin.core.scripts",
    "dunlin.core.speech.transcript_files",
    "dunlin.core.styles.font_files",
    "dunlin.core.styles.svg",
]

_log = logging.getLogger(__name__)
P = ParamSpec("P")
T = TypeVar("T")


def apart(call: Callable[P, T], *arguments: P.args, **named: P.kwargs) -> T:
    """What a function of a file's bytes gives, which may not hang, run out of memory or crash here.

    :param call: a function of a module; its arguments, and what it gives, go from process to process
    :raises Told: what the function raises; `BadInput` when it takes too long or too much, or breaks
    """
    return within(SECONDS, call, *arguments, **named)


def within(seconds: float, call: Callable[P, T], *arguments: P.args, **named: P.kwargs) -> T:
    """As `apart`, for as long as is said."""
    ours, theirs = _forking().Pipe(duplex=False)
    work = _forking().Process(
        target=_answer, args=(theirs, call, arguments, named), name="reading", daemon=True
    )
    work.start()
    theirs.close()
    try:
        if not ours.poll(seconds):
            raise BadInput(message("files.takes-too-long", seconds=round(seconds)))
        answer = ours.recv()
    except EOFError:
        # It was ended from outside, or crashed.
        raise BadInput(message("files.breaks-reader")) from None
    finally:
        work.kill()
        work.join()
        ours.close()
    if isinstance(answer, Told):
        raise answer
    return cast(T, answer)


@cache
def _forking() -> ForkServerContext:
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload(_LOADED)
    return context


def _answer(
    theirs: Connection, call: Callable[..., Any], arguments: tuple[Any, ...], named: dict[str, Any]
) -> None:
    resource.setrlimit(resource.RLIMIT_AS, (_BYTES, _BYTES))
    try:
        answer = call(*arguments, **named)
    except Told as told:
        answer = told
    except MemoryError:
        answer = BadInput(message("files.takes-too-much"))
    except Exception:
        _log.exception("a file could not be read")
        answer = BadInput(message("files.breaks-reader"))
    theirs.send(answer)
