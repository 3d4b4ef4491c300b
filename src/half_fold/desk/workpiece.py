"""What a bench works on: a document, its edits, and a view of it."""

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal

from half_fold.core.drawing.changes import without_blocks
from half_fold.core.drawing.marks import DisplayList, Mark
from half_fold.core.legibility.reading import Surface
from half_fold.core.plan.spreads import Spread, spread_of
from half_fold.core.publication.history import History
from half_fold.core.publication.records import Paragraph, Picture, Publication
from half_fold.core.publication.used import used_pictures
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.typesetting.texts.titles import with_text
from half_fold.desk.beside.bringing import Bringing
from half_fold.desk.paint.proxies import Proxies
from half_fold.desk.view import View

Then = Callable[[str], None]


class Workpiece(QObject):
    """The pages of a job, or one side of its cover. A Problem is ``said``, plain news is ``noted``."""

    changed = pyqtSignal()
    said = pyqtSignal(str)
    noted = pyqtSignal(str)

    takes_stories = True
    runs_on = True  # a story goes on over further pages
    open_set: str  # the set that new things fall into
    setter: Setter
    proxies: Proxies
    history: History
    bringing: Bringing
    view: View

    def __init__(self) -> None:
        super().__init__()
        self._shown: tuple[DisplayList, frozenset[str], DisplayList] | None = None

    @property
    def publication(self) -> Publication:
        """What is worked on, as it stands."""
        raise NotImplementedError

    @property
    def can_be_chosen(self) -> bool:
        """Whether there is anything on it to be chosen."""
        return True

    def write_long(self, story: str, paragraphs: tuple[Paragraph, ...]) -> None:
        """Give a story very many paragraphs."""
        self.edit(lambda p: with_text(p, story, paragraphs), "pasted words")

    @property
    def unit(self) -> str:
        """The unit lengths are read in."""
        return self.publication.brief.unit

    def spread_at(self, page: int) -> Spread:
        """The spread that a page lies on."""
        return spread_of(self.publication, page)

    @property
    def spread_words(self) -> str:
        """The spread in view, in words."""
        return f"Spread {self.view.spread.label}"

    def marks(self) -> DisplayList:
        """What is drawn of the spread in view."""
        return self.seen(self.setter.spread(self.view.tried or self.publication, self.view.spread))

    def parts(self) -> list[tuple[Mark, ...]]:
        """What is drawn of the spread in view, thing by thing; each the same as long as what it shows is."""
        if self.view.hidden:
            return [self.marks().marks]
        return self.setter.parts(self.view.tried or self.publication, self.view.spread)

    def sheet(self, setter: Setter) -> Surface:
        """What is in view, to be read by a thread with a setter of its own."""
        raise NotImplementedError

    def seen(self, marks: DisplayList) -> DisplayList:
        """What is drawn but for what is hidden; the same list as long as both stay the same."""
        if not self.view.hidden:
            return marks
        if self._shown is None or self._shown[0] is not marks or self._shown[1] != self.view.hidden:
            self._shown = marks, self.view.hidden, without_blocks(marks, self.view.hidden)
        return self._shown[2]

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

    def bring_goods(self, table: Path) -> None:
        """The goods of a table for those the job had; what is new is said."""
        raise NotImplementedError
