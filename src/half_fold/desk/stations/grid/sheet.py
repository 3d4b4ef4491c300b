"""The type sheet: every role as a specimen in its own type, one of them chosen."""

from collections.abc import Callable

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QScrollArea, QWidget

from half_fold.core.publication.records import Role
from half_fold.core.publication.surgery import role_named
from half_fold.core.spread.setting.specimen import Specimens
from half_fold.core.typesetting.lines.roles import leading_of
from half_fold.desk.paint.painter import paint
from half_fold.desk.theme import tokens
from half_fold.desk.workpiece import Workpiece

NAMES, GAP, LEAST, SCALE, LARGEST = 176, 14, 46, 1.35, 46.0


class TypeSheet(QWidget):
    """Specimens one under another; ``chosen_role`` tells when another is chosen."""

    def __init__(self, session: Workpiece, chosen_role: Callable[[], None]) -> None:
        super().__init__()
        self.session, self._chosen = session, chosen_role
        self.specimens = Specimens(session.setter.composer)
        self.role = session.publication.roles[0].name
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Type sheet")
        self._tops: list[tuple[float, float]] = []

    def refresh(self) -> None:
        """Show the roles as they are now."""
        names = [role.name for role in self.session.publication.roles]
        if self.role not in names:
            self.role = names[0]
        self._lay()
        self.update()

    def _roles(self) -> list[Role]:
        publication = self.session.publication
        return [role_named(publication, role.name) for role in publication.roles]

    def _scale(self, role: Role) -> float:
        return min(SCALE, LARGEST / role.size.pt)

    def _measure(self, role: Role) -> float:
        return max(60.0, (self.width() - NAMES - 40) / self._scale(role))

    def _lay(self) -> None:
        y, self._tops = 8.0, []
        for role in self._roles():
            specimen = self.specimens.of(self.session.publication, role, self._measure(role))
            height = max(LEAST, specimen.height * self._scale(role) + 2 * GAP)
            self._tops.append((y, height))
            y += height
        self.setMinimumHeight(round(y + 8))

    def sizeHint(self) -> QSize:
        return QSize(600, self.minimumHeight())

    def resizeEvent(self, _event: object) -> None:
        self._lay()

    def place(self, role: str) -> QRectF:
        """Where a role's specimen stands."""
        index = [each.name for each in self.session.publication.roles].index(role)
        top, height = self._tops[index]
        return QRectF(0, top, self.width(), height)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        assert event is not None
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), QColor("white"))
        for role, (top, height) in zip(self._roles(), self._tops, strict=False):
            area = QRectF(0, top, self.width(), height)
            if area.intersects(QRectF(event.rect())):
                self._paint_role(painter, role, area)

    def _paint_role(self, painter: QPainter, role: Role, area: QRectF) -> None:
        if role.name == self.role:
            painter.fillRect(area, tokens.colour(tokens.LODEN, 0.09))
            painter.fillRect(QRectF(0, area.top(), 4, area.height()), tokens.colour(tokens.LODEN))
        painter.setPen(tokens.colour(tokens.INK))
        painter.setFont(tokens.font(tokens.BASE, tokens.BOLD))
        painter.drawText(area.adjusted(16, 8, 0, 0), Qt.AlignmentFlag.AlignTop, role.label)
        painter.setPen(tokens.colour(tokens.QUIET))
        painter.setFont(tokens.font(tokens.SMALL))
        painter.drawText(area.adjusted(16, 25, 0, 0), Qt.AlignmentFlag.AlignTop, f"{role.family} {role.style}"[:30])
        based = f", as {role.based_on}" if role.based_on else ""
        words = f"{role.size.pt:g} on {leading_of(role, role.size.pt):g} pt{based}"
        if area.height() >= LEAST + 8:
            painter.drawText(area.adjusted(16, 39, 0, 0), Qt.AlignmentFlag.AlignTop, words)
        scale = self._scale(role)
        specimen = self.specimens.of(self.session.publication, role, self._measure(role))
        painter.save()
        painter.setClipRect(area)
        painter.translate(NAMES + 16, area.top() + (area.height() - specimen.height * scale) / 2)
        painter.scale(scale, scale)
        paint(painter, specimen.marks, lambda *_: None)
        painter.restore()
        painter.setPen(tokens.colour(tokens.LINE))
        painter.drawLine(area.bottomLeft(), area.bottomRight())

    def choose(self, role: str) -> None:
        """Have that role's rows in the working column."""
        if role != self.role:
            self.role = role
            self._show_chosen()
            self._chosen()
            self.update()

    def _show_chosen(self) -> None:
        view = self.parentWidget()
        scroller = view.parentWidget() if view is not None else None
        if isinstance(scroller, QScrollArea):
            place = self.place(self.role)
            scroller.ensureVisible(0, round(place.center().y()), 0, round(place.height() / 2) + 8)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.setFocus()
        for role, (top, height) in zip(self.session.publication.roles, self._tops, strict=False):
            if top <= event.position().y() < top + height:
                self.choose(role.name)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        steps = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}
        if event.key() in steps:
            names = [role.name for role in self.session.publication.roles]
            at = names.index(self.role) + steps[Qt.Key(event.key())]
            self.choose(names[min(max(at, 0), len(names) - 1)])
        else:
            super().keyPressEvent(event)


def in_scroller(sheet: QWidget) -> QScrollArea:
    """The sheet where it may be longer than the bench."""
    scroller = QScrollArea()
    scroller.setWidget(sheet)
    scroller.setWidgetResizable(True)
    scroller.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    scroller.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    return scroller
