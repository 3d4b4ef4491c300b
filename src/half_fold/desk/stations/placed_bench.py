"""Where things lie on a bench: the spread in its true proportion, at the scale and in the part that is viewed."""

from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtWidgets import QWidget

from half_fold.core.grid.frame import PageFrame
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Publication
from half_fold.core.publication.surgery import page_of_thing
from half_fold.core.spread.edits.carrying import reached
from half_fold.core.spread.where.frames import page_frame_of, spread_area
from half_fold.desk.stations.viewing import Viewing
from half_fold.desk.workpiece import Workpiece


class PlacedBench(QWidget):
    """The session's spread as it lies on a widget, and back from there."""

    def __init__(self, session: Workpiece) -> None:
        super().__init__()
        self.session = session
        self.viewing = Viewing()
        self._kept_fit: tuple[Publication, tuple[object, ...], tuple[float, QPointF]] | None = None

    def paper(self) -> Rect:
        """The trimmed spread in points."""
        return spread_area(self.session.publication, self.session.view.spread)

    def target(self) -> Rect:
        """What the view shows: the spread with its bleed, the page, the selection, or the width."""
        if self.viewing.name == "page":
            return page_frame_of(self.session.publication, self.session.view.page).bleed_box
        box = self.selection_box() if self.viewing.name == "selection" else None
        return box or self.whole()

    def whole(self) -> Rect:
        """The spread with its bleed; a single page keeps the room of its missing neighbour."""
        brief = self.session.publication.brief
        width, bleed = brief.width.pt, brief.bleed.pt
        return Rect(-width - bleed, -bleed, width + bleed, brief.height.pt + bleed)

    def selection_box(self) -> Rect | None:
        """The rectangle round what is chosen, where that lies on this spread."""
        publication, view = self.session.publication, self.session.view
        on_spread = [name for name in view.chosen if page_of_thing(publication, name)[0] + 1 in view.spread.numbers]
        return reached(publication, on_spread) if on_spread else None

    def _fitted(self) -> tuple[float, QPointF]:
        """Scale and origin; kept, since everything that is painted asks for them."""
        session, viewing = self.session, self.viewing
        shown = (viewing.name, viewing.free, session.view.page, session.view.chosen, self.width(), self.height())
        kept = self._kept_fit
        if kept is None or kept[0] is not session.publication or kept[1] != shown:
            fit = viewing.fitted(self.target(), self.width(), self.height())
            self._kept_fit = kept = (session.publication, shown, fit)
        return kept[2]

    def scale(self) -> float:
        """Pixels to the point."""
        return self._fitted()[0]

    def origin(self) -> QPointF:
        """Where the fold at the head lies on the widget."""
        return self._fitted()[1]

    def to_widget(self, rect: Rect) -> QRectF:
        """A rectangle in points where it lies on the bench, in pixels."""
        scale, origin = self._fitted()
        return QRectF(
            origin.x() + rect.left * scale, origin.y() + rect.top * scale, rect.width * scale, rect.height * scale
        )

    def to_points(self, at: QPointF) -> tuple[float, float]:
        """A place on the bench in points of the spread."""
        scale, origin = self._fitted()
        return (at.x() - origin.x()) / scale, (at.y() - origin.y()) / scale

    def from_points(self, place: tuple[float, float]) -> QPointF:
        """A place in points of the spread on the bench."""
        scale, origin = self._fitted()
        return QPointF(origin.x() + place[0] * scale, origin.y() + place[1] * scale)

    def frames(self) -> list[tuple[int, PageFrame]]:
        """(page number, frame) of the spread's pages from left to right."""
        spread = self.session.view.spread
        pages = [number for number in (spread.left, spread.right) if number is not None]
        return [(number, page_frame_of(self.session.publication, number)) for number in pages]

    def frame_at(self, x: float) -> PageFrame:
        """The frame of the page that a place across lies on, or lies nearest to."""
        frames = [frame for _, frame in self.frames()]
        return frames[0] if x < frames[0].trim.right else frames[-1]

    def _sheet(self) -> Rect:
        """The paper with its bleed."""
        return self.paper().grown(self.session.publication.brief.bleed.pt)

    def true_scale(self) -> float:
        """Pixels to the point at printed size, by what the screen says of its own resolution."""
        screen = self.screen()
        return (screen.physicalDotsPerInch() if screen is not None else 96.0) / 72

    def sheets(self) -> list[Rect]:
        """The sheets of paper that it is on, trimmed."""
        return [self.paper()]

    def panels_across(self) -> list[Rect]:
        """What has a ruler of its own, from left to right: pages, or panels of a cover."""
        return [frame.trim for _, frame in self.frames()]

    def panels(self) -> list[Rect]:
        """What has a safe zone of its own."""
        return [self.paper()]

    def folds(self) -> list[float]:
        """Where the paper is folded, in points across."""
        return [0.0] if any(frame.has_fold for _, frame in self.frames()) else []
