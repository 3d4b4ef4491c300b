"""Make it fit: remedies for a story that is too long or too short, each found by setting it, with what it costs.

Nothing is estimated: a remedy is a document in which the story was set through its blocks, and is offered only where it
then fits (or, for words, says how many). Costs are what the reader would see.
"""

from collections.abc import Callable, Iterator, Sequence

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.measure.length import counted, figure, of_points
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.order import pages_told
from half_fold.core.publication.records import HoldsStory, Publication
from half_fold.core.publication.surgery import by_name, page_of_block, role_named, story_of, with_role, with_story
from half_fold.core.spread.edits import edits
from half_fold.core.spread.edits.placing import continue_story
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.threads import thread
from half_fold.core.typesetting.flow.counting import count_words, words_in
from half_fold.core.typesetting.flow.flow import Flow
from half_fold.core.typesetting.lines.composer import LineRequest, Lines
from half_fold.core.typesetting.lines.roles import leading_of, style_of
from half_fold.core.typesetting.sheet.sheet import stating

SIZE_STEP, LEAST_SIZE_SHARE, MOST_SIZE_SHARE = 0.1, 0.85, 1.2
LEADING_STEP, LEAST_LEADING_SHARE, MOST_LEADING_SHARE = 0.1, 1.1, 1.6
SPACES = (90, 85, 80, 75, 70, 65)
TRACKINGS = (-5.0, -10.0, -15.0, -20.0)
ENOUGH_ROOM = 1  # grid lines that may stay free in a story that fits
BODY = "body"


class FitRemedy(Struct, frozen=True):
    """What would be done, what it costs, and the document in which it is done; ``rank`` puts the mildest first."""

    words: str
    cost: str
    publication: Publication
    rank: float


def format_fit_state(flow: Flow) -> str:
    """How a story stands, in words."""
    if flow.over_lines:
        return f"{counted(flow.over_lines, 'line')} over, {counted(flow.over_words, 'word')}"
    return f"{counted(flow.room, 'line')} free" if flow.room else "fits to the line"


def fit_remedies(
    publication: Publication, setter: Setter, story: str, go_on: Callable[[], bool] = lambda: True
) -> list[FitRemedy]:
    """Every remedy for a story, the mildest first; none where it fits with no more than a line to spare.

    ``go_on`` is asked between one remedy and the next, and ends the search when it says no.
    """
    flow = setter.threads.flow(publication, story)
    if not flow.columns:
        raise Problem("The story has no block to fit yet; put it on a page first.")
    if not flow.over_lines and flow.room <= ENOUGH_ROOM:
        return []
    seeks = _Seeks(publication, setter, story, flow)
    found: list[FitRemedy] = []
    ways = (
        (seeks.tracking, seeks.word_space, seeks.leading, seeks.size, seeks.columns, seeks.further_block, seeks.words)
        if flow.over_lines
        else (seeks.leading_out, seeks.size_up, seeks.words)
    )
    for way in ways:
        if not go_on():
            break
        found += way()
    return sorted(found, key=lambda remedy: remedy.rank)


class _Seeks:
    """The ways to make one story fit."""

    def __init__(self, publication: Publication, setter: Setter, story: str, flow: Flow) -> None:
        self.publication, self.setter, self.story, self.flow_now = publication, setter, story, flow
        self.role = role_named(publication, BODY)
        self.leading_now = leading_of(self.role, self.role.size.pt)  # points

    def flow(self, publication: Publication) -> Flow:
        return self.setter.threads.flow(publication, self.story)

    def _fits(self, publication: Publication) -> bool:
        return not self.flow(publication).over_lines

    def _with_body(self, **changes: object) -> Publication:
        """The document with the body otherwise, and with the roles of the story that are based on it."""
        return with_role(self.publication, stating(by_name(self.publication.roles, BODY, "role"), **changes))

    # Type -----------------------------------------------------------------------------------------

    def size(self) -> Iterator[FitRemedy]:
        """The largest size below the present one at which the story fits."""
        now = self.role.size.pt
        sizes = _steps(now - SIZE_STEP, now * LEAST_SIZE_SHARE, -SIZE_STEP)
        yield from self._first_that_fits(sizes, lambda size: self._with_body(size=of_points(size)), self._size_words)

    def size_up(self) -> Iterator[FitRemedy]:
        """The largest size above the present one at which the story still fits."""
        now = self.role.size.pt
        sizes = _steps(now + SIZE_STEP, now * MOST_SIZE_SHARE, SIZE_STEP)
        yield from self._last_that_fits(sizes, lambda size: self._with_body(size=of_points(size)), self._size_words)

    def _size_words(self, size: float) -> tuple[str, str, float]:
        now = self.role.size.pt
        change = 100 * (size / now - 1)
        return f"Body at {figure(size)} pt", f"{change:+.1f} % of its size, in every story", 30 + 6 * abs(change)

    def leading(self) -> Iterator[FitRemedy]:
        """The widest leading below the present one at which the story fits."""
        leadings = _steps(self.leading_now - LEADING_STEP, self.role.size.pt * LEAST_LEADING_SHARE, -LEADING_STEP)
        yield from self._first_that_fits(leadings, self._led, self._leading_words)

    def leading_out(self) -> Iterator[FitRemedy]:
        leadings = _steps(self.leading_now + LEADING_STEP, self.role.size.pt * MOST_LEADING_SHARE, LEADING_STEP)
        yield from self._last_that_fits(leadings, self._led, self._leading_words)

    def _led(self, leading: float) -> Publication:
        return self._with_body(leading=of_points(leading), ratio=0.0)

    def _leading_words(self, leading: float) -> tuple[str, str, float]:
        change = leading - self.leading_now
        return (
            f"Leading of {figure(leading)} pt",
            f"{change:+.1f} pt; every grid of the job moves",
            60 + 20 * abs(change),
        )

    def word_space(self) -> Iterator[FitRemedy]:
        """Word spaces that may be drawn in further than now."""
        spaces = [share for share in SPACES if share < self.role.word_least]
        yield from self._first_that_fits(
            spaces,
            lambda share: self._with_body(word_least=float(share)),
            lambda share: (
                f"Word spaces down to {share:g} %",
                f"tighter lines, from {self.role.word_least:g} %, in every story",
                20 + (self.role.word_least - share),
            ),
        )

    def _first_that_fits(
        self,
        values: Sequence[float],
        make: Callable[[float], Publication],
        said: Callable[[float], tuple[str, str, float]],
    ) -> Iterator[FitRemedy]:
        """The first of values from mild to strong that fits: sought by halves, for the stronger the shorter."""
        low, high = 0, len(values)
        while low < high:
            middle = (low + high) // 2
            low, high = (low, middle) if self._fits(make(values[middle])) else (middle + 1, high)
        if low < len(values):
            yield self._remedy(make(values[low]), *said(values[low]))

    def _last_that_fits(
        self,
        values: list[float],
        make: Callable[[float], Publication],
        said: Callable[[float], tuple[str, str, float]],
    ) -> Iterator[FitRemedy]:
        fitting = [value for value in values if self._fits(make(value))]
        if fitting and self.flow(make(fitting[-1])).room < self.flow_now.room:
            yield self._remedy(make(fitting[-1]), *said(fitting[-1]))

    def _remedy(self, publication: Publication, words: str, cost: str, rank: float) -> FitRemedy:
        return FitRemedy(words, f"{cost}; then {format_fit_state(self.flow(publication))}", publication, rank)

    # Lines ----------------------------------------------------------------------------------------

    def tracking(self) -> Iterator[FitRemedy]:
        """The paragraphs whose last line is cheapest to save, each drawn in no more than it needs."""
        wanted = self.flow_now.over_lines
        saved = sorted(self._savings(), key=lambda each: (abs(each[1]), each[2]))

        def drawn_in(count: float) -> Publication:
            story = story_of(self.publication, self.story)
            paragraphs = list(story.paragraphs)
            for index, tracking, _ in saved[: int(count)]:
                paragraphs[index] = replace(paragraphs[index], tracking=tracking)
            return with_story(self.publication, replace(story, paragraphs=tuple(paragraphs)))

        def said(count: float) -> tuple[str, str, float]:
            most = max(abs(tracking) for _, tracking, _ in saved[: int(count)])
            words = f"{counted(int(count), 'paragraph')} drawn in a little"
            return words, f"by at most {most:g}/1000 em a letter, this story alone", 5 + most + count

        yield from self._first_that_fits(range(wanted, len(saved) + 1), drawn_in, said)

    def _savings(self) -> Iterator[tuple[int, float, int]]:
        """(paragraph, tracking, words on its last line) of every paragraph that can be made a line shorter."""
        lines_of = {id(chunk.lines.paragraph): chunk.lines for chunk in self.flow_now.chunks}
        for index, paragraph in enumerate(story_of(self.publication, self.story).paragraphs):
            lines = lines_of.get(id(paragraph))
            if lines is None or lines.count < 3 or paragraph.tracking:
                continue
            for tracking in TRACKINGS:
                if self._lines_with(lines, tracking) < lines.count:
                    yield index, tracking, lines.words_from(lines.count - 1)
                    break

    def _lines_with(self, lines: Lines, tracking: float) -> int:
        role = role_named(self.publication, lines.paragraph.role)
        language = lines.style.setting.language
        style = style_of(role, language, None, "", tracking)
        indented = bool(lines.strip.lead_in[lines.bounds[0]] > 0)
        measures = lines.measures if lines.drop is None else lines.measures[-1:]
        wanted = LineRequest(lines.paragraph, style, measures, indented, lines.lefts[-1:], style.leading)
        return self.setter.composer.lines(wanted).count

    # Room -----------------------------------------------------------------------------------------

    def columns(self) -> Iterator[FitRemedy]:
        """Its blocks in more or fewer columns."""
        now = [block_of(self.publication, block.id).columns for _, block in thread(self.publication, self.story)]
        for by in (-1, 1):
            made = self.publication
            for _, block in thread(self.publication, self.story):
                holds = block_of(self.publication, block.id)
                if holds.columns + by >= 1:
                    made = edits.set_holds(made, block.id, replace(holds, columns=holds.columns + by))
            if made is not self.publication and self._fits(made):
                words = "one column more" if by > 0 else "one column fewer"
                yield self._remedy(
                    made, f"Its blocks in {words}", f"{now[0]} become {now[0] + by}; the measure changes", 45
                )

    def further_block(self) -> Iterator[FitRemedy]:
        """A further block, on the next free pages."""
        try:
            made = continue_story(self.publication, self.setter, self.story)
        except Problem:
            return
        if made is self.publication or not self._fits(made):
            return
        before = {number for number, _ in thread(self.publication, self.story)}
        pages = sorted({number for number, _ in thread(made, self.story)} - before)
        grown = len(made.pages) - len(self.publication.pages)
        cost = pages_told(pages) + (f", and {counted(grown, 'page')} more in all" if grown else "")
        yield self._remedy(made, "A further block", cost, 50 + 10 * grown)

    def words(self) -> Iterator[FitRemedy]:
        """How many words to cut, or may be added: found in the text itself, which is left as it is."""
        if self.flow_now.over_lines:
            cost = "they have no place now; the desk shows where it breaks off"
            yield FitRemedy(f"Cut {counted(self.flow_now.over_words, 'word')}", cost, self.publication, 70)
            return
        flow = self.flow_now
        spare = round(count_words(flow.story.paragraphs) * flow.room / max(1, flow.used))
        yield FitRemedy(
            f"Add about {counted(spare, 'word')}", f"of {counted(flow.room, 'line')} free", self.publication, 70
        )


def _steps(start: float, end: float, step: float) -> list[float]:
    count = int((end - start) / step + 1e-6) + 1
    return [round(start + i * step, 2) for i in range(max(0, count))]


def limit_at(publication: Publication, setter: Setter, story: str) -> tuple[int, int] | None:
    """(paragraph, words of it that stand) where a story breaks off for want of room; None where it does not."""
    flow = setter.threads.flow(publication, story)
    if not flow.over_lines or not flow.columns:
        return None
    if not flow.chunks:
        return 0, 0
    last = flow.chunks[-1]
    paragraphs = list(flow.story.paragraphs)
    index = next(i for i in range(len(paragraphs) - 1, -1, -1) if paragraphs[i] is last.lines.paragraph)
    standing = words_in(last.lines.paragraph) - last.lines.words_from(last.end)
    return index, standing


def block_of(publication: Publication, block: str) -> HoldsStory:
    """What a block holds of a story. Problem where it holds none."""
    holds = page_of_block(publication, block)[2].holds
    if not isinstance(holds, HoldsStory):
        raise Problem("That block holds no story.")
    return holds
