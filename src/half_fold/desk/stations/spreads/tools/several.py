"""What keys do with all that is chosen: group, lock, hide, double, order, nudge; and the chooser that lines it up."""

from collections.abc import Callable, Sequence

from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent

from half_fold.core.measure.length import Length, counted, length
from half_fold.core.measure.rect import Axis
from half_fold.core.publication.records import Group, Publication, blocks_of
from half_fold.core.publication.surgery import page_of_thing, things_around, with_thing_anywhere
from half_fold.core.spread.edits import grouping
from half_fold.core.spread.edits.aligning import Against, Way, align_things, make_same_size, spread_evenly
from half_fold.core.spread.edits.alike import in_same_ink, make_look_like, of_same_kind
from half_fold.core.spread.edits.fitted import fit_to_words
from half_fold.core.spread.edits.sets import put_in_set
from half_fold.core.spread.edits.taking import swap_holds
from half_fold.core.spread.where.frames import page_frame_of, things_on
from half_fold.desk.stations.spreads.tools.chooser import Entry
from half_fold.desk.stations.spreads.tools.worktop import Worktop

SMALL_STEP = length("0.25mm")
LARGE_STEPS = 10
LINES: tuple[tuple[str, str, Axis, Way], ...] = (
    ("L", "Left edges", "across", "first"),
    ("C", "Middles, across", "across", "middle"),
    ("R", "Right edges", "across", "last"),
    ("H", "Upper edges", "down", "first"),
    ("M", "Middles, down", "down", "middle"),
    ("F", "Lower edges", "down", "last"),
)


class Several:
    """Acts on the things that are chosen on a bench, each as one edit."""

    def __init__(self, bench: Worktop) -> None:
        self.bench = bench
        self.small_step: Length = SMALL_STEP
        self.against: Against = "each other"
        self.by_ink = False

    def _edit(self, make: Callable[[Publication], Publication], said: str, joining: str = "") -> bool:
        return self.bench.session.edit(make, said, joining)

    def make(self, make: Callable[[Publication], tuple[Publication, tuple[str, ...]]], said: str) -> bool:
        """An edit that makes things; they are chosen then."""
        made: tuple[str, ...] = ()

        def edit(publication: Publication) -> Publication:
            nonlocal made
            publication, made = make(publication)
            return publication

        done = self._edit(edit, said)
        if done and made:
            self.bench.session.view.choose(made)
        return done

    def in_order(self) -> list[str]:
        """The things of the spread from back to front, or those of the group that was entered."""
        session = self.bench.session
        if session.view.inside and session.view.chosen:
            group = things_around(session.publication, session.view.chosen[-1])[-2]
            return [member.id for member in group.members] if isinstance(group, Group) else []
        return [thing.id for _, thing in things_on(session.publication, session.view.spread)]

    def key(self, event: QKeyEvent) -> bool:
        """Whether a key was meant for what is chosen."""
        held, session = event.modifiers(), self.bench.session
        if event.text().upper() == "H" and held == Qt.KeyboardModifier.ShiftModifier and session.view.hidden:
            session.view.hide(())
        elif not session.view.chosen:
            return False
        elif event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.delete()
        elif held == Qt.KeyboardModifier.ControlModifier and event.key() == Qt.Key.Key_D:
            self.double()
        elif held & ~Qt.KeyboardModifier.ShiftModifier:
            return False
        else:
            return self._letter(event.text().upper(), bool(held))
        return True

    def _letter(self, letter: str, shift: bool) -> bool:
        key = f"Shift+{letter}" if shift else letter
        act = next((act for known, act, _, _ in KNOWN_AS if known == key), None)
        if act is not None:
            act(self)
        return act is not None

    # Grouping and ordering ----------------------------------------------------------------------

    def group(self) -> None:
        """What is chosen as one group."""
        names = self.bench.session.view.chosen
        self.make(lambda p: _alone(grouping.group(p, names)), f"grouped {len(names)}")

    def ungroup(self) -> None:
        """The group that is chosen, taken apart."""
        name = self.bench.session.view.chosen[-1]
        self.make(lambda p: grouping.ungroup(p, name), "took a group apart")

    def fit_to_words(self) -> None:
        """What is chosen, as deep as the words in it."""
        session = self.bench.session
        things = tuple(page_of_thing(session.publication, name)[2] for name in session.view.chosen)
        names = [block.id for block in blocks_of(things)]
        session.edit(lambda p: fit_to_words(p, session.setter.composer, names), "as deep as its words")

    def enter(self) -> None:
        """Into the group that is chosen, to its frontmost member."""
        session = self.bench.session
        _, _, thing = page_of_thing(session.publication, session.view.chosen[-1])
        if isinstance(thing, Group):
            session.view.enter(thing.id, thing.members[-1].id)

    def leave(self) -> None:
        """Out of the group that was entered, to that; or nothing chosen any more."""
        session = self.bench.session
        group, session.view.inside = session.view.inside, ""
        session.view.select(group or None)

    def order(self, to: grouping.Order) -> None:
        """What is chosen further to the front or the back."""
        names = self.bench.session.view.chosen
        words = {"front": "to the front", "back": "to the back", "forward": "nearer", "backward": "further back"}
        self._edit(lambda p: grouping.restack(p, names, to), words[to])

    def lock(self) -> None:
        """What is chosen locked, or free where all of it is locked."""
        session = self.bench.session
        things = [page_of_thing(session.publication, name)[2] for name in session.view.chosen]
        locked = not all(thing.locked for thing in things)

        def make(publication: Publication) -> Publication:
            for name in (thing.id for thing in things if thing.locked != locked):
                _, _, thing = page_of_thing(publication, name)
                publication = with_thing_anywhere(publication, replace(thing, locked=locked))
            return publication

        if self._edit(make, "locked" if locked else "unlocked"):
            session.noted.emit(f"{counted(len(things), 'thing')} {'locked' if locked else 'free'}.")

    def hide(self) -> None:
        """What is chosen out of sight while other things are worked on."""
        session = self.bench.session
        if all(name in session.view.hidden for name in session.view.chosen):
            session.view.show_again(session.view.chosen)
            return
        session.view.hide(session.view.chosen)
        session.noted.emit("Hidden while you work; it prints as ever. Shift+H shows all again.")

    def put_in_open_set(self) -> None:
        """What is chosen into the set that is open, or out of it where all of it is in it."""
        session = self.bench.session
        name, names = session.open_set, session.view.chosen
        if not name:
            session.said.emit("No set is open; open one in the rows of the spread, where nothing is chosen.")
            return
        is_in = all(page_of_thing(session.publication, each)[2].set == name for each in names)
        if self._edit(lambda p: put_in_set(p, names, "" if is_in else name), f"{'out of' if is_in else 'into'} {name}"):
            session.noted.emit(f"{counted(len(names), 'thing')} {'out of' if is_in else 'in'} the set “{name}”.")

    # Doubling, moving, taking away --------------------------------------------------------------

    def double(self) -> None:
        """A copy of all that is chosen."""
        names = self.bench.session.view.chosen
        self.make(lambda p: grouping.double_things(p, names), f"doubled {counted(len(names), 'thing')}")

    def delete(self) -> None:
        """Take away all that is chosen."""
        names = self.bench.session.view.chosen
        what = "a block" if len(names) == 1 else counted(len(names), "thing")
        self._edit(lambda p: grouping.delete_things(p, names), f"deleted {what}")

    def nudge(self, across: int, down: int, large: bool) -> None:
        """All that is chosen by a small step, or by ten of them."""
        names, size = self.bench.session.view.chosen, self.small_step.pt * (LARGE_STEPS if large else 1)
        self._edit(lambda p: grouping.shift_things(p, names, across * size, down * size), "nudged", "nudge")

    def step(self, across: int, down: int) -> None:
        """All that is chosen by as far as fields lie apart."""
        session = self.bench.session
        names, frame = session.view.chosen, page_frame_of(session.publication, session.view.page)
        wide, high = (_pitch(spans) for spans in (frame.columns, frame.rows))
        self._edit(lambda p: grouping.shift_things(p, names, across * wide, down * high), "moved by a field")

    # Lining up ----------------------------------------------------------------------------------

    def line_up(self) -> None:
        """Ask how what is chosen is lined up: one thing in its page's text area, several with each other."""
        session = self.bench.session
        names = session.view.chosen
        against: Against = "the text area" if len(names) == 1 else "each other"
        entries: list[Entry] = [
            (letter, words, lambda axis=axis, way=way: self._line(axis, way, against))  # type: ignore[misc]  # defaults for what the loop changes
            for letter, words, axis, way in LINES
        ]
        if len(names) > 1:
            entries += [
                ("E", "Even gaps across", lambda: self._evenly("across")),
                ("D", "Even gaps down", lambda: self._evenly("down")),
                ("W", "As wide as the last chosen", lambda: self._sized("across")),
                ("T", "As high as the last chosen", lambda: self._sized("down")),
            ]
        box = self.bench.selection_box()
        area = self.bench.to_widget(box) if box is not None else None
        at = area.center().toPoint() if area is not None else self.bench.rect().center()
        self.bench.choose_among(entries, self.bench.as_widget().mapToGlobal(at))

    def _line(self, axis: Axis, way: Way, against: Against) -> None:
        names = self.bench.session.view.chosen
        self._edit(lambda p: align_things(p, names, axis, way, against), "lined up")

    def _evenly(self, axis: Axis) -> None:
        names = self.bench.session.view.chosen
        self._edit(lambda p: spread_evenly(p, names, axis), "spread evenly")

    def swap(self) -> None:
        """The two blocks that are chosen change what they hold."""
        names = self.bench.session.view.chosen
        if len(names) != 2:
            self.bench.session.said.emit("Choose two blocks, and what they hold changes places.")
            return
        self._edit(lambda p: swap_holds(p, *names), "changed places")

    def same_kind(self) -> None:
        """All of the spread that holds the same kind of thing is chosen."""
        self._choose(of_same_kind)

    def same_ink(self) -> None:
        """All of the spread that is in the same ink is chosen."""
        self._choose(in_same_ink)

    def _choose(self, like: Callable[[Publication, str, Sequence[int]], tuple[str, ...]]) -> None:
        session = self.bench.session
        if session.view.block is None:
            session.said.emit("Choose one block first; then all that are like it can be chosen.")
            return
        session.view.choose(like(session.publication, session.view.block, session.view.spread.numbers))

    def take_look(self) -> None:
        """What is chosen looks as the last chosen: its ink, stroke, opacity and the rest, but not what it holds."""
        names = self.bench.session.view.chosen
        self._edit(lambda p: make_look_like(p, names), "made to look alike")

    def _sized(self, axis: Axis) -> None:
        names = self.bench.session.view.chosen
        self._edit(lambda p: make_same_size(p, names, axis), "made the same size")


def _alone(made: tuple[Publication, str]) -> tuple[Publication, tuple[str, ...]]:
    return made[0], (made[1],)


def _pitch(spans: tuple[tuple[float, float], ...]) -> float:
    """How far apart fields begin, in points."""
    return spans[1][0] - spans[0][0] if len(spans) > 1 else spans[0][1] - spans[0][0]


# Every key with what it does, in plain words, and other words for it.
KNOWN_AS: tuple[tuple[str, Callable[[Several], None], str, tuple[str, ...]], ...] = (
    ("G", Several.group, "Group", ("together", "as one")),
    ("U", Several.ungroup, "Take apart", ("ungroup", "break up")),
    ("L", Several.lock, "Lock, or free", ("protect", "fix", "unlock")),
    ("H", Several.hide, "Hide while you work", ("invisible", "show")),
    ("A", Several.line_up, "Line up", ("align", "distribute", "even gaps", "centre")),
    ("N", lambda several: several.order("forward"), "Nearer", ("forward", "up", "on top", "raise")),
    ("Shift+N", lambda several: several.order("front"), "To the front", ("on top", "above all")),
    ("M", lambda several: several.order("backward"), "Further back", ("backward", "behind", "lower")),
    ("Shift+M", lambda several: several.order("back"), "To the back", ("behind all", "bottom")),
    (
        "Shift+V",
        Several.fit_to_words,
        "Fit to its words",
        ("as deep as its words", "frame to content", "shrink the block"),
    ),
    ("Shift+S", Several.put_in_open_set, "Into the open set, or out of it", ("set", "layer", "move to layer")),
    ("X", Several.swap, "Change places", ("swap", "exchange")),
    ("K", Several.take_look, "Look like the last chosen", ("copy the look", "same style", "match")),
    ("Shift+K", Several.same_kind, "Choose the same kind", ("all pictures", "all panels", "select alike")),
    ("Shift+I", Several.same_ink, "Choose the same ink", ("same colour", "select alike")),
    ("Ctrl+D", Several.double, "Double", ("duplicate", "copy", "repeat")),
    ("Delete", Several.delete, "Take away", ("delete", "remove")),
)
