"""Findings mended: what a machine can do about them, shown before it is done."""

from collections.abc import Collection, Iterator
from dataclasses import dataclass

from dunlin.core.captions.edits import ReplaceCaptions
from dunlin.core.captions.model import Caption, Track
from dunlin.core.messages import Message, message
from dunlin.core.specs.judge import Judge
from dunlin.core.specs.rules import RULES, Candidate, Finding
from dunlin.core.specs.rules.marks import LEFT_MARKUP
from dunlin.core.text.words import words_to_compare

__all__ = ["Mend", "Mended", "NoMend", "mend_all", "mend_of", "said_in", "what_breaks"]

_RULES = {rule.name: rule for rule in RULES}


@dataclass(frozen=True)
class Mend:
    """A proposal: the captions before and after, and the edit that leads from one to the other."""

    finding: Finding
    before: tuple[Caption, ...]
    after: tuple[Caption, ...]
    edit: ReplaceCaptions


@dataclass(frozen=True)
class NoMend:
    """A finding that only a person can mend, and why."""

    finding: Finding
    reason: Message


@dataclass(frozen=True)
class Mended:
    """A track in which findings were mended one after the other."""

    track: Track
    mends: tuple[Mend, ...] = ()
    left: tuple[NoMend, ...] = ()


def said_in(captions: Collection[Caption]) -> list[str]:
    """The words in their order, whatever their case, marks, line breaks and tags."""
    return words_to_compare("\n".join(LEFT_MARKUP.sub("", caption.text) for caption in captions))


def mend_of(track: Track, finding: Finding, judge: Judge) -> Mend | NoMend:
    """The best mend of a finding: one after which it is gone, no word is another, and no error is new.

    :param finding: one that the judge has about the track as it is
    """
    rule = _RULES[finding.rule]
    if rule.mend is None:
        return NoMend(finding, message("mends.person-decides"))
    place = judge.place(track, track.index(finding.caption))
    refused: Message | None = None
    for candidate in rule.mend(place, judge.setting):
        reason = _reason_against(track, finding, candidate, judge)
        if reason is None:
            removed, put = candidate
            return Mend(
                finding, _in_order(track[id_] for id_ in removed), _in_order(put),
                ReplaceCaptions(removed, put),
            )  # fmt: skip
        refused = refused or reason
    return NoMend(finding, refused or message(_NO_WAY.get(finding.rule, "mends.no-room")))


_NO_WAY = {
    "line-length": "mends.no-place-to-break",
    "lines": "mends.no-place-to-part",
    "numbers": "mends.figures",
    "speaker-labels": "mends.label",
}


def _in_order(captions: Iterator[Caption] | tuple[Caption, ...]) -> tuple[Caption, ...]:
    return tuple(sorted(captions, key=lambda caption: (caption.in_ms, caption.id)))


def _reason_against(
    track: Track, finding: Finding, candidate: Candidate, judge: Judge
) -> Message | None:
    """Why a candidate will not do; None when it will."""
    removed, put = candidate
    impossible = _impossible(track, candidate)
    if impossible is not None:
        return impossible
    changed = track.changed(removed, put)
    before, after = _findings_around(track, changed, candidate, judge)
    # Where the caption went up in another, that one must not have the finding either.
    about = {finding.caption} if finding.caption in changed else {caption.id for caption in put}
    if any(f.rule == finding.rule and f.caption in about for f in after):
        return message("mends.not-enough")
    return _new_error(before, after)


def what_breaks(track: Track, candidate: Candidate, judge: Judge) -> Message | None:
    """What stands against other captions in the place of some: they cannot be, or break a limit that was kept, or break one
    further; None when nothing does. Their words must be the same."""
    impossible = _impossible(track, candidate)
    if impossible is not None:
        return impossible
    changed = track.changed(*candidate)
    return _new_error(*_findings_around(track, changed, candidate, judge))


def _impossible(track: Track, candidate: Candidate) -> Message | None:
    removed, put = candidate
    if any(caption.in_ms < 0 or caption.out_ms <= caption.in_ms for caption in put):
        return message("mends.no-time")
    if _moves_locked(track, candidate):
        return message("mends.locked")
    if said_in(_in_order(track[id_] for id_ in removed)) != said_in(_in_order(put)):
        return message("mends.other-words")
    return None


def _findings_around(
    track: Track, changed: Track, candidate: Candidate, judge: Judge
) -> tuple[list[Finding], list[Finding]]:
    """Findings before and after, about all captions that may be judged otherwise."""
    removed, put = candidate
    ids = {*removed, *(caption.id for caption in put)}
    # Who was near before may be judged otherwise as well as who is now.
    near = _near(track, ids, judge) | _near(changed, ids, judge)
    return _findings_of(track, near, judge), _findings_of(changed, near, judge)


def _new_error(before: Collection[Finding], after: Collection[Finding]) -> Message | None:
    """The first error that was not there, or is worse than it was."""
    known = {(f.rule, f.caption): f for f in before if f.weight == "error"}
    for found in after:
        if found.weight != "error":
            continue
        old = known.get((found.rule, found.caption))
        if old is None:
            return message("mends.breaks-another", finding=found.message)
        if abs(found.measured - found.limit) > abs(old.measured - old.limit):
            return message("mends.makes-worse", finding=found.message)
    return None


def _moves_locked(track: Track, candidate: Candidate) -> bool:
    removed, put = candidate
    times = {caption.id: (caption.in_ms, caption.out_ms) for caption in put}
    return any(
        track[id_].locked and times.get(id_) != (track[id_].in_ms, track[id_].out_ms)
        for id_ in removed
    )


def _near(track: Track, ids: Collection[str], judge: Judge) -> set[str]:
    """Captions, those beside them, and those that may be judged otherwise through any of these."""
    places = {track.index(id_) for id_ in ids if id_ in track}
    beside = {place + step for place in places for step in (-1, 0, 1)}
    wide = {
        other
        for place in beside
        if 0 <= place < len(track)
        for other in judge.judged_with(track, place)
    }
    return {track.order[place][1] for place in wide}


def _findings_of(track: Track, ids: Collection[str], judge: Judge) -> list[Finding]:
    places = sorted(track.index(id_) for id_ in ids if id_ in track)
    return [finding for place in places for finding in judge.findings_of(track, place)]


def mend_all(
    track: Track,
    judge: Judge,
    *,
    only: Collection[str] = (),
    chosen: Collection[tuple[str, str]] | None = None,
    waived: Collection[tuple[str, str]] = (),
) -> Mended:
    """Mends findings one after the other, rule by rule and from the beginning to the end.

    Each mend is looked for in the track as the mends before it left it.

    :param only: names of rules; all, when there is none
    :param chosen: rule and caption of the findings to mend; None for all
    :param waived: rule and caption of findings to leave alone
    """
    mends: list[Mend] = []
    left: list[NoMend] = []
    to_look_at: dict[str, set[str]] = {}
    for finding in judge.findings(track):
        to_look_at.setdefault(finding.rule, set()).add(finding.caption)
    touched: set[str] = set()
    for rule in RULES:
        ids = to_look_at.get(rule.name, set()) | touched
        if not ids or (only and rule.name not in only):
            continue
        alone = judge.about(rule.name)
        for id_ in [caption.id for caption in track if caption.id in ids]:
            key = (rule.name, id_)
            if id_ not in track or key in waived or (chosen is not None and key not in chosen):
                continue
            for finding in alone.findings_of(track, track.index(id_))[:1]:
                outcome = mend_of(track, finding, judge)
                if isinstance(outcome, NoMend):
                    left.append(outcome)
                    continue
                mends.append(outcome)
                track = track.changed(outcome.edit.removed, outcome.edit.captions)
                touched |= {*outcome.edit.removed, *(c.id for c in outcome.edit.captions)}
    return Mended(track, tuple(mends), tuple(left))
