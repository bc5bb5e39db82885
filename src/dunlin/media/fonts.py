"""The fonts that a script is drawn with, laid out for ffmpeg; no other font is looked for."""

import re
from pathlib import Path

from dunlin.core.styles.shelf import FONTS, LATIN, family_files

__all__ = ["FONTS", "fonts_alone", "lay_out_fonts"]

# Families stand in the script as the second field of a style, and behind a code.
_NAMED = re.compile(r"(?m)^Style: [^,]*,([^,]*)|\\fn@?([^\\}]*)")


def lay_out_fonts(script: str, folder: Path) -> None:
    """Puts the fonts that a script names into a new folder; others would only take time to be read."""
    folder.mkdir()
    named = {style or code for style, code in _NAMED.findall(script)}
    # The black faces have a name of their own, and the files of their family.
    for file in {file for family in {LATIN, *named} for file in family_files(family)}:
        (folder / file.name).symlink_to(file)


def fonts_alone(folder: Path) -> dict[str, str]:
    """What of the environment keeps a process from the machine's own fonts, by a file in a folder."""
    configuration = folder / "fonts.conf"
    configuration.write_text('<?xml version="1.0"?><fontconfig/>\n', "ascii")
    return {"FONTCONFIG_FILE": str(configuration)}
