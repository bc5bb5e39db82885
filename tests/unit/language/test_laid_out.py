"""A script in another language put into captions: a line for each, or whole paragraphs."""

from dunlin.core.captions import Caption, Span
from dunlin.core.language.links.script import laid_out
from tests.unit.language.made_up import script


def captions(texts: list[str]) -> list[Caption]:
    return [
        Caption(f"s{n}", n * 2000, n * 2000 + 1800, (Span(text),)) for n, text in enumerate(texts)
    ]


def test_lines_stand_in_the_captions_that_they_translate() -> None:
    source, target, right = script(5, 300)
    laid = laid_out(target, captions(source), "xx", "yy")
    said = [caption.text for caption in laid.captions]
    one_to_one = [(s[0], t[0]) for s, t in right if len(s) == len(t) == 1]
    hits = sum(said[s] == target[t] for s, t in one_to_one)
    print(f"{hits} of {len(one_to_one)} lines where they belong")
    assert hits >= 0.97 * len(one_to_one)
    missing = [s[0] for s, t in right if not t]
    assert sum(not said[at] for at in missing) >= 0.6 * len(missing)
    # No word of the script is lost or said twice.
    assert sorted(" ".join([*said, *laid.left_over]).split()) == sorted(" ".join(target).split())


def test_paragraphs_are_parted_as_the_captions_are() -> None:
    source, target, _ = script(6, 120)
    # Each sentence stands on two captions, and a paragraph is of five sentences.
    halves = [
        part
        for line in source
        for part in (
            " ".join(line.split()[: len(line.split()) // 2]),
            " ".join(line.split()[len(line.split()) // 2 :]),
        )
    ]
    paragraphs = [" ".join(target[at : at + 5]) for at in range(0, len(target), 5)]
    laid = laid_out(paragraphs, captions(halves), "xx", "yy")
    said = [caption.text for caption in laid.captions]
    assert sorted(" ".join([*said, *laid.left_over]).split()) == sorted(
        " ".join(paragraphs).split()
    )
    whole = {" ".join(pair).strip() for pair in zip(said[::2], said[1::2], strict=True)}
    there = sum(line in whole for line in target)
    print(f"{there} of {len(target)} sentences whole on their captions")
    assert there >= 0.85 * len(target)


def test_a_line_that_translates_none_is_left_over() -> None:
    source = captions(["It weighs 412 kilos, all of it.", "Ring it 3 times, Ilse, now!"])
    lines = [
        "Sie wiegt 412 Kilo, alles in allem.",
        "Eine ganz andere Zeile mit sehr vielen Wörtern, die in diesem Film niemand jemals gesagt hat.",
        "Läut sie 3 Mal, Ilse, jetzt!",
    ]
    laid = laid_out(lines, source, "en", "de")
    assert [caption.text for caption in laid.captions] == [lines[0], lines[2]]
    assert laid.left_over == (lines[1],)
    assert [link.progress for link in laid.links] == [None, None]
