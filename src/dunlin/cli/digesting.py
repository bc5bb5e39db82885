"""The command that writes words about a film."""

import json
from collections.abc import Iterator
from pathlib import Path

import click

from dunlin.cli.files import read_captions, speaking_of, write_whole
from dunlin.core.captions import Caption
from dunlin.core.formats import Context
from dunlin.core.language.digest.sentences import Said
from dunlin.core.language.digest.words_about import as_data, words_about
from dunlin.core.speech.transcript_files import words_of_json
from dunlin.core.text.words import words_of

__all__ = ["digest"]


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
            said = [one for caption in document.captions for one in _said(caption, tag)]
    about = words_about(said, language or told or "en")
    text = json.dumps(as_data(about), indent=2, ensure_ascii=False)
    write_whole(output, text.encode() + b"\n")


def _said(caption: Caption, language: str) -> Iterator[Said]:
    """The words of a caption, each as long as its letters take of the whole."""
    words = words_of(caption.text, language)
    letters = sum(map(len, words)) or 1
    length, at = caption.out_ms - caption.in_ms, 0
    for word in words:
        begins, at = at, at + len(word)
        yield Said(
            word, caption.in_ms + length * begins // letters, caption.in_ms + length * at // letters
        )
