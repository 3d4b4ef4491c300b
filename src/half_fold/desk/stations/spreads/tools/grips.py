"""What a hand does at the corners of what is chosen: it turns it, or scales it with all that is in it."""

import math
from typing import Protocol

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QPainter

from half_fold.core.drawing.affine import Affine
from half_fold.core.grid.stops import Edge
from half_fold.core.measure.length import figure, format_length
from half_fold.core.measure.rect import Axis, Rect
from half_fold.core.publication.surgery import is_free, page_of_thing
from half_fold.core.spread.edits.carrying import grabbed, reached
from half_fold.core.spread.edits.scaling import drawn_scale, scale_things
from half_fold.core.spread.edits.turning import settled, turn_things
from half_fold.core.spread.where.frames import thing_box, turn_of
from half_fold.desk.stations.rulers import paint_pulled
from half_fold.desk.stations.spreads.tools.worktop import Worktop

TURNS_FROM, TURNS_TO = 5.0, 24.0  # pixels off a corner, both ways, between which a press turns


class Grasp:
    """What is chosen on the bench: its box before it is turned, and its turn; several lie in one upright box."""

    def __init__(self, bench: Worktop) -> None:
        publication, view = bench.session.publication, bench.session.view
        self.names = view.chosen
        things = [page_of_thing(publication, name) for name in self.names]
        self.is_free = bool(things) and all(is_free(publication, name) for name in self.names)
        self.is_here = all(index + 1 in view.spread.numbers for index, _, _ in things)
        self.turn: Affine | None = None
        self.box = Rect(0, 0, 0, 0)
        if len(things) == 1:
            index, _, thing = things[0]
            self.box, self.turn = thing_box(publication, index + 1, thing), turn_of(publication, index + 1, thing)
        elif things:
            self.box = reached(publication, self.names)

    def own(self, place: tuple[float, float]) -> tuple[float, float]:
        """A place of the spread as it lies to the box."""
        return place if self.turn is None else self.turn.inverse().of(*place)

    @property
    def middle(self) -> tuple[float, float]:
        """Its middle where it is seen."""
        return self.box.centre if self.turn is None else self.turn.of(*self.box.centre)


def turns_at(bench: Worktop, at: QPointF) -> bool:
    """Whether a press there turns what is chosen: off one of its corners, both ways."""
    grasp = Grasp(bench)
    if not grasp.is_free or not grasp.is_here:
        return False
    (x, y), box, scale = grasp.own(bench.to_points(at)), grasp.box, bench.scale()
    off = max(box.left - x, x - box.right) * scale, max(box.top - y, y - box.bottom) * scale
    return all(TURNS_FROM < each < TURNS_TO for each in off)


def scaled_at(bench: Worktop, at: QPointF, reach: float) -> tuple[Edge, ...]:
    """The edges that a press there takes hold of to scale what is chosen by them: two at a corner."""
    grasp = Grasp(bench)
    if not grasp.is_free or not grasp.is_here:
        return ()
    box = grasp.box
    return grabbed(box, *grasp.own(bench.to_points(at)), min(reach / bench.scale(), box.width / 4, box.height / 4))


class Grip(Protocol):
    """What is held while the mouse is down: it follows, and ``says`` how far it has come."""

    says: str

    def follow(self, at: QPointF, held: Qt.KeyboardModifier) -> None:
        """The mouse is there, and those keys are held."""

    def let_go(self) -> None:
        """The mouse is let go of."""

    def paint(self, painter: QPainter) -> None:
        """What is seen while it is held."""


class _Held:
    """What is done as the mouse goes, and needs no more when it is let go of."""

    def let_go(self) -> None:
        """It is as it should be."""

    def paint(self, painter: QPainter) -> None:
        """It is seen by itself."""


class Pulling:
    """A pencil line pulled from a ruler: let go of on the rulers again, it is none."""

    def __init__(self, bench: Worktop, axis: Axis) -> None:
        self.bench, self.axis, self.says = bench, axis, ""
        self._at: QPointF | None = None

    def follow(self, at: QPointF, _held: Qt.KeyboardModifier) -> None:
        """The line is under the mouse."""
        self._at = at
        x, y = self.bench.to_points(at)
        self.says = format_length(y if self.axis == "down" else abs(x), self.bench.session.unit)

    def let_go(self) -> None:
        """It is drawn there."""
        if self._at is not None and self.bench.ruler_at(self._at) is None:
            self.bench.draw_pencil(self.axis, self._at)

    def paint(self, painter: QPainter) -> None:
        """The line."""
        if self._at is not None:
            paint_pulled(painter, self.bench.as_widget().size(), self.axis, self._at)


class Turning(_Held):
    """All that is chosen turned about its middle; Shift turns by steps, Alt lets go of what lies straight."""

    def __init__(self, bench: Worktop, at: QPointF) -> None:
        grasp = Grasp(bench)
        self.bench, self.says = bench, ""
        self._names, self._middle, self._done = grasp.names, grasp.middle, 0.0
        _, _, thing = page_of_thing(bench.session.publication, grasp.names[0])
        self._from = thing.angle if len(grasp.names) == 1 else 0.0
        self._began = self._way(at)

    def _way(self, at: QPointF) -> float:
        x, y = self.bench.to_points(at)
        return math.degrees(math.atan2(y - self._middle[1], x - self._middle[0]))

    def follow(self, at: QPointF, held: Qt.KeyboardModifier) -> None:
        """Turned as far as the mouse went round the middle."""
        wanted = settled(
            self._from + self._way(at) - self._began,
            steps=bool(held & Qt.KeyboardModifier.ShiftModifier),
            free=bool(held & Qt.KeyboardModifier.AltModifier),
        )
        by, names = wanted - self._from - self._done, self._names
        if by and self.bench.session.edit(lambda p: turn_things(p, names, by), "turned", f"turn {' '.join(names)}"):
            self._done += by
        self.says = f"turned {figure(wanted, 1)}°"


class Scaling(_Held):
    """All that is chosen scaled by its edges or a corner: Shift stretches it, Alt leaves what is in it as it is."""

    def __init__(self, bench: Worktop, edges: tuple[Edge, ...]) -> None:
        self.bench, self.says = bench, ""
        self._edges, self._grasp, self._was = edges, Grasp(bench), bench.session.publication

    def follow(self, at: QPointF, held: Qt.KeyboardModifier) -> None:
        """Scaled so that what is held lies under the mouse."""
        grasp, was = self._grasp, self._was
        stretched = bool(held & Qt.KeyboardModifier.ShiftModifier)
        by, about = drawn_scale(grasp.box, grasp.turn, self._edges, self.bench.to_points(at), stretched=stretched)
        alone = by[0] != by[1] or bool(held & Qt.KeyboardModifier.AltModifier)
        self.bench.session.edit(
            lambda p: scale_things(p, was, grasp.names, by, about, alone=alone),
            "scaled",
            f"scale {' '.join(grasp.names)}",
        )
        sides = dict.fromkeys(figure(100 * each, 1) for each in by)
        what = "type and strokes as they are" if alone else "with its type and strokes"
        self.says = f"{' × '.join(sides)} %, {what}"
