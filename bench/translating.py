"""Translating: a caption remembered among many, an edit in one of two columns, and texts paired."""

import random
import time
from collections.abc import Iterator
from itertools import accumulate
from pathlib import Path
from statistics import median, quantiles

import httpx

from bench.page import insert
from dunlin.core.language.memory.pairs import Pair
from dunlin.core.language.pairing import Passage, paired
from dunlin.store.memory import Memory
from tests.conftest import FILM
from tests.server import Server
from tests.unit.language.made_up import script, words

__all__ = ["editing_two_columns", "pairing", "remembering"]

_ASKED = 200


def remembering(folder: Path, count: int) -> tuple[float, float]:
    """Milliseconds in which what is like a caption is found among pairs: the middle, and 95 of 100.

    Half of what is asked for is remembered, with a word otherwise.
    """
    chance = random.Random(count)
    # As in a language: few words often, most of them seldom (Zipf).
    vocabulary = words(chance, 60_000)
    weights = list(accumulate(1 / (n + 1) for n in range(len(vocabulary))))
    memory = Memory(folder / f"memory-{count}.db")
    asked: list[str] = []

    def said() -> str:
        return " ".join(
            chance.choices(vocabulary, cum_weights=weights, k=chance.randint(4, 12))
        ).capitalize()

    def pairs() -> Iterator[Pair]:
        for n in range(count):
            text = said()
            if n % max(count // (_ASKED // 2), 1) == 0:
                kept = text.split()
                kept[len(kept) // 2] = chance.choice(vocabulary)
                asked.append(" ".join(kept))
            yield Pair("en", "de", text, f"{text} {n % 977}", "made up", n)

    try:
        memory.take_in(pairs())
        asked.extend(said() for _ in range(_ASKED // 2))
        chance.shuffle(asked)
        times = []
        for text in asked:
            start = time.perf_counter()
            memory.like(text, "en", "de")
            times.append((time.perf_counter() - start) * 1000)
        return median(times), quantiles(times, n=20)[-1]
    finally:
        memory.close()


def editing_two_columns(folder: Path) -> tuple[float, float]:
    """Median milliseconds from request to answer: a caption of a translation of 10,000 captions written, and an empty
    request."""
    server = Server(folder / "two-columns")
    try:
        project = server.upload(FILM)
        insert(server, project, 10_000, 1200)
        source = project["tracks"][0]["id"]
        asked = {"source": source, "language": "de"}
        track = server.post(f"/api/projects/{project['id']}/translations", json=asked)["id"]
        captions = [caption["id"] for caption in server.get(f"/api/tracks/{track}")["captions"]]
        server.wait_idle()
        times: dict[str, list[float]] = {"edit": [], "empty": []}
        for turn in range(300):
            change = {"caption": captions[5000 + turn % 7], "text": f"Zeile {turn}\nund mehr"}
            operation = {"kind": "change-captions", "changes": [change]}
            body = {"base_revision": 1_000_000, "gesture": f"g{turn}", "operation": operation}
            times["edit"].append(_taken(server.http, f"/api/tracks/{track}/edits", body))
            times["empty"].append(_taken(server.http, "/api/specs", None))
        return median(times["edit"]), median(times["empty"])
    finally:
        server.stop()


def _taken(http: httpx.Client, address: str, body: dict | None) -> float:
    start = time.perf_counter()
    answer = http.get(address) if body is None else http.post(address, json=body)
    assert answer.status_code == 200, answer.text
    return (time.perf_counter() - start) * 1000


def pairing(lines: int) -> float:
    """Seconds in which a made-up script is paired with its translation."""
    source, target, _ = script(3, lines)
    start = time.perf_counter()
    paired([Passage(text) for text in source], [Passage(text) for text in target], "xx", "yy")
    return time.perf_counter() - start


def main() -> None:
    """Prints all of it."""
    import sys
    from tempfile import TemporaryDirectory

    with TemporaryDirectory() as name:
        folder = Path(name)
        for count in map(int, sys.argv[1:] or ("10000", "1000000")):
            middle, most = remembering(folder, count)
            print(f"memory of {count}: {middle:.0f}, {most:.0f} ms", flush=True)
        edit, empty = editing_two_columns(folder)
        print(f"edit in two columns: {edit:.1f} ms against {empty:.1f}", flush=True)
        for lines in (400, 1500, 4000):
            print(f"{lines} lines paired in {pairing(lines):.1f} s", flush=True)


if __name__ == "__main__":
    main()
