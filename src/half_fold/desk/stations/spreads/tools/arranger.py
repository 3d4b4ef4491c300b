"""Arranging on the bench: ranked arrangements of pictures seen at full size, pinned, nudged, and one of them taken."""

from collections.abc import Sequence

from msgspec.structs import replace
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QKeyEvent, QPainter, QPen

from half_fold.core.arrange.arrangement import Arrangement
from half_fold.core.arrange.ask import Pin, arrangements_on, key, take_arrangement
from half_fold.core.arrange.manner import Choice, nudged, suggested
from half_fold.core.arrange.reasons import arrangement_name
from half_fold.core.measure.length import counted
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.spreads import Spread
from half_fold.core.publication.records import Manner, Publication
from half_fold.desk.beside.newest import Answered, StillWanted
from half_fold.desk.stations.aided_bench import label_pill
from half_fold.desk.stations.spreads.tools.arrange_strip import ArrangeStrip
from half_fold.desk.stations.spreads.tools.worktop import Worktop
from half_fold.desk.theme import tokens

SAID = (
    "Left and right show the arrangements, Enter takes one, Escape leaves all as it was. Drag a picture onto another "
    "to change them about; P pins the one that is chosen."
)
NUDGE_KEYS = {
    "L": "larger",
    "Q": "quieter",
    "E": "to the bleed",
    "M": "in the margins",
    "F": "one first",
    "N": "more like the last",
    "V": "another pattern",
}


class Arranger:
    """It shows arrangements of what was chosen while it has ``work``; ``at`` is the one that is tried on the bench."""

    block = ""

    def __init__(self, bench: Worktop) -> None:
        self.bench = bench
        self.work = ""
        self.strip = ArrangeStrip(bench.session)
        self.strip.went.connect(self.show)
        self.strip.took.connect(self.close)
        self.strip.hide()
        self.finder = Answered()
        self.finder.answered.connect(self._found)
        self.finder.failed.connect(self._failed)
        self.found: Sequence[Arrangement] = ()
        self.at = 0
        self.alone = False  # over the page in view, not both of the spread
        self.pins: dict[str, Pin] = {}
        self.item = ""  # the one that is chosen, by its key
        self.choices: list[Choice] = []  # what was taken in this sitting, and what was not
        self._blocks: tuple[str, ...] = ()
        self._pictures: tuple[str, ...] = ()
        self._base: tuple[Publication, Spread] | None = None
        self._from: QPointF | None = None
        self._to: QPointF | None = None

    # What is begun and ended --------------------------------------------------------------------

    def take_up(self, pictures: Sequence[str] = ()) -> None:
        """Arrange the blocks that are chosen and some pictures; all that lie free on the spread where none are."""
        session = self.bench.session
        self._blocks, self._pictures = session.view.chosen, tuple(pictures)
        self.pins, self.item, self.at, self.found = {}, "", 0, ()
        self.work = "arrange"
        session.view.select(None)
        session.noted.emit(SAID)
        self._seek()

    def put_down(self) -> None:
        """All stays as it was."""
        self.work, self.found, self._base, self._from = "", (), None, None
        self.finder.cancel()
        self.strip.hide()
        self.bench.clear_drawer(False)
        session = self.bench.session
        session.view.tried = None
        session.view.selected.emit()
        self.bench.update()

    def close(self) -> None:
        """Take the arrangement that is shown."""
        if not self.found:
            return
        arrangement, session = self.found[self.at], self.bench.session
        self.choices.append((arrangement.parts, [each.parts for each in self.found[: self.at]]))
        made: tuple[str, ...] = ()

        def lay(publication: Publication) -> Publication:
            nonlocal made
            publication, made = take_arrangement(publication, arrangement)
            return publication

        self.put_down()
        if session.edit(lay, f"arranged {counted(len(arrangement.items), 'picture')}"):
            session.view.choose(made)
            session.noted.emit(
                f"{arrangement_name(arrangement).capitalize()}. They are blocks as any; Ctrl+Z takes it back."
            )

    def _seek(self) -> None:
        """Look for arrangements, beside the window; those there are stay in sight until they come."""
        session = self.bench.session
        publication, number, folder = session.publication, session.view.page, session.proxies.folder
        self._base = publication, session.view.spread
        args = (publication, folder, number, self._blocks, self._pictures, self.alone, dict(self.pins))

        def work(still_wanted: StillWanted) -> object:
            try:
                return arrangements_on(*args, still_wanted)
            except Problem as problem:
                return str(problem)

        self.finder.begin(work)

    def _failed(self, sentence: str) -> None:
        self.put_down()
        self.bench.session.said.emit(sentence)

    def _found(self, found: object) -> None:
        if not self.work:
            return
        assert isinstance(found, list)
        self.found = found
        self.strip.show_arrangements(found)
        self.strip.show()
        self.bench.clear_drawer(True)
        self.show(0)

    def show(self, at: int) -> None:
        """Try one of them on the bench."""
        session = self.bench.session
        self.at = min(max(at, 0), len(self.found) - 1)
        self.strip.point_at(self.at)
        session.view.tried = take_arrangement(session.publication, self.found[self.at])[0]
        session.view.selected.emit()
        self.bench.update()

    def look_again(self) -> None:
        """After an edit, of the manner perhaps, they are sought anew; on another spread it is over."""
        session = self.bench.session
        if self._base is not None and session.view.spread != self._base[1]:
            self.put_down()
        elif self._base is not None and session.publication is not self._base[0]:
            self._seek()

    # What is asked of them ----------------------------------------------------------------------

    def nudge(self, words: str) -> None:
        """The manner moved a step: larger, quieter, to the bleed."""
        manner = nudged(self.bench.session.publication.manner, words)
        self.bench.session.edit(lambda p: replace(p, manner=manner), f"arrange {words}")

    def over(self, alone: bool) -> None:
        """Over the page in view alone, or over both."""
        self.alone, self.pins = alone, {}
        self._seek()

    def pin(self) -> None:
        """The picture that is chosen keeps its place; pressed again its size, and again neither."""
        at = self._index(self.item)
        if at < 0:
            self.bench.session.said.emit("Click a picture first, the one that is to stay; then P pins it.")
            return
        arrangement, held = self.found[self.at], self.pins.get(self.item)
        if held is None:
            self.pins[self.item] = Pin(rect=arrangement.rects[at])
        elif held.size is None:
            self.pins[self.item] = Pin(size=arrangement.fields(at))
        else:
            del self.pins[self.item]
        self._seek()

    def suggestion(self) -> Manner | None:
        """The manner that what was taken speaks for, where that is another; only the user takes it."""
        now = self.bench.session.publication.manner
        found = suggested(now, self.choices)
        return found if found != now else None

    def take_suggestion(self) -> None:
        """Go by what was taken so far."""
        manner = self.suggestion()
        self.choices = []
        if manner is not None:
            self.bench.session.edit(lambda p: replace(p, manner=manner), "manner")

    def _index(self, item: str) -> int:
        items = self.found[self.at].items if self.found else ()
        return next((n for n, each in enumerate(items) if key(each) == item), -1)

    # Mouse and keys -----------------------------------------------------------------------------

    def _key_at(self, at: QPointF) -> str:
        if not self.found:
            return ""
        n = self.found[self.at].item_at(*self.bench.to_points(at))
        return key(self.found[self.at].items[n]) if n >= 0 else ""

    def press(self, at: QPointF, _held: Qt.KeyboardModifier) -> None:
        """Choose a picture, and take hold of it."""
        self.item, self._from = self._key_at(at), at
        self.bench.session.view.selected.emit()
        self.bench.update()

    def move(self, at: QPointF) -> None:
        """With the picture in hand."""
        self._to = at if self._from is not None else None

    def release(self, at: QPointF) -> None:
        """Onto another picture: the two change places, and all else follows."""
        start, self._from, self._to = self._from, None, None
        onto = self._key_at(at)
        if start is not None and self.item and onto and onto != self.item:
            arrangement = self.found[self.at]
            one, other = arrangement.rects[self._index(self.item)], arrangement.rects[self._index(onto)]
            self.pins |= {self.item: Pin(rect=other), onto: Pin(rect=one)}
            self._seek()
        self.bench.update()

    def key(self, event: QKeyEvent) -> bool:
        """Whether a key was meant for it."""
        if not self.work:
            return False
        letter, code = event.text().upper(), event.key()
        steps = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1, Qt.Key.Key_Home: -99, Qt.Key.Key_End: 99}
        if code == Qt.Key.Key_Escape:
            self.put_down()
        elif code in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.close()
        elif Qt.Key(code) in steps and self.found:
            self.show(self.at + steps[Qt.Key(code)])
        elif code in (Qt.Key.Key_Up, Qt.Key.Key_Down) and self.found:
            keys = [key(item) for item in self.found[self.at].items]
            step = 1 if code == Qt.Key.Key_Down else -1
            self.item = keys[(keys.index(self.item) + step) % len(keys)] if self.item in keys else keys[0]
            self.bench.session.view.selected.emit()
        elif letter == "P":
            self.pin()
        elif letter == "O":
            self.over(not self.alone)
        elif letter in NUDGE_KEYS:
            self.nudge(NUDGE_KEYS[letter])
        else:
            return False
        self.bench.update()
        return True

    # Painting -----------------------------------------------------------------------------------

    def paint(self, painter: QPainter) -> None:
        """What is pinned and what is chosen, over what is tried."""
        if not self.found:
            label_pill(painter, QPointF(self.bench.rect().width() / 2, 24), "looking for arrangements")
            return
        arrangement = self.found[self.at]
        for n, item in enumerate(arrangement.items):
            pin = self.pins.get(key(item))
            area = self.bench.to_widget(Rect(*map(float, arrangement.room.seen[arrangement.rects[n]])))
            if key(item) == self.item:
                painter.setPen(QPen(tokens.colour(tokens.LODEN), 2))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRect(area)
            if pin is not None:
                words = "stays" if pin.size is None else "this size"
                label_pill(painter, QPointF(area.center().x(), area.top() + 14), words)
        if self._to is not None and self.item:
            onto = self._index(self._key_at(self._to))
            if onto >= 0 and self._key_at(self._to) != self.item:
                area = self.bench.to_widget(Rect(*map(float, arrangement.room.seen[arrangement.rects[onto]])))
                painter.fillRect(QRectF(area), tokens.colour(tokens.LODEN, 0.35))
                label_pill(painter, area.center(), "change places")
