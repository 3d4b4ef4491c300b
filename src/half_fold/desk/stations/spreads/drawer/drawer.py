"""The drawer under the bench: pictures, stories, and what lies on the spread."""

from functools import cached_property
from typing import TYPE_CHECKING, Literal, get_args

from PyQt6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLineEdit,
    QProgressBar,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from half_fold.core.measure.length import counted
from half_fold.core.pictures.library.choosing import ORDERS, SHOWS
from half_fold.desk.asking import ask_for_pictures
from half_fold.desk.beside.bringing import Bringing
from half_fold.desk.kit.narrowing import Narrowing
from half_fold.desk.kit.plain import label
from half_fold.desk.stations.spreads.drawer.picture_drawer import PictureDrawer
from half_fold.desk.stations.spreads.drawer.slips import Slips
from half_fold.desk.theme import tokens
from half_fold.desk.workpiece import Workpiece

if TYPE_CHECKING:
    from half_fold.desk.stations.spreads.drawer.story_drawer import StoryDrawer

Leaf = Literal["pictures", "stories", "slips"]
LEAVES: tuple[Leaf, ...] = get_args(Leaf)
HEIGHTS: dict[Leaf, int] = {"pictures": 172, "stories": 236, "slips": 182}
TALL = 420  # of the picture drawer, where it is asked for again
FOLDED_HEIGHT = 30
NARROW = 500  # pixels for the tools of the pictures, below which some are left out
KEYS: dict[Leaf, str] = {"pictures": "I", "stories": "S", "slips": "W"}
TABS: dict[Leaf, str] = {"pictures": "Pictures", "stories": "Stories", "slips": "What lies here"}


class Drawer(QWidget):
    """Three leaves, one open at a time; their tabs stand at the left."""

    def __init__(self, session: Workpiece) -> None:
        super().__init__()
        self.session, self.grown = session, 0
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
        self.pictures.grows.connect(self.grow)
        self.slips = Slips(session)
        self._picture_tools = _PictureTools(session, self.pictures)
        self._tools = QStackedWidget()
        self._tools.addWidget(self._picture_tools)
        self._tools.addWidget(QWidget())
        self._tools.addWidget(
            label("from the front to the back; drag a slip to change that, F2 names it", tokens.SMALL)
        )
        head.addWidget(self._tools, 1)
        head.addStretch()  # where the tools are folded away
        self.progress = BringingProgress(session.bringing)
        head.addWidget(self.progress)
        self._leaves = QStackedWidget()
        self._leaves.addWidget(self.pictures)
        self._leaves.addWidget(QWidget())
        self._leaves.addWidget(self.slips)
        column.addWidget(self._leaves, 1)
        self.open("pictures", focus=False)

    @cached_property
    def stories(self) -> "StoryDrawer":
        """The story drawer, made when somebody first looks for it: a window opens the sooner."""
        from half_fold.desk.stations.spreads.drawer.story_drawer import StoryDrawer

        made, index = StoryDrawer(self.session), LEAVES.index("stories")
        for stack, widget in ((self._tools, made.tools), (self._leaves, made.leaf)):
            stand_in = stack.widget(index)
            assert stand_in is not None
            stack.insertWidget(index, widget)
            stack.removeWidget(stand_in)
            stand_in.deleteLater()
        return made

    def wait(self) -> None:
        """Until what is done beside the window for it has been done."""
        if "stories" in self.__dict__:
            self.stories.speller.wait()

    @property
    def leaf(self) -> Leaf:
        """The one in view."""
        return LEAVES[self._leaves.currentIndex()]

    def open(self, name: Leaf, focus: bool = True) -> None:
        """Show one of the leaves, and let it take the keys."""
        index, takes_keys = LEAVES.index(name), self._takes_keys(name)
        self._leaves.setCurrentIndex(index)
        self._tools.setCurrentIndex(index)
        self.unfold(True)
        for tab, button in self.tabs.items():
            button.setFont(tokens.font(tokens.BASE, tokens.BOLD if tab == name else tokens.font().weight()))
        if name != "pictures":
            self.refresh()
        if focus:
            takes_keys.setFocus()

    def _takes_keys(self, name: Leaf) -> QWidget:
        """What of a leaf takes the keys; with it the leaf is made."""
        return self.stories.text if name == "stories" else self.slips if name == "slips" else self.pictures

    def unfold(self, unfolded: bool) -> None:
        """Show it whole, or only its tabs; a tab that is pressed unfolds it."""
        self._leaves.setVisible(unfolded)
        self._tools.setVisible(unfolded)
        self.setFixedHeight(self._height() if unfolded else FOLDED_HEIGHT)

    def _height(self) -> int:
        """As high as its leaf is low; the picture drawer may be tall, or the whole bench."""
        parent = self.parentWidget()
        whole = parent.height() if parent is not None else TALL
        return (HEIGHTS[self.leaf], TALL, whole)[self.grown if self.leaf == "pictures" else 0]

    def grow(self) -> None:
        """The picture drawer low, tall, the whole bench, and low again."""
        self.grown = (self.grown + 1) % 3
        self.unfold(True)

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


class _PictureTools(Narrowing):
    """What is shown of the pictures and in what order, how many there are, and the way to bring in more."""

    def __init__(self, session: Workpiece, table: PictureDrawer) -> None:
        super().__init__(NARROW, self.make_narrow)
        self.session, self.pictures = session, table
        line = QHBoxLayout(self)
        line.setContentsMargins(12, 0, 0, 0)
        self.search, self.order, self.show_only = QLineEdit(), QComboBox(), QComboBox()
        self.search.setPlaceholderText("Search")
        self.search.setToolTip("Names, captions, keywords and people, as their files tell them")
        self.search.setAccessibleName("Search pictures")
        self.search.textChanged.connect(self._changed)
        for box, words, choices in ((self.order, "Order", ORDERS), (self.show_only, "Show", SHOWS)):
            box.setAccessibleName(words)
            box.setToolTip(words)
            box.addItems(list(choices))
            box.currentTextChanged.connect(self._changed)
        for widget in (self.search, self.order, self.show_only):
            line.addWidget(widget)
        line.addStretch(1)
        self.count = label("", 12)
        self.count.setWordWrap(False)
        line.addWidget(self.count)
        self.bring = QPushButton()
        self.bring.setToolTip("Pictures, or drawings (Ctrl+I)")
        self.bring.setAccessibleName("Bring in pictures")  # also where there is room for two words only
        self.bring.clicked.connect(self.ask)
        line.addWidget(self.bring)
        table.teller.came.connect(self.refresh)
        self.make_narrow(False)

    def make_narrow(self, narrow: bool) -> None:
        """Leave out what a narrow window has no room for."""
        self.count.setVisible(not narrow)
        self.bring.setText("Bring in" if narrow else "Bring in pictures")
        self.search.setFixedWidth(56 if narrow else 104)
        for box in (self.order, self.show_only):
            box.setFixedWidth(78 if narrow else 98)

    def _changed(self, _text: str) -> None:
        table = self.pictures
        table.order, table.show_only = ORDERS[self.order.currentIndex()], SHOWS[self.show_only.currentIndex()]
        table.search = self.search.text().strip()
        table.refresh()
        self.refresh()

    def refresh(self) -> None:
        have, shown = len(self.session.pictures), len(self.pictures.pictures())
        words = f"{shown} of {have}" if shown != have else f"{counted(have, 'picture')}"
        self.count.setText(words if have else "")
        self.count.setToolTip(f"{len(self.pictures.used())} of them used")

    def ask(self) -> None:
        paths = ask_for_pictures(self)
        if paths:
            self.session.bring_pictures(paths)
