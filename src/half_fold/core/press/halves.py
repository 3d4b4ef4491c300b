"""Long files are drawn by two processes, each a half of the sheets; what they name is the same in both."""

import os
import signal
import threading
from collections.abc import Callable, Generator, Iterator, Sequence

import msgspec

from half_fold.core.press.content import Resources
from half_fold.core.press.leaves import DrawnPage, draw_page
from half_fold.core.press.sheets import Sheet

LONG = 48  # sheets for which a second process is worth its start
TOGETHER = 5  # sheets drawn before the two part, so that both know most glyphs alike: one page and two spreads


class _Half(msgspec.Struct, frozen=True, array_like=True):
    """What the second process hands over: its pages, and the text of every glyph it met, by face."""

    pages: list[DrawnPage]
    texts: dict[str, dict[int, str]]


def draw_all(
    makers: Sequence[Callable[[], Sheet]], resources: Resources, marks: bool
) -> Generator[DrawnPage, None, None]:
    """The pages of all sheets in order; the second half of many is drawn by a process that ends with the iterator."""

    def draw(some: Sequence[Callable[[], Sheet]]) -> Iterator[DrawnPage]:
        return (draw_page(make(), resources, marks) for make in some)

    if len(makers) < LONG or not _may_part():
        yield from draw(makers)
        return
    yield from draw(makers[:TOGETHER])
    middle = TOGETHER + (len(makers) - TOGETHER) // 4 * 2  # behind a whole spread
    try:
        second = _Second(lambda: list(draw(makers[middle:])), resources)
    except OSError:  # the machine has no room for another process
        yield from draw(makers[TOGETHER:])
        return
    try:
        yield from draw(makers[TOGETHER:middle])
        yield from second.pages() or draw(makers[middle:])
    finally:
        second.end()


def _may_part() -> bool:
    """A process with threads of its own must not be doubled, and one processor gains nothing by it."""
    return threading.active_count() == 1 and len(os.sched_getaffinity(0)) > 1


class _Second:
    """A process that draws pages as this one would, with all it has set so far."""

    def __init__(self, draw: Callable[[], list[DrawnPage]], resources: Resources) -> None:
        self._resources = resources
        self._reads, writes = os.pipe()
        try:
            self._process = os.fork()
        except OSError:
            os.close(self._reads)
            os.close(writes)
            raise
        if not self._process:
            os.close(self._reads)
            _hand_over(writes, draw, resources)
        os.close(writes)

    def pages(self) -> list[DrawnPage]:
        """What it drew; nothing where it failed, or took a glyph for another text than this process did."""
        with os.fdopen(self._reads, "rb", closefd=False) as file:
            told = file.read()
        try:
            half = msgspec.msgpack.decode(told, type=_Half)
        except msgspec.DecodeError:
            return []
        agreed = [
            self._resources.font(face).use(gid, text)
            for face, texts in half.texts.items()
            for gid, text in texts.items()
        ]
        return half.pages if all(agreed) else []

    def end(self) -> None:
        """End it, whether it is done or no longer wanted."""
        os.close(self._reads)
        os.kill(self._process, signal.SIGKILL)
        os.waitpid(self._process, 0)


def _hand_over(writes: int, draw: Callable[[], list[DrawnPage]], resources: Resources) -> None:
    """Write down what is drawn, and leave without the tidying that belongs to the first process."""
    try:
        pages = draw()
        half = _Half(pages, {face: font.texts for face, font in resources.fonts.items()})
        with os.fdopen(writes, "wb") as file:
            file.write(msgspec.msgpack.encode(half))
    finally:
        os._exit(0)
