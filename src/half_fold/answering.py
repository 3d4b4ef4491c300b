"""The checks in a process of their own beside the window: it is told what changes, and answers with findings.

Rules are Python, which one process runs one line of at a time: in the window's own they would hold up the hand. What
goes to and fro is pickled, between processes of ours alone. It ends with the window: when nothing more can come in.
"""

import os
import pickle
import sys
import threading
import traceback
from collections.abc import Iterator
from pathlib import Path
from queue import Queue
from typing import IO, Any, NamedTuple

LENGTH = 8  # octets that say how long what follows is
NICE = 5  # the hand comes first


class Asked(NamedTuple):
    """A job by ``key``, as it follows from what was last asked of that; no ``change`` lets go of it."""

    number: int
    key: int
    folder: str
    change: tuple[str, Any] | None


class Answer(NamedTuple):
    """What was found of a job; or, of a fault, its report; or that what it follows from is not known here."""

    number: int
    key: int
    findings: list[Any]
    fault: str = ""
    is_lost: bool = False


def framed(content: object) -> bytes:
    """Something to be sent."""
    packed = pickle.dumps(content, pickle.HIGHEST_PROTOCOL)
    return len(packed).to_bytes(LENGTH, "big") + packed


def frames(stream: IO[bytes]) -> Iterator[Any]:
    """What comes in, one after another, until the other side is gone."""
    while len(head := stream.read(LENGTH)) == LENGTH:
        size = int.from_bytes(head, "big")
        content = stream.read(size)
        if len(content) < size:
            return
        yield pickle.loads(content)


class Checks:
    """Answers for one job after another; a check that a newer one of its job has overtaken is given up."""

    def __init__(self) -> None:
        from half_fold.core.spread.setting.compose import Setter

        self.setter, self.jobs = Setter(), dict[int, Any]()
        self.coming: Queue[Asked] = Queue()
        # The number last asked of each job, written by what listens alone: a job let go of may be asked about again
        # before its going is come to, and that question must not be forgotten with it.
        self.newest: dict[int, int] = {}

    def take(self, asked: Asked) -> None:
        """Something has come in."""
        self.newest[asked.key] = asked.number
        self.coming.put(asked)

    def answer(self, asked: Asked) -> Answer | None:
        """What is found of a job; None where nobody waits for it."""
        from half_fold.core.checks.context import GivenUp
        from half_fold.core.checks.run import check
        from half_fold.core.publication.sending import WHOLE

        if asked.change is None:
            self._let_go(asked.key)
            return None
        try:
            publication = self._follow(asked, asked.change)
        except (AttributeError, TypeError, IndexError):
            self.jobs.pop(asked.key, None)
            if asked.change[0] == WHOLE:  # to be told it again would not help
                raise
            return Answer(asked.number, asked.key, [], is_lost=True)
        pictures = Path(asked.folder) / "pictures"
        try:
            found = check(publication, self.setter, pictures, lambda: self.newest.get(asked.key) == asked.number)
        except GivenUp:
            return None
        return Answer(asked.number, asked.key, found)

    def _follow(self, asked: Asked, change: tuple[str, Any]) -> Any:
        """The job as it is now, its own fonts known."""
        from half_fold.core.publication.sending import made
        from half_fold.core.typesetting.faces.fonts import join_fonts

        before = self.jobs.get(asked.key)
        publication = self.jobs[asked.key] = made(change, before)
        if before is None or before.fonts is not publication.fonts:
            join_fonts(publication, Path(asked.folder))
        return publication

    def _let_go(self, key: int) -> None:
        from half_fold.core.measure.kept import let_go_of_all
        from half_fold.core.spread.setting.compose import Setter

        self.jobs.pop(key, None)
        self.setter = Setter()
        let_go_of_all()


def main() -> None:
    """Until nothing more can come in."""
    os.nice(NICE)
    out = os.fdopen(os.dup(sys.stdout.fileno()), "wb")
    os.dup2(sys.stderr.fileno(), sys.stdout.fileno())  # what a library prints is no answer
    checks = Checks()

    def listen() -> None:
        for each in frames(sys.stdin.buffer):
            checks.take(each)
        os._exit(0)  # the window is gone: nobody waits for what is being done

    threading.Thread(target=listen, daemon=True).start()
    while True:
        asked = checks.coming.get()
        try:
            answer = checks.answer(asked)
        except Exception:
            answer = Answer(asked.number, asked.key, [], traceback.format_exc())
        if answer is not None:
            out.write(framed(answer))
            out.flush()
