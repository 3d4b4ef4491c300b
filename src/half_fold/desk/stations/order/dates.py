"""The schedule drawn: the steps in the order of their days, and today between them."""

from datetime import date

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen

from half_fold.core.measure.length import counted
from half_fold.core.spread.running.schedule import ScheduleStep, schedule
from half_fold.desk.session import Session
from half_fold.desk.stations.order.view import OrderView
from half_fold.desk.theme import tokens

ROW = 58
NONE = "No press date yet. Say it in the working beside this, and the days are counted back from it."


class DatesView(OrderView):
    """A line of days down the bench; what is late stands in ochre."""

    def __init__(self, session: Session) -> None:
        super().__init__(session, "Schedule")

    def steps(self) -> list[ScheduleStep]:
        """The steps before the press date, as seen from today."""
        return schedule(self.session.publication, date.today())

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = self.begin()
        steps = self.steps()
        if not steps:
            self.say(painter, NONE)
            return
        today = date.today()
        x, y = self.width() * 0.36, 60.0
        painter.setPen(QPen(tokens.colour(tokens.INK, 0.5), 1))
        painter.drawLine(QPointF(x, y - 10), QPointF(x, y + ROW * len(steps)))
        told = False
        for step in steps:
            if not told and step.day >= today:
                self._paint_today(painter, x, y - ROW * 0.42, today)
                told = True
            self._paint_step(painter, x, y, step, today)
            y += ROW

    def _paint_today(self, painter: QPainter, x: float, y: float, today: date) -> None:
        painter.setPen(QPen(tokens.colour(tokens.LODEN), 1.5))
        painter.drawLine(QPointF(x - 160, y), QPointF(x + 300, y))
        painter.setFont(tokens.font(tokens.SMALL, tokens.MEDIUM))
        painter.drawText(QPointF(x + 306, y + 4), f"today, {today.day} {today:%b}")

    def _paint_step(self, painter: QPainter, x: float, y: float, step: ScheduleStep, today: date) -> None:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(tokens.colour(tokens.OCHRE if step.late else tokens.INK))
        painter.drawEllipse(QPointF(x, y), 4.5, 4.5)
        painter.setPen(tokens.colour(tokens.INK))
        painter.setFont(tokens.font(tokens.SECTION, tokens.MEDIUM))
        day = f"{step.day:%a} {step.day.day} {step.day:%b %Y}"
        painter.drawText(
            QRectF(x - 220, y - 12, 200, 24), Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, day
        )
        painter.drawText(QPointF(x + 20, y + 1), step.name)
        painter.setFont(tokens.font(12))
        away = (step.day - today).days
        when = "today" if not away else f"in {counted(away, 'day')}" if away > 0 else f"{counted(-away, 'day')} ago"
        late = ", late" if step.late else ""
        painter.setPen(tokens.colour(tokens.OCHRE_TEXT if step.late else tokens.QUIET))
        painter.drawText(QPointF(x + 20, y + 17), f"{step.how}; {when}{late}")
