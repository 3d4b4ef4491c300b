"""What a bench works on: a document with one spread of it in view, and a block of it selected."""

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal

from half_fold.core.drawing.marks import DisplayList
from half_fold.core.plan.spreads import Spread, spread_index, spread_of
from half_fold.core.publication.history import History
from half_fold.core.publication.records import Picture, Publication
from half_fold.core.publication.surgery import used_pictures
from half_fold.core.spread.compose import Setter
from half_fold.desk.bringing import Bringing
from half_fold.desk.paint.proxies import Proxies

Then = Callable[[str], None]


class Workpiece(QObject):
    """The pages of a job, or one side of its cover. A Problem is ``said``, plain news is ``noted``."""

    changed = pyqtSignal()
    selected = pyqtSignal()
    said = pyqtSignal(str)
    noted = pyqtSignal(str)

    takes_stories = True
    setter: Setter
    proxies: Proxies
    history: History
    bringing: Bringing
    page: int
    block: str | None
    story: str | None

    @property
    def publication(self) -> Publication:
        """What is worked on, as it stands."""
        raise NotImplementedError

    @property
    def unit(self) -> str:
        """The unit lengths are read in."""
        return self.publication.brief.unit

    @property
    def spread(self) -> Spread:
        """The spread in view."""
        return spread_of(self.publication, self.page)

    @property
    def spread_words(self) -> str:
        """The spread in view, in words."""
        return f"Spread {self.spread.label}"

    def marks(self) -> DisplayList:
        """What is drawn of the spread in view."""
        return self.setter.spread(self.publication, self.spread)

    def edit(self, make: Callable[[Publication], Publication], said: str, joining: str = "") -> bool:
        """Apply a pure edit; False, with the sentence said, where it cannot be."""
        raise NotImplementedError

    @property
    def pictures(self) -> tuple[Picture, ...]:
        """The job's pictures."""
        return self.publication.pictures

    def used_pictures(self) -> set[str]:
        """The pictures that lie anywhere in the job."""
        return used_pictures(self.publication)

    def bring_pictures(self, paths: list[Path], then: Then | None = None) -> None:
        """Bring pictures in as one edit; what cannot be read is said and passed over.

        ``then`` is told the id of the first once it is in the job.
        """
        raise NotImplementedError

    def bring_text(self, path: Path) -> None:
        """Read a text and thread it through the next free pages, as one edit when it is ready."""
        raise NotImplementedError

    def go_to(self, page: int) -> None:
        """Show the spread that page lies on."""
        page = min(max(page, 1), len(self.publication.pages))
        if page != self.page:
            if spread_index(page) != spread_index(self.page):
                self.block = None
            self.page = page
            self.selected.emit()

    def go_by_spread(self, step: int) -> None:
        """Show the spread so many on, or back."""
        index = min(max(spread_index(self.page) + step, 0), len(self.publication.pages) // 2)
        self.go_to(max(1, min(2 * index, len(self.publication.pages))))

    def select(self, block: str | None) -> None:
        """Choose a block, or none, and say so."""
        if block != self.block:
            self.block = block
            self.selected.emit()

    def choose_story(self, story: str | None) -> None:
        """Choose a story, or none, and say so."""
        if story != self.story:
            self.story = story
            self.selected.emit()
