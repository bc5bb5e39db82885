"""The Fog Bell at Quillan Point: who says what, and how it is captioned.

Everyone and everything here is invented. In a line, `|` parts captions and `/` breaks a line.
"""

from dataclasses import dataclass

__all__ = [
    "BELL_STRIKES",
    "FILM_SECONDS",
    "LINES",
    "SHORT_LINES",
    "SHORT_SECONDS",
    "SIGN",
    "SIGN_FROM_TO",
    "SPEAKERS",
    "TITLE",
    "Line",
]

TITLE = "The Fog Bell at Quillan Point"
SIGN = "DIMKLOKKA PÅ KVILLEN"
"""What is written in the picture, in the old tongue of the place; the title is what it says."""
SIGN_FROM_TO = (0.0, 6.2)
FILM_SECONDS = 128
SPEAKERS = {"ilse": "Ilse Varga", "tomas": "Tomas Brandt"}
VOICES = {"ilse": "slt", "tomas": "rms"}


SHORT_SECONDS = 25


@dataclass(frozen=True)
class Line:
    """What is said: `pause` is the seconds of sea before it."""

    speaker: str
    text: str
    pause: float = 0.55


LINES = (
    Line("ilse", "This is Quillan Point, / on the last day of February.", 6.6),
    Line("ilse", "I am Ilse Varga, and I have kept / this harbour for nineteen years."),
    Line("ilse", "When the fog comes in, | there is nothing to see / and very little to hear."),
    Line("tomas", "There used to be a bell.", 0.7),
    Line("ilse", "There used to be a bell. | It fell into the sea / in the winter of 1931.", 0.5),
    Line("tomas", "I am Tomas Brandt. I cast bells. | I was asked to make it again.", 0.8),
    Line("ilse", "So nobody alive had heard it ring."),
    Line(
        "tomas",
        "No. My grandmother said / you felt it before you heard it, | in the soles of your feet. /"
        " That was all I had to go on.",
    ),
    Line("ilse", "So you had to guess how it hung?", 0.6),
    Line("tomas", "I had one drawing, and a letter / from the old keeper, Edda Lindmark.", 0.6),
    Line(
        "tomas", "It weighs four hundred / and twelve kilos, | and it was cast in one evening.", 0.6
    ),
    Line("ilse", "One evening.", 0.7),
    Line(
        "tomas",
        "One evening, Ilse. With half / the village holding the ropes. |"
        " And it rained the whole time.",
        0.6,
    ),
    Line(
        "ilse",
        "We hung it on the eleventh of March, / at low water, | between two and four"
        " / in the morning.",
        8.2,
    ),
    Line("ilse", "Eight people, two winches, | and not a soul / to tell us if it would ring.", 0.6),
    Line("tomas", "The first rope broke / at twenty past three.", 0.7),
    Line("ilse", "Nobody was hurt.", 0.5),
    Line("tomas", "Nobody was hurt, | but I have not shouted like that / since I was a boy.", 0.5),
    Line("ilse", "Then the wind turned, / and the fog came in, | just as we needed it.", 0.8),
    Line("tomas", "She pulled the cord. / I did not dare.", 0.6),
    Line("ilse", "It rang once, low, | and the windows / of the Copper Lantern shook.", 5.0),
    Line("tomas", "And you felt it first.", 0.5),
    Line("ilse", "In the soles of my feet.", 0.5),
    Line("tomas", "A ship answered, / out past the Orla rocks, | a long way off.", 0.8),
    Line(
        "ilse",
        "Three blasts. That was the Marigold, | coming home late / with nine people aboard.",
        0.7,
    ),
    Line(
        "ilse",
        "Now it rings every forty seconds / when the fog is down. | Anyone can come and listen.",
        0.8,
    ),
    Line("tomas", "Bring a warm coat. / And stand close.", 0.6),
)

# Seconds after the line before the strike ends: (index of the line that follows, seconds before it).
BELL_STRIKES = ((20, 4.0),)

SHORT_LINES = (
    Line("tomas", "They hung a bell nobody alive had heard ring.", 0.5),
    Line("tomas", "It weighs four hundred and twelve kilos.", 0.4),
    Line("tomas", "One evening to cast it, and it rained the whole time.", 0.45),
    Line("tomas", "The first rope broke at twenty past three.", 0.45),
    Line("tomas", "Nobody was hurt.", 0.35),
    Line("tomas", "Then the wind turned, and the fog came in, just as we needed it.", 0.5),
    Line("tomas", "She pulled the cord. I did not dare.", 0.5),
)
"""*Low water*: the bell-founder alone, upright."""
