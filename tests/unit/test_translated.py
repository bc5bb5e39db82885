"""Rules about translations: planted faults are found, and clean pairs are left alone, in three languages."""

import pytest

from dunlin.core.captions import Caption, Track
from dunlin.core.captions.model import spans_of
from dunlin.core.specs import Judge, Setting, Spec
from dunlin.core.specs.mends import Mend, mend_of
from dunlin.core.specs.translation import Against, Term, TermList, Translation
from dunlin.core.timecode import FrameRate

RULES = {
    "source-changed", "draft", "number-differs", "name-missing", "term", "untranslated", "end-mark",
    "translation-length", "speakers-differ", "two-ways",
}  # fmt: skip

# Sentences of the made-up film with their translations, right in each.
CLEAN = [
    ("This is Quillan Point, on the last day of February.", "Das ist Quillan Point, am letzten Tag im Februar.",
     "Voici Quillan Point, le dernier jour de février.", "Esto es Quillan Point, el último día de febrero."),
    ("I have kept this harbour for nineteen years.", "Ich betreue diesen Hafen seit neunzehn Jahren.",
     "Je garde ce port depuis dix-neuf ans.", "Llevo diecinueve años cuidando este puerto."),
    ("It weighs four hundred and twelve kilos,", "Sie wiegt 412 Kilo",
     "Elle pèse 412 kilos,", "Pesa cuatrocientos doce kilos"),
    ("So you had to guess how it hung?", "Also mussten Sie raten, wie sie hing?",
     "Vous avez donc dû deviner comment elle pendait ?", "¿Así que tuvo que adivinar cómo colgaba?"),
    ("– Hang it high.\n– As high as the door?", "– Häng sie hoch.\n– So hoch wie die Tür?",
     "– Accroche-la haut.\n– À la hauteur de la porte ?", "– Cuélgala alta.\n– ¿Tan alta como la puerta?"),
    ("A pilot heard it 3.5 miles out.", "Ein Lotse hörte sie 3,5 Meilen weit draußen.",
     "Un pilote l'a entendue à 3,5 milles au large.", "Un práctico la oyó a 3,5 millas."),
    ("Ilse, the tide!", "Ilse, die Flut!", "Ilse, la marée !", "¡Ilse, la marea!"),
    ("In 1921 it fell into the sea.", "1921 fiel sie ins Meer.",
     "En 1921, elle est tombée à la mer.", "En 1921 cayó al mar."),
    ("One of the two keepers laughed…", "Einer der beiden Wärter lachte …",
     "L'un des deux gardiens a ri…", "Uno de los dos guardas se rio…"),
    ("12,500 people came.", "12.500 Leute kamen.", "12 500 personnes sont venues.", "Vinieron 12.500 personas."),
]  # fmt: skip
LANGUAGES = {"de": 1, "fr": 2, "es": 3}
TERMS = {
    "de": [Term("pilot", ("Lotse",), ("Pilot",)), Term("keeper", ("Wärter",))],
    "fr": [Term("pilot", ("pilote",)), Term("keeper", ("gardien",))],
    "es": [Term("pilot", ("práctico",), ("piloto",)), Term("keeper", ("guarda",))],
}


def found(source: str, target: str, language: str, *, twins=(), **against) -> set[str]:
    """Names of the rules about translations that a pair breaks."""
    translation = Translation(
        "en",
        lambda _: Against(source, **against),
        TermList(TERMS[language], "en"),
        ["Quillan Point", "Ilse"],
        lambda _: twins,
    )
    spec = Spec(id="s", name="S")
    judge = Judge(Setting(spec, FrameRate(25), language, translation=translation))
    track = Track.of([Caption("a", 0, 4000, spans_of(target))])
    return {finding.rule for finding in judge.findings(track)} & RULES


@pytest.mark.parametrize("language", LANGUAGES)
def test_clean_pairs_are_left_alone(language: str) -> None:
    told = {
        pair[0]: rules
        for pair in CLEAN
        if (rules := found(pair[0], pair[LANGUAGES[language]], language, progress="done"))
    }
    assert told == {}


PLANTED = {
    "number-differs": {
        "de": [("It weighs 412 kilos.", "Sie wiegt 421 Kilo."), ("It weighs four hundred and twelve kilos.", "Sie wiegt vierhundertzwanzig Kilo."),
               ("on the last day of February", "am letzten Tag im Dezember"), ("It hangs there.", "Sie hängt seit 19 Jahren da.")],
        "fr": [("in 1921", "en 1912"), ("nineteen years", "vingt-neuf ans")],
        "es": [("3.5 miles", "35 millas"), ("nineteen years", "muchos años")],
    },
    "name-missing": {
        "de": [("This is Quillan Point.", "Das ist der Kai.")],
        "fr": [("Ilse, the tide!", "Attention, la marée !")],
        "es": [("Ilse, the tide!", "¡Cuidado, la marea!")],
    },
    "term": {
        "de": [("The pilot is late.", "Der Pilot ist spät dran."), ("Two keepers came.", "Zwei Wächter kamen.")],
        "fr": [("The keepers laughed.", "Les gardes ont ri.")],
        "es": [("The pilot is late.", "El piloto llega tarde.")],
    },
    "untranslated": {language: [("Hang it high tonight.", "Hang it high\ntonight.")] for language in LANGUAGES},
    "end-mark": {
        "de": [("How did it hang?", "Wie sie hing."), ("Hang it high!", "Häng sie hoch?")],
        "fr": [("How did it hang?", "Comment elle pendait.")],
        "es": [("Well…", "Bueno.")],
    },
    "translation-length": {
        language: [("I have kept this harbour for a long time now.", "Ja."), ("I have kept this harbour.", "x" * 80)]
        for language in LANGUAGES
    },
    "speakers-differ": {language: [("– One.\n– Another.", "Beide.")] for language in LANGUAGES},
}  # fmt: skip


@pytest.mark.parametrize(
    ("rule", "language", "source", "target"),
    [
        (rule, language, *pair)
        for rule, by_language in PLANTED.items()
        for language, pairs in by_language.items()
        for pair in pairs
    ],
)
def test_a_planted_fault_is_found(rule: str, language: str, source: str, target: str) -> None:
    assert rule in found(source, target, language)


def test_a_draft_is_told_until_a_person_confirmed_it() -> None:
    assert "draft" in found("Hang it high.", "Häng sie hoch.", "de", progress="draft")
    assert "draft" not in found("Hang it high.", "Häng sie hoch.", "de", progress="done")


def test_a_source_that_changed_is_told_and_not_for_its_line_breaks() -> None:
    said = "Hang it high."
    assert found("Hang it\nhigh.", "Häng sie hoch.", "de", progress="done", said=said) == set()
    assert "source-changed" in found(
        "Hang it low.", "Häng sie hoch.", "de", progress="done", said=said
    )


def test_the_same_in_two_ways_and_two_in_the_same_way_are_told() -> None:
    pair = ("Hang it high.", "Häng sie hoch.", "de")
    assert "two-ways" in found(*pair, twins=[("Hang it high.", "Hoch damit.")])
    assert "two-ways" in found(*pair, twins=[("Hang it low.", "Häng sie hoch.")])
    assert found(*pair, twins=[("Hang it high.", "Häng sie\nhoch.")]) == set()


def test_what_has_no_source_or_no_words_is_not_compared() -> None:
    assert found("Hang it high.", " ", "de", progress="draft", said="x") == set()


@pytest.mark.parametrize(
    ("language", "target", "mended"),
    [
        ("de", "Wie hing sie.", "Wie hing sie?"),
        ("de", "Wie hing sie", "Wie hing sie?"),
        ("fr", "Comment pendait-elle !", "Comment pendait-elle ?"),
        ("ar", "كيف كانت معلّقة.", "كيف كانت معلّقة؟"),
        ("ja", "どう吊るされていたか。", "どう吊るされていたか？"),
    ],
)
def test_an_end_mark_is_mended_as_the_language_writes_it(
    language: str, target: str, mended: str
) -> None:
    translation = Translation("en", lambda _: Against("How did it hang?"))
    judge = Judge(Setting(Spec(id="s", name="S"), FrameRate(25), language, translation=translation))
    track = Track.of([Caption("a", 0, 4000, spans_of(target))])
    [finding] = [one for one in judge.findings(track) if one.rule == "end-mark"]
    mend = mend_of(track, finding, judge)
    assert isinstance(mend, Mend)
    assert [caption.text for caption in mend.after] == [mended]
