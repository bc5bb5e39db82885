"""Commands about translations."""

from pathlib import Path

import click

from dunlin.cli.files import note, read_captions, speaking_of, write_whole
from dunlin.core.captions import Caption
from dunlin.core.formats import Context
from dunlin.core.formats.encoding import decoded
from dunlin.core.language.links.by_words import links_by_words, paired_captions
from dunlin.core.language.memory.pairs import Pair, in_one_line
from dunlin.core.language.memory.tmx import written_tmx
from dunlin.core.language.terms.between import terms_between
from dunlin.core.language.terms.csv import read_terms_csv
from dunlin.core.messages import message
from dunlin.core.specs.translation import Against, TermList, Translation

__all__ = ["against_file", "pair"]


@click.command()
@click.argument("source", type=click.Path(path_type=Path))
@click.argument("target", type=click.Path(path_type=Path))
@click.option("-o", "--output", type=click.Path(path_type=Path), required=True)
@click.option("--from", "language", help="BCP 47 tag of SOURCE, if it does not say; else en.")
@click.option("--to", "target_language", help="BCP 47 tag of TARGET, if it does not say.")
def pair(
    source: Path, target: Path, output: Path, language: str | None, target_language: str | None
) -> None:
    """Pair captions with their translation, as a memory (TMX); doubtful pairs are noted."""
    ours, theirs = (read_captions(file, Context(), None) for file in (source, target))
    tags = language or ours.language or "en", target_language or theirs.language
    if tags[1] is None:
        raise click.UsageError(str(message("cli.which-language", file=target.name)))
    said, became = _spoken(ours.captions), _spoken(theirs.captions)
    pairs = []
    for found in paired_captions(said, became, tags[0], tags[1]):
        left = in_one_line(" ".join(said[at].text for at in found.sources))
        right = in_one_line(" ".join(became[at].text for at in found.targets))
        if not left or not right:
            note(message("cli.unpaired", text=(left or right)[:80]))
            continue
        if found.is_doubtful:
            note(message("cli.doubtful-pair", source=left[:60], target=right[:60]))
        pairs.append(Pair(tags[0], tags[1], left, right, source.stem))
    write_whole(output, "".join(written_tmx(pairs)).encode())
    click.echo(message("cli.paired", count=len(pairs)))


def _spoken(captions: tuple[Caption, ...]) -> list[Caption]:
    return [one for one in captions if one.text.strip()]


def against_file(
    captions: tuple[Caption, ...], language: str, source: Path, context: Context, terms: Path | None
) -> Translation:
    """What captions are judged against: those of a file, paired with them, and a list of terms."""
    document = read_captions(source, context, None)
    said = document.language or "en"
    of = _spoken(document.captions)
    by_id = {caption.id: caption for caption in of}
    links = links_by_words(of, _spoken(captions), said, language)

    def against(id_: str) -> Against | None:
        sources = [by_id[one] for one in links[id_].sources] if id_ in links else []
        if not sources:
            return None
        text = "\n".join(one.text for one in sources)
        return Against(text, speakers=len({one.speaker for one in sources}))

    return Translation(said, against, None if terms is None else _terms(terms, said, language))


def _terms(file: Path, language: str, target: str) -> TermList:
    with speaking_of(file):
        text, _ = decoded(file.read_bytes(), Context(language=language))
        entries = list(read_terms_csv(text, language))
    return TermList(terms_between(entries, language, target), language)
