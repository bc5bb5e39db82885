"""Tiny translation models in CTranslate2's form. They prove the way through, and nothing about quality: their weights are
chance."""

import json
from collections.abc import Sequence
from pathlib import Path

import numpy as np
import sentencepiece
from ctranslate2.specs import TransformerSpec

__all__ = ["make_translation_model"]

_TALK = [
    "Hang the bell high by the door.", "It weighs four hundred kilos.", "The fog came in at noon.",
    "Häng die Glocke hoch an die Tür.", "Sie wiegt vierhundert Kilo.", "Mittags kam der Nebel.",
]  # fmt: skip
_WIDE, _HEADS, _LAYERS = 16, 2, 1


def make_translation_model(
    folder: Path, languages: Sequence[str] = (), *, pair: tuple[str, str] | None = None
) -> Path:
    """A model with a SentencePiece model of a few sentences beside it.

    :param languages: one of the M2M kind has a word for each
    :param pair: what `languages.json` says of one of the Marian kind; None leaves it out
    """
    folder.mkdir(parents=True)
    pieces = folder / "pieces"
    sentencepiece.SentencePieceTrainer.train(
        sentence_iterator=iter(_TALK * 3), model_prefix=str(pieces), vocab_size=80,
        hard_vocab_limit=False, minloglevel=2,
    )  # fmt: skip
    Path(f"{pieces}.vocab").unlink()
    own = sentencepiece.SentencePieceProcessor(model_file=f"{pieces}.model")
    words = [own.id_to_piece(n) for n in range(own.get_piece_size())]
    words += [f"__{tag}__" for tag in languages]
    names = ["sentencepiece.bpe.model"] if languages else ["source.spm", "target.spm"]
    for name in names:
        (folder / name).write_bytes(Path(f"{pieces}.model").read_bytes())
    Path(f"{pieces}.model").unlink()
    if pair:
        (folder / "languages.json").write_text(
            json.dumps(dict(zip(("source", "target"), pair, strict=True)))
        )
    spec = TransformerSpec.from_config(_LAYERS, _HEADS)
    spec.register_source_vocabulary(words)
    spec.register_target_vocabulary(words)
    spec.config.add_source_eos = False
    _fill(spec, len(words), np.random.default_rng(7))
    spec.validate()
    spec.optimize(quantization="int8")
    spec.save(str(folder))
    return folder


def _fill(spec: TransformerSpec, words: int, chance: np.random.Generator) -> None:
    def weights(*shape: int) -> np.ndarray:
        return chance.normal(0, 0.5, shape).astype(np.float32)

    def linear(layer: object, out: int, into: int) -> None:
        layer.weight, layer.bias = weights(out, into), np.zeros(out, np.float32)

    def norm(layer: object) -> None:
        layer.gamma, layer.beta = np.ones(_WIDE, np.float32), np.zeros(_WIDE, np.float32)

    positions = weights(300, _WIDE)
    for side in (spec.encoder, spec.decoder):
        embeddings = side.embeddings[0] if isinstance(side.embeddings, list) else side.embeddings
        embeddings.weight = weights(words, _WIDE)
        side.position_encodings.encodings = positions
        if hasattr(side, "layer_norm"):
            norm(side.layer_norm)
        for layer in side.layer:
            attentions = [(layer.self_attention, True)]
            if hasattr(layer, "attention"):
                attentions.append((layer.attention, False))
            for attention, of_itself in attentions:
                norm(attention.layer_norm)
                shapes = [(3 * _WIDE, _WIDE)] if of_itself else [(_WIDE, _WIDE), (2 * _WIDE, _WIDE)]
                for part, shape in zip(attention.linear, [*shapes, (_WIDE, _WIDE)], strict=True):
                    linear(part, *shape)
            norm(layer.ffn.layer_norm)
            linear(layer.ffn.linear_0, 2 * _WIDE, _WIDE)
            linear(layer.ffn.linear_1, _WIDE, 2 * _WIDE)
    linear(spec.decoder.projection, words, _WIDE)
