"""The flat of the cover on the bench: its folds, its panels, and how much of it a rack shows."""

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen

from half_fold.core.apart.cards import card_of
from half_fold.core.apart.flat import Flat
from half_fold.core.apart.pair import LEFT, RIGHT
from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.spine import spine_text_margin
from half_fold.core.cover.flat import IN_VIEW, cover_paper, side_flat
from half_fold.core.cover.over_folds import over_folds
from half_fold.core.grid.pencil import format_pencil, pull_line
from half_fold.core.measure.entry import MM
from half_fold.core.measure.rect import Axis, Rect
from half_fold.core.paths.all import set_path
from half_fold.core.publication.records import Publication
from half_fold.desk.stations.bench import Bench
from half_fold.desk.stations.cover.side import CoverSide
from half_fold.desk.stations.spreads.bench import SpreadBench
from half_fold.desk.theme import tokens

RACK_WORDS = "a rack shows this much"


class FlatView(Bench):
    """What every bench that shows a cover draws."""

    session: CoverSide
    shade_mm = 5.0

    def flat(self) -> Flat:
        """The cover as one flat sheet, or the faces of a card beside one another."""
        return side_flat(self.session.job.publication, self.session.side)

    def paper(self) -> Rect:
        return self.flat().trim

    def sheets(self) -> list[Rect]:
        """The faces of a leaf by itself; a cover is one sheet."""
        return self.panels() if self.flat().what == "card" else [self.paper()]

    def paper_name(self) -> str:
        card = card_of(self.session.job.publication, self.session.side)
        return cover_paper(self.session.job.publication) if card is None else card.paper

    def whole(self) -> Rect:
        flat = self.flat()
        return flat.trim.grown(flat.bleed)

    def folds(self) -> list[float]:
        return list(self.flat().folds)

    def panels_across(self) -> list[Rect]:
        return sorted(self.panels(), key=lambda area: area.left)

    def panels(self) -> list[Rect]:
        flat = self.flat()
        return list(dict(flat.panels).values())

    def _paint_edges(self, painter: QPainter) -> None:
        super()._paint_edges(painter)
        if self.session.side == "outside":
            self._paint_spine(painter)
            self._paint_rack(painter)

    def _paint_spine(self, painter: QPainter) -> None:
        """What the folds may take of the spine, shaded."""
        panel, margin = self.flat().spine, spine_text_margin(self.session.job.publication)
        if panel is None or margin is None:
            return
        lost = min(margin.value * MM, panel.width / 2)
        for left, right in ((panel.left, panel.left + lost), (panel.right - lost, panel.right)):
            painter.fillRect(self.to_widget(Rect(left, panel.top, right, panel.bottom)), QColor(255, 255, 255, 45))
        for each in over_folds(self.session.job.publication):
            for at in (each.least, each.most):
                line = self.to_widget(Rect(at, self.whole().top - 4 * MM, at, self.whole().bottom + 4 * MM))
                painter.setPen(QPen(tokens.colour(tokens.OCHRE), 1, Qt.PenStyle.DotLine))
                painter.drawLine(line.topLeft(), line.bottomLeft())

    def _paint_rack(self, painter: QPainter) -> None:
        front = self.flat().front
        if binding_named(self.session.job.publication.brief.binding).on_screen:
            return
        line = self.to_widget(Rect(front.left, 0, front.right, front.height * IN_VIEW))
        painter.setPen(QPen(QColor(255, 255, 255, 150), 2))
        painter.drawLine(line.bottomLeft(), line.bottomRight())
        painter.setPen(QPen(tokens.colour(tokens.INK, 0.8), 1, Qt.PenStyle.DashLine))
        painter.drawLine(line.bottomLeft(), line.bottomRight())
        painter.setFont(tokens.font(tokens.SMALL))
        width = painter.fontMetrics().horizontalAdvance(RACK_WORDS)
        edge = self.to_widget(self.whole()).right() + 6
        if edge + width < self.width():
            painter.setPen(tokens.colour(tokens.INK))
            painter.drawText(QRectF(edge, line.bottom() - 9, width + 4, 18), Qt.AlignmentFlag.AlignVCenter, RACK_WORDS)


class CoverBench(SpreadBench, FlatView):  # in this order: Qt knows the signals of the first alone
    """Claims, reaches and moves on the cover, as on any spread."""

    def __init__(self, session: CoverSide) -> None:
        super().__init__(session)
        self.setAccessibleName("Cover")

    def draw_pencil(self, axis: Axis, at: QPointF) -> None:
        frame = self.frame_at(self.to_points(at)[0])
        x, y = self.to_points(at)

        def make(publication: Publication) -> Publication:
            grid, place = publication.cover.grid, x if axis == "across" else y
            lines = pull_line(grid.pencil, axis, place, frame.trim, frame.on_right, self.session.unit)
            return set_path(publication, "cover.pencil", format_pencil(lines))

        self.session.job.edit(make, "pencil line")

    def paint_over(self, painter: QPainter) -> None:
        super().paint_over(painter)
        flat, outside = self.flat(), self.session.side != "inside"
        names = {"back": "back", "front": "front"} if outside else {"back": "inside front", "front": "inside back"}
        if flat.what == "card":
            names = {panel: self.session.page_words(number) for panel, number in (("front", LEFT), ("back", RIGHT))}
        places = [(names[name], panel.centre[0]) for name, panel in flat.panels]
        if outside and flat.spine is not None:
            places.append(("spine", flat.spine.centre[0]))
        places += [("flap" if flap != flat.leaf else "leaf", flap.centre[0]) for flap in flat.flaps if outside]
        painter.setFont(tokens.font(tokens.SMALL))
        painter.setPen(tokens.colour(tokens.INK))
        area, (scale, origin) = self.to_widget(self.whole()), self._fitted()
        for name, x in places:
            at = QPointF(origin.x() + x * scale, area.bottom() + 4)
            painter.drawText(QRectF(at.x() - 60, at.y(), 120, 16), Qt.AlignmentFlag.AlignCenter, name)
