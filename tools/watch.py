"""A watchdog at the interface thread: which events held it for how long, and in which lines of the program."""

import atexit
import signal
import time
from collections import defaultdict
from collections.abc import Sequence
from types import FrameType
from typing import NamedTuple

from PyQt6.QtCore import QEvent, QObject
from PyQt6.QtWidgets import QApplication

HELD = 0.1  # seconds of the processor: what a hand feels
SAMPLED = 0.01
OURS = "/half_fold/"


class Held(NamedTuple):
    """An event that held the thread: seconds, what kind of event, to what, and the line most often met in it."""

    seconds: float
    event: str
    to: str
    where: str


class Watched(QApplication):
    """An application that times every event it deals with, by the processor's time of its own thread.

    What comes while a dialog or a menu waits is part of that, and is not told.
    """

    def __init__(self, words: list[str]) -> None:
        super().__init__(words)
        self.held: list[Held] = []
        self._depth = 0
        self._met: dict[str, int] = defaultdict(int)
        signal.signal(signal.SIGPROF, self._sample)  # on this very thread: another would keep painters alive
        signal.setitimer(signal.ITIMER_PROF, SAMPLED, SAMPLED)
        atexit.register(signal.setitimer, signal.ITIMER_PROF, 0)

    def notify(self, receiver: QObject, event: QEvent) -> bool:
        """As Qt does, and timed where it is not part of another event."""
        if self._depth:
            return super().notify(receiver, event)
        kind, to = event.type().name, type(receiver).__name__  # which may be gone afterwards
        self._met.clear()
        self._depth += 1
        begun = time.thread_time()
        try:
            return super().notify(receiver, event)
        finally:
            taken = time.thread_time() - begun
            self._depth -= 1
            if taken > HELD and QApplication.activeModalWidget() is None and QApplication.activePopupWidget() is None:
                self.held.append(Held(taken, kind, to, max(self._met, key=self._met.__getitem__, default="")))

    def _sample(self, _number: int, frame: FrameType | None) -> None:
        if self._depth:
            self._met[_where(frame)] += 1


def _where(frame: FrameType | None) -> str:
    """The innermost lines of the program's own that a frame is in."""
    told: list[str] = []
    while frame is not None and len(told) < 4:
        name = frame.f_code.co_filename
        if OURS in name:
            told.append(f"{name.rpartition(OURS)[2]}:{frame.f_lineno} {frame.f_code.co_name}")
        frame = frame.f_back
    return " < ".join(told)


def told_of(held: Sequence[Held]) -> str:
    """What held the thread, by where, the longest first."""
    if not held:
        return f"Nothing held the thread for {HELD * 1000:.0f} ms."
    times: dict[tuple[str, str, str], list[float]] = defaultdict(list)
    for each in held:
        times[each.event, each.to, each.where].append(each.seconds)
    rows = sorted(times.items(), key=lambda item: -max(item[1]))
    return "\n".join(
        f"{max(taken) * 1000:5.0f} ms at most, {len(taken):3} times: {event} of {to}; {where}"
        for (event, to, where), taken in rows
    )
