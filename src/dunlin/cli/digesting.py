"""The command that writes words about a film."""

from pathlib import Path

import click

from dunlin.cli.files import read_captions, speaking_of, write_whole
from dunlin.core.formats import Context
from dunlin.core.language.digest.sentences import Said
from dunlin.core.language.digest.words_about import words_about
from dunlin.core.language.digest.writing import as_json, said_in
from dunlin.core.messages import message
from dunlin.core.speech.transcript_files import words_of_json

__all__ = ["digest", "text_service"]


@click.command()
@click.argument("source", metavar="TRANSCRIPT.json|CAPTIONS", type=click.Path(path_type=Path))
@click.option("-o", "--output", type=click.Path(path_type=Path), required=True)
@click.option("--language", help="BCP 47 tag, if the file does not say; else en.")
def digest(source: Path, output: Path, language: str | None) -> None:
    """Write titles, a description, key words, chapters and the strongest passages of what is said, as JSON."""
    with speaking_of(source):
        data = source.read_bytes() if source.suffix.lower() == ".json" else b""
        is_transcript = b'"words"' in data[:4096] and b'"dunlin"' not in data[:4096]
        if is_transcript:
            words, told = words_of_json(data)
            said = [
                Said(word.text, word.start_ms, word.end_ms) for word in words if not word.left_out
            ]
        else:
            document = read_captions(source, Context(), None)
            told = document.language
            tag = language or told or "en"
            said = [one for caption in document.captions for one in said_in(caption, tag)]
    about = words_about(said, language or told or "en")
    write_whole(output, as_json(about))


@click.command("text-service")
@click.option("--port", default=8603, show_default=True)
def text_service(port: int) -> None:
    """Stand in for a service that says which sentences answer a question, on this machine alone."""
    from dunlin.stand_ins.text_service import run_text_service

    click.echo(message("cli.stands-in-text", port=port))
    run_text_service(port)
