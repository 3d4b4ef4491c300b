"""Python's cycle collector, kept on the interface thread.

Left to itself it runs in whatever thread happens to allocate; if a worker's allocation sets it off, it may
destroy Qt objects away from their thread, which ends the program. So it is switched off, and run from a timer.

What was let go of is given back to the machine now and then: the checks of a whole job, in a thread of their own, leave
more than a hundred megabytes behind that no one else would get.
"""

import ctypes
import gc

from PyQt6.QtCore import QObject, QTimer

INTERVAL_MS = 400
THRESHOLDS = 700, 10, 10  # new objects, and times a younger generation was collected: as Python has them of itself
GIVES_BACK = 12  # times it runs: every five seconds, which takes a third of a millisecond where there is nothing


class Collector(QObject):
    """Collects the younger generations as they fill, the oldest once they have been collected often."""

    def __init__(self) -> None:
        super().__init__()
        gc.disable()
        self._times = 0
        self._give_back = getattr(ctypes.CDLL(None), "malloc_trim", lambda _: 0)  # which other machines have not
        self._timer = QTimer(self)
        self._timer.timeout.connect(self.collect)
        self._timer.start(INTERVAL_MS)

    def collect_all(self) -> None:
        """Everything that nobody holds any more, as after a window was closed."""
        gc.collect()
        self._give_back(0)

    def collect(self) -> None:
        """As far as Python itself would by now."""
        counts = gc.get_count()
        due = [generation for generation in range(3) if counts[generation] > THRESHOLDS[generation]]
        if due:
            gc.collect(due[-1] if len(due) == due[-1] + 1 else due[0])
        self._times = (self._times + 1) % GIVES_BACK
        if not self._times:
            self._give_back(0)
