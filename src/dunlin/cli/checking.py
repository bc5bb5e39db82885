"""Commands that judge captions by a delivery spec, and mend them."""

from dataclasses import asdict, replace
from pathlib import Path

import click

from dunlin.cli.files import (
    format_to_write,
    print_json,
    read_captions,
    spec_called,
    write_captions,
)
from dunlin.cli.translating import against_file
from dunlin.core.captions import Track
from dunlin.core.formats import (
    Context,
)
from dunlin.core.messages import BadInput, message
from dunlin.core.specs import (
    RULES,
    Finding,
    Judge,
    mend_all,
)
from dunlin.core.timecode import clock, parse_rate

__all__ = ["check", "mend"]


@click.command()
@click.argument("file", type=click.Path(path_type=Path))
@click.option("--spec", "spec_name", required=True)
@click.option("--fps", default="25", show_default=True, help="Frame rate that gaps are counted at.")
@click.option("--language", help="BCP 47 tag, if the file does not say; else en.")
@click.option(
    "--against",
    type=click.Path(path_type=Path),
    metavar="SOURCE",
    help="The captions that it translates.",
)
@click.option(
    "--terms", type=click.Path(path_type=Path), metavar="FILE.csv", help="Terms, with --against."
)
@click.option("--json", "as_json", is_flag=True)
def check(
    file: Path, spec_name: str, fps: str, language: str | None, against: Path | None,
    terms: Path | None, as_json: bool,
) -> int:  # fmt: skip
    """Judge captions by a delivery spec; exit 1 when an error is found."""
    spec, rate = spec_called(spec_name), parse_rate(fps)
    document = read_captions(file, Context(rate), None)
    tag = language or document.language or "en"
    judge = Judge.of(spec, rate, tag)
    if against is not None:
        translation = against_file(document.captions, tag, against, Context(rate), terms)
        judge = Judge(replace(judge.setting, translation=translation))
    found = list(judge.findings(Track.of(document.captions)))
    if as_json:
        told = [
            {name: value for name, value in asdict(finding).items() if name != "waived"}
            | {"message": str(finding.message)}
            for finding in found
        ]
        print_json({"findings": told})
    else:
        for finding in found:
            click.echo(_told(finding, finding.weight))
    return int(any(finding.weight == "error" for finding in found))


@click.command()
@click.argument("file", type=click.Path(path_type=Path))
@click.option("--spec", "spec_name", required=True)
@click.option("-o", "--output", type=click.Path(path_type=Path), required=True)
@click.option("--only", "only", multiple=True, metavar="RULE", help="Mend this rule's findings.")
@click.option("--fps", default="25", show_default=True, help="Frame rate that edges are set to.")
@click.option("--language", help="BCP 47 tag, if the file does not say; else en.")
@click.option("--dry-run", is_flag=True, help="Say what would be done, and write nothing.")
def mend(
    file: Path,
    spec_name: str,
    output: Path,
    only: tuple[str, ...],
    fps: str,
    language: str | None,
    dry_run: bool,
) -> None:
    """Mend what breaks a delivery spec, and say what only a person can."""
    spec, rate = spec_called(spec_name), parse_rate(fps)
    if unknown := sorted(set(only) - {rule.name for rule in RULES}):
        known = ", ".join(rule.name for rule in RULES)
        raise BadInput(message("cli.no-such-rule", name=unknown[0], known=known))
    context, target = Context(rate, title=file.stem), format_to_write(output)
    document = read_captions(file, context, None)
    judge = Judge.of(spec, rate, language or document.language or "en")
    mended = mend_all(Track.of(document.captions), judge, only=only)
    for done in mended.mends:
        click.echo(message("cli.mended", finding=_told(done.finding)))
    for left in mended.left:
        click.echo(message("cli.left", finding=_told(left.finding), reason=left.reason))
    click.echo(message("cli.mended-and-left", mended=len(mended.mends), left=len(mended.left)))
    if not dry_run:
        write_captions(output, replace(document, captions=tuple(mended.track)), target, context)


def _told(finding: Finding, *more: str) -> str:
    """A finding as a line: where it is, its rule, and what it says."""
    return f"{' '.join([clock(finding.in_ms), *more, finding.rule])}: {finding.message}"
