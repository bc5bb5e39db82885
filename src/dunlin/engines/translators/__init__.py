"""What drafts translations: a protocol, and a module for each engine."""

from dunlin.engines.translators.catalogue import translator_called, translators
from dunlin.engines.translators.translator import Translator

__all__ = ["Translator", "translator_called", "translators"]
