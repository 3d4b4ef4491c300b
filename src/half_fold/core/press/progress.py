"""How far the making of a file has come, told while it is made."""

from collections.abc import Callable
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    pass

Progress = Callable[[int, int, str], None]


def progress_of(progress: Progress | None, name: str) -> Progress | None:
    """The same for one of several things that are made: what is told begins with its name."""
    if progress is None:
        return None
    return lambda done, count, words: progress(done, count, f"{name}: {words}")
