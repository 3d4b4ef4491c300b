"""Autosave off the interface thread: throttled, so that continuous typing is still saved every second."""

import threading
from collections.abc import Callable

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Publication
from half_fold.core.store.job import Job

LEAST_GAP_S = 0.4
RETRY_S = 2.0
LONGEST_S = 10.0


def _nobody(_: str) -> None:
    """Who is told once the job is closed: what was told before may be gone."""


class Autosave:
    """Saves the newest document it was given, at most every ``LEAST_GAP_S`` seconds.

    ``said`` is called from the saving thread with '' after a save, or with the sentence of a Problem.
    """

    def __init__(self, job: Job, said: Callable[[str], None]) -> None:
        self._job, self._said = job, said
        self._waiting: Publication | None = None
        self._wake = threading.Condition()
        self._busy = False
        self._closing = False
        self._thread = threading.Thread(target=self._run, name="autosave", daemon=True)
        self._thread.start()

    def offer(self, publication: Publication) -> None:
        """Save this soon; an earlier one that still waits is passed over."""
        with self._wake:
            self._waiting = publication
            self._wake.notify_all()

    def flush(self, timeout: float = 10.0) -> bool:
        """Wait until all that was offered is on disk."""
        with self._wake:
            return self._wake.wait_for(lambda: self._waiting is None and not self._busy, timeout)

    def close(self) -> None:
        """Save what waits, and stop; a disk that takes longer than that is told of no more."""
        with self._wake:
            self._closing = True
            self._wake.notify_all()
        self._thread.join(LONGEST_S)
        self._said = _nobody

    def _run(self) -> None:
        while True:
            with self._wake:
                self._wake.wait_for(lambda: self._waiting is not None or self._closing)
                publication, self._waiting = self._waiting, None
                if publication is None:
                    return
                self._busy = True
            saved = self._save(publication)
            with self._wake:
                self._busy = False
                if not saved and self._waiting is None and not self._closing:
                    self._waiting = publication  # it is tried again, and once more when the job is closed
                self._wake.notify_all()
                if not self._closing:
                    self._wake.wait_for(lambda: self._closing, LEAST_GAP_S if saved else RETRY_S)

    def _save(self, publication: Publication) -> bool:
        try:
            self._job.save(publication)
        except Problem as problem:
            self._said(str(problem))
            return False
        except Exception as error:  # whatever it was, it is tried again: this thread is the only one that saves
            self._said(f"The job could not be saved ({error}); keep the window open, it is tried again.")
            return False
        self._said("")
        return True
