"""Commands that serve Dunlin and do its jobs."""

import gc
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import click

from dunlin.core.messages import BadInput, message
from dunlin.settings import Settings, is_this_machine

__all__ = ["host", "serve", "worker"]


@click.command()
@click.option("--demo", is_flag=True, help="Load the demo project, if it is not there.")
@click.option("--host", default="127.0.0.1", show_default=True)
@click.option("--port", default=8600, show_default=True)
@click.option(
    "--open-to-network", is_flag=True, help="Serve others than this machine, without a sign-in."
)
@click.option(
    "--data", type=click.Path(path_type=Path, file_okay=False), help="Folder to keep all in."
)
def serve(demo: bool, host: str, port: int, open_to_network: bool, data: Path | None) -> None:
    """Serve the page, with a worker beside it."""
    with _loading():
        from dunlin.serving import serve as run

    if not (open_to_network or is_this_machine(host)):
        raise BadInput(message("cli.open-to-network", host=host))
    run(_settings(data), host=host, port=port, demo=demo)


@click.command()
@click.option("--data", type=click.Path(path_type=Path, file_okay=False))
@click.option("--tied", is_flag=True, hidden=True)
def worker(data: Path | None, tied: bool) -> None:
    """Do the jobs that the page asks for."""
    with _loading():
        from dunlin.jobs.worker import work

    work(_settings(data), tied=tied)


@click.command()
@click.option("--port", default=8602, show_default=True)
@click.option(
    "--data", type=click.Path(path_type=Path, file_okay=False), help="Folder to keep its films in."
)
@click.option("--demo", is_flag=True, help="Put the demo film on its shelf, if it has none.")
def host(port: int, data: Path | None, demo: bool) -> None:
    """Be a host of films, on this machine alone: with a page for viewers, and an API that Dunlin sends to."""
    with _loading():
        from dunlin.stand_ins.video_host import run_host

    run_host(data or Settings().data / "host", port, demo=demo)


def _settings(data: Path | None) -> Settings:
    """What is set from outside, with the data folder that a command names."""
    return Settings() if data is None else Settings(data=data.absolute())


@contextmanager
def _loading() -> Iterator[None]:
    """Has nothing let go of meanwhile, and what was loaded never looked through again: to look through it while it grows
    takes a fifth of a start."""
    gc.disable()
    try:
        yield
    finally:
        gc.freeze()
        gc.enable()
