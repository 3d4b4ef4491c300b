"""The guide's walk, done by reading it: its keys pressed, its words typed, its names clicked, as they stand."""

import re
from collections.abc import Callable
from pathlib import Path

import pytest
from PIL import Image
from PyQt6.QtGui import QKeySequence
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton, QApplication, QMenu, QWidget

from half_fold.core.checks.finding import Finding
from half_fold.core.store.job import read
from half_fold.desk.application import Desk
from half_fold.desk.stations.press import PressStation
from half_fold.desk.stations.spreads.station import SpreadsStation
from half_fold.desk.window import Window
from tests.conftest import STORY, judge
from tests.desk.conftest import LEFT, drag, field, ready, type_into_dialog, wait_for

pytestmark = pytest.mark.checked

GUIDE = Path(__file__).parents[2] / "docs/guide.md"
ACT = re.compile(
    r"(?P<asking>`(?P<ask>[^`]+)`,? and\s+choose\s+“(?P<file>[^”]+)”)"
    r"|(?P<menu>choose\s+\*\*(?P<choice>[^*]+)\*\*)"
    r"|`(?P<key>[^`]+)`|“(?P<words>[^”]+)”|\*\*(?P<name>[^*]+)\*\*"
    r"|[Dd]rag\s+from\s+field\s+(?P<c1>\d+),\s+row\s+(?P<r1>\d+)\s+to\s+field\s+(?P<c2>\d+),\s+row\s+(?P<r2>\d+)"
)


def _steps() -> list[str]:
    """The numbered steps of the walk, after the line that says how to read them."""
    text = GUIDE.read_text(encoding="utf-8").split("## A walk of ten minutes", 1)[1].split("\n## ", 1)[0]
    return [" ".join(part.split()) for part in re.split(r"\n\d+\. ", text)[1:]]


class Reader:
    """Does what a step says, act by act."""

    def __init__(self, desk: Desk, folder: Path) -> None:
        self.desk, self.folder = desk, folder
        self.found: list[Finding] = []

    @property
    def window(self) -> Window:
        return self.desk.windows[-1]

    def focus(self) -> QWidget:
        if QApplication.activeWindow() is None:
            ready(self.window)
        target = QApplication.activePopupWidget() or QApplication.focusWidget()
        assert target is not None
        return target

    def follow(self, step: str) -> None:
        for act in ACT.finditer(step):
            self.settle()
            said = act.groupdict()
            if said["asking"]:
                type_into_dialog(str(self.folder / said["file"]))
                self.key(said["ask"])
            elif said["menu"]:
                self.choose(said["choice"])
            elif said["key"]:
                self.key(said["key"])
            elif said["words"]:
                QTest.keyClicks(self.focus(), said["words"])
            elif said["name"]:
                self.click(said["name"])
            else:
                self.drag(*(int(said[name]) - 1 for name in ("c1", "r1", "c2", "r2")))
            QTest.qWait(10)

    def key(self, words: str) -> None:
        if words == "half-fold":  # the command that opened the way in
            return
        combination = QKeySequence(words.replace("PgDn", "PgDown"))[0]
        QTest.keyClick(self.focus(), combination.key(), combination.keyboardModifiers())

    def click(self, name: str) -> None:
        """A value of the working by the name of its row, else a button by its words."""
        self.window.working.show_row(name)
        rows = [view for view in self.window.working.rows if view.row.name == name]
        buttons = [b for b in self.window.station.findChildren(QAbstractButton) if b.text() == name]
        target = rows[0].value if rows else buttons[0]
        at = target.rect().center()
        at.setX(8)
        QTest.mouseClick(target, LEFT, pos=at)

    def choose(self, name: str) -> None:
        menu = QApplication.activePopupWidget() or self.window.findChild(QMenu)
        assert isinstance(menu, QMenu)
        action = next(a for a in menu.actions() if a.text().startswith(name))
        QTest.mouseClick(menu, LEFT, pos=menu.actionGeometry(action).center())

    def drag(self, column: int, row: int, column2: int, row2: int) -> None:
        station = self.window.station
        assert isinstance(station, SpreadsStation)
        drag(station.bench, field(station.bench, column, row), field(station.bench, column2, row2))

    def settle(self) -> None:
        """What a reader waits for: things brought in, checks made, a file pressed."""
        if not self.desk.windows:
            return
        session = self.window.session
        wait_for(lambda: not session.bringing.busy)
        press = self.window.stations.get(7)
        if isinstance(press, PressStation):
            wait_for(lambda: press.process is None)
        if self.window.current == 6 and not self.found:
            wait_for(lambda: session.findings != [])
            self.found = session.findings


@pytest.fixture
def folder(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    monkeypatch.setenv("HOME", str(tmp_path))
    (tmp_path / "jobs").mkdir()
    for name, colour in (("hedge.jpg", (60, 120, 70)), ("gate.jpg", (120, 80, 50))):
        Image.new("RGB", (3000, 3600), colour).save(tmp_path / name)
    (tmp_path / "hedges.md").write_text(STORY, encoding="utf-8")
    return tmp_path


def _texts(pdf: Path) -> str:
    return judge("pdftotext", "-raw", pdf, "-").replace("\u00ad\n", "")


def test_the_walk_of_the_guide(desk: Desk, folder: Path) -> None:
    steps = _steps()
    assert [step.split("*")[1] for step in steps] == [
        "Start.",
        "Brief.",
        "Order.",
        "Grid.",
        "Text and pictures.",
        "A spread.",
        "Cover.",
        "Checks.",
        "Press.",
    ]
    desk.show_welcome()
    assert desk.welcome is not None
    ready(desk.welcome)
    reader = Reader(desk, folder)
    seen: dict[str, Callable[[], bool]] = {
        "Start.": lambda: read(folder / "jobs/hedge-laying/hedge-laying.halffold").kind == "magazine",
        "Brief.": lambda: len(reader.window.session.publication.pages) == 48,
        "Checks.": lambda: reader.window.session.findings == [],
        "Press.": lambda: (folder / "hedges.pdf").exists() and (folder / "cover.pdf").exists(),
    }
    for step in steps:
        reader.follow(step)
        if step.split("*")[1] == "Start.":
            ready(reader.window)
        if (done := seen.get(step.split("*")[1])) is not None:
            wait_for(done)
    assert [finding.rule for finding in reader.found] == ["short of the bleed"]
    publication = reader.window.session.publication
    assert publication.brief.bleed.typed == "1/8in" and publication.brief.text_paper == "Sallow Bulk 70"
    assert publication.pages[0].runs == "Opening picture" and publication.masters[0].grid.gutter.typed == "5mm"
    for name, pages in (("hedges.pdf", 48), ("cover.pdf", 1)):
        pdf = folder / name
        judge("qpdf", "--check", pdf)
        judge("gs", "-q", "-dNOPAUSE", "-dBATCH", "-sDEVICE=nullpage", pdf)
        assert f"Pages:           {pages}" in judge("pdfinfo", pdf)
        assert judge("pdfimages", "-list", pdf).count("cmyk") >= 1
    assert all(word in _texts(folder / "hedges.pdf") for word in ("The cut and the lay", "fjords", "afflicted"))
    assert "Hedge laying" in _texts(folder / "cover.pdf") and "901234" in _texts(folder / "cover.pdf")
