"""Commands that list what there is to choose from."""

from dataclasses import asdict
from typing import Any

import click

from dunlin.cli.files import kept_styles_here, know_fonts_here, print_json
from dunlin.core.formats import (
    FORMATS,
    READABLE,
)
from dunlin.core.short.looks import plain_look, shipped_looks
from dunlin.core.specs import (
    shipped_specs,
)
from dunlin.core.styles import STYLES, Style, sheet_with
from dunlin.core.styles.shelf import families_to_choose

__all__ = ["fonts", "formats", "looks", "specs", "styles"]


@click.command()
@click.option("--json", "as_json", is_flag=True)
def specs(as_json: bool) -> None:
    """List the delivery specs."""
    _list({spec.id: spec.name for spec in shipped_specs().values()}, as_json,
          [spec.model_dump(mode="json") for spec in shipped_specs().values()])  # fmt: skip


@click.command()
@click.option("--json", "as_json", is_flag=True)
def styles(as_json: bool) -> None:
    """List the styles: the one that ships, and those that are kept for all projects."""
    kept = sheet_with(kept_styles_here()).styles
    listed = [*STYLES.values(), *(style for name, style in kept.items() if name not in STYLES)]
    names = {
        style.id: "ships with Dunlin" if style.id in STYLES else _about(style) for style in listed
    }
    _list(names, as_json, [asdict(style) for style in listed])


def _about(style: Style) -> str:
    ground = f", on {style.background}" if style.background else ""
    return f"{style.font}, {style.size:.1%} of the picture, {style.colour}{ground}"


@click.command()
@click.option("--json", "as_json", is_flag=True)
def looks(as_json: bool) -> None:
    """List the looks for short form that ship."""
    listed = shipped_looks()
    _list({id_: f"{look.name}, {look.style.font}" for id_, look in listed.items()}, as_json,
          [{"id": id_, **plain_look(look)} for id_, look in listed.items()])  # fmt: skip


@click.command()
@click.option("--json", "as_json", is_flag=True)
def fonts(as_json: bool) -> None:
    """List the families of fonts that captions can be set in, and the scripts they have."""
    know_fonts_here()
    families = families_to_choose()
    _list({family.name: f"{family.kind:<11} {', '.join(family.scripts)}" for family in families}, as_json,
          [asdict(family) for family in families])  # fmt: skip


@click.command()
@click.option("--json", "as_json", is_flag=True)
def formats(as_json: bool) -> None:
    """List the caption formats."""
    _list({name: f"{module.TITLE} {' '.join(module.ENDINGS)}" for name, module in FORMATS.items()},
          as_json,
          [{"name": name, "title": m.TITLE, "endings": list(m.ENDINGS), "reads": name in READABLE,
            "holds": sorted(m.HOLDS.features)} for name, m in FORMATS.items()],
    )  # fmt: skip


def _list(names: dict[str, str], as_json: bool, data: list[Any]) -> None:
    if as_json:
        print_json(data)
        return
    for name, title in names.items():
        click.echo(f"{name:<16} {title}")
