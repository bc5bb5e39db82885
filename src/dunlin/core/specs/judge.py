"""Captions judged by a spec: every rule it asks for, about every caption."""

from collections.abc import Iterator, Sequence
from itertools import chain, pairwise, product
from typing import get_args

from dunlin.core.captions.model import Caption, Track
from dunlin.core.specs.measures import Bounds, measures
from dunlin.core.specs.model import RuleName, Spec, for_language
from dunlin.core.specs.rules import RULES, Finding, Place, Rule, Setting, endless
from dunlin.core.specs.rules.place import Check, Trigger, triggers_in
from dunlin.core.styles.stacking import REACH, on_screen_with
from dunlin.core.timecode import FrameRate

__all__ = ["Judge", "findings"]


class Judge:
    """The checks that a spec asks for, made ready once for a track."""

    def __init__(self, setting: Setting, rules: Sequence[Rule] = RULES) -> None:
        self.setting = setting
        advice = frozenset(setting.spec.advice)
        ready: list[tuple[Rule, Check, bool]] = [
            (rule, check, rule.name in advice) for rule in rules if (check := rule.check(setting))
        ]
        # Of a text without end only that is told: rules would take as long as it is.
        self._checks_of_endless = [one for one in ready if one[0] is endless.RULE]
        self._bounds = Bounds.of(setting.spec, setting.rate)
        # By the triggers that a caption has.
        self._checks = {
            there: [
                one
                for one in ready
                if one[0].trigger is None or there[get_args(Trigger).index(one[0].trigger)]
            ]
            for there in product((False, True), repeat=len(get_args(Trigger)))
        }

    @classmethod
    def of(cls, spec: Spec, rate: FrameRate, language: str = "en") -> "Judge":
        """A judge for captions of which nothing but their frame rate and language is known."""
        return cls(Setting(for_language(spec, language), rate, language))

    def about(self, name: RuleName) -> "Judge":
        """A judge who looks at one rule alone."""
        return Judge(self.setting, [rule for rule in RULES if rule.name == name])

    @property
    def reach(self) -> int:
        """How many captions after the one that was edited may be judged otherwise now."""
        spec = self.setting.spec
        return max(1, spec.captions_per_sentence or 1, spec.captions_per_minute or 1)

    def judged_with(self, track: Track, index: int) -> Iterator[int]:
        """Places in the track's order whose findings may be others once something changed at one of them."""
        yield index
        if self.setting.spec.no_covering:
            yield from on_screen_with(track, index)
        before = _worded(track, index, -1)
        if before is not None:
            yield before
        for _ in range(self.reach):
            after = _worded(track, index, 1)
            if after is None:
                return
            yield (index := after)

    def place(self, track: Track, index: int) -> Place:
        """The caption at a place in the track's order. :raises IndexError: when there is none"""
        caption = track.at(index)
        if caption is None:
            raise IndexError(index)
        before, after = _beside(track, index, -1), _beside(track, index, 1)
        joins = bool(track.still_shown(index, REACH))
        return self._place(track, index, before, caption, after, is_joined=joins)

    def _place(
        self,
        track: Track,
        index: int,
        before: Caption | None,
        caption: Caption,
        after: Caption | None,
        *,
        is_joined: bool,
    ) -> Place:
        text = caption.text
        taken = measures(caption, text, before, after, self.setting.spec)
        return Place(caption, text, before, after, taken, track, index, is_joined)

    def findings_at(self, place: Place) -> list[Finding]:
        """Findings about one caption, in the order of the rules."""
        found: list[Finding] = []
        if place.caption.is_shape:
            return found
        if len(place.text) > endless.MOST_JUDGED:
            checks = self._checks_of_endless
        else:
            checks = self._checks[triggers_in(place, self._bounds)]
        for rule, check, advises in checks:
            # Mostly nothing is broken, and there is nothing to go through.
            if not (broken := check(place)):
                continue
            caption = place.caption
            for measured, limit, told in broken:
                found.append(
                    Finding(
                        rule.name, caption.id, caption.in_ms, caption.out_ms, measured, limit,
                        rule.unit, "advice" if advises else "error", told,
                    )
                )  # fmt: skip
        return found

    def findings_of(self, track: Track, index: int) -> list[Finding]:
        """Findings about the caption at a place in the track's order."""
        return self.findings_at(self.place(track, index))

    def findings(self, track: Track) -> Iterator[Finding]:
        """Findings about all captions, in the track's order."""
        before: Caption | None = None
        # Each caption is looked up once, and not three times.
        for (index, caption, joins), (_, after, _) in pairwise(chain(_each_worded(track), [_END])):
            assert caption is not None
            place = self._place(track, index, before, caption, after, is_joined=joins)
            yield from self.findings_at(place)
            before = caption


def findings(track: Track, spec: Spec, rate: FrameRate, language: str = "en") -> Iterator[Finding]:
    """Findings about all captions, in the track's order."""
    return Judge.of(spec, rate, language).findings(track)


_END = (0, None, False)


def _each_worded(track: Track) -> Iterator[tuple[int, Caption | None, bool]]:
    """Captions with words, their places in the track's order, and whether any before is still shown when they come."""
    until = 0
    for index, one in enumerate(track):
        if not one.is_shape:
            yield index, one, one.in_ms < until
        until = max(until, one.out_ms)


def _worded(track: Track, index: int, step: int) -> int | None:
    """The nearest place before or behind one whose caption has words: shapes are beside nothing."""
    while (caption := track.at(index := index + step)) and caption.is_shape:
        pass
    return index if caption else None


def _beside(track: Track, index: int, step: int) -> Caption | None:
    place = _worded(track, index, step)
    return None if place is None else track.at(place)
