"""The fields of a spread on its bench, and what is said of the blocks that lie on them."""

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen

from half_fold.core.measure.length import counted
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.kinds import kind_of
from half_fold.core.publication.records import Block, HoldsDisplay, HoldsStory
from half_fold.core.spread.edits import edits
from half_fold.core.spread.setting.display_text import display_marks
from half_fold.core.spread.setting.hits import thing_at
from half_fold.core.spread.where.frames import block_box, blocks_on
from half_fold.desk.stations.aided_bench import label_pill
from half_fold.desk.stations.bench import Bench
from half_fold.desk.theme import tokens


class FieldBench(Bench):
    """Which field lies where, what a claim would take, and what is kept free or finds no place."""

    def cells(self) -> tuple[list[tuple[float, float]], list[tuple[float, float]]]:
        """All columns of the spread from left to right, and the rows."""
        frames = [frame for _, frame in self.frames()]
        return [span for frame in frames for span in frame.columns], list(frames[0].rows)

    def cell_at(self, at: QPointF) -> tuple[int, int] | None:
        """The column and the row of the field at a place on the bench."""
        x, y = self.to_points(at)
        columns, rows = self.cells()
        column = next((i for i, (a, b) in enumerate(columns) if a <= x <= b), None)
        row = next((i for i, (a, b) in enumerate(rows) if a <= y <= b), None)
        return (column, row) if column is not None and row is not None else None

    def _cell_rect(self, start: tuple[int, int], end: tuple[int, int]) -> Rect:
        columns, rows = self.cells()
        c0, c1 = sorted((start[0], end[0]))
        r0, r1 = sorted((start[1], end[1]))
        return Rect(columns[c0][0], rows[r0][0], columns[c1][1], rows[r1][1])

    def _paint_said(self, painter: QPainter) -> None:
        """What is kept free, and lines that find no place."""
        publication = self.session.publication
        for number, _page, block in blocks_on(publication, self.session.view.spread):
            box = block_box(publication, number, block)
            if kind_of(block.holds).is_free:
                self._paint_placeholder(painter, box)
            over = self._over(block, box)
            if over:
                self._paint_over_tag(painter, f"{counted(over, 'line')} over", box)

    def _paint_placeholder(self, painter: QPainter, box: Rect) -> None:
        area = self.to_widget(box)
        painter.setPen(QPen(tokens.colour(tokens.QUIET), 1, Qt.PenStyle.DashLine))
        painter.setBrush(QColor(255, 255, 255, 120))
        painter.drawRect(area)
        painter.setFont(tokens.font(tokens.SMALL))
        painter.drawText(area, Qt.AlignmentFlag.AlignCenter, "kept free")

    def _over(self, block: Block, box: Rect) -> int:
        """Lines that found no place: of a story at its last block, of display text in its own."""
        publication, setter = self.session.publication, self.session.setter
        if isinstance(block.holds, HoldsDisplay):
            return display_marks(setter.composer, publication, block, box).over_lines
        if not isinstance(block.holds, HoldsStory):
            return 0
        flow = setter.threads.flow(publication, block.holds.story)
        return flow.over_lines if flow.columns and flow.columns[-1].block == block.id else 0

    def _paint_over_tag(self, painter: QPainter, words: str, box: Rect) -> None:
        area = self.to_widget(box)
        painter.setFont(tokens.font(tokens.SMALL, tokens.MEDIUM))
        width = painter.fontMetrics().horizontalAdvance(words) + 12
        tag = QRectF(area.right() - width, area.bottom() + 2, width, 17)
        painter.fillRect(tag, tokens.colour(tokens.CARD))
        painter.setPen(tokens.colour(tokens.OCHRE_TEXT))
        painter.drawText(tag, Qt.AlignmentFlag.AlignCenter, words)

    def _paint_claimed(self, painter: QPainter, start: tuple[float, float], end: tuple[float, float]) -> None:
        """The fields of a claim, lit, with their size."""
        found = edits.claimed(self.session.publication, self.session.view.spread.numbers, start, end)
        if found is None:
            return
        for field in found.fields:
            painter.fillRect(self.to_widget(field), tokens.colour(tokens.LODEN, 0.3))
        area = self.to_widget(found.box)
        label_pill(painter, QPointF(area.center().x(), area.top() - 12), found.words(self.session.unit))

    def _hit(self, at: QPointF | None) -> str | None:
        if at is None:
            return None
        publication, view = self.session.publication, self.session.view
        return thing_at(publication, view.spread, *self.to_points(at), view.inside, view.hidden)
