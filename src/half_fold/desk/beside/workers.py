"""Threads for slow work, which end before the program does."""

import atexit

from PyQt6 import sip
from PyQt6.QtCore import QThreadPool


def workers(at_once: int) -> QThreadPool:
    """A pool of so many threads.

    Python must not be taken down under a thread that still runs it: however the program ends, what has not begun is
    given up and what has begun is waited for.
    """
    pool = QThreadPool()
    pool.setMaxThreadCount(at_once)
    atexit.register(_end, pool)
    return pool


def _end(pool: QThreadPool) -> None:
    if not sip.isdeleted(pool):  # Qt ends it itself where the application went first
        pool.clear()
        pool.waitForDone()
