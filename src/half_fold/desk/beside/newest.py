"""Work off the interface thread, one piece after another, of which only the newest counts."""

from collections.abc import Callable
from typing import Any

from PyQt6.QtCore import QObject, pyqtSignal

from half_fold.desk.beside.workers import workers
from half_fold.desk.faults import tell_fault

StillWanted = Callable[[], bool]
FAILED = object()


class Newest(QObject):
    """What a newer piece of work has overtaken is given up, or its result is dropped; ``taken`` gets the others."""

    done = pyqtSignal(int, object)

    def __init__(self) -> None:
        super().__init__()
        self._newest = 0
        self._pool = workers(1)
        self.done.connect(self._take)

    def begin(self, work: Callable[[StillWanted], object]) -> None:
        """Do it in the other thread; it is given what says whether it is still wanted."""
        self._newest += 1
        number = self._newest

        def run() -> None:
            if number != self._newest:
                return
            try:
                result = work(lambda: number == self._newest)
            except Exception:
                tell_fault()
                result = FAILED
            self.done.emit(number, result)

        self._pool.start(run)

    def cancel(self) -> None:
        """Nothing that was begun counts any more."""
        self._newest += 1

    def _take(self, number: int, result: Any) -> None:
        if number == self._newest and result is FAILED:
            self.gave_up()
        elif number == self._newest:
            self.taken(result)

    def gave_up(self) -> None:
        """The newest work ended in a fault, which has been said."""

    def taken(self, result: Any) -> None:
        """What comes of the newest work, on the interface thread."""
        raise NotImplementedError

    def wait(self) -> None:
        """Until nothing runs; what has not begun is given up. For the end of the window."""
        self._newest += 1
        self._pool.waitForDone()


class Answered(Newest):
    """Work that ends in something, or in a sentence that says why it does not."""

    answered = pyqtSignal(object)
    failed = pyqtSignal(str)

    def taken(self, result: object) -> None:
        """Give what was made, or say what is wrong."""
        self.failed.emit(result) if isinstance(result, str) else self.answered.emit(result)
