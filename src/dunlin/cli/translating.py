"""Commands about translations."""

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import replace
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import TYPE_CHECKING

import click

from dunlin.cli.files import (
    format_to_write,
    note,
    read_captions,
    speaking_of,
    spec_called,
    write_captions,
    write_whole,
)
from dunlin.core.captions import Caption, Span
from dunlin.core.formats import Context
from dunlin.core.formats.encoding import decoded
from dunlin.core.language.drafts.asking import neighbours_of, readable_in
from dunlin.core.language.drafts.model import Known, Wanted
from dunlin.core.language.links.by_words import links_by_words, paired_captions
from dunlin.core.language.memory.pairs import Pair, in_one_line
from dunlin.core.language.memory.tmx import read_tmx, written_tmx
from dunlin.core.language.terms.between import terms_between
from dunlin.core.language.terms.csv import read_terms_csv
from dunlin.core.language.terms.model import TermEntry
from dunlin.core.messages import BadInput, message
from dunlin.core.specs import Setting, for_language
from dunlin.core.specs.rules.reshaping import in_best_lines
from dunlin.core.specs.translation import Against, TermList, Translation
from dunlin.settings import Settings

if TYPE_CHECKING:
    from dunlin.store.memory import Memory

__all__ = ["against_file", "pair", "translate", "translation_service"]


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


@click.command()
@click.argument("file", type=click.Path(path_type=Path))
@click.option("--to", "target", required=True, help="BCP 47 tag.")
@click.option("--from", "language", help="BCP 47 tag of FILE, if it does not say; else en.")
@click.option("--memory", type=click.Path(path_type=Path), help="Memory (TMX); else this user's.")
@click.option("--terms", type=click.Path(path_type=Path), help="Term list (CSV).")
@click.option(
    "--engine", default="memory", show_default=True, help="memory, service, or model:NAME."
)
@click.option("--spec", "spec_name", default="streaming", show_default=True, help="Limits to keep.")
@click.option("-o", "--output", type=click.Path(path_type=Path), required=True)
def translate(
    file: Path, target: str, language: str | None, memory: Path | None, terms: Path | None,
    engine: str, spec_name: str, output: Path,
) -> int:  # fmt: skip
    """Draft a translation of captions, with their times; exit 1 when some have no draft.

    What the same text became before goes before what an engine says. Drafts want reading by a person.
    """
    # Loaded here: other commands start without engines and databases.
    from dunlin.engines.translators import translator_called
    from dunlin.engines.translators.drafting import drafts_by
    from dunlin.engines.translators.hearing_english import HearingEnglish

    if engine == HearingEnglish.name:
        raise BadInput(message("drafts.needs-film"))
    document, form = read_captions(file, Context(), None), format_to_write(output)
    source = language or document.language or "en"
    spec = for_language(spec_called(spec_name), target)
    drafting = translator_called(engine, source, target, Settings())
    said = _spoken(document.captions)
    beside = neighbours_of(said)
    wanted = [
        Wanted(
            in_one_line(one.text), *beside[one.id], readable_in(one, spec.reading_speed),
            one.in_ms, one.out_ms,
        )
        for one in said
    ]  # fmt: skip
    listed = _terms(terms, source, target) if terms else TermList((), source)
    with _memory(memory) as remembered:
        known = Known(
            source, target,
            lambda text: [one.pair for one in remembered.like(text, source, target)], listed,
        )  # fmt: skip
        drafts = drafts_by(
            drafting, dict(zip((one.id for one in said), wanted, strict=True)), known
        )
        texts = {id_: draft.text for id_, draft in drafts if draft}
    setting = Setting(spec, Context().rate, target)
    captions = tuple(
        in_best_lines(replace(one, spans=(Span(texts[one.id]),)), setting)
        if one.id in texts
        else replace(one, spans=())
        for one in said
    )
    write_captions(output, replace(document, captions=captions, language=target), form, Context())
    click.echo(message("cli.drafted", count=len(texts), of=len(said)))
    return 0 if len(texts) == len(said) else 1


@contextmanager
def _memory(file: Path | None) -> "Iterator[Memory]":
    """What a file remembers, or what this user does."""
    from dunlin.store.memory import Memory

    with TemporaryDirectory() as folder:
        own = Settings().data / "memory.db"
        is_own = file is None and own.is_file()
        memory = Memory(own if is_own else Path(folder) / "memory.db")
        try:
            if file is not None:
                with speaking_of(file), file.open("rb") as data:
                    memory.take_in(read_tmx(data, file.stem))
            yield memory
        finally:
            memory.close()


@click.command("translation-service")
@click.option("--memory", type=click.Path(path_type=Path), required=True, help="Memory (TMX).")
@click.option("--terms", type=click.Path(path_type=Path), help="Term list (CSV).")
@click.option("--port", default=8601, show_default=True)
def translation_service(memory: Path, terms: Path | None, port: int) -> None:
    """Stand in for a translation service, by a memory and a term list, on this machine alone."""
    from dunlin.stand_ins.translation_service import run_translation_service

    with speaking_of(memory), memory.open("rb") as data:
        pairs = list(read_tmx(data, memory.stem))
    entries = _entries(terms, "en") if terms else []
    click.echo(message("cli.stands-in", port=port))
    run_translation_service(port, pairs, entries)


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
    return TermList(terms_between(_entries(file, language), language, target), language)


def _entries(file: Path, language: str) -> list[TermEntry]:
    with speaking_of(file):
        text, _ = decoded(file.read_bytes(), Context(language=language))
        return list(read_terms_csv(text, language))
