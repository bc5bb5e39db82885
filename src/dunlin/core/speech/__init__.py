"""Spoken words and their times."""

from dunlin.core.speech.words import Word

__all__ = ["Word"]
