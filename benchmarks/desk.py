"""The window that benchmarks drive: offscreen, dressed, at the design size, with the application's own turn-taking."""

import os
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from PyQt6.QtWidgets import QApplication

    from half_fold.desk.window import Window


def dressed() -> "QApplication":
    """The one application of this run."""
    os.environ["QT_QPA_PLATFORM"] = "offscreen"
    from PyQt6.QtWidgets import QApplication

    from half_fold.desk.application import SWITCH_SECONDS
    from half_fold.desk.theme.apply import dress

    application = QApplication.instance() or QApplication([])
    assert isinstance(application, QApplication)
    dress(application)
    sys.setswitchinterval(SWITCH_SECONDS)
    _held.append(application)
    return application


_held: list["QApplication"] = []  # Qt ends when nobody holds its application


@contextmanager
def opened(kind: str = "") -> Iterator[tuple["Window", Path]]:
    """A window on the demo, or on a new job of that kind, and a folder that is removed at the end."""
    from half_fold.core.plan.starters import start
    from half_fold.core.store.demo import make_demo
    from half_fold.core.store.job import create_job
    from half_fold.desk.application import Desk

    dressed()
    with TemporaryDirectory() as name:
        folder = Path(name)
        job = create_job(folder / "job", start(kind, "Job")) if kind else make_demo(folder)
        window = Desk().open(job)
        window.resize(1280, 800)
        yield window, folder
        window.close()
