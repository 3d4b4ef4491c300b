"""Python's cycle collector, kept on the interface thread.

Left to itself it runs in whatever thread happens to allocate; if a worker's allocation sets it off, it may
destroy Qt objects away from their thread, which ends the program. So it is switched off, and run from a timer.
"""

import gc

from PyQt6.QtCore import QObject, QTimer

INTERVAL_MS = 400


class Collector(QObject):
    """Collects the younger generations as they fill, the oldest once they have been collected often."""

    def __init__(self) -> None:
        super().__init__()
        gc.disable()
        self._thresholds = gc.get_threshold()
        self._timer = QTimer(self)
        self._timer.timeout.connect(self.collect)
        self._timer.start(INTERVAL_MS)

    def collect(self) -> None:
        """As far as Python itself would by now."""
        counts = gc.get_count()
        due = [generation for generation in range(3) if counts[generation] > self._thresholds[generation]]
        if due:
            gc.collect(due[-1] if len(due) == due[-1] + 1 else due[0])
