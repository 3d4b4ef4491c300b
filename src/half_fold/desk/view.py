"""What of a document is in view: which page, what is chosen on it, what is hidden, and what is tried."""

from collections.abc import Sequence
from typing import Protocol

from PyQt6.QtCore import QObject, pyqtSignal

from half_fold.core.measure.problem import Problem
from half_fold.core.plan.spreads import Spread, spread_index, spreads_of
from half_fold.core.publication.records import Block, Publication
from half_fold.core.publication.surgery import page_of_thing, things_around
from half_fold.core.publication.things import every_thing
from half_fold.core.spread.edits.sets import out_of_sight


class Viewed(Protocol):
    """A document as a view knows it."""

    @property
    def publication(self) -> Publication:
        """As it stands."""

    def spread_at(self, page: int) -> Spread:
        """The spread that a page lies on."""

    @property
    def can_be_chosen(self) -> bool:
        """Whether there is anything on it to be chosen."""


class View(QObject):
    """One view of a document; another bench on the same document has one of its own."""

    selected = pyqtSignal()  # another page is in view, or other things are chosen

    def __init__(self, document: Viewed, page: int = 1, story: str | None = None) -> None:
        super().__init__()
        self._document = document
        self.page, self.story = page, story
        self._chosen: tuple[str, ...] = ()
        self._there: tuple[Publication | None, tuple[str, ...], tuple[str, ...]] = (None, (), ())
        self.inside = ""  # the group that was entered
        self.tried: Publication | None = None  # what is shown in place of the document, to see how it would be
        self._by_hand: frozenset[str] = frozenset()  # things hidden one by one, besides those of hidden sets
        self._sight: tuple[Publication | None, frozenset[str], frozenset[str]] = (None, frozenset(), frozenset())

    @property
    def spread(self) -> Spread:
        """The spread in view."""
        return self._document.spread_at(self.page)

    def go_to(self, page: int) -> None:
        """Show the spread that page lies on."""
        page = min(max(page, 1), len(self._document.publication.pages))
        if page != self.page:
            if self._document.spread_at(page) != self.spread:
                self._chosen = ()
            self.page = page
            self.selected.emit()

    def go_by_spread(self, step: int) -> None:
        """Show the spread so many on, or back."""
        publication = self._document.publication
        every = spreads_of(publication)
        index = min(max(spread_index(publication, self.page) + step, 0), len(every) - 1)
        self.go_to(every[index].numbers[0])

    def follow(self) -> None:
        """Be on a page that there is, and at a story that there is, after an edit."""
        publication = self._document.publication
        self.page = min(self.page, len(publication.pages))
        if all(story.id != self.story for story in publication.stories):
            self.story = publication.stories[0].id if publication.stories else None

    # What is chosen -----------------------------------------------------------------------------

    @property
    def chosen(self) -> tuple[str, ...]:
        """The ids of the blocks and groups that are chosen, in that order, as long as they are on a page."""
        if not self._document.can_be_chosen:
            return ()
        now = self._document.publication
        if self._there[0] is not now or self._there[1] is not self._chosen:
            there = {thing.id for page in now.pages for thing in every_thing(page.things)} if self._chosen else ()
            self._there = now, self._chosen, tuple(name for name in self._chosen if name in there)
        return self._there[2]

    @property
    def block(self) -> str | None:
        """The block that alone is chosen; none where it is a group, or several things."""
        if len(self.chosen) != 1:
            return None
        is_block = isinstance(page_of_thing(self._document.publication, self.chosen[0])[2], Block)
        return self.chosen[0] if is_block else None

    def let_go(self) -> None:
        """Have nothing chosen, without a word."""
        self._chosen = ()

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
            way = things_around(self._document.publication, name)
        except Problem:
            return False
        return any(thing.id == self.inside for thing in way[:-1])

    def enter(self, group: str, name: str) -> None:
        """Into a group: what is in it can be chosen by itself."""
        self.inside = group
        self.select(name)

    def choose_story(self, story: str | None) -> None:
        """Choose a story, or none, and say so."""
        if story != self.story:
            self.story = story
            self.selected.emit()

    # What is hidden -----------------------------------------------------------------------------

    def hide(self, names: Sequence[str]) -> None:
        """Those things out of sight while others are worked on; they print as ever. None shows all again."""
        self._hide(self._by_hand | self._all_in(names) if names else frozenset())
        self.select(None)

    def show_again(self, names: Sequence[str]) -> None:
        """Those things in sight again."""
        self._hide(self._by_hand - self._all_in(names))

    def _hide(self, hidden: frozenset[str]) -> None:
        self._by_hand = hidden
        self.selected.emit()

    @property
    def hidden(self) -> frozenset[str]:
        """The ids of what is out of sight while others are worked on: by itself, or with its set."""
        now = self._document.publication
        if self._sight[0] is not now or self._sight[1] is not self._by_hand:
            self._sight = now, self._by_hand, self._by_hand | out_of_sight(now)
        return self._sight[2]

    def _all_in(self, names: Sequence[str]) -> frozenset[str]:
        """The ids of things and of all that is in them."""
        things = (page_of_thing(self._document.publication, name)[2] for name in names)
        return frozenset(each.id for thing in things for each in every_thing((thing,)))
