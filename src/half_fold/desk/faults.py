"""One net for what was not foreseen: it is said, the job is saved, a report can be copied, and the window lives on."""

import platform
import sys
import threading
import traceback
from types import TracebackType

from PyQt6.QtCore import PYQT_VERSION_STR, QObject, pyqtSignal

from half_fold import __version__
from half_fold.core.measure.problem import Problem

SAID = "A fault of the program: {} The job is saved; you can go on."
MOST_KEPT = 20  # faults of different places, of which the report tells


def tell_fault() -> None:
    """Give the fault that is being handled to the net: for workers, which have to end their work in order."""
    kind, error, trace = sys.exc_info()
    if kind is not None and error is not None:
        sys.excepthook(kind, error, trace)


class Faults(QObject):
    """Takes what no one caught, in whatever thread; ``problem`` gives sentences, ``fault`` those of faults.

    A fault that comes again from the same place, as one in painting does, is counted and not said again.
    """

    problem = pyqtSignal(str)
    fault = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self._known: dict[tuple[str, str, int], int] = {}
        self._told: list[str] = []
        self._before = sys.excepthook, threading.excepthook

    def catch(self) -> None:
        """Take faults from now on."""
        sys.excepthook = self._take
        threading.excepthook = lambda told: self._take(told.exc_type, told.exc_value, told.exc_traceback)

    def release(self) -> None:
        """Leave them to whoever took them before."""
        sys.excepthook, threading.excepthook = self._before

    def _take(self, kind: type[BaseException], error: BaseException | None, trace: TracebackType | None) -> None:
        """Tell it, and let go of its frames: Python keeps the last fault, and no painter may outlive its widget."""
        try:
            self._tell(kind, error, trace)
        finally:
            traceback.clear_frames(trace)

    def _tell(self, kind: type[BaseException], error: BaseException | None, trace: TracebackType | None) -> None:
        if issubclass(kind, KeyboardInterrupt | SystemExit):
            self._before[0](kind, error or kind(), trace)
            return
        if issubclass(kind, Problem):
            self.problem.emit(str(error))
            return
        place = traceback.extract_tb(trace)[-1:] if trace is not None else []
        key = kind.__name__, place[0].filename if place else "", place[0].lineno or 0 if place else 0
        self._known[key] = self._known.get(key, 0) + 1
        if self._known[key] > 1:
            return
        if len(self._told) < MOST_KEPT:
            self._told.append("".join(traceback.format_exception(kind, error, trace)))
        words = str(error).splitlines()[0][:120] if str(error) else ""
        self.fault.emit(SAID.format(f"{kind.__name__}{f' ({words})' if words else ''}."))

    @property
    def report(self) -> str:
        """All that is known of the faults of this sitting; nothing of the job is in it but what a message names."""
        system = f"Half Fold {__version__}, Python {platform.python_version()}, PyQt {PYQT_VERSION_STR}"
        counts = [f"{count} x {kind} in {file}:{line}" for (kind, file, line), count in self._known.items()]
        return "\n".join([system, platform.platform(), *counts, "", *self._told])
