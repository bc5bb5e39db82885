"""Spoken words and their times."""

from dunlin.core.speech.words import Word

__all__ = ["SPEECH_RATE", "Word"]

SPEECH_RATE = 16_000
"""Samples a second of the one-channel sound that recognisers and aligners listen to."""
