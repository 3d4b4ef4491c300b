"""The drawer under the bench: pictures, stories, and what lies on the spread."""

from typing import Literal, get_args

from PyQt6.QtWidgets import QHBoxLayout, QProgressBar, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from half_fold.desk.asking import ask_for_pictures
from half_fold.desk.bringing import Bringing
from half_fold.desk.kit.plain import label
from half_fold.desk.stations.spreads.picture_drawer import PictureDrawer
from half_fold.desk.stations.spreads.slips import Slips
from half_fold.desk.stations.spreads.story_drawer import StoryDrawer
from half_fold.desk.theme import tokens
from half_fold.desk.workpiece import Workpiece

Leaf = Literal["pictures", "stories", "slips"]
LEAVES: tuple[Leaf, ...] = get_args(Leaf)
HEIGHTS: dict[Leaf, int] = {"pictures": 172, "stories": 236, "slips": 182}
FOLDED_HEIGHT = 30
KEYS: dict[Leaf, str] = {"pictures": "I", "stories": "S", "slips": "W"}
TABS: dict[Leaf, str] = {"pictures": "Pictures", "stories": "Stories", "slips": "What lies here"}


class Drawer(QWidget):
    """Three leaves, one open at a time; their tabs stand at the left."""

    def __init__(self, session: Workpiece) -> None:
        super().__init__()
        self.session = session
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 4, 12, 4)
        column.setSpacing(2)
        head = QHBoxLayout()
        column.addLayout(head)
        self.tabs = {name: QPushButton(TABS[name]) for name in LEAVES}
        for name, button in self.tabs.items():
            button.setProperty("link", True)
            button.setToolTip(KEYS[name])
            button.clicked.connect(lambda _=False, name=name: self.open(name))
            head.addWidget(button)
        self.pictures = PictureDrawer(session)
        self.stories = StoryDrawer(session)
        self.slips = Slips(session)
        self._picture_tools = _PictureTools(session, self.pictures)
        self._tools = QStackedWidget()
        self._tools.addWidget(self._picture_tools)
        self._tools.addWidget(self.stories.tools)
        self._tools.addWidget(
            label("from the front to the back; drag a slip to change that, F2 names it", tokens.SMALL)
        )
        head.addWidget(self._tools, 1)
        head.addStretch()  # where the tools are folded away
        self.progress = BringingProgress(session.bringing)
        head.addWidget(self.progress)
        self._leaves = QStackedWidget()
        self._leaves.addWidget(self.pictures)
        self._leaves.addWidget(self.stories.leaf)
        self._leaves.addWidget(self.slips)
        column.addWidget(self._leaves, 1)
        self.open("pictures", focus=False)

    @property
    def leaf(self) -> Leaf:
        """The one in view."""
        return LEAVES[self._leaves.currentIndex()]

    def open(self, name: Leaf, focus: bool = True) -> None:
        """Show one of the leaves, and let it take the keys."""
        index = LEAVES.index(name)
        self._leaves.setCurrentIndex(index)
        self._tools.setCurrentIndex(index)
        self.unfold(True)
        for tab, button in self.tabs.items():
            button.setFont(tokens.font(tokens.BASE, tokens.BOLD if tab == name else tokens.font().weight()))
        if name != "pictures":
            self.refresh()
        if focus:
            (self.pictures, self.stories.text, self.slips)[index].setFocus()

    def unfold(self, unfolded: bool) -> None:
        """Show it whole, or only its tabs; a tab that is pressed unfolds it."""
        self._leaves.setVisible(unfolded)
        self._tools.setVisible(unfolded)
        self.setFixedHeight(HEIGHTS[self.leaf] if unfolded else FOLDED_HEIGHT)

    def ask(self, what: str) -> None:
        """Ask for pictures, or for a text, to bring in."""
        self._picture_tools.ask() if what == "pictures" else self.stories.ask()

    def refresh(self) -> None:
        self.pictures.refresh()
        self._picture_tools.refresh()
        if self.leaf == "stories":  # a story is set, and its text shown, when somebody looks at it
            self.stories.refresh()
        elif self.leaf == "slips":
            self.slips.refresh()

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


class _PictureTools(QWidget):
    def __init__(self, session: Workpiece, table: PictureDrawer) -> None:
        super().__init__()
        self.session, self.pictures = session, table
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
        self.count.setText(f"{have} pictures, {len(self.pictures.used())} used" if have else "")

    def ask(self) -> None:
        paths = ask_for_pictures(self)
        if paths:
            self.session.bring_pictures(paths)
