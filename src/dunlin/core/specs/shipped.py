"""The specs that come with Dunlin, by kind of work."""

from functools import cache
from importlib import resources

from dunlin.core.specs.model import Spec, read_spec

__all__ = ["shipped_specs"]


@cache
def shipped_specs() -> dict[str, Spec]:
    """Spec by id, in alphabetical order."""
    folder = resources.files("dunlin.core.specs") / "data"
    sources = sorted(folder.iterdir(), key=lambda source: source.name)
    specs = (read_spec(source.read_text("utf-8")) for source in sources)
    return {spec.id: spec for spec in specs}
