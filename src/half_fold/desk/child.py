"""How a process of ours is started beside the window."""

import sys

from PyQt6.QtCore import QObject, QProcess, pyqtSignal

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
