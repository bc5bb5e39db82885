"""The heading that opens a clip: proposed from what is said in it, and put over its beginning."""

from dunlin.core.captions import DeleteCaptions, InsertCaptions, ReplaceCaptions
from dunlin.core.language.digest.phrases import Phrase, headings
from dunlin.core.language.digest.sentences import Said, sentences_of
from dunlin.core.messages import BadInput, message
from dunlin.core.project import captions_of
from dunlin.core.short.heading import heading_caption, look_of_heading
from dunlin.core.short.model import ShortLook
from dunlin.store.log import Author, Done, Step, new_caption_id
from dunlin.store.projects import Project
from dunlin.work.folder import DataFolder
from dunlin.work.short import in_short, look_of_track, setting_of, words_to_show
from dunlin.work.styles import style_step

__all__ = ["proposed_headings", "set_heading"]


def proposed_headings(folder: DataFolder, project: Project, track_id: str) -> list[Phrase]:
    """Phrases of what is said in a track, or in its film, that may open it; the best first."""
    track, _ = folder.log.track(track_id)
    language = project.track(track_id).language
    words = words_to_show(folder, project, track_id, track)
    said = (Said(word.text, word.start_ms, word.end_ms) for word in words)
    return headings(sentences_of(said, language), language)


def set_heading(
    folder: DataFolder,
    project: Project,
    track_id: str,
    text: str,
    style: str,
    author: Author,
    *,
    instead: str | None = None,
    base: int | None = None,
    gesture: str | None = None,
    key: str | None = None,
) -> Done | None:
    """Puts a heading over the beginning of a track in short form, or takes it away where the text is empty.

    :param style: name of the style of headings, which is made of the track's look where there is none
    :param instead: id of the heading that it comes in the place of
    :raises BadInput: when the track is not in short form
    :raises Outdated: when another window changed that heading since the revision `base`
    """
    look, short = look_of_track(project, track_id), in_short(project, track_id)
    if look is None or short is None:
        raise BadInput(message("looks.not-in-one"))
    track, _ = folder.log.track(track_id)
    # One that another window put there meanwhile is in the way, not beside it.
    there = next((c.id for c in track if c.locked and c.style == style and not c.in_ms), None)
    gone = tuple(id_ for id_ in (instead or there,) if id_ and id_ in track)
    if not text.strip():
        steps = [Step(captions_of(track_id), DeleteCaptions(gone), base)] if gone else []
    else:
        own = project.styles.get(style) or look_of_heading(look.style)
        as_heading = ShortLook(style, own, look.rhythm, look.weighing, look.fit)
        by = setting_of(folder, project, track_id, as_heading, short.seen, short.version)
        made = heading_caption(text, new_caption_id(), style, by)
        put = ReplaceCaptions(gone, (made,)) if gone else InsertCaptions((made,))
        steps = [step for step in (style_step(project, style, own),) if step]
        steps.append(Step(captions_of(track_id), put, base))
    return folder.log.edit(project.id, steps, author, gesture=gesture, key=key) if steps else None
