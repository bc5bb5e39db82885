"""Works measured against each other: they take turns."""

import time
from collections.abc import Callable

__all__ = ["least_of_each"]


def least_of_each(rounds: int, *works: Callable[[], object]) -> list[float]:
    """Least seconds of each work, done in turns."""
    times: list[list[float]] = [[] for _ in works]
    for _ in range(rounds):
        for taken, work in zip(times, works, strict=True):
            start = time.perf_counter()
            work()
            taken.append(time.perf_counter() - start)
    return [min(taken) for taken in times]
