"""The printed sheets: each drawn front and back with its page numbers and heads, and folded step by step."""

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QKeyEvent, QPainter, QPaintEvent, QPen

from half_fold.core.measure.length import counted
from half_fold.core.plan.folding import Panel, Side, flat_sheet, folded, work_and_tumble, work_and_turn
from half_fold.core.plan.sheet_layout import COLLATION_STEPS
from half_fold.core.plan.signatures import ImposedSheet, PrintedSheet, imposed, printed_sheets
from half_fold.desk.session import Session
from half_fold.desk.stations.order.view import OrderView
from half_fold.desk.theme import tokens

WAYS = ("sheetwise", "work-and-turn", "work-and-tumble")
GRIP = 0.06  # the gripper of about 12 mm against the width of a page


class SheetsView(OrderView):
    """One sheet at a time; left and right go to others, up and down fold and unfold it, W changes how it is printed."""

    def __init__(self, session: Session) -> None:
        super().__init__(session, "Printed sheets")
        self.index, self.step, self.way = 0, 0, WAYS[0]

    def sheets(self) -> tuple[PrintedSheet, ...]:
        """Every printed sheet of the job."""
        return printed_sheets(self.session.publication)

    def sheet(self) -> PrintedSheet:
        """The sheet in view."""
        every = self.sheets()
        self.index = min(self.index, len(every) - 1)
        return every[self.index]

    def imposed(self) -> ImposedSheet | None:
        """The sheet as it is printed, None where no usual folding makes it."""
        return imposed(self.sheet(), self.session.publication.brief.right_bound)

    def refresh(self) -> None:
        made = self.imposed()
        self.step = min(self.step, len(made.imposition.folds)) if made is not None else 0
        self.update()

    def choose(self, index: int) -> None:
        """Show another sheet, unfolded."""
        self.index, self.step = min(max(index, 0), len(self.sheets()) - 1), 0
        self.moved.emit()
        self.update()

    def fold(self, by: int) -> None:
        """Fold the sheet so many steps further, or back."""
        made = self.imposed()
        if made is not None:
            self.step = min(max(self.step + by, 0), len(made.imposition.folds))
            self.moved.emit()
            self.update()

    def print_by(self, way: str) -> bool:
        """Print it sheetwise, work-and-turn or work-and-tumble."""
        self.way = way
        self.moved.emit()
        self.update()
        return True

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key = event.key()
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.choose(self.index + (1 if key == Qt.Key.Key_Right else -1))
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.fold(1 if key == Qt.Key.Key_Down else -1)
        elif event.text().upper() == "W":
            self.print_by(WAYS[(WAYS.index(self.way) + 1) % len(WAYS)])
        else:
            super().keyPressEvent(event)

    # Painting -----------------------------------------------------------------------------------

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = self.begin()
        made = self.imposed()
        if made is None:
            count = len(self.sheet().pages)
            words = f"{count} pages are loose leaves, not a folded sheet. Ask the printer how they are bound in."
            self.say(painter, words)
            return
        area = QRectF(self.rect()).adjusted(30, 20, -30, -20)
        upper = QRectF(area.left(), area.top(), area.width(), area.height() * 0.56)
        lower = QRectF(area.left(), upper.bottom() + 26, area.width(), area.bottom() - upper.bottom() - 26)
        self._paint_sides(painter, upper, made)
        self._paint_folding(painter, lower, made)

    def _paint_sides(self, painter: QPainter, area: QRectF, made: ImposedSheet) -> None:
        if self.way == "sheetwise":
            half = (area.width() - 24) / 2
            self._paint_side(painter, QRectF(area.left(), area.top(), half, area.height()), made.front, "front", made)
            right = QRectF(area.left() + half + 24, area.top(), half, area.height())
            self._paint_side(painter, right, made.back, "back, the sheet turned sideways", made)
            return
        turn = self.way == "work-and-turn"
        usual = made.imposition.__class__(
            made.imposition.rows, made.imposition.columns, made.front, made.back, made.imposition.folds
        )
        plate = work_and_turn(usual) if turn else work_and_tumble(usual)
        how = "turned sideways" if turn else "tumbled head over foot, grip at both ends"
        self._paint_side(painter, area, plate, f"one plate for both sides; the sheet is {how}, then cut in two", made)

    def _paint_side(self, painter: QPainter, area: QRectF, side: Side, words: str, made: ImposedSheet) -> None:
        """One side of the flat, every page in its place with its number at its own head."""
        rows, columns = len(side), len(side[0])
        brief = self.session.publication.brief
        sideways = side[0][0].turned in (90, 270)
        tall = brief.width.pt / brief.height.pt if sideways else brief.height.pt / brief.width.pt
        width = min((area.width() - 10) / columns, (area.height() - 34) / (rows * tall + GRIP))
        height = width * tall
        left, top = area.center().x() - width * columns / 2, area.center().y() - height * rows / 2
        painter.setFont(tokens.font(12))
        painter.setPen(tokens.colour(tokens.INK))
        painter.drawText(QRectF(area.left(), top - 22, area.width(), 16), Qt.AlignmentFlag.AlignCenter, words)
        painter.fillRect(QRectF(left + 3, top + 3, width * columns, height * rows), QColor(0, 0, 0, 26))
        for r, row in enumerate(side):
            for c, placed in enumerate(row):
                box = QRectF(left + c * width, top + r * height, width, height)
                self._paint_page(painter, box, placed.page, placed.turned)
        painter.setPen(QPen(tokens.colour(tokens.INK), 1, Qt.PenStyle.DashDotLine))
        foot = QRectF(left, top + rows * height, width * columns, width * GRIP)
        painter.fillRect(foot, QBrush(tokens.colour(tokens.OCHRE, 0.5), Qt.BrushStyle.BDiagPattern))
        painter.setFont(tokens.font(tokens.SMALL))
        painter.drawText(foot.translated(0, foot.height()).adjusted(0, 0, 0, 8), Qt.AlignmentFlag.AlignLeft, "gripper")
        for c in range(1, columns):
            painter.drawLine(QPointF(left + c * width, top - 5), QPointF(left + c * width, top + rows * height + 5))
        self._paint_collation(painter, side, left, top, width, height)
        for r in range(1, rows):
            painter.drawLine(QPointF(left - 5, top + r * height), QPointF(left + columns * width + 5, top + r * height))

    def _paint_collation(
        self, painter: QPainter, side: Side, left: float, top: float, width: float, height: float
    ) -> None:
        """A mark on the spine between first and last page, a step lower for each sheet: a missing one shows."""
        numbers = self.sheet().pages
        for r, row in enumerate(side):
            for c in range(len(row) - 1):
                if {row[c].page, row[c + 1].page} == {numbers[0], numbers[-1]}:
                    down = (self.index % COLLATION_STEPS) * height / COLLATION_STEPS
                    y = top + r * height + down
                    mark = QRectF(left + (c + 1) * width - 2, y, 4, height / COLLATION_STEPS)
                    painter.fillRect(mark, tokens.colour(tokens.INK))

    def _paint_page(self, painter: QPainter, box: QRectF, page: int, turned: int) -> None:
        painter.fillRect(box, QColor("white"))
        painter.setPen(QPen(tokens.colour(tokens.QUIET, 0.5), 0.8))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(box)
        painter.save()
        painter.translate(box.center())
        painter.rotate(turned)
        across, down = (box.width(), box.height()) if turned in (0, 180) else (box.height(), box.width())
        head = QRectF(-across / 2 + 4, -down / 2 + 4, across - 8, 3)
        painter.fillRect(head, tokens.colour(tokens.LODEN))
        size = max(11, min(26, round(across / 3.4)))
        painter.setFont(tokens.font(size, tokens.MEDIUM))
        painter.setPen(tokens.colour(tokens.INK))
        painter.drawText(QRectF(-across / 2, -down / 2, across, down), Qt.AlignmentFlag.AlignCenter, _plainly(page))
        painter.restore()

    def _paint_folding(self, painter: QPainter, area: QRectF, made: ImposedSheet) -> None:
        """The sheet after so many folds as are chosen, and which fold comes next."""
        stacks = flat_sheet(made.imposition.rows, made.imposition.columns)
        folds = made.imposition.folds
        for fold in folds[: self.step]:
            stacks = folded(stacks, fold)
        said = f"{self.step} of {counted(len(folds), 'fold')} made"
        if self.step < len(folds):
            said += f"; next {folds[self.step].words}"
        else:
            said += ": the closed signature"
        painter.setFont(tokens.font(12))
        painter.setPen(tokens.colour(tokens.INK))
        painter.drawText(QRectF(area.left(), area.top(), area.width(), 16), Qt.AlignmentFlag.AlignCenter, said)
        rows, columns = made.imposition.rows, made.imposition.columns
        brief = self.session.publication.brief
        tall = brief.height.pt / brief.width.pt
        width = min(area.width() * 0.6 / columns, (area.height() - 50) / (rows * tall))
        height = width * tall
        # What is left of the sheet stands in the middle, however often it is folded.
        low_row, high_row = min(r for r, _ in stacks), max(r for r, _ in stacks) + 1
        low_column, high_column = min(c for _, c in stacks), max(c for _, c in stacks) + 1
        left = area.center().x() - width * (low_column + high_column) / 2
        top = area.center().y() + 17 - height * (low_row + high_row) / 2
        for (r, c), stack in sorted(stacks.items()):
            box = QRectF(left + c * width, top + r * height, width, height)
            for layer in range(min(len(stack), 8)):
                painter.fillRect(box.translated(-1.5 * layer + 9, 1.5 * layer - 9), QColor(0, 0, 0, 10))
            page, turned = self._face_up(made, stack[-1])
            self._paint_page(painter, box, page, turned)
            if len(stack) > 1:
                painter.setFont(tokens.font(tokens.SMALL))
                painter.setPen(tokens.colour(tokens.QUIET))
                under = QRectF(box.left(), box.center().y() + 14, box.width(), 16)
                painter.drawText(under, Qt.AlignmentFlag.AlignCenter, counted(len(stack), "layer"))
        if self.step < len(folds):
            fold = folds[self.step]
            painter.setPen(QPen(tokens.colour(tokens.OCHRE), 2, Qt.PenStyle.DashLine))
            if fold.axis == "across":
                x = left + fold.at * width
                painter.drawLine(QPointF(x, top + low_row * height - 8), QPointF(x, top + high_row * height + 8))
            else:
                y = top + fold.at * height
                painter.drawLine(QPointF(left + low_column * width - 8, y), QPointF(left + high_column * width + 8, y))

    def _face_up(self, made: ImposedSheet, panel: Panel) -> tuple[int, int]:
        """The page that shows on a panel, and how its head is turned as the panel lies."""
        if panel.back_up:
            placed = made.back[panel.row][made.imposition.columns - 1 - panel.column]
        else:
            placed = made.front[panel.row][panel.column]
        return placed.page, (placed.turned + (180 if panel.turned_y else 0)) % 360


def _plainly(page: int) -> str:
    """A number that reads as another upside down has a point at its foot."""
    words = str(page)
    return f"{words}." if set(words) <= set("0689") and set(words) & set("69") else words
