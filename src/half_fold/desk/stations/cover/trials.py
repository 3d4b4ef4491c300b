"""Trials of the cover in place of its bench: a key each, drawn off the interface thread, and a PNG to keep."""

from collections.abc import Callable
from pathlib import Path

import numpy as np
from PyQt6.QtCore import QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QFont, QImage, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QFileDialog, QWidget

from half_fold.core.cover.trials.places import stand_beside
from half_fold.core.cover.trials.trial import TRIALS, Tried, keep_trial, tried
from half_fold.core.cover.versions import Version, versions
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Publication
from half_fold.core.spread.setting.compose import Setter
from half_fold.desk.beside.newest import Answered, StillWanted
from half_fold.desk.kit.rows import Card, Row, RowSection
from half_fold.desk.session import Session
from half_fold.desk.stations.cover.rows import chosen_sections
from half_fold.desk.theme import tokens

KEYS = {"1": ("rack",), "2": ("list",), "3": ("arm",), "4": ("shop",), "5": ("print",), "6": ("grey",), "7": ("eyes",),
        "8": ("shelf",), "9": ("standing", "lying", "open", "jacket")}  # fmt: skip
LEAVE = COMPARE = "0"
VERSIONS = "versions"
WAIT_MS = 150  # after the window was last made larger or smaller
KEPT_WIDE = 1800  # pixels of a PNG that is kept


def trial_key(name: str) -> str:
    """The key of a trial."""
    return next(key for key, names in KEYS.items() if name in names)


class TrialView(QWidget):
    """Shows the trial called ``name``; nothing is tried while that is ''. ``changed`` once it shows another."""

    changed = pyqtSignal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.name = ""
        self.shown: Tried | None = None
        self.compared: list[Version] = []
        self.problem = ""
        self._base: Publication | None = None
        self._image: QImage | None = None
        self._setter = Setter()  # of the other thread
        self.maker, self.keeper = Answered(), Answered()
        self.maker.answered.connect(self._came)
        self.maker.failed.connect(self._failed)
        self.keeper.answered.connect(lambda path: session.noted.emit(f"Kept as {path}."))
        self.keeper.failed.connect(session.said)
        self._again = QTimer(self)
        self._again.setSingleShot(True)
        self._again.setInterval(WAIT_MS)
        self._again.timeout.connect(self._make)
        self.setAccessibleName("Trial of the cover")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def key(self, text: str) -> bool:
        """Show the trial of a key, its next view where it is shown already; leave by LEAVE. True where it was one.

        Where none is shown COMPARE shows all covers of the job, if there are several.
        """
        if text == LEAVE and self.name:
            self.show_trial("")
        elif text == COMPARE and self.session.publication.covers:
            self.show_trial(VERSIONS)
        elif text in KEYS:
            names = KEYS[text]
            at = names.index(self.name) + 1 if self.name in names else 0
            self.show_trial(names[at % len(names)])
        else:
            return False
        return True

    def show_trial(self, name: str) -> None:
        """Show a trial; none with ''."""
        self.name, self._base, self.problem = name, None, ""
        self.setVisible(bool(name))
        if name:
            self.setFocus()
            self.keep_up()
        else:
            self.maker.cancel()
            self.shown = self._image = None
            self.compared = []
        self.changed.emit()

    def keep_up(self) -> None:
        """Try again where the job has changed."""
        if self.name and self._base is not self.session.publication:
            self._make()

    def _room(self) -> tuple[int, int]:
        """How many pixels there are to show a trial in, across and down."""
        ratio = self.devicePixelRatioF()
        return max(320, round(self.width() * ratio)), max(240, round(self.height() * ratio))

    def _make(self) -> None:
        publication, folder, name = self.session.publication, self.session.proxies.folder, self.name
        self._base = publication
        wide, high = self._room()

        def work(_wanted: StillWanted) -> object:
            try:
                if name == VERSIONS:
                    return list(versions(publication, folder, self._setter))
                return tried(publication, folder, self._setter, name, wide, high)
            except Problem as problem:
                return str(problem)

        self.maker.begin(work)

    def _came(self, made: Tried | list[Version]) -> None:
        self.problem = ""
        if isinstance(made, list):
            self.shown, self.compared = None, made
            pixels = stand_beside([each.front for each in made], *self._room())
        else:
            self.shown, self.compared, pixels = made, [], made.pixels
        high, wide = pixels.shape[:2]
        held = np.ascontiguousarray(pixels)
        self._image = QImage(held.tobytes(), wide, high, 3 * wide, QImage.Format.Format_RGB888).copy()
        self.update()
        self.changed.emit()

    def _failed(self, sentence: str) -> None:
        self.shown, self._image, self.problem = None, None, sentence
        self.update()
        self.changed.emit()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        if self.name:
            self._again.start()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), tokens.colour(tokens.SURROUND))
        if self._image is not None:
            painter.drawImage(QRectF(self.rect()), self._image)
            self._paint_names(painter)
            return
        painter.setPen(tokens.colour(tokens.INK))
        painter.setFont(tokens.font(tokens.SECTION))
        words = self.problem or "Trying it"
        painter.drawText(
            self.rect().adjusted(40, 0, -40, 0), Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, words
        )

    def _paint_names(self, painter: QPainter) -> None:
        """Under each of the covers that are compared; the one in use stands out."""
        column = self.width() / max(1, len(self.compared))
        for n, each in enumerate(self.compared):
            painter.setFont(tokens.font(tokens.BASE, tokens.MEDIUM if each.in_use else QFont.Weight.Normal))
            painter.setPen(tokens.colour(tokens.LODEN if each.in_use else tokens.INK))
            words = f"{each.name}, in use" if each.in_use else each.name
            place = QRectF(n * column + 4, self.height() - 24, column - 8, 20)
            painter.drawText(place, Qt.AlignmentFlag.AlignCenter, words)

    # Working ------------------------------------------------------------------------------------

    def sections(self) -> list[RowSection]:
        """What is shown with its figures, and the other trials."""
        leave = ("Back to the cover (0)", lambda: self.show_trial(""))
        if self.name == VERSIONS:
            told = [(each.name, each.figures, each.in_use) for each in self.compared]
            back = RowSection("Versions", "judged by the same figures", [Card("Side by side", "", [leave])])
            return [back, *chosen_sections(self.session, told)]
        trial = next(each for each in TRIALS if each.name == self.name)
        items: list[Row | Card] = []
        if self.shown is not None and self.shown.trial is trial:
            items += [Row(*each) for each in self.shown.figures]
            items.append(Card("Keep it", "as a PNG, as wide as a page.", [("Keep a PNG", self.keep)]))
        elif self.problem:
            items.append(Card("Nothing to show", self.problem))
        others: list[tuple[str, Callable[[], object]]] = [
            (f"{each.label} ({trial_key(each.name)})", lambda name=each.name: self.show_trial(name))  # type: ignore[misc]
            for each in TRIALS
            if each is not trial
        ]
        return [
            RowSection(trial.label, trial.words, items),
            RowSection("Trials", "", [Card("Look again", "", [leave, *others])]),
        ]

    def keep(self) -> None:
        """Ask where, and write it there."""
        folder = self.session.job.folder
        asked, _ = QFileDialog.getSaveFileName(self, "Keep the trial", str(folder / f"{self.name}.png"), "PNG (*.png)")
        if asked:
            self.keep_at(Path(asked))

    def keep_at(self, path: Path) -> None:
        """Write it there, larger than it is shown."""
        publication, folder, name = self.session.publication, self.session.proxies.folder, self.name
        high = round(KEPT_WIDE * max(1, self.height()) / max(1, self.width()))

        def work(_wanted: StillWanted) -> object:
            try:
                keep_trial(publication, folder, Setter(), name, path, KEPT_WIDE, high)
            except Problem as problem:
                return str(problem)
            return path

        self.keeper.begin(work)

    def stop(self) -> None:
        """Until nothing runs, at the end of the window."""
        self.maker.wait()
        self.keeper.wait()
