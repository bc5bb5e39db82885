"""The same core from the shell."""

import os
import sys
from collections.abc import Sequence

import click

from dunlin.cli.burning import burn, still
from dunlin.cli.checking import check, mend
from dunlin.cli.converting import convert
from dunlin.cli.delivering import deliver, mux, timeline
from dunlin.cli.digesting import digest, text_service
from dunlin.cli.hearing import probe, transcribe
from dunlin.cli.lists import fonts, formats, looks, specs, styles
from dunlin.cli.making import make
from dunlin.cli.running import host, serve, worker
from dunlin.cli.short import short
from dunlin.cli.timing import align, retime, sync
from dunlin.cli.translating import pair, translate, translation_service
from dunlin.core.messages import Told

__all__ = ["main"]


def main(arguments: Sequence[str] | None = None) -> None:
    """Runs the command line. Bad input and usage end with one line on stderr and exit 2.

    :param arguments: None is those that the process was started with
    :raises SystemExit: always, with the code that the process ends with
    """
    try:
        code = commands.main(arguments, standalone_mode=False)
    except click.exceptions.Abort:
        code = 130
    except Told as error:
        print(f"dunlin: {error}", file=sys.stderr)
        code = 2
    except click.ClickException as error:
        print(f"dunlin: {error.format_message()}", file=sys.stderr)
        code = 2
    except BrokenPipeError:
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        code = 0
    except Exception as error:
        # Loaded here: a command that needs no database starts without it.
        from dunlin.store.faults import storage_fault

        fault = storage_fault(error)
        if fault is None:
            raise
        print(f"dunlin: {fault}", file=sys.stderr)
        code = 2
    sys.exit(code if isinstance(code, int) else 0)


@click.group(context_settings={"help_option_names": ["-h", "--help"]})
def commands() -> None:
    """From a film with speech to delivered captions."""


for command in (
    serve,
    worker,
    host,
    probe,
    transcribe,
    convert,
    check,
    mend,
    retime,
    sync,
    align,
    make,
    burn,
    still,
    mux,
    timeline,
    deliver,
    digest,
    text_service,
    short,
    pair,
    translate,
    translation_service,
    specs,
    styles,
    looks,
    fonts,
    formats,
):
    commands.add_command(command)
