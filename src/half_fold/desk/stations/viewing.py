"""How much of the spread the bench shows: a named view, or a free one that was zoomed and panned to."""

from PyQt6.QtCore import QPointF

from half_fold.core.measure.rect import Rect

VIEWS = ("spread", "page", "selection", "width")
MARGIN = 24.0
CLOSEST, FARTHEST = 24.0, 0.1
STEP = 1.25


class Viewing:
    """Scale and origin for a widget of some size; ``free`` replaces the named view once zoomed or panned."""

    def __init__(self) -> None:
        self.name = "spread"
        self.free: tuple[float, QPointF] | None = None

    @property
    def is_free(self) -> bool:
        """Whether the user has zoomed or moved by hand."""
        return self.free is not None

    def choose(self, name: str) -> None:
        """Show the spread, the page, the selection or the width of the spread."""
        self.name, self.free = name, None

    def next(self, has_selection: bool) -> str:
        """The next named view; the selection's is passed over where nothing is selected."""
        order = [view for view in VIEWS if view != "selection" or has_selection]
        at = order.index(self.name) if self.name in order and not self.is_free else -1
        self.choose(order[(at + 1) % len(order)])
        return self.name

    def fitted(self, target: Rect, width: float, height: float) -> tuple[float, QPointF]:
        """(device-independent pixels to the point, where the origin of spread space lies)."""
        if self.free is not None:
            return self.free
        across = (width - 2 * MARGIN) / target.width
        down = (height - 2 * MARGIN) / target.height
        scale = min(max(across if self.name == "width" else min(across, down), FARTHEST), CLOSEST)
        x, y = target.centre
        top = height / 2 - y * scale
        if self.name == "width" and down < across:
            top = MARGIN - target.top * scale
        return scale, QPointF(width / 2 - x * scale, top)

    def zoom(self, now: tuple[float, QPointF], at: QPointF, factor: float) -> None:
        """Closer or farther, the place under ``at`` staying where it is."""
        scale, origin = now
        new = min(max(scale * factor, FARTHEST), CLOSEST)
        self.free = new, at - (at - origin) * (new / scale)

    def pan(self, now: tuple[float, QPointF], by: QPointF) -> None:
        """Move by so many pixels from what is shown now (its scale and origin)."""
        scale, origin = now
        self.free = scale, origin + by
