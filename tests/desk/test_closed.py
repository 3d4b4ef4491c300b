"""A window that is closed leaves nothing behind, however often one is opened."""

import gc
import re
from pathlib import Path

from PyQt6.QtCore import QCoreApplication, QEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

import half_fold
from half_fold.core.publication.records import Publication
from half_fold.core.spread.setting.compose import Setter
from half_fold.desk.application import Desk
from half_fold.desk.session import Session
from half_fold.desk.window import Window
from tests.desk.conftest import ready, wait_for

OPENED = 7
HELD = (Window, Session, Setter, Publication)


def _put_away() -> None:
    """What waits to be deleted is."""
    for _ in range(3):
        QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)
        QApplication.processEvents()
        gc.collect()


def _alive() -> dict[str, int]:
    kinds = [type(each) for each in gc.get_objects()]  # which a proxy of what is gone cannot be asked for
    return {kind.__name__: sum(issubclass(each, kind) for each in kinds) for kind in HELD}


def test_openings_leave_no_window_behind(desk: Desk, demo: Path) -> None:
    """Windows once stayed with all that they had set: 60 MB more with each that was opened."""

    def opened() -> None:
        window = desk.open(demo)
        ready(window)
        for station in (4, 5, 7):
            window.open_station(station)
            QTest.qWait(30)
        assert all(_alive().values()), "what is counted is there as long as it is open"
        window.close()

    opened()
    _put_away()
    before, widgets = _alive(), len(QApplication.allWidgets())
    for _ in range(OPENED):
        opened()

    def is_put_away() -> bool:
        _put_away()
        now = _alive()
        few = all(now[name] <= before[name] + 1 for name in before)  # what is being let go of as this is asked
        return few and len(QApplication.allWidgets()) <= widgets + 20

    wait_for(is_put_away)
    assert not desk.windows


def test_what_outlives_a_widget_is_told_to_slots_of_its_own() -> None:
    """A lambda stays connected when its widget is gone, and calls what is deleted; a method of it does not."""
    source = Path(half_fold.__file__).parent / "desk"
    outlives = re.compile(r"\b(?:session|proxies|checker|marker|autosave)\.\w+\.connect\((?:lambda|partial)")
    assert not [path.name for path in source.rglob("*.py") if outlives.search(path.read_text(encoding="utf-8"))]
