"""Commands that look into a film, and write down what is said in it."""

from dataclasses import asdict, dataclass
from pathlib import Path
from typing import TYPE_CHECKING

import click

from dunlin.cli.files import (
    format_to_write,
    note,
    print_json,
    speaking_of,
    spec_called,
    write_captions,
    write_whole,
)
from dunlin.cli.making import captions_of_words, is_transcript
from dunlin.core.formats import (
    Context,
    Document,
)
from dunlin.core.messages import message
from dunlin.core.specs import (
    for_language,
)
from dunlin.core.speech import Word
from dunlin.core.speech.activity import Stretch, levels, speech_stretches
from dunlin.core.speech.languages import AUTO, SpokenPassage, longest
from dunlin.core.speech.transcript_files import as_json
from dunlin.core.timecode import clock
from dunlin.media.ffmpeg import MediaError

if TYPE_CHECKING:
    from dunlin.engines import Recogniser, Sound
    from dunlin.media.probe import Probe
    from dunlin.media.sound import Hearing

__all__ = ["Wanted", "heard_in", "probe", "transcribe"]


@click.command()
@click.argument("file", type=click.Path(path_type=Path))
def probe(file: Path) -> None:
    """Print what a film is made of, as JSON."""
    from dunlin.media.probe import probe as probed

    with speaking_of(file):
        print_json(asdict(probed(file)))


@click.command()
@click.argument("media", type=click.Path(path_type=Path))
@click.option("--engine", help="whisper or pocketsphinx; the best that is there.")
@click.option("--model", help="Name of the model; the best one for the language.")
@click.option("--quick", is_flag=True, help="With the quickest model, and less care.")
@click.option(
    "--numbers",
    type=click.Choice(["digits", "words"]),
    default="digits",
    show_default=True,
    help="Numbers as they are recognised, or in words.",
)
@click.option("--language", default="en", show_default=True, help="BCP 47 tag, or auto.")
@click.option("--as-english", is_flag=True, help="Write down in English what is said.")
@click.option("--sound", default=1, show_default=True, type=click.IntRange(1))
@click.option("--voice-focus", is_flag=True, help="Hold music and rumble down.")
@click.option("--spec", "spec_name", default="streaming", show_default=True)
@click.option("-o", "--output", type=click.Path(path_type=Path), required=True)
def transcribe(
    media: Path,
    engine: str | None,
    model: str | None,
    quick: bool,
    numbers: str,
    language: str,
    as_english: bool,
    sound: int,
    voice_focus: bool,
    spec_name: str,
    output: Path,
) -> None:
    """Recognise a film's speech, and write it as captions, or as words (.words.json)."""
    spec = spec_called(spec_name)
    target = None if is_transcript(output) else format_to_write(output)
    wanted = Wanted(
        engine, model, language, sound, quick, numbers == "words", as_english, voice_focus
    )
    words, language, facts = heard_in(media, wanted)
    if target is None:
        write_whole(output, as_json(words, language))
        return
    captions = captions_of_words(
        words, for_language(spec, language), facts.frame_rate, language, ends_ms=facts.duration_ms
    )
    context = Context(facts.frame_rate, title=media.stem)
    write_captions(output, Document(captions, language), target, context)


@dataclass(frozen=True)
class Wanted:
    """How speech is to be recognised; what is None is the best that is there."""

    engine: str | None = None
    model: str | None = None
    language: str = "en"
    sound: int = 1
    quick: bool = False
    spelled_numbers: bool = False
    as_english: bool = False
    voice_focus: bool = False


def heard_in(media: Path, wanted: Wanted) -> tuple[list[Word], str, "Probe"]:
    """The words of a film, the language that most of them are in, and what the film is made of.

    :raises Told: when the film cannot be read, or has no such sound
    """
    from dunlin.engines import engine_called
    from dunlin.engines.aligning import aligner_for, words_on_sound
    from dunlin.engines.languages import words_of_passages
    from dunlin.media.probe import early_end, picture_ends_ms
    from dunlin.media.probe import probe as probed
    from dunlin.media.sound import EndOfSound, Hearing, blocks_between, speech_blocks
    from dunlin.settings import Settings

    hearing = Hearing(wanted.sound - 1, wanted.voice_focus)
    with speaking_of(media):
        facts = probed(media)
        if not facts.audio_streams:
            raise MediaError(message("sound.none-in-it"))
        if wanted.sound > facts.audio_streams:
            raise MediaError(message("sound.no-such-in-it", stream=wanted.sound))
        recogniser = engine_called(wanted.engine, Settings().model_folders)
        if wanted.language == AUTO:
            passages = _passages(media, recogniser, hearing, wanted.model)
        else:
            passages = [SpokenPassage(0, facts.duration_ms, wanted.language, 1.0)]
        told = longest(passages)
        ends = EndOfSound()
        words = list(
            words_of_passages(
                recogniser,
                passages,
                lambda start_ms, end_ms: ends.seen(
                    start_ms, blocks_between(media, start_ms, end_ms, hearing)
                ),
                wanted.model,
                quick=wanted.quick,
                spelled_numbers=wanted.spelled_numbers,
                as_english=wanted.as_english,
            )
        )
        language = "en" if wanted.as_english else told.language
        if words and not wanted.as_english:
            aligner = aligner_for(told.language, Settings().model_folders)
            words = words_on_sound(words, speech_blocks(media, 30, hearing=hearing), aligner)
        if early := early_end(facts.duration_ms, ends.at_ms, picture_ends_ms(media)):
            note(early.message)
    return words, language, facts


def _passages(
    media: Path, recogniser: "Recogniser", hearing: "Hearing", model: str | None
) -> list[SpokenPassage]:
    """The passages of a film by the languages heard in them, which are noted."""
    from dunlin.engines.languages import passages_by_language
    from dunlin.media.sound import sound_between, speech_blocks

    def sound_of(window: Stretch) -> "Sound":
        return sound_between(media, window.start_ms, window.end_ms, hearing)

    speech = speech_stretches(levels(speech_blocks(media, 30, hearing=hearing)))
    passages = passages_by_language(recogniser, speech, sound_of, model)
    for passage in passages:
        note(
            message(
                "cli.language-heard",
                time=clock(passage.start_ms),
                language=passage.language,
                percent=round(passage.sure * 100),
            )
        )
    return passages
