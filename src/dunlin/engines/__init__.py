"""What listens: recognisers of speech, and the aligner that sharpens their word times."""

from dunlin.engines.recogniser import (
    EngineError,
    Model,
    Recogniser,
    Sound,
    engine_called,
    engines,
    hears,
)

__all__ = ["EngineError", "Model", "Recogniser", "Sound", "engine_called", "engines", "hears"]
