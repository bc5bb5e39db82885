"""Which engines that draft translations there are here."""

from dunlin.core.messages import message
from dunlin.engines.recogniser import EngineError, engines
from dunlin.engines.translators.hearing_english import HearingEnglish, SoundBetween
from dunlin.engines.translators.models import translation_models
from dunlin.engines.translators.remembering import Remembering
from dunlin.engines.translators.service import TranslationService
from dunlin.engines.translators.translator import Translator
from dunlin.settings import Settings

__all__ = ["translator_called", "translators"]


def translators(settings: Settings, sound: SoundBetween | None = None) -> list[Translator]:
    """Engines that can be asked for drafts: people's own work first, then what is on this machine.

    :param sound: of the film whose captions are translated; None where nothing is heard, as in a list
    """
    found: list[Translator] = [Remembering(), *translation_models(settings.model_folders)]
    if recogniser := next(iter(engines(settings.model_folders).values()), None):
        found.append(HearingEnglish(recogniser, sound))
    if settings.translation_service:
        found.append(
            TranslationService(settings.translation_service, settings.translation_service_token)
        )
    return found


def translator_called(
    name: str, source: str, target: str, settings: Settings, sound: SoundBetween | None = None
) -> Translator:
    """The engine of a name, for two languages.

    :raises EngineError: when there is none, when it is broken, or does not know the languages
    """
    known = translators(settings, sound)
    found = next((one for one in known if one.name == name), None)
    if found is None:
        names = ", ".join(one.name for one in known)
        raise EngineError(message("engines.unknown", name=name, known=names))
    if found.fault:
        raise EngineError(found.fault)
    if not found.knows(source, target):
        raise EngineError(
            message("drafts.not-these", engine=found.title, source=source, target=target)
        )
    return found
