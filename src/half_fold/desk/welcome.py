"""The way in when no job is open: start one, or open one."""

from pathlib import Path

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QFileDialog, QHBoxLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget

from half_fold.core.measure.problem import Problem
from half_fold.core.plan.own_kinds import begin
from half_fold.core.plan.starters import title_of_folder
from half_fold.core.store.own import file_name
from half_fold.desk.kinds import KindShelf
from half_fold.desk.kit.plain import label
from half_fold.desk.memory import last_folder, note_folder, recent_jobs
from half_fold.desk.theme import tokens


class Welcome(QWidget):
    """A form of a title, a kind and a folder; ``made`` gives the file of the job that was started or chosen."""

    made = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("welcome")
        self.setWindowTitle("Half Fold")
        self.resize(720, 700)
        column = QVBoxLayout(self)
        column.setContentsMargins(56, 40, 56, 40)
        column.setSpacing(8)
        title = label("Half Fold", tokens.LARGE)
        title.setFont(tokens.font(34, family=tokens.SERIF))
        column.addWidget(title)
        column.addWidget(label("A working desk for publications with facing pages.", quiet=True))
        column.addSpacing(20)
        column.addWidget(label("Start a job", tokens.SECTION, bold=True))
        self.title, self.kinds, self.folder = QLineEdit(), KindShelf(), QLineEdit(last_folder("jobs"))
        self.title.setPlaceholderText("Its title")
        self.title.setAccessibleName("Title")
        self.kinds.itemDoubleClicked.connect(lambda _: self.start())
        self.folder.setAccessibleName("Folder")
        browse = QPushButton("Choose")
        browse.clicked.connect(self._browse)
        for name, widgets in (("Title", [self.title]), ("Kind", [self.kinds]), ("In folder", [self.folder, browse])):
            line = QHBoxLayout()
            words = label(name)
            words.setFixedWidth(80)
            line.addWidget(words, 0, Qt.AlignmentFlag.AlignTop if widgets[0] is self.kinds else Qt.AlignmentFlag(0))
            for widget in widgets:
                line.addWidget(widget, 1 if widget is not browse else 0)
            column.addLayout(line)
        self.sentence = label("", 12, note=True)
        column.addWidget(self.sentence)
        buttons = QHBoxLayout()
        self.begin = QPushButton("Start the job")
        self.begin.setProperty("primary", True)
        self.begin.clicked.connect(self.start)
        self.open = QPushButton("Open a job")
        self.open.clicked.connect(self._open)
        buttons.addWidget(self.begin)
        buttons.addWidget(self.open)
        self.demo = QPushButton("Open the demo")
        self.demo.clicked.connect(self._demo)
        buttons.addWidget(self.demo)
        buttons.addStretch(1)
        column.addLayout(buttons)
        self.recent: list[QPushButton] = []
        jobs = recent_jobs()
        if jobs:
            column.addSpacing(12)
            column.addWidget(label("Open lately", tokens.SECTION, bold=True))
        for path in jobs:
            button = QPushButton(f"{title_of_folder(path.stem)}   {path.parent}")
            button.setProperty("link", True)
            button.clicked.connect(lambda _=False, path=path: self.made.emit(path))
            self.recent.append(button)
            column.addWidget(button, 0, Qt.AlignmentFlag.AlignLeft)
        column.addStretch(1)
        self.title.setFocus(Qt.FocusReason.OtherFocusReason)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Enter on a button is that button; anywhere else it starts the job."""
        assert event is not None
        if event.key() not in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            super().keyPressEvent(event)
            return
        chosen = self.focusWidget()
        chosen.click() if isinstance(chosen, QPushButton) else self.start()

    def _browse(self) -> None:
        chosen = QFileDialog.getExistingDirectory(self, "Folder for the job", self.folder.text())
        if chosen:
            note_folder("jobs", Path(chosen))
            self.folder.setText(chosen)

    def start(self) -> None:
        """Make the job folder and give its file."""
        title = self.title.text().strip()
        try:
            if not title:
                raise Problem("Give the job a title first.")
            name = file_name(title, "job")
            self.made.emit(begin(self.kinds.kind(), title, Path(self.folder.text()).expanduser() / name))
        except Problem as problem:
            self.sentence.setText(str(problem))

    def _demo(self) -> None:
        """The demo magazine, made in the folder that is named, or opened where it is there already."""
        from half_fold.core.store.demo import make_demo

        folder = Path(self.folder.text()).expanduser()
        there = folder / "graftwood" / "graftwood.halffold"
        try:
            self.made.emit(there if there.exists() else make_demo(folder))
        except Problem as problem:
            self.sentence.setText(str(problem))

    def _open(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Open a job", self.folder.text(), "Half Fold jobs (*.halffold)")
        if name:
            note_folder("jobs", Path(name).parent.parent)
            self.made.emit(Path(name))
