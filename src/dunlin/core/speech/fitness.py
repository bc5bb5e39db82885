"""How fit a sound is for recognising: its level, whether it is clipped, and what is under the voices."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from dunlin.core.messages import Message, message
from dunlin.core.speech.activity import Stretch

__all__ = ["Fitness", "fitness_of", "what_would_help"]

# The outline has eight bits: less than one step is silence.
_SILENT_DB = -48.0
# Where people begin to mishear, tried out on talk made quieter, clipped, and laid over noise and music.
_QUIET_DB, _CLIPPED_PART, _NOISY_DB = -30.0, 0.002, 10.0
# So little without a voice says nothing about what is under it.
_ENOUGH_PAIRS = 25


@dataclass(frozen=True)
class Fitness:
    """What is measured of a sound."""

    level_db: float
    """Peaks of the voices, in decibels below full scale: their median."""
    clipped: float
    """Part of the voices' time in which the sound is cut off at full scale."""
    above_rest_db: float | None
    """How far the voices are above what is heard between them, in decibels; None where there is too
    little between them to tell."""


def fitness_of(
    pairs: npt.NDArray[np.int8], pair_ms: float, speech: Sequence[Stretch]
) -> Fitness | None:
    """Measures a sound by its outline.

    :param pairs: shape (n, 2), the least and the greatest of each stretch of `pair_ms` milliseconds
    :returns: None where nobody speaks
    """
    wide = pairs.astype(np.int16)
    heights = np.maximum(-wide[:, 0], wide[:, 1])
    voiced = np.zeros(len(pairs), bool)
    for stretch in speech:
        voiced[int(stretch.start_ms / pair_ms) : int(np.ceil(stretch.end_ms / pair_ms))] = True
    if not voiced.any():
        return None
    voices, rest = heights[voiced], heights[~voiced]
    level = _decibels(float(np.median(voices)))
    above = None
    if len(rest) >= _ENOUGH_PAIRS:
        above = round(level - _decibels(float(np.median(rest))), 1)
    return Fitness(round(level, 1), round(float((voices >= 127).mean()), 4), above)


def _decibels(height: float) -> float:
    return max(20 * float(np.log10(max(height, 0.5) / 128)), _SILENT_DB)


def what_would_help(fitness: Fitness) -> list[Message]:
    """What stands in the way of recognising, and what helps; nothing where the sound is fit."""
    told: list[Message] = []
    if fitness.level_db < _QUIET_DB:
        told.append(message("fitness.quiet", level=fitness.level_db))
    if fitness.clipped > _CLIPPED_PART:
        told.append(message("fitness.clipped", percent=round(fitness.clipped * 100, 1)))
    if fitness.above_rest_db is not None and fitness.above_rest_db < _NOISY_DB:
        told.append(message("fitness.noisy", above=fitness.above_rest_db))
    return told
