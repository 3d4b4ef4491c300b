"""How a process of ours is started beside the window."""

import atexit
import subprocess
import sys
import threading
from collections.abc import Callable
from pathlib import Path
from queue import Queue
from typing import NamedTuple

from PyQt6.QtCore import QObject, QProcess, pyqtSignal

from half_fold.answering import Answer, Asked, framed, frames
from half_fold.core.publication.records import Publication
from half_fold.core.publication.sending import difference_of

# Python in isolated mode: neither the folder it is started in nor the user's environment can bring code of theirs in.
ISOLATED = "-I"


def command_line(*words: str) -> tuple[str, list[str]]:
    """The program, and what to give it, for a command of Half Fold's own."""
    return sys.executable, [ISOLATED, "-m", "half_fold.cli", *words]


class Child(QObject):
    """A command of Half Fold's own at work beside the window; ``done`` gives what it said, ``failed`` why not."""

    done = pyqtSignal(str)
    failed = pyqtSignal(str)

    def __init__(self, parent: QObject, *words: str) -> None:
        super().__init__(parent)
        self._process = QProcess(self)
        self._process.finished.connect(self._finished)
        self._process.start(*command_line(*words))

    @property
    def busy(self) -> bool:
        return self._process.state() != QProcess.ProcessState.NotRunning

    def stop(self) -> None:
        """End it; nothing half made is left."""
        self._process.terminate()
        self._process.waitForFinished(2000)

    def _finished(self, status: int) -> None:
        if status == 0:
            self.done.emit(bytes(self._process.readAllStandardOutput().data()).decode().strip())
        else:
            said = bytes(self._process.readAllStandardError().data()).decode().strip()
            self.failed.emit(said.removeprefix("half-fold: ") or "It was ended before it was done.")


# The process that stays ---------------------------------------------------------------------------------

Take = Callable[[Answer], object]


class _Question(NamedTuple):
    """What is asked of a job; without a ``publication`` it is let go of."""

    number: int
    key: int
    folder: Path
    publication: Publication | None
    take: Take


class Resident:
    """The process beside the window that checks: started once, told what changes, and asked for what it finds.

    ``ask`` returns at once: what is new is worked out and sent in a thread, which mostly waits.
    """

    def __init__(self) -> None:
        words = [sys.executable, ISOLATED, "-c", "from half_fold.answering import main; main()"]
        self._process = subprocess.Popen(words, stdin=subprocess.PIPE, stdout=subprocess.PIPE)
        self._coming: Queue[_Question | None] = Queue()  # nothing: it has ended
        self._waiting: dict[int, _Question] = {}  # by job, under the lock: two threads take away and add
        self._lock = threading.Lock()
        self._sent: dict[int, Publication] = {}
        self._threads = [
            threading.Thread(target=work, name="checks", daemon=True) for work in (self._send, self._listen)
        ]
        for thread in self._threads:
            thread.start()

    @property
    def is_there(self) -> bool:
        return self._process.poll() is None

    def ask(self, number: int, key: int, folder: Path, publication: Publication, take: Take) -> None:
        """Have a job checked; ``take`` is given the answer, unless a newer question overtakes it.

        It is called, and let go of, in another thread: nothing of a window may be held by it.
        """
        self._coming.put(_Question(number, key, folder, publication, take))

    def let_go(self, key: int) -> None:
        """Of a job that is closed."""
        self._coming.put(_Question(0, key, Path(), None, lambda _: None))

    def end(self) -> None:
        """End it, whatever it does."""
        self._process.kill()
        self._process.wait()

    def close(self) -> None:
        """End it with its threads, which tell nobody any more: for the end of the program."""
        with self._lock:
            self._waiting.clear()
        self.end()
        for thread in self._threads:
            thread.join()

    def _send(self) -> None:
        stdin = self._process.stdin
        assert stdin is not None
        while True:
            question = self._coming.get()
            if question is None:
                return
            if not self._awaits(question):
                continue
            try:
                stdin.write(framed(self._asked(question)))
                stdin.flush()
            except (OSError, ValueError):  # it has ended, and the next question starts another
                self._tell_gone()
                return

    def _awaits(self, question: _Question) -> bool:
        """Whether it is to be sent: not one asked again that a newer one of its job has overtaken meanwhile."""
        with self._lock:
            waiting = self._waiting.get(question.key)
            if question.publication is None:
                self._waiting.pop(question.key, None)
            elif waiting is not None and waiting.number > question.number:
                return False
            else:
                self._waiting[question.key] = question
        return True

    def _answered(self, answer: Answer) -> _Question | None:
        """The question that an answer is to, which waits no more; None where a newer one has overtaken it."""
        with self._lock:
            question = self._waiting.get(answer.key)
            if question is None or question.number != answer.number:
                return None
            return self._waiting.pop(answer.key)

    def _asked(self, question: _Question) -> Asked:
        number, key, folder, publication, _ = question
        if publication is None:
            self._sent.pop(key, None)
            return Asked(number, key, "", None)
        before, self._sent[key] = self._sent.get(key), publication
        return Asked(number, key, str(folder), difference_of(publication, before))

    def _listen(self) -> None:
        assert self._process.stdout is not None
        for answer in frames(self._process.stdout):
            question = self._answered(answer)
            if question is None:
                continue
            if answer.is_lost:
                self._sent.pop(answer.key, None)
                self._coming.put(question)
            else:
                question.take(answer)
        self._tell_gone()
        self._coming.put(None)

    def _tell_gone(self) -> None:
        """Answer all that wait: the process has ended."""
        with self._lock:
            waiting = list(self._waiting.values())
            self._waiting.clear()
        for question in waiting:
            question.take(Answer(question.number, question.key, [], GONE))


GONE = "The process that checks has ended before it was done."
_resident: list[Resident] = []


def resident() -> Resident:
    """The process beside the window, started now where there is none, or it has ended."""
    if not _resident or not _resident[-1].is_there:
        _resident[:] = [Resident()]
    return _resident[-1]


@atexit.register
def _close() -> None:
    for each in _resident:
        each.close()
