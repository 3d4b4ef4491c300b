"""What can be asked of the window besides what can be set: commands with their keys, and places to go to."""

from collections.abc import Callable, Iterator
from functools import partial

from msgspec.structs import replace
from PyQt6.QtCore import QPoint, QRect

from half_fold.core.checks.finding import Finding
from half_fold.core.cover.trials.trial import TRIALS
from half_fold.core.paths.all import set_path
from half_fold.core.paths.ask import Wish, wish, wishes
from half_fold.core.spread.setting.threads import thread
from half_fold.desk.ask import Ask
from half_fold.desk.front import Front
from half_fold.desk.stations.cover.station import CoverStation
from half_fold.desk.stations.cover.trials import trial_key
from half_fold.desk.stations.numbers import CHECKS, COVER, GRID, ORDER, SPREADS
from half_fold.desk.stations.order.station import OrderStation
from half_fold.desk.stations.register import STATIONS
from half_fold.desk.stations.spreads.station import SpreadsStation
from half_fold.desk.stations.spreads.tools.marker import WAYS
from half_fold.desk.stations.spreads.tools.several import KNOWN_AS

Act = Callable[[], object]
ON_CHOSEN, ON_PICTURE = 3.0, 2.7  # the rank of what is done with what is chosen, and of what is drawn on it
# What is drawn on pictures, and how they are looked at, by other words.
DRAWN_AS: dict[str, tuple[str, ...]] = {
    "H": ("horizon", "straighten", "crooked", "level"),
    "U": ("verticals", "perspective", "keystone"),
    "K": ("face", "do not crop", "protect"),
    "P": ("eyes", "point"),
    "M": ("retouch", "remove", "heal", "paint away", "inpaint"),
    "S": ("gradient mask", "graduated", "local"),
    "O": ("radial mask", "vignette", "local"),
    "D": ("lasso", "mask", "local"),
    "A": ("mask", "paint what is seen", "hide a part", "rub out", "erase", "layer mask"),
    "W": ("paint", "dodge", "burn", "mask", "local"),
    "C": ("colour range", "mask", "local"),
}
TRIED_AS: dict[str, tuple[str, ...]] = {
    "rack": ("newsstand", "kiosk", "top quarter"),
    "list": ("thumbnail", "small", "shop on a screen", "icon"),
    "arm": ("reading distance",),
    "shop": ("far away", "distance", "blur"),
    "print": ("paper", "colour", "soft proof"),
    "grey": ("greyscale", "black and white", "without colour"),
    "eyes": ("colour-blind", "colour blindness", "daltonism"),
    "shelf": ("spine out", "bookshop"),
    "standing": ("mock-up", "three dimensions", "perspective", "the bound copy"),
    "lying": ("mock-up", "three dimensions", "perspective", "the bound copy"),
    "open": ("mock-up", "spread in perspective"),
    "jacket": ("dust jacket", "under the jacket"),
}
LOOKED_AT = (
    ("As trimmed", ("preview",), "P"),
    ("As printed", ("soft proof", "paper white", "simulate"), "Q"),
    ("What is clipped", ("blown", "highlights", "shadows"), "J"),
    ("What can be read", ("legibility", "contrast", "readable", "cover lines"), "Z"),
    ("Rulers", ("show rulers", "ruler", "guides from a ruler"), "Shift+R"),
    ("Before beside after", ("compare", "split", "original"), "Shift+E"),
)


class Wanted:
    """The wishes of a window as it stands, and what carries each out."""

    def __init__(self, window: Front) -> None:
        self.window = window
        self._acts: dict[str, Act] = {}
        self.ask = Ask(window.bench.window() or window.bench, self.take)

    def begin(self) -> None:
        """Ask, over the bench."""
        bench = self.window.bench
        self.ask.begin(self.wishes(), QRect(bench.mapTo(bench.window(), QPoint(0, 0)), bench.size()))

    def wishes(self) -> list[Wish]:
        """All that can be asked for now."""
        window, session = self.window, self.window.session
        worked_on = window.station.session
        self._acts = {}
        pages = session.view.spread.numbers
        return [
            *wishes(session.publication, worked_on.view.chosen, pages),
            *self._commands(),
            *self._rows(),
            *self._stations(),
            *self._trials(),
            *self._pages(),
            *self._stories(),
            *self._findings(),
        ]

    def take(self, asked: Wish, typed: str) -> bool:
        """Set, do or go to what was asked; False where it cannot be, which is said."""
        session = self.window.session
        if asked.not_here:
            session.said.emit(f"{asked.label}: {asked.not_here}.")
            return False
        if not asked.path:
            self._acts[f"{asked.label} {asked.where}"]()
            return True
        words = f"{asked.label.lower()} of {asked.where}"
        made = session.edit(lambda p: set_path(p, asked.path, typed), words)
        if made:
            session.noted.emit(f"{asked.label} of {asked.where}: {dict(asked.choices).get(typed, typed)}.")
        return made

    def _wish(self, label: str, where: str, also: tuple[str, ...], act: Act, key: str = "", rank: float = 0.2) -> Wish:
        self._acts[f"{label} {where}"] = act
        return replace(wish(label, where, also, key=key), rank=rank)

    def _commands(self) -> Iterator[Wish]:
        """The window's own, and what keys do with what is chosen."""
        for action in self.window.actions():
            label, key = action.text(), action.shortcut().toString()
            if label and not label.startswith("Station"):
                yield self._wish(label, "", (), action.trigger, key)
        station = self.window.station
        for letter, act, label, also in KNOWN_AS:
            if isinstance(station, SpreadsStation) and station.session.view.chosen:
                yield self._wish(label, "what is chosen", also, partial(act, station.bench.several), letter, ON_CHOSEN)
            else:
                yield replace(wish(label, "", also, not_here="choose something on a spread first"), rank=-0.5)

        yield from self._tools()

    def _rows(self) -> Iterator[Wish]:
        """What the working has a row or a button for, and is set by no path: shown there, to be set."""
        for name, also, act in self.window.in_the_working():
            yield self._wish(name, "the working", tuple(also), act, "", ON_CHOSEN)

    def _tools(self) -> Iterator[Wish]:
        """What is taken up by a key over the block that is chosen."""
        station = self.window.station
        tools = (
            ("Cut the subject out", ("cut-out", "mask", "remove the background", "isolate"), "Shift+C"),
            ("Move the picture in its block", ("reframe", "pan", "zoom", "crop", "closer", "focus", "subject"), "R"),
            ("Draw a fade over it", ("gradient", "new fade", "fade out", "ramp", "gradient fill"), "Shift+F"),
            ("Draw its shape", ("polygon", "corner by corner"), "D"),
            ("Cut along a line", ("slice", "knife"), "C"),
        )
        for label, also, key in tools:
            if isinstance(station, SpreadsStation) and station.session.view.block is not None:
                yield self._wish(label, "what is chosen", also, partial(station.take_up, key), key, ON_CHOSEN)
            else:
                yield replace(wish(label, "", also, not_here="choose a block on a spread first"), rank=-0.5)
        if isinstance(station, SpreadsStation):
            known = ("layout", "layouts", "auto layout", "pictures", "suggest")
            yield self._wish("Arrange", "the pictures", known, station.arrange, "Y", 0.8)
        yield self._picking()
        if isinstance(station, OrderStation) or self.window.session.publication.pictures:
            yield self._wish("Draft a photo book", "the order", ("album", "autofill", "layout"), self._draft)
        for way in WAYS.values():
            if isinstance(station, SpreadsStation) and station.session.view.block is not None:
                act = partial(station.bench.marker.take_up, way.key)
                yield self._wish(way.name, "the chosen picture", DRAWN_AS[way.key], act, f"R {way.key}", ON_PICTURE)
            else:
                yield replace(
                    wish(way.name, "", DRAWN_AS[way.key], not_here="choose a picture on a spread first"), rank=-0.5
                )
        for name, other, key in LOOKED_AT:
            if isinstance(station, SpreadsStation):
                yield self._wish(name, "on the bench", other, partial(station.look, key), key, 0.5)

    def _picking(self) -> Wish:
        """An ink picked from what is seen."""
        station, label = self.window.station, "Pick an ink from what is seen"
        known = ("eyedropper", "pipette", "pick a colour", "sample colour", "colour from the picture", "ink from here")
        if isinstance(station, SpreadsStation):
            return self._wish(label, "on the bench", known, partial(station.take_up, "Shift+P"), "Shift+P", 0.8)
        return replace(wish(label, "", known, not_here="go to Spreads or the Cover first"), rank=-0.5)

    def _draft(self) -> None:
        self.window.open_station(ORDER)
        station = self.window.station
        assert isinstance(station, OrderStation)
        station.rows.draft.begin()

    def _trials(self) -> Iterator[Wish]:
        """The cover as it is seen."""
        for trial in TRIALS:
            yield self._wish(
                trial.label, "Cover", TRIED_AS[trial.name], partial(self._try, trial.name), trial_key(trial.name)
            )

    def _try(self, name: str) -> None:
        self.window.open_station(COVER)
        station = self.window.station
        assert isinstance(station, CoverStation)
        station.trials.show_trial(name)

    def _stations(self) -> Iterator[Wish]:
        for number, each in STATIONS.items():
            go = partial(self.window.open_station, number)
            yield self._wish(each.name, "station", ("go to", *each.also), go, f"Ctrl+{number}", 0.6)

    def _pages(self) -> Iterator[Wish]:
        for number, page in enumerate(self.window.session.publication.pages, 1):
            yield self._wish(f"Page {number}", page.runs, ("go to",), partial(self._to_page, number))

    def _to_page(self, number: int) -> None:
        self.window.session.view.go_to(number)
        if self.window.current not in (ORDER, GRID, SPREADS):
            self.window.open_station(SPREADS)

    def _stories(self) -> Iterator[Wish]:
        publication = self.window.session.publication
        for story in publication.stories:
            places = thread(publication, story.id)
            page = places[0][0] if places else 0
            where = f"story, page {page}" if page else "story, on no page yet"
            yield self._wish(story.title, where, ("go to",), partial(self._to_story, story.id, page))

    def _to_story(self, story: str, page: int) -> None:
        session = self.window.session
        if page:
            session.view.go_to(page)
        session.view.choose_story(story)
        self.window.open_station(SPREADS)
        station = self.window.station
        if isinstance(station, SpreadsStation):
            station.open_drawer("stories")

    def _findings(self) -> Iterator[Wish]:
        for finding in self.window.session.findings:
            yield self._wish(finding.message, finding.where, ("finding",), partial(self._to_finding, finding))

    def _to_finding(self, finding: Finding) -> None:
        session = self.window.session
        if finding.side:
            self.window.show_on_cover(finding.side, finding.block)
            return
        if finding.page:
            session.view.go_to(finding.page)
            session.view.select(finding.block or None)
        self.window.open_station(SPREADS if finding.page else CHECKS)
