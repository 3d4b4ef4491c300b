"""A monkey at the real window: acts chosen by a seed, with mouse and keyboard, and nothing may come of them but work.

    python -m tools.monkey [--seed N] [--acts N] [--job FILE]

Works on a copy of a job (a demo's, unless one is named) in a temporary folder, offscreen. Exits with 1 where the window
met a fault, took more than ten seconds or 1.5 GB, or left a job that cannot be read; the acts before a fault are told,
so that they can be done again. A watchdog tells what held the interface thread for longer than a hand would not feel.
"""

import argparse
import os
import random
import resource
import shutil
import sys
import tempfile
import time
from collections import Counter, deque
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PyQt6.QtCore import QEvent, QPoint, QPointF, Qt, QTimer
from PyQt6.QtGui import QKeyEvent, QWheelEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QDialog, QFileDialog, QLineEdit, QMenu, QWidget
from tools.fuzz import HIDDEN, LONGEST, MOST_MEMORY, NAMES
from tools.watch import Watched, told_of

from half_fold.core.store.demo import make_demo
from half_fold.core.store.job import find_file, read
from half_fold.desk.application import Desk
from half_fold.desk.theme.apply import dress
from half_fold.desk.window import Window

NONE, CONTROL, SHIFT = (
    Qt.KeyboardModifier.NoModifier,
    Qt.KeyboardModifier.ControlModifier,
    Qt.KeyboardModifier.ShiftModifier,
)
BUTTONS = (Qt.MouseButton.LeftButton,) * 8 + (Qt.MouseButton.RightButton, Qt.MouseButton.MiddleButton)
KEY_NAMES = (
    *("Return", "Escape", "Tab", "Backtab", "Space", "Delete", "Backspace", "Insert", "F1", "F2", "F4"),
    *("Left", "Right", "Up", "Down", "Home", "End", "PageUp", "PageDown"),
)
KEYS = [getattr(Qt.Key, f"Key_{name}") for name in KEY_NAMES]
WORDS = ("12 mm", "-3", "1e9", "0", "שלום", "ffi", "½ in", "x" * 300, "𝄞\u200d", "36p", "%", "\t", "“", "2027-02-30")


AGAIN = 0.01  # of all acts


class Monkey:
    """Does one act after another in whatever window is active."""

    def __init__(self, desk: Desk, job: Path, rng: random.Random) -> None:
        self.desk, self.job, self.rng = desk, job, rng
        self.done: deque[str] = deque(maxlen=30)
        self.edits: Counter[str] = Counter()
        self._last: object = None
        self.files = [job.parent / name for name in ("out.pdf", "words.md", "mark.png", "nothing", "other")]
        self.files[1].write_text("# Heads\n\nA *word* in them.\n" * 40, encoding="utf-8")
        QTimer.singleShot(40, self._answer)

    @property
    def window(self) -> Window:
        """The job's window; opened again where the monkey closed it, and the only one."""
        shown = [window for window in self.desk.windows if window.isVisible()]
        for other in shown[1:]:
            other.close()
        if not shown:
            self.desk.open(self.job)
            QTest.qWait(50)
            shown = [window for window in self.desk.windows if window.isVisible()]
        return shown[0]

    def act(self) -> None:
        acts = (self._click, self._click, self._click, self._type, self._type, self._drag, self._wheel, self._go)
        self._again() if self.rng.random() < AGAIN else self.rng.choice(acts)()
        QApplication.processEvents()
        session = self.window.session
        if session.publication is not self._last:
            self._last = session.publication
            self.edits[session.history.undoes] += 1

    def _again(self) -> None:
        """Close the window, with whatever it is at, and open the job again."""
        self.done.append("close and open")
        window = self.window
        window.close()
        QTest.qWait(self.rng.choice((0, 0, 20, 200)))
        self._last = self.window.session.publication

    def _answer(self) -> None:
        """A dialog that waits is given a file, a key, or put away; set anew first, as the answer may open another."""
        QTimer.singleShot(40, self._answer)
        dialog = QApplication.activeModalWidget()
        if isinstance(dialog, QFileDialog):
            line = dialog.findChild(QLineEdit, "fileNameEdit")
            if line is not None and self.rng.random() < 0.6:
                line.setText(str(self.rng.choice(self.files)))
                QTest.keyClick(line, Qt.Key.Key_Return)
            else:
                dialog.reject()
        elif isinstance(dialog, QDialog):
            QTest.keyClick(dialog, self.rng.choice((Qt.Key.Key_Return, Qt.Key.Key_Escape, Qt.Key.Key_Tab)))
        menu = QApplication.activePopupWidget()
        if menu is not None and self.rng.random() < 0.3:
            self._in_popup(menu)

    def _in_popup(self, popup: QWidget) -> None:
        actions = [a for a in popup.actions() if a.isEnabled()] if isinstance(popup, QMenu) else []
        if actions and self.rng.random() < 0.7:
            popup.setActiveAction(self.rng.choice(actions))
            QTest.keyClick(popup, Qt.Key.Key_Return)
        else:
            popup.close()

    def _target(self) -> tuple[QWidget, QPoint]:
        """Some visible widget and a place on it."""
        window = self.window
        popup = QApplication.activePopupWidget()
        if popup is not None:
            self._in_popup(popup)
        while True:
            place = QPoint(self.rng.randrange(window.width()), self.rng.randrange(window.height()))
            widget = window.childAt(place)
            if widget is not None:
                return widget, widget.mapFrom(window, place)

    def _held(self) -> Qt.KeyboardModifier:
        return self.rng.choice((NONE,) * 6 + (SHIFT, CONTROL))

    def _click(self) -> None:
        widget, place = self._target()
        self.done.append(f"click {type(widget).__name__} {place.x()},{place.y()}")
        way = QTest.mouseDClick if self.rng.random() < 0.15 else QTest.mouseClick
        way(widget, self.rng.choice(BUTTONS), self._held(), place)

    def _drag(self) -> None:
        widget, place = self._target()
        end = QPoint(self.rng.randrange(-40, widget.width() + 40), self.rng.randrange(-40, widget.height() + 40))
        self.done.append(f"drag {type(widget).__name__} {place.x()},{place.y()} to {end.x()},{end.y()}")
        held = self._held()
        QTest.mousePress(widget, Qt.MouseButton.LeftButton, held, place)
        for part in (0.3, 0.7, 1.0):
            QTest.mouseMove(widget, place + (end - place) * part)
        if self.rng.random() < 0.2:
            QTest.keyClick(widget, Qt.Key.Key_Escape)
        QTest.mouseRelease(widget, Qt.MouseButton.LeftButton, held, end)

    def _wheel(self) -> None:
        widget, place = self._target()
        turned = QPoint(0, self.rng.choice((-1200, -120, 120, 1200)))
        self.done.append(f"wheel {type(widget).__name__} {turned.y()}")
        at = QPointF(place)
        QApplication.sendEvent(
            widget,
            QWheelEvent(
                *(at, QPointF(widget.mapToGlobal(place)), QPoint(), turned, Qt.MouseButton.NoButton, self._held()),
                *(Qt.ScrollPhase.NoScrollPhase, False),
            ),
        )

    def _type(self) -> None:
        target = QApplication.activePopupWidget() or QApplication.focusWidget() or self.window
        act = self.rng.random()
        if act < 0.35:
            words = self.rng.choice(WORDS)
            self.done.append(f"type {words[:20]!r} in {type(target).__name__}")
            for letter in words:  # not by QTest, which types no letters but those of ASCII
                target = QApplication.activePopupWidget() or QApplication.focusWidget() or self.window
                QApplication.sendEvent(target, QKeyEvent(QEvent.Type.KeyPress, 0, NONE, letter))
        elif act < 0.7:
            key, held = self.rng.choice(KEYS), self._held()
            self.done.append(f"key {key.name} {held.name} in {type(target).__name__}")
            QTest.keyClick(target, key, held)
        else:
            key = self.rng.choice("ZZZZZZYCVXABIUFGJKLMPSDETHN+-0123456789")
            self.done.append(f"Ctrl+{key} in {type(target).__name__}")
            held = CONTROL | SHIFT if self.rng.random() < 0.2 else CONTROL
            QTest.keyClick(target, Qt.Key(ord(key)), held)

    def _go(self) -> None:
        number = self.rng.randrange(1, 8)
        self.done.append(f"station {number}")
        self.window.open_station(number)
        if self.rng.random() < 0.1:
            self.window.resize(self.rng.randrange(700, 1900), self.rng.randrange(500, 1200))


def play(seed: int, acts: int, folder: Path, job: Path | None = None) -> list[str]:
    """So many acts on a copy of a job, in ``folder``, or on a demo's; what went wrong."""
    desk = Desk()
    desk.faults.catch()
    try:
        place = Path(shutil.copytree(job.parent, folder / "job")) if job is not None else make_demo(folder).parent
        return _play(desk, place, seed, acts)
    finally:
        desk.faults.release()


def _oddly_named(job: Path, rng: random.Random) -> tuple[Path, list[Path]]:
    """The job under another name, and hidden files of the user's own beside its own."""
    name, file = rng.choice(NAMES), find_file(job)
    file.rename(job / f"{name}{file.suffix}")
    job = job.rename(job.parent / name)
    planted = [job / each for each in HIDDEN] + [job / "pictures" / each for each in HIDDEN]
    for each in planted:
        each.write_text(each.name)
    return job, planted


def _play(desk: Desk, job: Path, seed: int, acts: int) -> list[str]:
    wrong: list[str] = []
    rng = random.Random(seed)
    job, planted = _oddly_named(job, rng)
    monkey = Monkey(desk, job, rng)
    desk.faults.fault.connect(lambda said: wrong.append(f"{said}\n{desk.faults.report}\n" + "\n".join(monkey.done)))
    slowest = 0.0
    for number in range(acts):
        begun = time.monotonic()
        try:
            monkey.act()
        except RuntimeError as error:
            if "deleted" not in str(error):
                raise
        taken = time.monotonic() - begun
        slowest = max(slowest, taken)
        if taken > LONGEST:
            wrong.append(f"act {number}, {monkey.done[-1]}, took {taken:.1f} s")
        if number % 500 == 499:
            window = monkey.window
            window.session.autosave.flush()
            read(find_file(job))
            memory = int(Path("/proc/self/statm").read_text().split()[1]) * resource.getpagesize()
            print(f"{number + 1} acts, {memory / 1e6:.0f} MB, slowest {slowest:.1f} s, {len(wrong)} wrong", flush=True)
            if memory > MOST_MEMORY:
                wrong.append(f"after {number + 1} acts: {memory / 1e9:.2f} GB")
                break
    window = monkey.window
    window.session.autosave.flush()
    kept = window.session.publication
    if read(find_file(job)) != kept:
        wrong.append("what stands in the file is not what stands in the window")
    wrong += [f"{each} was written or taken away" for each in planted if each.read_text() != each.name]
    print(f"{monkey.edits.total()} edits of {len(monkey.edits)} kinds")
    window.close()
    QTest.qWait(200)
    return wrong


def main() -> int:
    asked = argparse.ArgumentParser(description=__doc__.splitlines()[0])
    asked.add_argument("--seed", type=int, default=1)
    asked.add_argument("--acts", type=int, default=500)
    asked.add_argument("--job", type=Path)
    told = asked.parse_args()
    application = Watched([])
    dress(application)
    with tempfile.TemporaryDirectory(prefix="half-fold-monkey-") as folder:
        os.environ["XDG_STATE_HOME"] = os.environ["XDG_CONFIG_HOME"] = f"{folder}/own"
        wrong = play(told.seed, told.acts, Path(folder) / "jobs", told.job)
    print(told_of(application.held))
    print("\n\n".join(wrong))
    print(f"{told.acts} acts, {len(wrong)} wrong")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
