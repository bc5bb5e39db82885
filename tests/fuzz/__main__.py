"""Fuzzing of everything that reads files, guided by what of the readers a file reaches: `make fuzz`.

Each input is read as the kind that its first byte says. A reader may refuse it with words; anything else
it raises, more than `SECONDS` or more than `MEGABYTES` ends the run with 1, and leaves the input in `found/`.
"""

import argparse
import sys
import tempfile
from pathlib import Path

import atheris

# What is imported here tells where an input got to.
with atheris.instrument_imports(include=["dunlin.core"]):
    from tests.fuzz.readers import KINDS, read, seeds

SECONDS, MEGABYTES = 5, 2048
MOST_BYTES = 100_000

parser = argparse.ArgumentParser()
parser.add_argument("--minutes", type=float, default=5)
parser.add_argument("--found", type=Path, default=Path("found"))
asked = parser.parse_args()
asked.found.mkdir(exist_ok=True)


def one_input(data: bytes) -> None:
    if data:
        read(data[0], data[1:])


with tempfile.TemporaryDirectory() as folder:
    # What it learns on the way is not kept in the repository.
    for number, (name, _) in enumerate(KINDS):
        for at, seed in enumerate(seeds()[name]):
            (Path(folder) / f"{name}-{at}").write_bytes(bytes([number]) + seed)
    options = [
        f"-max_total_time={round(asked.minutes * 60)}", f"-timeout={SECONDS}",
        f"-rss_limit_mb={MEGABYTES}", f"-max_len={MOST_BYTES}",
        f"-artifact_prefix={asked.found}/", folder,
    ]  # fmt: skip
    atheris.Setup([sys.argv[0], *options], one_input)
    atheris.Fuzz()
