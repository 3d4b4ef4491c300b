"""What can be read of the spread in view, over the bench (Z): word by word, and again after each edit."""

import numpy as np
from PyQt6.QtCore import QObject, QPointF, QRectF, Qt
from PyQt6.QtGui import QImage, QPainter, QPen, QPolygonF

from half_fold.core.cover.masthead import GONE, PART, Masthead, masthead_of
from half_fold.core.cover.mending import ways_to_read
from half_fold.core.legibility.calm import Calm, calm_of
from half_fold.core.legibility.reading import Read, read_surface
from half_fold.core.legibility.remedies import Remedy, places
from half_fold.core.legibility.verdicts import GOOD, UNREADABLE, Verdict
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Publication
from half_fold.core.spread.setting.compose import Setter
from half_fold.desk.beside.newest import Answered, StillWanted
from half_fold.desk.stations.spreads.tools.worktop import Worktop
from half_fold.desk.theme import tokens

COLOURS: dict[Verdict, str] = {"good": tokens.LODEN, "risky": tokens.OCHRE, "not to be read": tokens.MADDER}
TOLD = 0.05  # of a letter: less of it hidden is not said
SAID = "What can be read: words that are risky are underlined, those that cannot be read are boxed; Z takes it away."


IN_DOUBT, DIMMED = 75, 150  # of 255: how dark the map lays places where words are in doubt, and are not read


class Reader(QObject):
    """Shows it while it is ``shown``; ``found`` are the remedies of ``block`` in the document as it was ``read``."""

    def __init__(self, bench: Worktop) -> None:
        super().__init__()
        self.bench = bench
        self.shown = False
        self.read: Read | None = None
        self.masthead: Masthead | None = None
        self.block = ""
        self.found: list[Remedy] | None = None
        self.calm: Calm | None = None  # places for the block, once another is looked for
        self.seeking = False
        self._base: tuple[Publication, str] | None = None
        self._setter = Setter()  # of the other thread
        self.reads, self.seeks = Answered(), Answered()
        self.reads.answered.connect(self._came)
        self.seeks.answered.connect(self._solved)
        self.seeks.failed.connect(self._gave_up)

    def show(self) -> None:
        """Show it, or no longer."""
        self.shown = not self.shown
        self.bench.session.noted.emit(SAID if self.shown else "Words as they are")
        self._base = None
        self.keep_up()
        self.bench.session.view.selected.emit()
        self.bench.update()

    def keep_up(self) -> None:
        """Read again where the document, or what is in view, has changed; what was read stays in sight until then."""
        session = self.bench.session
        now = session.publication, session.spread_words
        if not self.shown or (self._base is not None and self._base[0] is now[0] and self._base[1] == now[1]):
            return
        if self._base is not None and self._base[1] != now[1]:
            self.read, self.masthead = None, None
        self._base, self.found, self.calm = now, None, None
        sheet = session.sheet(self._setter)

        def work(_still_wanted: StillWanted) -> object:
            return read_surface(sheet), masthead_of(sheet)

        self.reads.begin(work)

    def _came(self, found: tuple[Read, Masthead | None]) -> None:
        self.read, self.masthead = found
        self.bench.session.view.selected.emit()
        self.bench.update()

    # Remedies -----------------------------------------------------------------------------------

    def seek(self, block: str, elsewhere: bool = False) -> None:
        """Look for what would make a block readable, or for other places for it."""
        sheet, self.block, self.found, self.seeking = self.bench.session.sheet(Setter()), block, None, True
        self.calm = None

        def work(still_wanted: StillWanted) -> object:
            try:
                if elsewhere:
                    return places(sheet, block), calm_of(read_surface(sheet), block)
                return ways_to_read(sheet, block, still_wanted), None
            except Problem as problem:
                return str(problem)

        self.seeks.begin(work)
        self.bench.session.view.selected.emit()

    def _solved(self, found: tuple[list[Remedy], Calm | None]) -> None:
        self.found, self.calm = found
        self.seeking = False
        self.bench.session.view.selected.emit()
        self.bench.update()

    def _gave_up(self, sentence: str) -> None:
        self.seeking = False
        self.bench.session.said.emit(sentence)

    def apply(self, remedy: Remedy) -> None:
        """Do it; undo takes it back."""
        session = self.bench.session
        if session.edit(lambda _: remedy.publication, remedy.words.lower()):
            session.noted.emit(f"{remedy.words}. Ctrl+Z takes it back.")

    def stop(self) -> None:
        """Wait for both threads, at the end of the window."""
        self.reads.wait()
        self.seeks.wait()

    # Painting -----------------------------------------------------------------------------------

    def paint(self, painter: QPainter) -> None:
        """The verdicts over the words, the weak letters pointed at."""
        self.keep_up()
        if not self.shown or self.read is None:
            return
        self._paint_calm(painter)
        for word in self.read.words:
            area, colour = self.bench.to_widget(word.area), tokens.colour(COLOURS[word.verdict])
            painter.setBrush(Qt.BrushStyle.NoBrush)
            if word.verdict == "good":
                painter.setPen(QPen(tokens.colour(COLOURS["good"], 0.7), 1))
                painter.drawLine(area.bottomLeft(), area.bottomRight())
                continue
            painter.setPen(QPen(colour, 2))
            if word.verdict == "risky":
                painter.drawLine(area.bottomLeft(), area.bottomRight())
            else:
                painter.drawRect(area)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour)
            for letter in word.weak:
                foot = self.bench.to_widget(letter)
                tip = QPointF(foot.center().x(), area.bottom() + 1)
                painter.drawPolygon(QPolygonF([tip, tip + QPointF(-3, 5), tip + QPointF(3, 5)]))
        self._paint_hidden(painter)

    def _paint_calm(self, painter: QPainter) -> None:
        """While another place is looked for: what the block could cover and read well stays clear, the rest dimmed."""
        calm = self.calm
        if calm is None or calm.block != self.bench.session.view.block:
            return
        best = calm.covered
        shown = np.zeros((*best.shape, 4), np.uint8)  # black, but for how opaque it is
        shown[..., 3] = np.where(best >= GOOD, 0, np.where(best >= UNREADABLE, IN_DOUBT, DIMMED))
        high, wide = calm.scores.shape
        image = QImage(shown.tobytes(), wide, high, 4 * wide, QImage.Format.Format_ARGB32_Premultiplied)
        there = Rect(calm.left, calm.top, calm.left + wide * calm.cell, calm.top + high * calm.cell)
        painter.drawImage(self.bench.to_widget(there), image)

    def _paint_hidden(self, painter: QPainter) -> None:
        """Over every letter of the masthead that something hides, how much of it."""
        painter.setFont(tokens.font(tokens.SMALL, tokens.MEDIUM))
        for letter in self.masthead.letters if self.masthead is not None else ():
            if letter.hidden < TOLD:
                continue
            area = self.bench.to_widget(letter.area)
            token = tokens.MADDER if letter.hidden > GONE else tokens.OCHRE if letter.hidden > PART else tokens.LODEN
            words = f"{100 * letter.hidden:.0f} %"
            wide = painter.fontMetrics().horizontalAdvance(words) + 8
            tag = QRectF(area.center().x() - wide / 2, area.top() - 20, wide, 16)
            painter.setPen(QPen(tokens.colour(token), 1, Qt.PenStyle.DashLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(area)
            painter.fillRect(tag, tokens.colour(token))
            painter.setPen(tokens.colour(tokens.CARD))
            painter.drawText(tag, Qt.AlignmentFlag.AlignCenter, words)
