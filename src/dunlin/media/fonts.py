"""A script and the fonts that it is drawn with, laid out for ffmpeg; no other font is looked for."""

import re
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from dunlin.core.styles.shelf import FONTS, LATIN, family_files

__all__ = ["FONTS", "LAID_OUT", "fonts_alone", "fonts_named", "script_laid_out"]

LAID_OUT = "ass=captions.ass:fontsdir=fonts"
"""The filter that draws a script, in the folder it is laid out in: plain names, so nothing has to be escaped."""

# Families stand in the script as the second field of a style, and behind a code.
_NAMED = re.compile(r"(?m)^Style: [^,]*,([^,]*)|\\fn@?([^\\}]*)")


@contextmanager
def script_laid_out(script: str, output: Path) -> Iterator[Path]:
    """A folder with a script and its fonts for `LAID_OUT`, for as long as the block lasts.

    It stands beside what is written with it, where it is found and removed when whoever writes is killed.
    """
    with tempfile.TemporaryDirectory(
        prefix=f".{output.stem}-", suffix=".part", dir=output.absolute().parent
    ) as name:
        folder = Path(name)
        (folder / "captions.ass").write_text(script, "utf-8")
        _lay_out_fonts(script, folder / "fonts")
        yield folder


def _lay_out_fonts(script: str, folder: Path) -> None:
    """Puts the fonts that a script names into a new folder; others would only take time to be read."""
    folder.mkdir()
    for file in fonts_named(script):
        (folder / file.name).symlink_to(file)


def fonts_named(script: str) -> set[Path]:
    """The files of the fonts that a script names, and of the one for all that names none."""
    named = {style or code for style, code in _NAMED.findall(script)}
    # The black faces have a name of their own, and the files of their family.
    return {file for family in {LATIN, *named} for file in family_files(family)}


def fonts_alone(folder: Path) -> dict[str, str]:
    """What of the environment keeps a process from the machine's own fonts, by a file in a folder."""
    configuration = folder / "fonts.conf"
    configuration.write_text('<?xml version="1.0"?><fontconfig/>\n', "ascii")
    return {"FONTCONFIG_FILE": str(configuration)}
