"""The spine against the extent: this job on the line, one section more, and a wanted spine."""

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPen, QPolygonF

from half_fold.core.brief.compare import extent_for_spine, spine_of_extent, step
from half_fold.core.measure.entry import MM, unit_name
from half_fold.core.measure.kept import Keeper
from half_fold.core.measure.length import figure, in_unit
from half_fold.core.publication.records import Publication
from half_fold.desk.theme import tokens

POINTS = 16
_KEPT = 8
Line = list[tuple[int, float]]


class SpinePlot:
    """Draws the plot; the line is kept as long as the brief is the same."""

    def __init__(self) -> None:
        self._kept: Keeper[Line] = Keeper(_KEPT)

    def line(self, publication: Publication) -> Line:
        """(pages, spine in mm) from nothing to twice this extent."""
        held = (publication.brief, publication.papers, publication.dummies, publication.sections, publication.printer)
        return self._kept.of((*held, len(publication.pages)), lambda: _spines(publication))

    def paint(self, painter: QPainter, area: QRectF, publication: Publication, wanted: float | None) -> None:
        """Into ``area``; nothing where the binding has no spine."""
        line = self.line(publication)
        if len(line) < 2:
            return
        pages = len(publication.pages)
        most_pages, most_mm = line[-1][0], max(mm for _, mm in line) * 1.08
        frame = area.adjusted(44, 22, -12, -26)

        def at(count: float, mm: float) -> QPointF:
            return QPointF(
                frame.left() + count / most_pages * frame.width(), frame.bottom() - mm / most_mm * frame.height()
            )

        painter.setPen(QPen(tokens.colour(tokens.INK, 0.5), 1))
        painter.drawLine(frame.bottomLeft(), frame.bottomRight())
        painter.drawLine(frame.bottomLeft(), frame.topLeft())
        painter.setPen(QPen(tokens.colour(tokens.INK), 1.5))
        painter.drawPolyline(QPolygonF([at(count, mm) for count, mm in line]))
        painter.setFont(tokens.font(tokens.SMALL))
        painter.setPen(tokens.colour(tokens.INK))
        painter.drawText(QPointF(frame.left() - 40, frame.top() - 8), f"spine, {unit_name(publication.brief.unit)}")
        painter.drawText(
            QRectF(frame.left(), frame.bottom() + 6, frame.width(), 16), Qt.AlignmentFlag.AlignRight, "pages"
        )
        now = spine_of_extent(publication, pages)
        if now is not None:
            self._dot(painter, at(pages, now), frame, f"{pages}: {_said(publication, now)}", tokens.LODEN, True)
        more = pages + step(publication)
        then = spine_of_extent(publication, more)
        if then is not None and more <= most_pages:
            words = f"{step(publication)} pages more: {_said(publication, then)}"
            self._dot(painter, at(more, then), frame, words, tokens.INK, False)
        found = extent_for_spine(publication, wanted) if wanted else None
        if found is not None and found[0] <= most_pages:
            self._dot(painter, at(*found), frame, f"{found[0]}: {_said(publication, found[1])}", tokens.OCHRE, True)

    def _dot(self, painter: QPainter, at: QPointF, frame: QRectF, words: str, tone: str, above: bool) -> None:
        """A dot with its words to the upper left of it, or the lower right."""
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(tokens.colour(tone))
        painter.drawEllipse(at, 4, 4)
        painter.setPen(tokens.colour(tokens.INK))
        width = painter.fontMetrics().horizontalAdvance(words)
        if above:
            place = QPointF(max(frame.left() + 4, at.x() - width - 6), at.y() - 8)
        else:
            place = QPointF(min(at.x() + 8, frame.right() - width + 10), at.y() + 16)
        painter.drawText(place, words)


def _said(publication: Publication, mm: float) -> str:
    unit = publication.brief.unit
    return f"{figure(in_unit(mm * MM, unit), 4 if unit == 'in' else 2)} {unit_name(unit)}"


def _spines(publication: Publication) -> Line:
    most = max(64, 2 * len(publication.pages))
    counts = sorted({max(2, round(most * i / POINTS / 2) * 2) for i in range(1, POINTS + 1)})
    spines = [(count, spine_of_extent(publication, count)) for count in counts]
    return [(count, mm) for count, mm in spines if mm is not None]
