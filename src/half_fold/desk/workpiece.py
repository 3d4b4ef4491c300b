"""What a bench works on: a document with one spread of it in view, and things of it chosen."""

from collections.abc import Callable, Sequence
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal

from half_fold.core.drawing.changes import without_blocks
from half_fold.core.drawing.marks import DisplayList, Mark
from half_fold.core.legibility.reading import Surface
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.spreads import Spread, spread_index, spread_of, spreads_of
from half_fold.core.publication.history import History
from half_fold.core.publication.records import Block, Paragraph, Picture, Publication
from half_fold.core.publication.surgery import page_of_thing, things_around
from half_fold.core.publication.things import every_thing
from half_fold.core.publication.used import used_pictures
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.typesetting.texts.titles import with_text
from half_fold.desk.beside.bringing import Bringing
from half_fold.desk.paint.proxies import Proxies

Then = Callable[[str], None]


class Workpiece(QObject):
    """The pages of a job, or one side of its cover. A Problem is ``said``, plain news is ``noted``."""

    changed = pyqtSignal()
    selected = pyqtSignal()
    said = pyqtSignal(str)
    noted = pyqtSignal(str)

    takes_stories = True
    runs_on = True  # a story goes on over further pages
    setter: Setter
    proxies: Proxies
    history: History
    bringing: Bringing
    page: int
    story: str | None

    def __init__(self) -> None:
        super().__init__()
        self._chosen: tuple[str, ...] = ()
        self._there: tuple[Publication | None, tuple[str, ...], tuple[str, ...]] = (None, (), ())
        self._shown: tuple[DisplayList, frozenset[str], DisplayList] | None = None
        self.inside = ""  # the group that was entered
        self.tried: Publication | None = None  # what is shown in place of the document, to see how it would be
        self.hidden: frozenset[str] = frozenset()  # blocks out of sight while others are worked on

    @property
    def publication(self) -> Publication:
        """What is worked on, as it stands."""
        raise NotImplementedError

    def write_long(self, story: str, paragraphs: tuple[Paragraph, ...]) -> None:
        """Give a story very many paragraphs."""
        self.edit(lambda p: with_text(p, story, paragraphs), "pasted words")

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
        return self.seen(self.setter.spread(self.tried or self.publication, self.spread))

    def parts(self) -> list[tuple[Mark, ...]]:
        """What is drawn of the spread in view, thing by thing; each the same as long as what it shows is."""
        if self.hidden:
            return [self.marks().marks]
        return self.setter.parts(self.tried or self.publication, self.spread)

    def sheet(self, setter: Setter) -> Surface:
        """What is in view, to be read by a thread with a setter of its own."""
        raise NotImplementedError

    def seen(self, marks: DisplayList) -> DisplayList:
        """What is drawn but for what is hidden; the same list as long as both stay the same."""
        if not self.hidden:
            return marks
        if self._shown is None or self._shown[0] is not marks or self._shown[1] != self.hidden:
            self._shown = marks, self.hidden, without_blocks(marks, self.hidden)
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

    def go_to(self, page: int) -> None:
        """Show the spread that page lies on."""
        page = min(max(page, 1), len(self.publication.pages))
        if page != self.page:
            if spread_of(self.publication, page) != self.spread:
                self._chosen = ()
            self.page = page
            self.selected.emit()

    def go_by_spread(self, step: int) -> None:
        """Show the spread so many on, or back."""
        every = spreads_of(self.publication)
        index = min(max(spread_index(self.publication, self.page) + step, 0), len(every) - 1)
        self.go_to(every[index].numbers[0])

    # What is chosen -----------------------------------------------------------------------------

    @property
    def chosen(self) -> tuple[str, ...]:
        """The ids of the blocks and groups that are chosen, in that order, as long as they are on a page."""
        now = self.publication
        if self._there[0] is not now or self._there[1] is not self._chosen:
            there = {thing.id for page in now.pages for thing in every_thing(page.things)} if self._chosen else ()
            self._there = now, self._chosen, tuple(name for name in self._chosen if name in there)
        return self._there[2]

    @property
    def block(self) -> str | None:
        """The block that alone is chosen; none where it is a group, or several things."""
        if len(self.chosen) != 1:
            return None
        return self.chosen[0] if isinstance(page_of_thing(self.publication, self.chosen[0])[2], Block) else None

    def choose(self, names: Sequence[str]) -> None:
        """Choose those things, and say so."""
        if tuple(names) != self._chosen:
            self._chosen = tuple(names)
            if not names or not self.inside_holds(names[-1]):
                self.inside = ""
            self.selected.emit()

    def select(self, name: str | None) -> None:
        """Choose one thing alone, or none."""
        self.choose(() if name is None else (name,))

    def add_or_drop(self, name: str) -> None:
        """Choose a thing as well as what is chosen, or no longer."""
        self.choose([each for each in self.chosen if each != name] if name in self.chosen else [*self.chosen, name])

    def inside_holds(self, name: str) -> bool:
        """Whether a thing is in the group that was entered."""
        try:
            way = things_around(self.publication, name)
        except Problem:
            return False
        return any(thing.id == self.inside for thing in way[:-1])

    def enter(self, group: str, name: str) -> None:
        """Into a group: what is in it can be chosen by itself."""
        self.inside = group
        self.select(name)

    def hide(self, names: Sequence[str]) -> None:
        """Those things out of sight while others are worked on; they print as ever. None shows all again."""
        self._hide(self.hidden | self._all_in(names) if names else frozenset())
        self.select(None)

    def show_again(self, names: Sequence[str]) -> None:
        """Those things in sight again."""
        self._hide(self.hidden - self._all_in(names))

    def _hide(self, hidden: frozenset[str]) -> None:
        self.hidden = hidden
        self.selected.emit()

    def _all_in(self, names: Sequence[str]) -> frozenset[str]:
        """The ids of things and of all that is in them."""
        things = (page_of_thing(self.publication, name)[2] for name in names)
        return frozenset(each.id for thing in things for each in every_thing((thing,)))

    def choose_story(self, story: str | None) -> None:
        """Choose a story, or none, and say so."""
        if story != self.story:
            self.story = story
            self.selected.emit()
