"""Names by patterns: fit for every file system, and no two alike."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.delivery.names import fit_name, name_by_pattern, told_apart

VALUES = {"title": "Fog", "language": "en", "what": "", "version": "3"}


@pytest.mark.parametrize(
    ("pattern", "name"),
    [
        ("{title}_{language}_{what}_v{version}", "Fog_en_v3.srt"),
        ("{what}-{title}", "Fog.srt"),
        ("{title}.{none}", "Fog.{none}.srt"),
        ('a/b\\c:d*?"<>|', "a_b_c_d______.srt"),
        ("NUL", "_NUL.srt"),
        ("com1.x", "_com1.x.srt"),
        ("  . ", "_.srt"),
        ("", "_.srt"),
    ],
)
def test_a_pattern_gives_a_name(pattern: str, name: str) -> None:
    assert name_by_pattern(pattern, VALUES, ".srt") == name


@given(st.text(), st.sampled_from([".srt", ".words.json", ".mp4"]))
def test_any_text_is_fit_and_stays_so(text: str, ending: str) -> None:
    name = fit_name(text, ending)
    assert name.endswith(ending)
    assert 0 < len(name.encode()) <= 255
    assert not set(name) & set('/\\:*?"<>|\0\n\r\t')
    stem = name.removesuffix(ending)
    assert stem == stem.strip(" .")
    assert fit_name(stem, ending) == name


@given(st.lists(st.text(max_size=400).map(lambda text: fit_name(text, ".srt")), max_size=12))
def test_no_two_names_are_alike(names: list[str]) -> None:
    apart = told_apart(names)
    assert len({name.casefold() for name in apart}) == len(names)
    assert all(len(name.encode()) <= 255 and name.endswith(".srt") for name in apart)
    first = dict.fromkeys(name.casefold() for name in names)
    assert sum(a == b for a, b in zip(names, apart, strict=True)) >= len(first)
