"""Each rule: what it finds, what it leaves alone, and how it is mended."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions import Caption, Look, Placement, Span, Track, apply, spans_of
from dunlin.core.specs import (
    RULES,
    Judge,
    Mend,
    NoMend,
    Setting,
    Spec,
    for_language,
    mend_all,
    mend_of,
)
from dunlin.core.styles import Script
from dunlin.core.timecode import FrameRate

PAL = FrameRate(25)


def judge(tag: str = "en", shots: tuple[int, ...] = (), **limits) -> Judge:
    return Judge(Setting(Spec(id="own", name="Own", **limits), PAL, tag, shots))


def track(*texts: str, each_ms: int = 3000, gap_ms: int = 200) -> Track:
    step = each_ms + gap_ms
    return Track.of(
        Caption(f"c{n}", n * step, n * step + each_ms, spans_of(text))
        for n, text in enumerate(texts)
    )


def rules_found(text: str, tag: str = "en", **limits) -> list[tuple[str, float]]:
    found = judge(tag, **limits).findings(track(text))
    return [(finding.rule, finding.measured) for finding in found]


@pytest.mark.parametrize(
    ("limits", "text", "found", "mended"),
    [
        ({"no_empty": True}, "  ", "empty", None),
        ({"characters_per_line": 10}, "one two three", "line-length", "one two\nthree"),
        ({"lines": 1}, "one\ntwo", "lines", "one two"),
        ({"line_balance": 60, "characters_per_line": 14}, "a\nlong line of words", "line-balance", "a long line\nof words"),
        ({"line_shape": "top-heavy", "characters_per_line": 12}, "now\nwe go home", "line-shape", "now we go\nhome"),
        ({"line_shape": "bottom-heavy", "characters_per_line": 12}, "we go to the\nbay", "line-shape", "we go\nto the bay"),
        ({"no_single_last_word": True}, "we go to the\nbay", "last-word", "we go to the bay"),
        ({"dash": "- "}, "-Yes.\n–No.", "dash", "- Yes.\n- No."),
        ({"dash": "–"}, "- Yes.", "dash", "–Yes."),
        ({"ellipsis": "…"}, "Well...", "ellipsis", "Well…"),
        ({"ellipsis": "..."}, "Well…", "ellipsis", "Well..."),
        ({"quotes": "curly"}, '"Marigold" she\nsaid "yes"', "quotes", "“Marigold” she\nsaid “yes”"),
        ({"quotes": "low-high"}, "“Ja”", "quotes", "„Ja“"),
        ({"sound_brackets": "square"}, "(bell tolls)\nHark", "sound-brackets", "[bell tolls]\nHark"),
        ({"sound_brackets": "round"}, "[bell]", "sound-brackets", "(bell)"),
        ({"sound_case": "upper"}, "[bell tolls] Hark", "sound-case", "[BELL TOLLS] Hark"),
        ({"sound_case": "sentence"}, "[BELL TOLLS]", "sound-case", "[Bell tolls]"),
        ({"no_double_spaces": True}, " one  two \n\nthree", "double-space", "one two\nthree"),
        ({"no_space_before_marks": True}, "Yes , no !", "space-before-mark", "Yes, no!"),
        ({"no_markup": True}, "<i>Hark</i> {\\an8}&amp; you", "markup", "Hark & you"),
        ({"speaker_labels": "upper"}, "Ilse: Hark", "speaker-labels", "ILSE: Hark"),
        ({"speaker_labels": "as-written"}, "ILSE VARGA: Hark", "speaker-labels", "Ilse Varga: Hark"),
    ],
)  # fmt: skip
def test_a_text_is_found_and_mended(limits, text: str, found: str, mended: str | None) -> None:
    judging, before = judge(**limits), track(text)
    finding = next(f for f in judging.findings(before) if f.rule == found)
    outcome = mend_of(before, finding, judging)
    assert isinstance(outcome, Mend), outcome
    assert [caption.text for caption in outcome.after] == ([] if mended is None else [mended])


@pytest.mark.parametrize(
    ("limits", "text", "language"),
    [
        ({"dash": "- "}, "-5 degrees\n- Cold.", "en"),
        ({"ellipsis": "…"}, "3.14 and…", "en"),
        ({"quotes": "straight"}, "It’s 'fine'", "en"),
        ({"sound_brackets": "square"}, "the bell (an old one) tolls", "en"),
        ({"no_space_before_marks": True}, "Vraiment ?", "fr"),
        ({"no_space_before_marks": True}, "a .45 and ... so", "en"),
        ({"numbers_in_words_below": 11}, "at 4:30, 3.5 kilos, 7%, $5, 11 and 1906", "en"),
        ({"line_balance": 90}, "- Yes.\n- It was cast in one evening.", "en"),
        ({"speaker_labels": "none"}, "at 4:30 he said: go", "en"),
        ({"no_markup": True}, "5 < 6 & 7 > 3 {so}", "en"),
        ({"characters": "latin"}, "Größe 5 €, naïve…", "en"),
        ({"characters": "cyrillic"}, "Колокол, 5!", "ru"),
        ({"language": True}, "Колокол по имени Marigold", "ru"),
        ({"language": True}, "1906…", "ja"),
    ],
)
def test_what_is_right_is_left_alone(limits, text: str, language: str) -> None:
    assert rules_found(text, language, **limits) == []


@pytest.mark.parametrize(
    ("limits", "text", "language", "found"),
    [
        ({"numbers_in_words_below": 11}, "3 men and 10 boys", "en", ("numbers", 2)),
        ({"characters": "ascii"}, "naïve…", "en", ("characters", 2)),
        ({"characters": "ebu-stl"}, "日 and é", "en", ("characters", 1)),
        ({"characters": "latin"}, "Marigold и", "en", ("characters", 1)),
        ({"forbidden_characters": "♪#"}, "♪ la #1", "en", ("characters", 2)),
        ({"language": True}, "The bell", "ru", ("language", 100)),
        ({"speaker_labels": "none"}, "Ilse: Hark", "en", ("speaker-labels", 1)),
        ({"safe_area": 0.5}, "It weighs four hundred kilos, and it was c", "en", ("safe-area", 59)),
    ],
)
def test_what_only_a_person_can_mend_says_so(limits, text, language, found) -> None:
    judging, before = judge(language, **limits), track(text)
    assert rules_found(text, language, **limits) == [found]
    if found[0] != "safe-area":
        outcome = mend_of(before, next(judging.findings(before)), judging)
        assert isinstance(outcome, NoMend)
        assert "person" in str(outcome.reason)


def test_wide_characters_count_two_where_the_spec_says_so() -> None:
    assert rules_found("灯台の鐘", characters_per_line=6) == []
    assert rules_found("灯台の鐘", characters_per_line=6, wide_characters_count_two=True) == [
        ("line-length", 8)
    ]


def test_spaces_and_marks_count_for_the_speed_or_not() -> None:
    text = "ab, cd."
    caption = track(text, each_ms=1000)
    speeds = [
        judge(spaces_count=spaces, punctuation_counts=marks)
        .place(caption, 0)
        .measures.reading_speed
        for spaces, marks in ((True, True), (False, True), (True, False), (False, False))
    ]
    assert speeds == [7, 6, 5, 4]


def test_words_a_minute_are_counted() -> None:
    assert rules_found("one two - it's three-fold", words_per_minute=70) == [
        ("words-per-minute", 80)
    ]


def test_a_sentence_may_go_over_so_many_captions() -> None:
    before = track("We hung", "the old bell", "again.", "It rang.")
    found = [(f.caption, f.measured) for f in judge(captions_per_sentence=2).findings(before)]
    assert found == [("c2", 3)]


def test_a_sentence_that_was_left_is_not_counted_on() -> None:
    assert (
        list(judge(captions_per_sentence=1).findings(track("We hung", "the bell.", gap_ms=5000)))
        == []
    )


def test_gaps_are_closed_or_opened() -> None:
    for gap_ms, limits, rule, out_ms in (
        (40, {"least_gap_frames": 2}, "gap", 2960),
        (40, {"least_gap_ms": 80}, "gap", 2960),
        (320, {"least_gap_frames": 2, "close_gaps_below_ms": 500}, "gap-to-close", 3240),
    ):
        before, judging = track("one", "two", gap_ms=gap_ms), judge(**limits)
        assert [f.rule for f in judging.findings(before)] == [rule]
        mended = mend_all(before, judging)
        assert mended.track["c0"].out_ms == out_ms
        assert list(judging.findings(mended.track)) == []


def test_an_overlap_is_cut_back_to_the_gap() -> None:
    before, judging = track("one", "two", gap_ms=-500), judge(least_gap_frames=2)
    mended = mend_all(before, judging)
    assert (mended.track["c0"].out_ms, mended.track["c1"].in_ms) == (2400, 2500)


def test_time_is_taken_from_the_pause_after_it_then_from_the_one_before() -> None:
    captions = [
        Caption("a", 0, 1000, spans_of("one")),
        Caption("b", 2000, 2400, spans_of("two")),
        Caption("c", 2600, 4000, spans_of("three")),
    ]
    judging = judge(least_duration_ms=1000, least_gap_frames=2)
    mended = mend_all(Track.of(captions), judging)
    assert (mended.track["b"].in_ms, mended.track["b"].out_ms) == (1520, 2520)


def test_a_short_caption_without_room_is_joined_with_its_neighbour() -> None:
    captions = [
        Caption("a", 0, 2000, spans_of("We hung")),
        Caption("b", 2040, 2400, spans_of("the bell.")),
        Caption("c", 2440, 4000, spans_of("It rang.")),
    ]
    mended = mend_all(Track.of(captions), judge(least_duration_ms=1000), only=("least-duration",))
    assert [caption.text for caption in mended.track] == ["We hung", "the bell. It rang."]


def test_a_line_too_long_to_break_is_parted_in_two_captions() -> None:
    before = Track.of(
        [Caption("a", 0, 6000, spans_of("It was cast in one evening. It hung for years."))]
    )
    judging = judge(characters_per_line=27, lines=1, least_gap_frames=2)
    mended = mend_all(before, judging)
    assert [c.text for c in mended.track] == ["It was cast in one evening.", "It hung for years."]
    assert list(judging.findings(mended.track)) == []


def test_edges_are_brought_to_the_shot_change() -> None:
    before = Track.of([Caption("a", 920, 3080, spans_of("one"))])
    judging = judge(shots=(1000, 3000), shot_change_frames=7)
    assert [f.measured for f in judging.findings(before)] == [2, 2]
    mended = mend_all(before, judging)
    assert (mended.track["a"].in_ms, mended.track["a"].out_ms) == (1000, 3000)


def test_a_mend_that_would_break_another_limit_is_not_proposed() -> None:
    before, judging = (
        track("one", "two", gap_ms=-500, each_ms=1000),
        judge(least_duration_ms=1000, overlap_allowed=False),
    )
    outcome = mend_of(
        before, next(f for f in judging.findings(before) if f.rule == "overlap"), judging
    )
    assert isinstance(outcome, NoMend)
    assert "another limit" in str(outcome.reason)


def test_styles_and_placement_outlive_a_mend() -> None:
    spans = (Span("Read the ", colour="#FF0000"), Span("Marigold  now", italic=True))
    before = Track.of([Caption("a", 0, 3000, spans, "Ilse", Placement("top"))])
    mended = mend_all(before, judge(characters_per_line=14)).track["a"]
    assert mended == replace(
        before["a"],
        spans=(Span("Read the\n", colour="#FF0000"), Span("Marigold now", italic=True)),
    )


def test_the_house_font_tells_what_fits_an_upright_picture() -> None:
    spec = Spec(id="own", name="Own", safe_area=0.9)
    upright = Judge(Setting(spec, PAL, picture=Script(720, 1280)))
    wide = Judge(Setting(spec, PAL))
    before = track("It weighs four hundred kilos")
    assert [f.rule for f in upright.findings(before)] == ["safe-area"]
    assert list(wide.findings(before)) == []


def test_every_rule_goes_by_limits_that_a_spec_has() -> None:
    assert len({rule.name for rule in RULES}) == len(RULES)
    for rule in RULES:
        assert set(rule.limits) <= Spec.model_fields.keys()


def test_of_a_text_without_end_only_that_is_told() -> None:
    judge = Judge.of(Spec(id="own", name="Own", characters_per_line=20, reading_speed=5), PAL)
    told = [f.rule for f in judge.findings(track("words  " * 285))]
    assert {"line-length", "reading-speed", "double-space"} <= set(told)
    (found,) = judge.findings(track("words  " * 286))
    assert (found.rule, found.measured, found.limit) == ("endless", 2002, 2000)
    assert list(judge.about("line-length").findings(track("words  " * 286))) == []


def test_what_was_wrong_two_captions_on_does_not_stand_in_a_mend_s_way() -> None:
    captions = [
        Caption("a", 0, 400, spans_of("one")),
        Caption("b", 2000, 4000, spans_of("two")),
        Caption("c", 4040, 6000, spans_of("three")),
    ]
    before, judging = Track.of(captions), judge(least_duration_ms=1000, least_gap_frames=2)
    outcome = mend_of(before, next(judging.findings(before)), judging)
    assert isinstance(outcome, Mend), outcome


# Everything at once that a text can be asked about.
WORDINGS = {
    "no_double_spaces": True, "no_space_before_marks": True, "dash": "- ", "ellipsis": "…",
    "quotes": "curly", "no_markup": True, "sound_brackets": "square", "sound_case": "upper",
    "numbers_in_words_below": 11, "speaker_labels": "upper", "line_balance": 90,
    "line_shape": "top-heavy", "no_single_last_word": True,
}  # fmt: skip
marked = st.lists(
    st.sampled_from(
        [*'ab \n\t-–—.,;:!?…"“„«()[]<>&{}7', "...", "{\\i1}", "<i>", "&amp;", " Ilse: "]
    )
).map("".join)


@given(marked)
def test_a_trigger_spares_no_rule_that_has_something_to_say(text: str) -> None:
    by = judge(**WORDINGS)
    always = Judge(by.setting, [replace(rule, trigger=None) for rule in RULES])
    assert list(by.findings(track(text))) == list(always.findings(track(text)))


FIGURES = {
    "characters_per_line": 5, "lines": 2, "reading_speed": 10, "words_per_minute": 100,
    "least_duration_ms": 400, "greatest_duration_ms": 900, "least_gap_frames": 2,
    "close_gaps_below_ms": 300, "overlap_allowed": False,
}  # fmt: skip
limits = st.sets(st.sampled_from(sorted(FIGURES))).map(lambda names: {n: FIGURES[n] for n in names})
cues = st.lists(
    st.tuples(st.integers(0, 3000), st.integers(1, 1200), st.text("ab \n", max_size=12)), max_size=5
)


@given(cues, limits)
def test_figures_within_their_bounds_spare_no_rule_that_has_something_to_say(cues, limits) -> None:
    captions = [
        Caption(str(n), at, at + length, spans_of(text))
        for n, (at, length, text) in enumerate(cues)
    ]
    by = judge(**limits)
    always = Judge(by.setting, [replace(rule, trigger=None) for rule in RULES])
    whole = Track.of(captions)
    assert list(by.findings(whole)) == list(always.findings(whole))


def test_what_is_shown_after_the_film_is_found_and_ends_with_it() -> None:
    by = Judge(Setting(Spec(id="own", name="Own"), PAL, film_ends_ms=5000))
    shown = track("within", "over the end", "after it")
    found = {f.caption: f for f in by.findings(shown) if f.rule == "film-end"}
    assert {id_: f.measured for id_, f in found.items()} == {"c1": 1200, "c2": 4400}
    outcome = mend_of(shown, found["c1"], by)
    assert isinstance(outcome, Mend)
    assert outcome.after[0].out_ms == 5000
    # Whether a caption after the film is to go, only a person can say.
    assert isinstance(mend_of(shown, found["c2"], by), NoMend)
    whole = Judge(Setting(Spec(id="own", name="Own"), PAL, film_ends_ms=9400))
    assert not [f for f in whole.findings(shown) if f.rule == "film-end"]


def found_in(captions: list[Caption], rule: str, **known) -> list[float]:
    limits = {k: v for k, v in known.items() if k not in ("shots", "speech", "tag")}
    setting = Setting(
        Spec(id="own", name="Own", **limits), PAL, known.get("tag", "en"), known.get("shots", ()),
        speech=known.get("speech", ()),
    )  # fmt: skip
    by, shown = Judge(setting), Track.of(captions)
    found = [f for f in by.findings(shown) if f.rule == rule]
    for finding in found:
        outcome = mend_of(shown, finding, by)
        if isinstance(outcome, Mend):
            after = apply(shown, outcome.edit).track
            same = [f for f in by.findings(after) if f.rule == rule]
            assert finding.caption not in {f.caption for f in same}
    return [finding.measured for finding in found]


def said(text: str, in_ms: int = 0, out_ms: int = 3000, id_: str = "a") -> Caption:
    return Caption(id_, in_ms, out_ms, spans_of(text))


def test_a_caption_across_a_shot_change_is_found() -> None:
    for shots, count in (((1000,), [1]), ((0, 3000), []), ((), [])):
        assert (
            found_in([said("one")], "across-shot", shots=shots, no_caption_across_shots=True)
            == count
        )


def test_distances_before_and_after_a_shot_change_are_apart() -> None:
    limits = {"shot_change_before_frames": 12, "shot_change_after_frames": 2, "shots": (4000,)}
    assert found_in([said("out 5 before", out_ms=3800)], "shot-change", **limits) == [5]
    assert found_in([said("in 3 after", 4120, 6000)], "shot-change", **limits) == []
    assert found_in([said("in 1 after", 4040, 6000)], "shot-change", **limits) == [1]


def test_longer_texts_are_shown_longer() -> None:
    limits = {"least_duration_ms": 1000, "least_duration_by_length": [(20, 1500), (40, 2500)]}
    short, long = said("x" * 10, out_ms=1000), said("x" * 45, out_ms=2000)
    assert found_in([short], "least-duration", **limits) == []
    assert found_in([long], "least-duration", **limits) == [2000]


def test_children_read_at_a_speed_of_their_own() -> None:
    spec = Spec(id="own", name="Own", reading_speed=17, children_reading_speed=13)
    assert for_language(spec, "en").reading_speed == 17
    assert for_language(spec.model_copy(update={"for_children": True}), "en").reading_speed == 13


def test_the_programme_as_a_whole_is_judged() -> None:
    five = [said("x", n * 2000, n * 2000 + 1000, f"c{n}") for n in range(5)]
    assert found_in(five, "density", captions_per_minute=4) == [5]
    assert found_in(five, "first-caption", first_caption_ms=500) == [0]
    speech = ((0, 900), (1200, 1900), (20_000, 26_000))
    late = [*five, said("late", 30_000, 31_000, "z")]
    limits = {"speech": speech, "speech_without_caption_ms": 3000}
    assert found_in(late, "uncaptioned", **limits) == [6000]


@pytest.mark.parametrize(
    ("rule", "limits", "text", "mended"),
    [
        ("dash-second", {"dash_of_second_only": True}, "- Yes.\n- No.", "Yes.\n- No."),
        ("nested-quotes", {"nested_quotes_single": True}, "“He said “no” twice”", "“He said ‘no’ twice”"),
        ("number-format", {"number_format": True}, "It is 3,5 or 1,000", "It is 3.5 or 1,000"),
    ],
)  # fmt: skip
def test_newer_wordings_are_found_and_mended(rule, limits, text: str, mended: str) -> None:
    judging, before = judge(**limits), track(text)
    finding = next(f for f in judging.findings(before) if f.rule == rule)
    outcome = mend_of(before, finding, judging)
    assert isinstance(outcome, Mend), outcome
    assert [caption.text for caption in outcome.after] == [mended]
    assert not [f for f in judging.findings(Track.of(outcome.after)) if f.rule == rule]


def test_a_number_and_its_unit_are_apart() -> None:
    assert found_in([said("12kg at 4:30, 5 m, 20°C")], "units", unit_space=True) == [2]


def test_an_ellipsis_stands_where_a_sentence_goes_on_after_a_pause() -> None:
    limits = {"ellipsis_from_pause_ms": 2000}

    def two(first: str, second: str, pause: int) -> list[Caption]:
        return [said(first, 0, 1000), said(second, 1000 + pause, 3000 + pause, "b")]

    assert found_in(two("She went…", "…and came", 400), "continuation", **limits) == [400]
    assert found_in(two("She went", "and came", 2400), "continuation", **limits) == [2400]
    assert found_in(two("She went", "and came", 400), "continuation", **limits) == []
    assert found_in(two("She went.", "And came", 2400), "continuation", **limits) == []


def test_italics_are_nowhere_or_in_whole_lines() -> None:
    part = Caption("a", 0, 3000, (Span("Read the "), Span("Marigold", italic=True), Span("\nnow")))
    whole = Caption("a", 0, 3000, (Span("Read it", italic=True), Span("\nnow")))
    assert found_in([part], "italics", italics="none") == [1]
    assert found_in([part], "italics", italics="whole-lines") == [1]
    assert found_in([whole], "italics", italics="whole-lines") == []


def at(x: float, y: float, anchor: str = "middle") -> Placement:
    return Placement(anchor, "center", x, y)  # type: ignore[arg-type]


def shown(*captions: Caption, **limits) -> tuple[Judge, Track]:
    judging = judge(**{"overlap_allowed": True} | limits)
    return judging, Track.of(captions)


def one(id_: str, place: Placement | None = None, text: str = "FOG SIGNAL", **fields) -> Caption:
    return Caption(id_, 0, 2000, spans_of(text), placement=place, **fields)


@pytest.mark.parametrize(
    ("caption", "limits", "found"),
    [
        (one("a", at(0.02, 0.5)), {}, "outside"),
        (one("a", at(0.5, 1.0, "top")), {}, "outside"),
        (one("a", at(0.5, 0.95)), {"kept_from_edges": 0.05}, "outside"),
        # Turned upright it goes over both edges, lying it does not.
        (
            one("a", at(0.5, 0.5), "FOG SIGNAL OF QUILLAN HARBOUR TODAY", look=Look(turn=90)),
            {},
            "outside",
        ),
        (one("a", at(0.5, 0.5), "FOG SIGNAL OF QUILLAN HARBOUR TODAY"), {}, None),
        (one("a"), {"kept_from_edges": 0.05}, None),
        (one("a"), {"kept_from_edges": 0.1}, "outside"),
        (one("a", look=Look(size=0.03)), {"least_letter_size": 0.05}, "letter-size"),
        (one("a"), {"least_letter_size": 0.05}, None),
    ],
)
def test_captions_off_the_picture_and_small_ones_are_found_and_mended(
    caption: Caption, limits, found: str | None
) -> None:
    judging, before = shown(caption, **limits)
    findings = list(judging.findings(before))
    assert [finding.rule for finding in findings] == ([found] if found else [])
    if found:
        outcome = mend_of(before, findings[0], judging)
        assert isinstance(outcome, Mend), outcome
        assert list(judging.findings(Track.of(outcome.after))) == []


def test_captions_over_each_other_are_told_and_one_goes_elsewhere() -> None:
    judging, before = shown(one("a", at(0.5, 0.9)), one("b"), no_covering=True)
    (finding,) = judging.findings(before)
    assert (finding.rule, finding.caption, finding.measured > 10) == ("covering", "b", True)
    outcome = mend_of(before, finding, judging)
    assert isinstance(outcome, Mend)
    (moved,) = outcome.after
    assert moved.placement == Placement("top")
    # Those that are stacked when they are drawn are not over each other.
    assert list(judging.findings(Track.of([one("a"), one("b")]))) == []


def test_words_smaller_than_the_rest_are_as_large_as_they_have_to_be() -> None:
    spans = (Span("FOG ", look=Look(size=0.02, italic=True)), Span("SIGNAL"))
    judging, before = shown(
        Caption("a", 0, 2000, spans, placement=at(0.5, 0.5)), least_letter_size=0.05
    )
    (finding,) = judging.findings(before)
    assert (finding.measured, finding.limit) == (2.0, 5.0)
    outcome = mend_of(before, finding, judging)
    assert isinstance(outcome, Mend)
    assert outcome.after[0].spans[0].look == Look(italic=True)
