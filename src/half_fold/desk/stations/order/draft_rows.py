"""Drafting a photo book, in the working of the order: what is asked, what it would be, and the draft itself."""

from collections.abc import Callable

from msgspec.structs import replace

from half_fold.core.arrange.draft import LEAST_PAGES, Plan, Wishes
from half_fold.core.arrange.manner import set_manner
from half_fold.core.measure.length import counted, figure
from half_fold.core.measure.number import number_between
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.property import NO, YES
from half_fold.core.publication.ranges import MOST_PAGES
from half_fold.core.publication.records import Publication
from half_fold.desk.beside.drafter import Drafter
from half_fold.desk.kit.rows import Card, Row, RowSection
from half_fold.desk.session import Session

LEAST_PICTURES = 4  # that lie nowhere yet, from which on a draft is offered
FRAMED = "white of one width round what would bleed, once it is trimmed"
WORTH_MATCHING = 6.0  # L*a*b*: colour that wanders farther within a chapter is seen from spread to spread
USUAL_PAGES = (20.0, 200.0)  # of a photo book: what is dragged over; fewer and more can be typed
SHARES = {
    "pace": ("Pace", 0.0, 100.0, "from one or two pictures a spread (0) to six or seven (100)"),
    "bleed": ("Bleed", -100.0, 100.0, "from the margins (-100) out to the bleed (100)"),
    "match": ("Match", 0.0, 100.0, "how far the pictures of a chapter are brought to one another"),
}


class DraftRows:
    """The section that plans and makes a draft; while nothing else is edited, a new one takes the place of the last."""

    def __init__(self, session: Session, changed: Callable[[], None]) -> None:
        self.session, self.changed = session, changed
        self.open = False
        self.wishes = Wishes()
        self.plan: Plan | None = None
        self.problem = ""
        self.done = (0, 0)
        self._base: Publication | None = None  # what the plan is of
        self._before: tuple[Publication, Publication] | None = None  # the job before the last draft, and after it
        self.drafter = Drafter()
        self.drafter.planned.connect(self._planned)
        self.drafter.drafted.connect(self._drafted)
        self.drafter.failed.connect(self._failed)
        self.drafter.moved.connect(self._moved)

    def section(self) -> list[RowSection]:
        """The offer; or the plan with all that can be asked of it."""
        if not self.open:
            return self._offer()
        self._keep_up()
        return [RowSection("Draft a photo book", self._subtitle(), [*self._rows(), *self._cards()])]

    def _offer(self) -> list[RowSection]:
        waiting = len(self.session.publication.pictures) - len(self.session.used_pictures())
        if waiting < LEAST_PICTURES:
            return []
        words = (
            f"{counted(waiting, 'picture')} lie nowhere yet. "
            "Chapters, rhythm and layouts of them are said before they are made."
        )
        return [RowSection("Draft", "", [Card("Draft a photo book", words, [("Plan it", self.begin)])])]

    def begin(self) -> None:
        """Plan one, and show what it would be."""
        self.open = True
        self._plan()
        self.changed()

    def leave(self) -> None:
        """No draft, or no more of it; what was laid stays."""
        self.open, self.plan, self._before = False, None, None
        self.drafter.cancel()
        self.changed()

    def _basis(self) -> Publication:
        """The job to draft from: as it was before the last draft, where nothing was edited since."""
        now = self.session.publication
        return self._before[0] if self._before is not None and self._before[1].pages is now.pages else now

    def _keep_up(self) -> None:
        """Plan anew where the job has changed."""
        if self._basis() is not self._base:
            self._plan()

    def _plan(self) -> None:
        self._base, self.plan, self.problem = self._basis(), None, ""
        self.drafter.plan(self._base, self.session.proxies.folder, self.wishes)

    def _subtitle(self) -> str:
        done, of = self.done
        return f"spread {done + 1} of {of}" if self.drafter.busy and of else ""

    def _rows(self) -> list[Row]:
        wishes = self.wishes
        pages = str(wishes.pages) if wishes.pages else ""
        takes = float(self.plan.pages) if self.plan is not None else 0.0
        asked = Row("Pages", pages or "as many as it takes", "", "", pages, self._take_pages)
        rows = [replace(asked, span=USUAL_PAGES, stands=float(wishes.pages) or takes)]
        for name, (label, least, most, words) in SHARES.items():
            value = getattr(wishes, name)
            rows.append(Row(label, f"{value:g} %", words, "", f"{value:g}", self._take_share(name), span=(least, most)))
        framed = wishes.frame.typed if wishes.frame else ""
        rows.append(Row("Frame", framed or "none", FRAMED, "", framed, self._take_frame))
        for name, label, words in (
            ("openers", "Opening spreads", "a title and one picture, where a chapter is long enough"),
            ("captions", "Captions", "gathered in the white, from what the files say"),
        ):
            now = YES if getattr(wishes, name) else NO
            rows.append(Row(label, now, words, "", now, self._take_flag(name), ((YES, YES), (NO, NO))))
        return rows

    def _cards(self) -> list[Card]:
        if self.drafter.busy:
            return [Card("Working on it", "The window can be used meanwhile.", [("Stop", self.leave)])]
        leave = ("Leave", self.leave)
        if self.problem or self.plan is None:
            return [Card("No draft", self.problem, [leave])]
        cards = []
        if self.plan.astray > WORTH_MATCHING and not self.wishes.match:
            words = (
                f"Their colour is {figure(self.plan.astray, 1)} off the middle of its chapter in the mean (L*a*b*), "
                "which readers see before anything else."
            )
            cards.append(Card("Match them first", words, [("Match, 60 %", lambda: self._ask(match=60.0))]))
        again = self._basis() is not self.session.publication
        act = ("Draft it again" if again else "Draft it", self._draft)
        return [*cards, Card("It would be", self.plan.words, [act, leave])]

    # What is asked ------------------------------------------------------------------------------

    def _ask(self, **more: object) -> bool:
        self.wishes = replace(self.wishes, **more)
        self._plan()
        self.changed()
        return True

    def _refused(self, problem: Problem) -> bool:
        self.session.said.emit(str(problem))
        return False

    def _take_pages(self, typed: str) -> bool:
        if not typed.strip():
            return self._ask(pages=0)
        try:
            return self._ask(pages=round(number_between(typed, LEAST_PAGES, MOST_PAGES, "count of pages")))
        except Problem as problem:
            return self._refused(problem)

    def _take_frame(self, typed: str) -> bool:
        publication = self.session.publication
        try:
            manner = set_manner(publication, "frame", typed).manner
        except Problem as problem:
            return self._refused(problem)
        return self._ask(frame=manner.frame)

    def _take_share(self, name: str) -> Callable[[str], bool]:
        label, least, most, _ = SHARES[name]

        def take(typed: str) -> bool:
            try:
                return self._ask(**{name: number_between(typed, least, most, f"share of {label.lower()}")})
            except Problem as problem:
                return self._refused(problem)

        return take

    def _take_flag(self, name: str) -> Callable[[str], bool]:
        return lambda typed: self._ask(**{name: typed == YES})

    # What comes of it ---------------------------------------------------------------------------

    def _draft(self) -> None:
        self.done = (0, len(self.plan.spreads)) if self.plan is not None else (0, 0)
        self.drafter.draft(self._basis(), self.session.proxies.folder, self.wishes)
        self.changed()

    def _planned(self, plan: Plan) -> None:
        self.plan, self.done = plan, (0, 0)
        self.changed()

    def _drafted(self, result: tuple[Publication, Plan]) -> None:
        made, plan = result
        basis = self._basis()
        if basis is not self._base:
            return  # edited meanwhile: what was made is of another job
        if basis is not self.session.publication:
            self.session.undo()
        self.plan, self.done, self._before = plan, (0, 0), (basis, made)
        if self.session.edit(lambda _: made, "drafted a photo book"):
            self._before = basis, self.session.publication  # settled
            self.session.noted.emit(f"{plan.words} Every spread can be arranged again by itself: Y at Spreads.")
        self.changed()

    def _failed(self, sentence: str) -> None:
        self.problem = sentence
        self.changed()

    def _moved(self, done: int, of: int) -> None:
        self.done = done, of
        self.changed()
