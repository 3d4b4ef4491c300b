"""The docket: the card that travels with the job, and the way to the stations."""

from collections.abc import Callable, Sequence

from msgspec import Struct
from PyQt6.QtCore import QPoint, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent
from PyQt6.QtWidgets import QAbstractButton, QMenu, QPushButton, QVBoxLayout, QWidget

from half_fold.core.brief.allowances import pixels
from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.spine import spine
from half_fold.core.brief.wrap import has_cover
from half_fold.core.measure.entry import unit_name
from half_fold.core.measure.length import figure, in_unit
from half_fold.core.plan.starters import format_kind
from half_fold.core.publication.records import Publication
from half_fold.desk.kit.plain import label, rule
from half_fold.desk.session import Session
from half_fold.desk.theme import tokens

MADE_ELSEWHERE = "the pages are made elsewhere"
ELSEWHERE = {False: "pages elsewhere", True: "front alone"}  # what is said of pages that are not made here


class StationLine(Struct, frozen=True):
    """A station's line: its number is its key, its state stands in words."""

    number: int
    name: str
    state: str = ""
    tone: str = tokens.QUIET


class StationButton(QAbstractButton):
    """One station; the open one is pulled out towards the bench like a tab."""

    def __init__(self, line: StationLine) -> None:
        super().__init__()
        self.line = line
        self.setCheckable(True)
        self.setFixedHeight(50)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setToolTip(f"Ctrl+{line.number}")
        self.setObjectName(f"station:{line.name}")

    def show_line(self, line: StationLine) -> None:
        """Take a new state of the station."""
        self.line = line
        self.setText(line.name)
        self.setAccessibleName(f"{line.name}, {line.state}")
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(tokens.DOCKET_WIDTH, 50)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        if self.isChecked():
            painter.fillRect(self.rect().adjusted(8, 1, 0, -1), tokens.colour(tokens.CARD))
            painter.fillRect(8, 1, 3, self.height() - 2, tokens.colour(tokens.LODEN))
        if self.hasFocus():
            painter.setPen(tokens.colour(tokens.LODEN))
            painter.drawRect(self.rect().adjusted(9, 2, -2, -3))
        painter.setFont(tokens.font(tokens.SMALL))
        painter.setPen(tokens.colour(tokens.QUIET))
        painter.drawText(20, 22, str(self.line.number))
        painter.setFont(tokens.font(tokens.BASE + 1, tokens.MEDIUM))
        painter.setPen(tokens.colour(tokens.INK))
        painter.drawText(38, 22, self.line.name)
        painter.setFont(tokens.font(12))
        painter.setPen(tokens.colour(self.line.tone))
        metrics = QFontMetrics(painter.font())
        painter.drawText(38, 39, metrics.elidedText(self.line.state, Qt.TextElideMode.ElideRight, self.width() - 46))


class _Fact(QWidget):
    """A name and a value on one line."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self.name, self.value = name, ""
        self.setFixedHeight(21)

    def show_value(self, value: str) -> None:
        self.value = value
        self.setToolTip(value)
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setFont(tokens.font(12))
        painter.setPen(tokens.colour(tokens.QUIET))
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, self.name)
        painter.setFont(tokens.font(tokens.BASE, tokens.MEDIUM))
        painter.setPen(tokens.colour(tokens.INK))
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, self.value)


class Docket(QWidget):
    """Title and facts above, the stations in the order of work, and when the job was saved."""

    chosen = pyqtSignal(int)

    def __init__(self, session: Session, lines: Callable[[], Sequence[StationLine]], menu: QMenu) -> None:
        super().__init__()
        self._shown: tuple[tuple[int, ...], tuple[object, ...]] = ((), ())
        self.setObjectName("docket")
        self.setFixedWidth(tokens.DOCKET_WIDTH)
        self.session, self._lines = session, lines
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 16, 0, 10)
        column.setSpacing(0)
        head = QVBoxLayout()
        head.setContentsMargins(20, 0, 20, 0)
        head.setSpacing(1)
        column.addLayout(head)
        self._title = label("", tokens.LARGE + 4)
        self._title.setFont(tokens.font(tokens.LARGE + 5, family=tokens.SERIF))
        self._subtitle = label("", 12, quiet=True)
        head.addWidget(self._title)
        head.addWidget(self._subtitle)
        head.addSpacing(10)
        head.addWidget(rule())
        head.addSpacing(6)
        self._facts = {name: _Fact(name) for name in ("Trim", "Extent", "Binding", "Spine")}
        for fact in self._facts.values():
            head.addWidget(fact)
        head.addSpacing(6)
        head.addWidget(rule())
        column.addSpacing(10)
        self.buttons = {line.number: StationButton(line) for line in lines()}
        for number, button in self.buttons.items():
            button.clicked.connect(lambda _=False, number=number: self.chosen.emit(number))
            column.addWidget(button)
        column.addStretch(1)
        foot = QVBoxLayout()
        foot.setContentsMargins(14, 0, 14, 0)
        foot.setSpacing(4)
        column.addLayout(foot)
        self._saved = label("", 12, quiet=True)
        self._saved.setContentsMargins(6, 0, 0, 0)
        foot.addWidget(self._saved)
        self.versions_button = QPushButton()
        self.versions_button.setProperty("link", True)
        self.versions_button.setToolTip("Earlier versions (Ctrl+Shift+O)")
        foot.addWidget(self.versions_button)
        self.job_button = QPushButton("Job")
        self.job_button.setToolTip("New job, open, keep a version, undo (F10)")
        self.job_button.clicked.connect(
            lambda: menu.popup(self.job_button.mapToGlobal(QPoint(0, -menu.sizeHint().height())))
        )
        foot.addWidget(self.job_button)

    def choose(self, number: int) -> None:
        """Pull that station out; none of them for a number that is no station's."""
        for other, button in self.buttons.items():
            button.setChecked(other == number)

    def refresh(self) -> None:
        """Show the job's facts and each station's state, where something they say has changed."""
        publication = self.session.publication
        held = (*_but_stories(publication), self.session.findings)
        key = (*map(id, held), self.session.view.page, len(self.session.job.pressed()))
        if key == self._shown[0]:
            return  # words alone have changed, which the docket does not tell
        self._shown = (key, held)
        self._title.setText(publication.title)
        words = [format_kind(publication.kind)]
        words += [", ".join(filter(None, (publication.issue, publication.season)))]
        self._subtitle.setText(" · ".join(filter(None, words)))
        for name, value in facts(self.session).items():
            self._facts[name].show_value(value)
        for line in self._lines():
            self.buttons[line.number].show_line(line)

    def refresh_saved(self) -> None:
        """When the job was saved, and its versions: asked of the disk after a save, not after a keystroke."""
        at = self.session.saved_at
        words = f"Saved {at:%H:%M}" if at else "All saved"
        if self.session.save_problem:
            words = "Not saved"
        versions = len(self.session.job.versions())
        kept = {0: "no versions kept yet", 1: "1 version kept"}.get(versions, f"{versions} versions kept")
        self._saved.setText(words)
        self.versions_button.setText(kept[0].upper() + kept[1:])


def _but_stories(publication: Publication) -> list[object]:
    return [getattr(publication, name) for name in publication.__struct_fields__ if name != "stories"]


def facts(session: Session) -> dict[str, str]:
    """The facts that are always true and always visible."""
    publication, unit = session.publication, session.unit
    brief = publication.brief
    decimals = 4 if unit == "in" else 1
    width, height = (figure(in_unit(side.pt, unit), decimals) for side in (brief.width, brief.height))
    cover = " + 4" if has_cover(publication) else ""
    panel, binding = spine(publication), binding_named(brief.binding)
    extent = f"{len(publication.pages)}{cover} pp"
    across, down, _ = pixels(publication)
    return {
        "Trim": f"{across} × {down} px" if binding.on_screen else f"{width} × {height} {unit_name(unit)}",
        "Extent": ELSEWHERE[binding.on_screen] if binding.elsewhere else extent,
        "Binding": binding.label,
        "Spine": panel.to(unit).text if panel is not None else "none",
    }
