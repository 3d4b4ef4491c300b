"""One line a benchmark."""

import statistics
from collections.abc import Callable


def medians(ours: Callable[[], float], theirs: Callable[[], float], rounds: int) -> tuple[float, float]:
    """Medians of both in seconds, taken in turn so that the machine's moods fall on both alike."""
    pairs = [(ours(), theirs()) for _ in range(rounds)]
    return statistics.median(a for a, _ in pairs), statistics.median(b for _, b in pairs)


def line(name: str, ours: float, theirs: float, note: str) -> None:
    """Print name, the two medians in milliseconds and their ratio."""
    print(
        f"{name:10} ours {ours * 1000:8.1f} ms   theirs {theirs * 1000:8.1f} ms   ratio {ours / theirs:6.2f}   {note}",
        flush=True,
    )
