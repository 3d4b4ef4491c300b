"""What can be read of the spread in view, over the bench (Z): word by word, and again after each edit."""

from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, QPointF, Qt
from PyQt6.QtGui import QPainter, QPen, QPolygonF

from half_fold.core.cover.legibility import Verdict
from half_fold.core.cover.reading import Read, read
from half_fold.core.cover.remedies import Remedy, places, remedies
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Publication
from half_fold.core.spread.compose import Setter
from half_fold.desk.newest import Answered, StillWanted
from half_fold.desk.theme import tokens

if TYPE_CHECKING:
    from half_fold.desk.stations.spreads.bench import SpreadBench

COLOURS: dict[Verdict, str] = {"good": tokens.LODEN, "risky": tokens.OCHRE, "not to be read": tokens.MADDER}
SAID = "What can be read: words that are risky are underlined, those that cannot be read are boxed; Z takes it away."


class Reader(QObject):
    """Shows it while it is ``shown``; ``found`` are the remedies of ``block`` in the document as it was ``read``."""

    def __init__(self, bench: "SpreadBench") -> None:
        super().__init__()
        self.bench = bench
        self.shown = False
        self.read: Read | None = None
        self.block = ""
        self.found: list[Remedy] | None = None
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
        self.bench.session.selected.emit()
        self.bench.update()

    def keep_up(self) -> None:
        """Read again where the document, or what is in view, has changed; what was read stays in sight until then."""
        session = self.bench.session
        now = session.publication, session.spread_words
        if not self.shown or (self._base is not None and self._base[0] is now[0] and self._base[1] == now[1]):
            return
        if self._base is not None and self._base[1] != now[1]:
            self.read = None
        self._base, self.found = now, None
        sheet = session.sheet(self._setter)

        def work(_still_wanted: StillWanted) -> object:
            return read(sheet)

        self.reads.begin(work)

    def _came(self, found: Read) -> None:
        self.read = found
        self.bench.session.selected.emit()
        self.bench.update()

    # Remedies -----------------------------------------------------------------------------------

    def seek(self, block: str, elsewhere: bool = False) -> None:
        """Look for what would make a block readable, or for other places for it."""
        sheet, self.block, self.found, self.seeking = self.bench.session.sheet(Setter()), block, None, True

        def work(still_wanted: StillWanted) -> object:
            try:
                return places(sheet, block) if elsewhere else remedies(sheet, block, still_wanted)
            except Problem as problem:
                return str(problem)

        self.seeks.begin(work)
        self.bench.session.selected.emit()

    def _solved(self, found: list[Remedy]) -> None:
        self.found, self.seeking = found, False
        self.bench.session.selected.emit()

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
