"""The ink list: every ink, fade and look as it prints, one of them chosen; under them a palette, if asked for."""

from collections.abc import Callable, Sequence
from typing import Literal, NamedTuple

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QBrush, QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from half_fold.core.drawing.marks import UNSAID, DisplayList, Mark
from half_fold.core.inks.edits import said, uses_of_ink
from half_fold.core.inks.fades import format_stops
from half_fold.core.inks.numbers import format_total
from half_fold.core.inks.palette import InkProposal, readable_pairs
from half_fold.core.inks.tones import tone_of
from half_fold.core.measure.length import counted
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import HoldsPanel, Publication
from half_fold.core.spread.setting.looks import look_named
from half_fold.core.spread.setting.panels import panel_marks
from half_fold.core.spread.setting.specimen import look_specimen
from half_fold.desk.paint.painter import paint, qcolour
from half_fold.desk.theme import tokens
from half_fold.desk.workpiece import Workpiece

Kind = Literal["ink", "fade", "look"]
ROW, HEAD, SWATCH, NAMES, LEFT = 56, 34, 132, 190, 16
TINTS = (100.0, 60.0, 30.0)
CHIP, CHIP_GAP = 92, 12


class Chosen(NamedTuple):
    """Which of the list: its kind and its name."""

    kind: Kind
    name: str


class InkSheet(QWidget):
    """``chosen_one`` tells when another is chosen; ``take`` is given proposals that are clicked."""

    def __init__(
        self, session: Workpiece, chosen_one: Callable[[], None], take: Callable[[Sequence[InkProposal]], None]
    ) -> None:
        super().__init__()
        self.session, self._chosen_one, self._take = session, chosen_one, take
        self.about, self.proposals = "", list[InkProposal]()
        self.chosen = Chosen("ink", session.publication.inks[0].name)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Inks")
        self._places: dict[Chosen, QRectF] = {}
        self._chips: list[QRectF] = []

    def refresh(self) -> None:
        """Show the list as it is now."""
        every = self._every()
        if self.chosen not in every:
            self.chosen = every[0]
        self._lay()
        self.update()

    def show_palette(self, about: str, proposals: Sequence[InkProposal]) -> None:
        """Have proposals under the list."""
        self.about, self.proposals = about, list(proposals)
        self.refresh()

    def _every(self) -> list[Chosen]:
        publication = self.session.publication
        return [
            *(Chosen("ink", ink.name) for ink in publication.inks),
            *(Chosen("fade", fade.name) for fade in publication.fades),
            *(Chosen("look", look.name) for look in publication.looks),
        ]

    def _lay(self) -> None:
        y, last = 0.0, ""
        self._places = {}
        for each in self._every():
            if each.kind != last:
                y, last = y + HEAD, each.kind
            self._places[each] = QRectF(0, y, self.width(), ROW)
            y += ROW
        self._chips = []
        if self.about:
            self._palette_top = y + 8
            y += HEAD + 8
            across = max(1, int((self.width() - 2 * LEFT + CHIP_GAP) // (CHIP + CHIP_GAP)))
            for at in range(len(self.proposals)):
                row, column = divmod(at, across)
                self._chips.append(QRectF(LEFT + column * (CHIP + CHIP_GAP), y + row * 92, CHIP, 80))
            y += 92 * max(1, -(-len(self.proposals) // across)) + 40
        self.setMinimumHeight(round(y + 8))

    def sizeHint(self) -> QSize:
        return QSize(600, self.minimumHeight())

    def resizeEvent(self, _event: object) -> None:
        self._lay()

    def place(self, kind: Kind, name: str) -> QRectF:
        """Where one of the list stands."""
        return self._places[Chosen(kind, name)]

    def chip(self, at: int) -> QRectF:
        """Where a proposal stands."""
        return self._chips[at]

    def paintEvent(self, event: QPaintEvent | None) -> None:
        assert event is not None
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), QColor("white"))
        last = ""
        for each, area in self._places.items():
            if each.kind != last:
                last = each.kind
                title = {"ink": "Inks", "fade": "Fades, from ink to ink", "look": "Looks"}[last]
                self._title(painter, area.top() - HEAD, title)
            self._row(painter, each, area)
        if self.about:
            self._palette(painter)

    def _title(self, painter: QPainter, top: float, words: str) -> None:
        painter.setPen(tokens.colour(tokens.QUIET))
        painter.setFont(tokens.font(tokens.SMALL, tokens.BOLD))
        painter.drawText(QRectF(LEFT, top, self.width() - LEFT, HEAD - 6), Qt.AlignmentFlag.AlignBottom, words)

    def _row(self, painter: QPainter, each: Chosen, area: QRectF) -> None:
        if each == self.chosen:
            painter.fillRect(area, tokens.colour(tokens.LODEN, 0.09))
            painter.fillRect(QRectF(0, area.top(), 4, area.height()), tokens.colour(tokens.LODEN))
        swatch = Rect(LEFT, area.top() + 8, LEFT + SWATCH, area.bottom() - 8)
        self._swatch(painter, each, swatch)
        words, more = _words(self.session.publication, each)
        left = LEFT + SWATCH + 16
        painter.setPen(tokens.colour(tokens.INK))
        painter.setFont(tokens.font(tokens.BASE, tokens.BOLD))
        painter.drawText(QRectF(left, area.top() + 9, NAMES, 20), Qt.AlignmentFlag.AlignVCenter, each.name)
        painter.setPen(tokens.colour(tokens.QUIET))
        painter.setFont(tokens.font(tokens.SMALL))
        painter.drawText(QRectF(left, area.top() + 29, NAMES, 18), Qt.AlignmentFlag.AlignVCenter, more)
        room = QRectF(left + NAMES, area.top() + 9, self.width() - left - NAMES - 12, area.height() - 18)
        flags = Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextWordWrap
        painter.drawText(room, int(flags), words)
        painter.setPen(tokens.colour(tokens.LINE))
        painter.drawLine(area.bottomLeft(), area.bottomRight())

    def _swatch(self, painter: QPainter, each: Chosen, box: Rect) -> None:
        """The thing itself, as it prints: an ink with its tints, a fade, words in a look."""
        publication = self.session.publication
        marks: list[Mark] = []
        if each.kind == "ink":
            wide = box.width / 4
            lefts = (0.0, 2 * wide, 3 * wide)
            for tint, left, across in zip(TINTS, lefts, (2 * wide, wide, wide), strict=True):
                part = Rect(box.left + left, box.top, box.left + left + across, box.bottom)
                marks += panel_marks(publication, UNSAID, HoldsPanel(ink=each.name, tint=tint), part)
        elif each.kind == "fade":
            hatch = QBrush(tokens.colour(tokens.LINE), Qt.BrushStyle.BDiagPattern)
            painter.fillRect(QRectF(box.left, box.top, box.width, box.height), hatch)
            marks += panel_marks(publication, UNSAID, HoldsPanel(ink=each.name), box)
        else:
            look = look_named(publication, each.name)
            marks += look_specimen(self.session.setter.composer, publication, look, box) if look is not None else []
        paint(painter, DisplayList(box.grown(8), tuple(marks)), lambda *_: None)
        painter.setPen(tokens.colour(tokens.LINE))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if each.kind != "look":
            painter.drawRect(QRectF(box.left, box.top, box.width, box.height))

    def _palette(self, painter: QPainter) -> None:
        words = f"Palette of {self.about}" + ("" if self.proposals else ": being found")
        self._title(painter, self._palette_top, words)
        for proposal, area in zip(self.proposals, self._chips, strict=True):
            painter.fillRect(QRectF(area.left(), area.top(), area.width(), 46), qcolour(tone_of(proposal.ink)))
            painter.setPen(tokens.colour(tokens.LINE))
            painter.drawRect(QRectF(area.left(), area.top(), area.width(), 46))
            painter.setPen(tokens.colour(tokens.INK))
            painter.setFont(tokens.font(tokens.SMALL, tokens.MEDIUM))
            painter.drawText(QRectF(area.left(), area.top() + 48, area.width() + 10, 16), 0, proposal.ink.name)
            painter.setPen(tokens.colour(tokens.QUIET))
            painter.setFont(tokens.font(tokens.SMALL))
            painter.drawText(QRectF(area.left(), area.top() + 63, area.width() + 10, 16), 0, said(proposal.ink))
        if self.proposals:
            pairs = [f"{one} on {other} ({ratio:.1f})" for one, other, ratio in readable_pairs(self.proposals)[:4]]
            told = "Can be read on each other: " + ", ".join(pairs) if pairs else "None can be read on another"
            foot = max(area.bottom() for area in self._chips) + 8
            painter.drawText(QRectF(LEFT, foot, self.width() - 2 * LEFT, 32), int(Qt.TextFlag.TextWordWrap), told)

    def choose(self, each: Chosen) -> None:
        """Have the rows of one of the list in the working column."""
        if each != self.chosen:
            self.chosen = each
            self._chosen_one()
            self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.setFocus()
        for each, area in self._places.items():
            if area.contains(event.position()):
                self.choose(each)
                return
        for proposal, area in zip(self.proposals, self._chips, strict=False):
            if area.contains(event.position()):
                self._take([proposal])
                return

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        steps = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}
        every = self._every()
        if event.key() in steps:
            at = every.index(self.chosen) + steps[Qt.Key(event.key())]
            self.choose(every[min(max(at, 0), len(every) - 1)])
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.proposals:
            self._take(self.proposals)
        else:
            super().keyPressEvent(event)


def _words(publication: Publication, each: Chosen) -> tuple[str, str]:
    """What is said of one of the list, and how it is stated."""
    if each.kind == "ink":
        ink = next(ink for ink in publication.inks if ink.name == each.name)
        used = len(list(uses_of_ink(publication, ink.name)))
        told = f"used in {counted(used, 'place')}" if used else "used nowhere"
        return f"{format_total(publication, ink)}; {told}", said(ink)
    if each.kind == "fade":
        fade = next(fade for fade in publication.fades if fade.name == each.name)
        way = "outward" if fade.way == "outward" else f"straight, turned {fade.angle:g}°"
        return format_stops(fade), way
    look = next(look for look in publication.looks if look.name == each.name)
    parts = [word for word, part in (("shadow", look.shadow), ("glow", look.glow), ("outline", look.contours)) if part]
    return ", ".join(parts) or "nothing yet", f"filled with {look.fill}" if look.fill else ""
