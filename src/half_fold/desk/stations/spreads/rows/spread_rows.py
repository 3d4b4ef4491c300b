"""Working rows of a spread on which nothing is chosen: its pages, its scheme, its stories."""

from collections.abc import Callable, Sequence

from half_fold.core.arrange.items import picture_blocks
from half_fold.core.inks.numbers import scheme_of
from half_fold.core.measure.length import counted
from half_fold.core.numbers.blocks import story_numbers
from half_fold.core.publication.records import (
    HoldsStory,
)
from half_fold.core.publication.surgery import story_of
from half_fold.core.spread.setting.over_pictures import WAYS, cover_of, set_over
from half_fold.core.spread.where.borders import format_frame, set_frame
from half_fold.core.spread.where.frames import blocks_on, page_frame_of
from half_fold.desk.kit.rows import Card, Row, RowSection, row_of
from half_fold.desk.stations.spreads.rows.feature_rows import FeatureRows
from half_fold.desk.stations.spreads.rows.fit_cards import FitCards
from half_fold.desk.stations.spreads.rows.read_rows import read_sections
from half_fold.desk.stations.spreads.rows.set_rows import SetRows
from half_fold.desk.stations.spreads.tools.reader import Reader
from half_fold.desk.workpiece import Workpiece


class SpreadRows:
    """Makes the sections; ``gathered`` gives the pictures of the drawer that are chosen, ``arrange`` arranges them."""

    def __init__(
        self,
        session: Workpiece,
        reader: Reader,
        fit: FitCards,
        feature: FeatureRows,
        gathered: Callable[[], Sequence[str]],
        arrange: Callable[[], None],
    ) -> None:
        self.session, self.reader, self.fit, self.feature = session, reader, fit, feature
        self.gathered, self.arrange = gathered, arrange
        self.sets = SetRows(session)

    def sections(self) -> list[RowSection]:
        """All that is said of the spread, and its stories."""
        publication, spread = self.session.publication, self.session.view.spread
        on = list(blocks_on(publication, spread))
        stories = {block.holds.story: None for _, _, block in on if isinstance(block.holds, HoldsStory)}
        masters = ", ".join(dict.fromkeys(publication.pages[n - 1].master or "none" for n in spread.numbers))
        runs = [publication.pages[n - 1].runs for n in spread.numbers if publication.pages[n - 1].runs]
        first: list[Row | Card] = [Row("Master", masters), Row("Blocks", str(len(on)))]
        first += [Row("Runs here", words) for words in dict.fromkeys(runs)]
        first += [self._frame_row(number) for number in spread.numbers]
        first += [self._furniture_row(number) for number in spread.numbers if self._asks_for_furniture(number)]
        if on:
            scheme = scheme_of(self.session.parts())
            first.append(Row("Scheme", scheme.words, scheme.note or "outside of pictures, black apart"))
        if not on:
            first.append(Card("Nothing here yet", "Drag across fields to claim them, or press an arrow key and Enter."))
        if self.gathered() or picture_blocks(publication, spread):
            first.append(self._arrange_card())
        out = [*read_sections(self.reader, None), RowSection(f"Spread {spread.label}", "", first)]
        out += self.feature.section(self.session.view.story, self.gathered())
        for story in stories:
            rows = [row_of(n, lambda _: None) for n in story_numbers(publication, self.session.setter.threads, story)]
            out.append(RowSection(story_of(publication, story).title, "story on this spread", rows))
            out += self.fit.section(story)
        return [*out, *self.sets.section()]

    def _frame_row(self, number: int) -> Row:
        """A stroke round a page, by its inset."""
        typed = format_frame(self.session.publication, number)
        words = "so far inside the trim; “both” after it for the spread as one"
        return Row(
            f"Frame of page {number}",
            typed or "none",
            words,
            "",
            typed,
            lambda text: self.session.edit(lambda p: set_frame(p, number, text), f"frame of page {number}"),
        )

    def _furniture_row(self, number: int) -> Row:
        """Whether furniture stands on a page that a picture covers."""
        now = self.session.publication.pages[number - 1].furniture
        return Row(
            f"Furniture of page {number}",
            dict(WAYS)[now],
            "a picture all over the page hides it, unless it is set over",
            "",
            now,
            lambda way: self.session.edit(lambda p: set_over(p, number, way), f"furniture of page {number}"),
            WAYS,
        )

    def _asks_for_furniture(self, number: int) -> bool:
        publication = self.session.publication
        trim = page_frame_of(publication, number).trim
        said = publication.pages[number - 1].furniture
        return bool(said) or cover_of(publication, self.session.view.spread, trim) is not None

    def _arrange_card(self) -> Card:
        count = len(self.gathered())
        words = f"{counted(count, 'picture')} of the drawer" if count else "the pictures that lie free here"
        return Card(
            "Arrange", f"Layouts searched for {words}, ranked, each with its reasons.", [("Arrange (Y)", self.arrange)]
        )
