"""What can still be read of a project, as files that other programs open."""

import io
import json
import zipfile

from dunlin.core.formats import FORMATS, Context, Document
from dunlin.core.formats.registry import written
from dunlin.store.log.captions import read_what_can_be
from dunlin.store.projects import UnknownProject
from dunlin.store.rescue import rows_of_project, tracks_of_project, words_of_project
from dunlin.work.folder import DataFolder

__all__ = ["rescued"]


def rescued(folder: DataFolder, project_id: str) -> bytes:
    """A ZIP of a project: the captions of each of its tracks as SubRip and as Dunlin's JSON, its
    transcript as text, and all that is stored of it, as it is stored.

    :raises UnknownProject: when nothing is stored of it
    """
    packed = io.BytesIO()
    with (
        folder.engine.connect() as connection,
        zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as file,
    ):
        rows = list(rows_of_project(connection, project_id))
        if not rows:
            raise UnknownProject
        tracks = tracks_of_project(connection, project_id)
        for number, track in enumerate(tracks, 1):
            document = Document(read_what_can_be(connection, track))
            for name in ("srt", "json"):
                module = FORMATS[name]
                file.writestr(
                    f"captions-{number}{module.ENDINGS[0]}", written(document, module, Context())
                )
        file.writestr("transcript.txt", words_of_project(connection, project_id))
        stored = "\n".join(json.dumps({"table": table} | row) for table, row in rows)
        file.writestr("stored.jsonl", stored + "\n")
    return packed.getvalue()
