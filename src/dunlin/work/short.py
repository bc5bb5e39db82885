"""A project's captions in short form: the look that a track is in, and the looks that are kept for all projects."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from pydantic import TypeAdapter

from dunlin.core.captions import Caption, ReplaceCaptions, Track
from dunlin.core.messages import BadInput, message
from dunlin.core.project import SetEntries, captions_of
from dunlin.core.project.targets import LOOKS, TRACKS
from dunlin.core.short.looks import FIRST, look_of_plain, plain_look, shipped_looks
from dunlin.core.short.making import (
    Setting,
    short_captions,
)
from dunlin.core.short.model import ALL_SEEN, Fit, Rhythm, Seen, ShortLook, Weighing
from dunlin.core.short.moving import Deed, done_to_word
from dunlin.core.short.words import (
    ShortWord,
    weighed,
    words_of_captions,
    words_of_transcript,
)
from dunlin.core.specs import for_language
from dunlin.core.specs.shipped import shipped_specs
from dunlin.store.house import HOUSE
from dunlin.store.log import Author, Done, Step, new_caption_id
from dunlin.store.projects import Project
from dunlin.work.folder import DataFolder
from dunlin.work.replacing import track_entry
from dunlin.work.specs import taking_spec
from dunlin.work.styles import sheet_of, style_step
from dunlin.work.versions import picture_of_track

__all__ = [
    "KeptLook",
    "TrackInShort",
    "do_to_word",
    "in_short",
    "keep_look",
    "kept_looks",
    "let_go_of_look",
    "look_of_track",
    "looks_to_choose",
    "make_short",
    "setting_of",
    "usual_look",
    "words_to_show",
]


@dataclass(frozen=True)
class TrackInShort:
    """How a track is cut: what of a look is not in its style."""

    look: str
    """Name of the look, and of the style in the project that has its style."""
    rhythm: Rhythm
    weighing: Weighing
    fit: Fit
    seen: Seen = ALL_SEEN
    version: str | None = None
    """Id of the version whose picture its words are fitted into; None is the film's own."""


@dataclass(frozen=True)
class KeptLook:
    """A look that is kept for all projects."""

    look: ShortLook
    default: bool
    """Whether upright films begin with it."""


_IN_SHORT = TypeAdapter(TrackInShort)
_SPEC = "vertical-short"


def in_short(project: Project, track_id: str) -> TrackInShort | None:
    """How a track is cut in short form; None for one that is not."""
    entry = track_entry(project, track_id).get("short")
    return _IN_SHORT.validate_python(entry) if entry else None


def look_of_track(project: Project, track_id: str) -> ShortLook | None:
    """The look that a track is in, as it was made by now; None where it is not in short form."""
    short = in_short(project, track_id)
    if short is None:
        return None
    style = project.styles.get(short.look)
    if style is None:
        return None
    return ShortLook(short.look, style, short.rhythm, short.weighing, short.fit)


def setting_of(
    folder: DataFolder,
    project: Project,
    track_id: str,
    look: ShortLook,
    seen: Seen = ALL_SEEN,
    version: str | None = None,
) -> Setting:
    """What captions of a track are made by in a look.

    :param version: id of the version whose picture they are fitted into
    """
    film, language = project.film, project.track(track_id).language
    style = sheet_of(project, track_id, {look.name: look.style}).styles[look.name]
    # Captions that are in short form are judged by a spec of their own.
    own = in_short(project, track_id) and project.records[TRACKS][track_id].get("spec")
    spec = for_language(project.spec_of(track_id) if own else shipped_specs()[_SPEC], language)
    picture = picture_of_track(folder, project, track_id, version)
    ends_ms = film.duration_ms or None
    return Setting(look, style, picture, spec, film.rate, language, seen, ends_ms)


def words_to_show(
    folder: DataFolder, project: Project, track_id: str, track: Track
) -> list[ShortWord]:
    """The words that captions are made of: those of the captions where these know when they are spoken, else those of the
    transcript; without one those of the captions, their times shared out."""
    language = project.track(track_id).language
    known = any(s.spoken and s.spoken.start_ms is not None for c in track for s in c.spans)
    if not known and (words := folder.words.of(project.id, project.words_run)):
        return words_of_transcript(words)
    return words_of_captions((c for c in track if not c.locked), language)


def make_short(
    folder: DataFolder,
    project: Project,
    track_id: str,
    look: ShortLook,
    author: Author,
    *,
    seen: Seen = ALL_SEEN,
    version: str | None = None,
    base: int | None = None,
    styles_base: int | None = None,
    gesture: str | None = None,
    key: str | None = None,
) -> Done | None:
    """Sets a track in a look, in one edit: its words parted and weighed by it, its style the track's. What was done to words
    and captions by hand stays, and so do captions that are locked, and shapes.

    :param version: id of the version whose picture they are fitted into
    :param base: the revision of the captions that it was made of; None is the newest
    :param styles_base: the same of the project's styles, where the look was made of one of them
    :returns: None when all is so already
    :raises BadInput: when there are no words
    :raises Outdated: when the captions or the style have changed since
    """
    track, _ = folder.log.track(track_id)
    words = words_to_show(folder, project, track_id, track)
    if not words:
        raise BadInput(message("looks.nothing-said"))
    by = setting_of(folder, project, track_id, look, seen, version)
    made = short_captions(weighed(words, look, by.language), by)
    stay = [caption for caption in track if caption.locked or caption.is_shape]
    fresh = [_beside(caption, stay) for caption in made]
    old = [caption for caption in track if caption not in stay]
    steps = [step for step in (style_step(project, look.name, look.style, styles_base),) if step]
    short = TrackInShort(look.name, look.rhythm, look.weighing, look.fit, seen, version)
    before = track_entry(project, track_id)
    said = _IN_SHORT.dump_python(short, mode="json")
    entry = before | {"style": look.name, "short": said}
    if not before.get("short") and not before.get("spec"):
        # Limits of lines to be read in peace would find fault with each of them.
        entry["spec"] = _SPEC
        steps += taking_spec(folder, project, _SPEC)
    if entry != before:
        steps.append(Step(TRACKS, SetEntries({track_id: entry})))
    if step := _replaced(track_id, old, fresh, base):
        steps.append(step)
    return folder.log.edit(project.id, steps, author, gesture=gesture, key=key) if steps else None


def _beside(caption: Caption, stay: Sequence[Caption]) -> Caption:
    """A caption that goes out before one begins that stays, where it begins before it."""
    for other in stay:
        if not other.is_shape and caption.in_ms < other.in_ms < caption.out_ms:
            return replace(caption, out_ms=other.in_ms)
    return caption


def _replaced(
    track_id: str, old: Sequence[Caption], made: Sequence[Caption], base: int | None
) -> Step | None:
    """What puts captions in the place of others; those that are as they were are not touched."""
    before = {caption.id: caption for caption in old}
    put, same = [], set()
    for caption in made:
        was = before.get(caption.id)
        fresh = replace(caption, id=new_caption_id()) if was is None else caption
        if was is None or was.is_untouched:
            fresh = replace(fresh, made=None)
            fresh = replace(fresh, made=fresh.fingerprint)
        if fresh == was:
            same.add(fresh.id)
        else:
            put.append(fresh)
    gone = tuple(id_ for id_ in before if id_ not in same)
    if not gone and not put:
        return None
    return Step(captions_of(track_id), ReplaceCaptions(gone, tuple(put)), base)


def do_to_word(
    folder: DataFolder,
    project: Project,
    track_id: str,
    caption_id: str,
    offset: int,
    deed: Deed,
    author: Author,
    *,
    known: Mapping[str, Any] | None = None,
    base: int | None = None,
    gesture: str | None = None,
    key: str | None = None,
) -> Done | None:
    """Does something to a word of a track in short form; None when that changes nothing.

    :raises BadInput: when the track is not in short form, or the word is not there
    :raises Outdated: when its caption has changed since the revision `base`
    """
    look, short = look_of_track(project, track_id), in_short(project, track_id)
    if look is None or short is None:
        raise BadInput(message("looks.not-in-one"))
    track, _ = folder.log.track(track_id)
    by = setting_of(folder, project, track_id, look, short.seen, short.version)
    said = dict(known or {})
    if "emphasis" in said:
        # What somebody sets is no measure's.
        said["measured"] = None
    gone, made = done_to_word(track, caption_id, offset, deed, by, said)
    step = _replaced(track_id, [track[id_] for id_ in gone], made, base)
    return folder.log.edit(project.id, [step], author, gesture=gesture, key=key) if step else None


def kept_looks(folder: DataFolder) -> dict[str, KeptLook]:
    """The looks that are kept for all projects, by name."""
    entries, _ = folder.log.record(HOUSE, LOOKS)
    return {
        name: KeptLook(look_of_plain(entry["look"]), entry["default"])
        for name, entry in sorted(entries.items())
    }


def looks_to_choose(folder: DataFolder) -> list[ShortLook]:
    """All looks that a track can be set in: those that are kept, then those that ship and have another name."""
    kept = {name: each.look for name, each in kept_looks(folder).items()}
    return [*kept.values(), *(look for look in shipped_looks().values() if look.name not in kept)]


def usual_look(folder: DataFolder) -> ShortLook:
    """The look that upright films begin with."""
    kept = kept_looks(folder).values()
    return next((each.look for each in kept if each.default), shipped_looks()[FIRST])


def keep_look(
    folder: DataFolder,
    look: ShortLook,
    author: Author,
    *,
    default: bool = False,
    key: str | None = None,
) -> Done | None:
    """Keeps a look for all projects, in the place of one of its name; one alone is that of upright films."""
    entries, _ = folder.log.record(HOUSE, LOOKS)
    wanted: dict[str, Any] = {look.name: {"look": plain_look(look), "default": default}}
    if default:
        wanted |= {
            name: {**entry, "default": False}
            for name, entry in entries.items()
            if name != look.name and entry["default"]
        }
    wanted = {name: entry for name, entry in wanted.items() if entries.get(name) != entry}
    if not wanted:
        return None
    return folder.log.edit(HOUSE, [Step(LOOKS, SetEntries(wanted))], author, key=key)


def let_go_of_look(folder: DataFolder, name: str, author: Author) -> bool:
    """Keeps a look no longer; tracks that are in it stay so. False when it was not kept."""
    entries, _ = folder.log.record(HOUSE, LOOKS)
    if name not in entries:
        return False
    folder.log.edit(HOUSE, [Step(LOOKS, SetEntries({name: None}))], author)
    return True
