"""Rows of the words that are chosen in the story drawer: what a menu sets by steps is typed here."""

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.property import Property
from half_fold.core.publication.surgery import block_named, role_in, role_named
from half_fold.core.spread.settable.word_light import word_properties
from half_fold.core.typesetting.sheet.word_properties import Spoken, at_rest_in
from half_fold.desk.kit.property_rows import property_row, put_back
from half_fold.desk.kit.rows import Row, RowSection
from half_fold.desk.stations.spreads.drawer.story_drawer import StoryDrawer

TITLE = "Chosen words"
LONGEST = 40


def word_section(desk: StoryDrawer) -> list[RowSection]:
    """The section of the words that are chosen; none where none are."""
    chosen = desk.text.textCursor().selectedText()
    if not chosen or not desk.text.isVisible():
        return []
    words = _spoken(desk)
    rows = [_row(desk, words, of) for of in word_properties(words)]
    told = chosen if len(chosen) <= LONGEST else f"{chosen[:LONGEST]}…"
    changed = [f"{row.name.lower()} {row.value}" for row in rows if row.back is not None]
    return [RowSection(TITLE, "", rows, says=", ".join([f"“{told}”", *changed]), begins_open=True)]


def _spoken(desk: StoryDrawer) -> Spoken:
    """The style of the words, under the role of their paragraph as it is set there."""
    publication, block, name = desk.session.publication, desk.display_block(), desk.text.role()
    if block is None:
        return Spoken(desk.text.words_style(), role_named(publication, name))
    return Spoken(desk.text.words_style(), role_in(publication, block_named(publication, block).holds, name))


def _row(desk: StoryDrawer, words: Spoken, of: Property[Spoken]) -> Row:
    def take(text: str) -> bool:
        try:
            made = of.set(desk.session.publication, words, text)
        except Problem as problem:
            desk.session.said.emit(str(problem))
            return False
        desk.text.set_style(made.run)
        return True

    row = property_row(desk.session.publication, words, of, take)
    return put_back(row, of.typed(at_rest_in(words)), of.note)
