"""The drawer under the bench: the light table and the copy desk."""

from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QHBoxLayout, QProgressBar, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from half_fold.desk.bringing import Bringing
from half_fold.desk.kit.plain import label
from half_fold.desk.memory import last_folder, note_folder
from half_fold.desk.stations.spreads.copy_leaf import CopyDesk
from half_fold.desk.stations.spreads.light_table import LightTable
from half_fold.desk.theme import tokens
from half_fold.desk.workpiece import Workpiece

PICTURES = "Pictures (*.jpg *.jpeg *.png *.tif *.tiff *.webp)"
TABLE_HEIGHT, COPY_HEIGHT = 172, 236


class Drawer(QWidget):
    """Two leaves, one open at a time; their tabs stand at the left."""

    def __init__(self, session: Workpiece) -> None:
        super().__init__()
        self.session = session
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 4, 12, 4)
        column.setSpacing(2)
        head = QHBoxLayout()
        column.addLayout(head)
        self.tabs = {name: QPushButton(name.capitalize()) for name in ("light table", "copy desk")}
        for name, button in self.tabs.items():
            button.setProperty("link", True)
            button.setToolTip(name[0].upper())
            button.clicked.connect(lambda _=False, name=name: self.open(name))
            head.addWidget(button)
        self.table = LightTable(session)
        self.copy = CopyDesk(session)
        self._table_tools = _TableTools(session, self.table)
        self._tools = QStackedWidget()
        self._tools.addWidget(self._table_tools)
        self._tools.addWidget(self.copy.tools)
        head.addWidget(self._tools, 1)
        self.progress = BringingProgress(session.bringing)
        head.addWidget(self.progress)
        self._leaves = QStackedWidget()
        self._leaves.addWidget(self.table)
        self._leaves.addWidget(self.copy.leaf)
        column.addWidget(self._leaves, 1)
        self.open("light table", focus=False)

    @property
    def leaf(self) -> str:
        return "copy desk" if self._leaves.currentIndex() else "light table"

    def open(self, name: str, focus: bool = True) -> None:
        index = int(name == "copy desk")
        self._leaves.setCurrentIndex(index)
        self._tools.setCurrentIndex(index)
        self.setFixedHeight(COPY_HEIGHT if index else TABLE_HEIGHT)
        for tab, button in self.tabs.items():
            button.setFont(tokens.font(tokens.BASE, tokens.BOLD if tab == name else tokens.font().weight()))
        if index:
            self.copy.refresh()
        if focus:
            (self.copy.text if index else self.table).setFocus()

    def ask(self, what: str) -> None:
        """Ask for pictures, or for a text, to bring in."""
        self._table_tools.ask() if what == "pictures" else self.copy.ask()

    def refresh(self) -> None:
        self.table.update()
        self._table_tools.refresh()
        if self.leaf == "copy desk":  # a story is set, and its text shown, when somebody looks at it
            self.copy.refresh()

    def paintEvent(self, _event: "object") -> None:
        from PyQt6.QtGui import QPainter

        painter = QPainter(self)
        painter.fillRect(self.rect(), tokens.colour(tokens.SHELF))
        painter.setPen(tokens.colour("#B0ADA6"))
        painter.drawLine(0, 0, self.width(), 0)


class BringingProgress(QWidget):
    """How far the bringing in has come, and the way to stop it; not there when there is nothing to wait for."""

    def __init__(self, bringing: Bringing) -> None:
        super().__init__()
        self.bringing = bringing
        line = QHBoxLayout(self)
        line.setContentsMargins(0, 0, 0, 0)
        self.bar = QProgressBar()
        self.bar.setFixedWidth(150)
        self.bar.setFormat("bringing in %v of %m")
        self.stop = QPushButton("Stop")
        self.stop.setToolTip("Bring in no more; what has come stays")
        self.stop.clicked.connect(bringing.cancel)
        line.addWidget(self.bar)
        line.addWidget(self.stop)
        bringing.moved.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        self.setVisible(self.bringing.busy)
        self.bar.setMaximum(max(1, self.bringing.asked))
        self.bar.setValue(self.bringing.done)


class _TableTools(QWidget):
    def __init__(self, session: Workpiece, table: LightTable) -> None:
        super().__init__()
        self.session, self.table = session, table
        line = QHBoxLayout(self)
        line.setContentsMargins(0, 0, 0, 0)
        line.addStretch(1)
        self.count = label("", 12)
        self.count.setWordWrap(False)
        line.addWidget(self.count)
        bring = QPushButton("Bring in pictures")
        bring.setToolTip("Ctrl+I")
        bring.clicked.connect(self.ask)
        line.addWidget(bring)

    def refresh(self) -> None:
        have = len(self.session.publication.pictures)
        self.count.setText(f"{have} pictures, {len(self.table.used())} used" if have else "")

    def ask(self) -> None:
        names, _ = QFileDialog.getOpenFileNames(self, "Bring in pictures", last_folder("pictures"), PICTURES)
        if names:
            note_folder("pictures", Path(names[0]).parent)
            self.session.bring_pictures([Path(name) for name in names])
