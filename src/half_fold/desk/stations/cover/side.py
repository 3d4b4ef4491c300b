"""One side of the cover as a bench works on it."""

from collections.abc import Callable
from pathlib import Path

from half_fold.core.apart.covers import front_page
from half_fold.core.apart.sides import (
    Side,
    edit_side,
    page_name,
    side_called,
    side_of,
    sides_of,
    spread_of_side,
    with_side,
)
from half_fold.core.cover.surfaces import surface_of_side
from half_fold.core.drawing.marks import DisplayList
from half_fold.core.legibility.reading import Surface
from half_fold.core.plan.spreads import Spread
from half_fold.core.publication.records import Picture, Publication
from half_fold.core.spread.setting.compose import Setter
from half_fold.desk.session import Session
from half_fold.desk.view import View
from half_fold.desk.workpiece import Then, Workpiece


class CoverSide(Workpiece):
    """Shows a side of the session's cover as a spread; its edits are edits of the job."""

    runs_on = False

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.job = session
        self._side: Side = "outside"
        self.setter, self.proxies, self.history = session.setter, session.proxies, session.history
        self.bringing = session.bringing
        self.view = View(self, front_page(session.publication))
        self.said.connect(session.said)
        self.noted.connect(session.noted)
        self.view.selected.connect(session.view.selected)

    @property
    def side(self) -> Side:
        """Which side is shown: one that there is."""
        return side_called(self.job.publication, self._side)

    @side.setter
    def side(self, side: Side) -> None:
        self._side = side

    @property
    def open_set(self) -> str:
        return self.job.open_set

    @open_set.setter
    def open_set(self, name: str) -> None:
        self.job.open_set = name

    @property
    def exists(self) -> bool:
        """Whether the job has a cover of its own, or a card is bound into it."""
        return bool(sides_of(self.job.publication))

    @property
    def publication(self) -> Publication:
        return side_of(self.job.publication, self.side)

    def spread_at(self, _page: int) -> Spread:
        """The pages of a side; the front alone where there is no back."""
        return spread_of_side(self.job.publication, self.side)

    @property
    def spread_words(self) -> str:
        """Which side, and which panel of it, in words."""
        numbers = self.view.spread.numbers  # a copy that is bound at its other side has its front there
        return self.page_words(self.view.page if self.view.page in numbers else numbers[0]).capitalize()

    def page_words(self, number: int) -> str:
        """What a page of the side is called."""
        return page_name(self.job.publication, self.side, number)

    @property
    def can_be_chosen(self) -> bool:
        return self.exists

    def marks(self) -> DisplayList:
        now = self.job.publication
        shown = now if self.view.tried is None else with_side(now, self.side, self.view.tried)
        return self.seen(self.job.covers.marks(shown, self.side))

    def sheet(self, setter: Setter) -> Surface:
        return surface_of_side(self.job.publication, self.job.job.pictures, self.side, setter)

    def edit(self, make: Callable[[Publication], Publication], said: str, joining: str = "") -> bool:
        return self.job.edit(lambda p: edit_side(p, self.side, make), f"cover: {said}", joining)

    @property
    def pictures(self) -> tuple[Picture, ...]:
        return self.job.publication.pictures

    def used_pictures(self) -> set[str]:
        return self.job.used_pictures()

    def bring_pictures(self, paths: list[Path], then: Then | None = None) -> None:
        self.job.bring_pictures(paths, then)

    def bring_text(self, path: Path) -> None:
        self.job.bring_text(path)

    def bring_goods(self, table: Path) -> None:
        self.job.bring_goods(table)

    def turn_over(self, side: Side) -> None:
        """Show that side."""
        if side != self.side:
            self.side = side
            self.view.let_go()
            if self.view.page not in self.view.spread.numbers:
                self.view.page = self.view.spread.numbers[-1]
            self.view.selected.emit()
