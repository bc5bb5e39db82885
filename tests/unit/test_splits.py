"""How well lines part, in the scripts of the world: passages with good and bad places for a line end.

In each passage `|` is where a reader would part it, `~` where nobody may; elsewhere is neither good
nor bad.
"""

import re
from collections import defaultdict

import pytest

from dunlin.core.text.lines import break_lines
from dunlin.core.text.words import words_of

PASSAGES = {
    "en": (42, [
        "When the ~fog ~comes in,| there is nothing to ~see.",
        "She kept the ~harbour for nineteen ~years| and never ~heard it ring.",
        "It was cast in ~one evening| with half the ~village holding the ~ropes.",
        "My ~grandmother said| you ~felt it before you ~heard it.",
        "The keeper asked Mr. ~Brandt| to make the ~bell again.",
    ]),
    "de": (42, [
        "Wenn der ~Nebel kommt,| sieht man hier ~draußen gar nichts mehr.",
        "Sie hütete den ~Hafen neunzehn Jahre| und hörte sie nie ~läuten.",
        "Meine ~Großmutter sagte,| man ~spürte sie, bevor man sie ~hörte.",
        "Die Glocke fiel im ~Winter ins ~Meer,| und niemand holte sie herauf.",
    ]),
    "fr": (42, [
        "Quand le ~brouillard arrive,| il n'y a plus rien à ~voir ici.",
        "Elle a ~gardé le ~port dix-neuf ans| et ne l'a ~jamais entendue.",
        "Vous l'avez ~entendue cette ~nuit ~?| Moi, je n'ai pas ~dormi.",
        "La cloche est ~tombée dans la ~mer| pendant l'hiver de ~l'année.",
    ]),
    "es": (42, [
        "Cuando llega la ~niebla,| no queda nada que ver en el ~puerto.",
        "Cuidó el ~puerto diecinueve años| y nunca la ~oyó sonar.",
        "Mi ~abuela decía| que la ~sentías antes de ~oírla sonar.",
        "La campana cayó al ~mar en ~invierno,| y nadie volvió a ~verla.",
    ]),
    "it": (42, [
        "Quando arriva la ~nebbia,| qui non si ~vede più niente di ~niente.",
        "Ha ~custodito il ~porto per ~anni| e non l'ha mai ~sentita suonare.",
        "La campana cadde in ~mare d'inverno,| e nessuno la ~cercò più.",
    ]),
    "pt": (42, [
        "Quando chega o ~nevoeiro,| não há nada para ~ver no ~porto.",
        "O sino caiu no ~mar no ~inverno,| e ninguém o ~viu outra vez.",
    ]),
    "nl": (42, [
        "Als de ~mist komt,| is er hier buiten helemaal niets te ~zien.",
        "De bel viel in de ~winter in de ~zee,| en niemand haalde haar op.",
    ]),
    "sv": (42, [
        "När ~dimman kommer| finns det ingenting att ~se här ute.",
        "Klockan föll i ~havet på ~vintern,| och ingen hämtade upp den.",
    ]),
    "fi": (42, [
        "Kun sumu tulee satamaan,| täällä ei ~näe enää yhtään mitään.",
        "Kello putosi mereen talvella,| eikä kukaan nostanut sitä.",
    ]),
    "ru": (42, [
        "Когда приходит туман,| здесь совсем ничего не ~видно вокруг.",
        "Она хранила гавань девятнадцать лет| и ни ~разу его не ~слышала.",
        "Колокол упал в ~море зимой,| и никто его больше не ~видел.",
    ]),
    "el": (42, [
        "Όταν έρχεται η ~ομίχλη,| δεν ~βλέπεις τίποτα στο ~λιμάνι.",
        "Η ~καμπάνα έπεσε στη ~θάλασσα,| και κανείς δεν την ~ξαναείδε.",
        "Την ~άκουσες χθες το ~βράδυ;| Εγώ δεν ~κοιμήθηκα καθόλου.",
    ]),
    "ar": (36, [
        "عندما يأتي الضباب،| لا ~يبقى شيء نراه في ~الميناء.",
        "سقط الجرس في ~البحر شتاءً،| ولم ~يسمعه أحد بعد ذلك.",
        "هل سمعته هذه ~الليلة؟| أنا لم ~أنم حتى الصباح.",
    ]),
    "he": (36, [
        "כשהערפל מגיע,| לא ~רואים כלום בנמל של ~העיר.",
        "הפעמון נפל לים בחורף,| ואף אחד לא ~ראה אותו שוב.",
    ]),
    "hi": (25, [
        "जब कोहरा आता ~है,| तो बंदरगाह ~में कुछ नहीं दिखता।",
        "घंटी सर्दियों ~में समुद्र ~में गिर ~गई,| और फिर किसी ~ने नहीं सुनी।",
        "क्या तुमने सुनी?| मैं सारी रात नहीं सोया था।",
    ]),
    "ko": (22, [
        "안개가 끼면| 항구에서는 아무것도 보이지 않습니다.",
        "종이 겨울 바다에 빠졌고,| 아무도 다시 듣지 못했습니다.",
        "들어 본 적 있어요?| 나는 한 ~번도 없어요, 정말로.",
    ]),
    "th": (26, [
        "เมื่อ~หมอก~ลง| ก็~ไม่~มีอะไรให้~เห็นที่~ท่าเรือ",
        "ระ~ฆังตก~ลงไปใน~ทะเลเมื่อ~ฤดู~หนาว| ไม่~มีใครเคย~ได้~ยินมัน",
    ]),
    "ja": (13, [
        "霧~が~出~る~と、|何~も~見~え~な~く~なり~ま~す。",
        "冬~に、|鐘~は海~に落~ち~て~しまっ~た。",
        "祖母~は|聞こ~え~る~前~に感じ~る~と言~った。",
        "ク~イ~ラ~ン岬~の鐘~は|誰~も聞~いて~いな~い。",
    ]),
    "zh-Hans": (13, [
        "雾~来~的~时~候，|什~么~都~看~不~见~了。",
        "冬~天~钟~掉~进~了~海~里，|再~也~没~有~人~听~见。",
        "我~祖~母~说，|你~先~感~觉到~它才听~见。",
    ]),
    "zh-Hant": (13, [
        "霧~來~的~時~候，|什~麼~都~看~不~見~了。",
        "冬~天~鐘~掉~進~了~海~裡，|再~也~沒~有~人~聽~見。",
    ]),
}  # fmt: skip


def split_of(passage: str, width: int, language: str) -> str:
    """`|`, `~` or nothing: what the passage says of the place where its first line ends."""
    black = re.sub(r"\s", "", passage)
    text = re.sub("[|~]", "", passage)
    lines = break_lines(words_of(text, language), width, 2, language)
    assert len(lines) == 2, lines
    left = len(re.sub(r"\s", "", lines[0]))
    for character in black:
        if character in "|~":
            if left == 0:
                return character
            continue
        if left == 0:
            return ""
        left -= 1
    raise AssertionError("the first line has all")


@pytest.mark.parametrize("language", PASSAGES)
def test_no_line_ends_where_nobody_may_end_it(language: str) -> None:
    width, passages = PASSAGES[language]
    assert [p for p in passages if split_of(p, width, language) == "~"] == []


def test_most_lines_end_where_a_reader_would_end_them(capsys: pytest.CaptureFixture[str]) -> None:
    scores = defaultdict(list)
    for language, (width, passages) in PASSAGES.items():
        scores[language] += [split_of(p, width, language) == "|" for p in passages]
    with capsys.disabled():
        print()
        for language, found in scores.items():
            print(f"{language:8} {sum(found)} of {len(found)}")
    good = [one for found in scores.values() for one in found]
    assert sum(good) / len(good) > 0.8
