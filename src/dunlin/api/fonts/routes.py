"""Families of fonts: those that ship, and those that were added for all projects."""

from typing import Annotated

from fastapi import Path, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import FileResponse

from dunlin.api.authors import EditKey, Who
from dunlin.api.bodies import body_of
from dunlin.api.fonts.views import FontView, font_view
from dunlin.api.services import Here
from dunlin.api.subjects import subject_router
from dunlin.api.wire import Refusal
from dunlin.core.messages import message
from dunlin.core.styles.font_files import MOST_BYTES
from dunlin.core.styles.shelf import families_to_choose
from dunlin.work.fonts import add_fonts, added_fonts, remove_font

__all__ = ["router"]

router = subject_router("fonts", 404, 422)

_TYPES = {".ttf": "font/ttf", ".otf": "font/otf"}


@router.get("/fonts")
def list_fonts(here: Here) -> list[FontView]:
    """The families that captions can be set in."""
    added = added_fonts(here)
    return [
        font_view(family, added[family.name].files.values() if family.name in added else ())
        for family in families_to_choose()
    ]


@router.post("/fonts")
async def add_font_file(
    request: Request, here: Here, who: Who, key: EditKey = None
) -> list[FontView]:
    """Adds the faces of a font file for all projects, and gives the families that they are of."""
    data = await body_of(request, MOST_BYTES, "fonts.too-large")

    def added() -> list[FontView]:
        names = add_fonts(here, data, who, key=key)
        return [font for font in list_fonts(here) if font.name in names]

    return await run_in_threadpool(added)


@router.delete("/fonts/{family}", status_code=204)
def remove_font_family(family: str, here: Here, who: Who) -> None:
    """Takes a family away that was added. What is set in it is drawn in the Latin one that ships."""
    if not remove_font(here, family, who):
        raise Refusal(404, message("fonts.unknown", family=family))


@router.get("/fonts/files/{file}", response_class=FileResponse)
def get_font_file(
    file: Annotated[str, Path(pattern=r"^[0-9a-f]{64}\.(ttf|otf)$")], here: Here
) -> FileResponse:
    """A face of a family that was added. What it holds never changes."""
    path = here.settings.fonts / file
    if not path.is_file():
        raise Refusal(404, message("fonts.no-file"))
    headers = {"Cache-Control": "public, max-age=31536000, immutable"}
    return FileResponse(path, media_type=_TYPES[path.suffix], headers=headers)
