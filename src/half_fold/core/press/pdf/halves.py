"""Long files are made by two processes, each a half of the sheets; what they name is the same in both."""

import os
import signal
import threading
from collections.abc import Callable, Generator, Iterator, Sequence

import msgspec
from msgspec import Struct

from half_fold.core.press.pdf.content import Resources
from half_fold.core.press.pdf.leaves import DrawnPage, draw_page
from half_fold.core.press.sheets import Sheet

LONG = 48  # sheets for which a second process is worth its start
TOGETHER = 5  # sheets drawn before the two part, so that both know most glyphs alike: one page and two spreads


class _Half(Struct, frozen=True, array_like=True):
    """What the second process hands over: its pages, and the text of every glyph it met, by face."""

    pages: list[DrawnPage]
    texts: dict[str, dict[int, str]]


def draw_all(
    makers: Sequence[Callable[[], Sheet]], resources: Resources, marks: bool
) -> Generator[DrawnPage, None, None]:
    """The pages of all sheets in order; the second half of many is drawn by a process that ends with the iterator."""

    def draw(some: Sequence[Callable[[], Sheet]]) -> Iterator[DrawnPage]:
        return (draw_page(make(), resources, marks) for make in some)

    def draw_the_second() -> bytes:
        pages = list(draw(makers[middle:]))
        half = _Half(pages, {face: font.texts for face, font in resources.fonts.items()})
        return msgspec.msgpack.encode(half)

    if len(makers) < LONG or not may_part():
        yield from draw(makers)
        return
    yield from draw(makers[:TOGETHER])
    middle = TOGETHER + (len(makers) - TOGETHER) // 4 * 2  # behind a whole spread
    try:
        second = Second(draw_the_second)
    except OSError:  # the machine has no room for another process
        yield from draw(makers[TOGETHER:])
        return
    try:
        yield from draw(makers[TOGETHER:middle])
        yield from _agreed(second.told(), resources) or draw(makers[middle:])
    finally:
        second.end()


def _agreed(told: bytes, resources: Resources) -> list[DrawnPage]:
    """What the second drew; nothing where it failed, or took a glyph for another text than this process did."""
    try:
        half = msgspec.msgpack.decode(told, type=_Half)
    except msgspec.DecodeError:
        return []
    agreed = [resources.font(face).use(gid, text) for face, texts in half.texts.items() for gid, text in texts.items()]
    return half.pages if all(agreed) else []


def may_part() -> bool:
    """A process with threads of its own must not be doubled, and one processor gains nothing by it."""
    return threading.active_count() == 1 and len(os.sched_getaffinity(0)) > 1


class Second:
    """A process that works as this one would, with all it has so far; OSError where there is no room for one."""

    def __init__(self, work: Callable[[], bytes]) -> None:
        self._reads, writes = os.pipe()
        try:
            self._process = os.fork()
        except OSError:
            os.close(self._reads)
            os.close(writes)
            raise
        if not self._process:
            os.close(self._reads)
            _hand_over(writes, work)
        os.close(writes)

    def told(self) -> bytes:
        """What came of its work; nothing, or a part of it, where it failed."""
        with os.fdopen(self._reads, "rb", closefd=False) as file:
            return file.read()

    def end(self) -> None:
        """End it, whether it is done or no longer wanted."""
        os.close(self._reads)
        os.kill(self._process, signal.SIGKILL)
        os.waitpid(self._process, 0)


def _hand_over(writes: int, work: Callable[[], bytes]) -> None:
    """Write down what comes of it, and leave without the tidying that belongs to the first process."""
    try:
        told = work()
        with os.fdopen(writes, "wb") as file:
            file.write(told)
    finally:
        os._exit(0)
