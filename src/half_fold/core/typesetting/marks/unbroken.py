"""Words set on one line however long it is: what furniture and evened stacks are made of."""

from msgspec import Struct

from half_fold.core.drawing.marks import Glyphs, Origin
from half_fold.core.drawing.tone import Tone
from half_fold.core.publication.records import Paragraph
from half_fold.core.typesetting.faces.directions import begins_right
from half_fold.core.typesetting.faces.words import Word
from half_fold.core.typesetting.lines.composer import Composer
from half_fold.core.typesetting.lines.openings import opening_of
from half_fold.core.typesetting.lines.pieces import words_of_runs
from half_fold.core.typesetting.lines.roles import Style
from half_fold.core.typesetting.lines.tokens import TokenTable
from half_fold.core.typesetting.marks.laying import Spacing
from half_fold.core.typesetting.marks.word_marks import InkOf, word_marks


class Unbroken(Struct, frozen=True):
    """Words on one line at natural spaces, with the space before each (ems), what hangs at its left, and its width."""

    style: Style
    table: TokenTable
    words: tuple[tuple[Word, bool], ...]
    gaps: tuple[float, ...]
    hangs: float
    width: float

    def marks(
        self, left: float, baseline: float, colour: Tone, origin: Origin, ink_of: InkOf | None = None
    ) -> list[Glyphs]:
        """Its glyph runs from ``left`` on (points); ``ink_of`` gives the colour of an ink by name."""
        spaced = Spacing(1.0, 0.0, -self.hangs)
        size = self.style.size
        return word_marks(self.table, self.words, self.gaps, spaced, size, left, baseline, colour, origin, ink_of)


def unbroken(composer: Composer, paragraph: Paragraph, style: Style) -> Unbroken:
    """The paragraph on one line; ``width`` in points, without what hangs in the margins."""
    table = composer.table(style.setting)
    words = words_of_runs(
        opening_of(paragraph, style) if style.opening_words else paragraph.runs, style.setting.language
    )
    words = [table.faced(word) for word in words]
    if not words:
        return Unbroken(style, table, (), (), 0.0, 0.0)
    gaps = [table.space_before(word[0]) for word in words]
    hangs = table.hang(words[0][0], 0), table.hang(words[-1][-1], -1)
    width = sum(table.width(word) for word in words) + sum(gaps[1:]) - sum(hangs)
    told = [(word, False) for word in words]
    if begins_right(paragraph.text, style.setting.language):
        hangs = hangs[::-1]
    return Unbroken(style, table, tuple(told), tuple(gaps), hangs[0], width * style.size)
