"""A text paired with its translation, passage by passage: by their order, their lengths, and what is the same in both.

Passages are compared by their lengths as in W. A. Gale and K. W. Church, "A Program for Aligning Sentences in Bilingual
Corpora", Computational Linguistics 19 (1993), 75–102, and by numbers, names, end marks and times beside these. The way through
both that costs least is found by dynamic programming. What was paired surely tells which words mostly stand for which
(Dice's measure), and with these it is gone again.
"""

from dunlin.core.language.pairing.passages import Paired, Passage, paired

__all__ = ["Paired", "Passage", "paired"]
