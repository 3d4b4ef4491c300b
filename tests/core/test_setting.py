"""How lines are set: spacing that fills the measure, styles of words, directions, tabs, and turns of the page."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.drawing.marks import (
    Glyphs,
    from_block,
)
from half_fold.core.drawing.tone import BLACK, Tone
from half_fold.core.measure.length import length
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Paragraph, Role, Run, Story
from half_fold.core.publication.surgery import role_named
from half_fold.core.typesetting.faces.directions import reads_leftwards
from half_fold.core.typesetting.flow.columns import Column, Slot
from half_fold.core.typesetting.flow.flow import flow
from half_fold.core.typesetting.lines.composer import Composer, LineRequest, Lines
from half_fold.core.typesetting.lines.roles import style_of
from half_fold.core.typesetting.lines.tokens import RISEN_SCALE, SUPERIOR_EMS
from half_fold.core.typesetting.marks.laying import spacing
from half_fold.core.typesetting.marks.line_marks import line_marks

COMPOSER = Composer()
BODY = role_named(start("magazine", "TokenSetting"), "body")
TEXT = (
    "The difficulty of the office was that the baffled flies found it efficient, and the afflicted apprentices of the "
    "orchard kept their own calendar of whip-and-tongue grafting through February and the first of the frosts. "
)


def _set(text: str | tuple[Run, ...], measure: float = 160.0, language: str = "en_GB", **role: object) -> Lines:
    runs = (Run(text=text),) if isinstance(text, str) else text
    made: Role = replace(BODY, **role)
    return COMPOSER.lines(
        LineRequest(Paragraph(role="body", runs=runs), style_of(made, language), (measure,), False, pitch=13.0)
    )


def _marks(lines: Lines, line: int) -> list[Glyphs]:
    return line_marks(lines, line, 0.0, 0.0, BLACK, from_block("b"))


def _advance_end(lines: Lines, line: int) -> float:
    """Where the pen stands behind the last glyph of a line, in points."""
    mark = _marks(lines, line)[-1]
    text = "".join(mark.texts)
    shaped = lines.table.face_of(lines.table.word(lines.tokens[0])[0]).shape(text[-1].replace("\u00ad", "-"))
    return float(mark.xs[-1]) + mark.size * shaped.width


@pytest.mark.parametrize("give", [0.0, 2.0])
def test_every_justified_line_but_the_last_ends_at_the_measure(give: float) -> None:
    lines = _set(TEXT * 4, letter_give=give)
    for line in range(lines.count - 1):
        assert _advance_end(lines, line) == pytest.approx(160.0, abs=0.02), line
    assert lines.count > 10


def test_letters_give_no_more_than_they_may() -> None:
    lines = _set(TEXT * 4, 120.0, letter_give=1.5)
    between = [spacing(lines, line).letters for line in range(lines.count - 1)]
    assert max(map(abs, between)) <= 0.015 + 1e-9 and any(abs(b) > 0.002 for b in between)
    tight = _set(TEXT * 4, 120.0)
    assert all(spacing(tight, line).letters == 0 for line in range(tight.count))


def test_word_spaces_are_never_drawn_in_further_than_the_role_allows() -> None:
    for least in (60.0, 85.0, 95.0):
        lines = _set(TEXT * 4, 330.0, word_least=least)
        factors = [spacing(lines, line).factor for line in range(lines.count - 1)]
        assert min(factors) >= least / 100 - 1e-6


def test_faint_signs_hang_in_the_margin() -> None:
    text = "“Nobody who has pruned,” she said, “forgets the frost.” " * 6
    plain, hung = _set(text, 130.0), _set(text, 130.0, hanging=True)
    starts = [_marks(hung, line)[0].xs[0] for line in range(hung.count)]
    assert min(starts) < -1.0
    assert all(_marks(plain, line)[0].xs[0] == pytest.approx(0) for line in range(plain.count))
    ends = [_advance_end(hung, line) for line in range(hung.count - 1)]
    assert max(ends) > 130.5
    for line in range(hung.count - 1):
        last = "".join(_marks(hung, line)[-1].texts)[-1]
        if last.isalpha():
            assert _advance_end(hung, line) == pytest.approx(130.0, abs=0.02)


def test_tracking_is_added_to_every_letter() -> None:
    plain, wide = _set("orchard"), _set("orchard", tracking=50.0)
    assert wide.natural_width == pytest.approx(plain.natural_width + 7 * 0.05 * 10)
    paragraph = Paragraph(role="body", runs=(Run(text="orchard"),), tracking=-20.0)
    style = style_of(BODY, "en_GB", None, "", paragraph.tracking)
    drawn_in = COMPOSER.lines(LineRequest(paragraph, style, (160.0,), False))
    assert drawn_in.natural_width == pytest.approx(plain.natural_width - 7 * 0.02 * 10)


def test_capitals_small_caps_and_figures_are_other_glyphs() -> None:
    plain = _set("Pears 1914", figures="")
    said = {}
    for name, lines in (
        ("capitals", _set("Pears 1914", case="capitals", figures="")),
        ("small", _set((Run(text="Pears 1914", small_caps=True),), figures="")),
        ("old", _set("Pears 1914", figures="old style")),
        ("tabular", _set("Pears 1914", figures="tabular old style")),
    ):
        gids = np.concatenate([m.gids for m in _marks(lines, 0)])
        if name == "tabular":
            figures = lines.table.shape(lines.table.word(lines.tokens[1])[0]).advances
            assert np.ptp(figures) < 1e-9
        assert not np.array_equal(gids, np.concatenate([m.gids for m in _marks(plain, 0)])), name
        said[name] = "".join("".join(m.texts) for m in _marks(lines, 0))
    assert said == {"capitals": "PEARS 1914", "small": "Pears 1914", "old": "Pears 1914", "tabular": "Pears 1914"}


def test_raised_words_are_raised_once_whatever_parts_their_line() -> None:
    """A line with a tab is laid in pieces, each by the same way as a whole one."""
    for text in ("Pears keep", "1.\tPears keep"):
        plain, raised = (_set(text, tab=length("20pt"), shift=length(by)) for by in ("0pt", "5pt"))
        moved = [a.baseline - b.baseline for a, b in zip(_marks(plain, 0), _marks(raised, 0), strict=True)]
        assert moved and moved == pytest.approx([5.0] * len(moved)), text


def test_small_caps_of_a_face_without_them_are_smaller_capitals() -> None:
    lines = _set((Run(text="so", small_caps=True),), family="Young Serif")
    (mark,) = _marks(lines, 0)
    assert mark.size == pytest.approx(8.0) and "".join(mark.texts) == "SO"


def test_superior_and_inferior_figures_are_smaller_and_stand_off_the_baseline() -> None:
    lines = _set((Run(text="m"), Run(text="2", rise="superior"), Run(text=" H"), Run(text="2", rise="inferior")))
    marks = _marks(lines, 0)
    up = next(m for m in marks if m.baseline < 0)
    down = next(m for m in marks if m.baseline > 0)
    assert up.size == pytest.approx(10 * RISEN_SCALE) and up.baseline == pytest.approx(-10 * SUPERIOR_EMS)
    assert "".join(up.texts) == "2" == "".join(down.texts)
    assert "".join("".join(m.texts) for m in marks) == "m2 H2"


def test_words_take_an_ink_of_their_own() -> None:
    lines = _set((Run(text="The "), Run(text="red", ink="russet"), Run(text=" gate")))
    red = Tone(0, 1, 1, 0)
    marks = line_marks(lines, 0, 0, 0, BLACK, from_block("b"), lambda name: red if name == "russet" else BLACK)
    assert ["".join(m.texts).strip() for m in marks if m.colour == red] == ["red"]


def test_leaders_end_under_one_another_and_say_nothing() -> None:
    tails = []
    for words in ("\tApples\t12", "\tA longer entry than that\t140"):
        lines = _set(words, 200.0, leader=".", tab=length("0pt"), align="left")
        marks = line_marks(lines, 0, 0, 0, BLACK, from_block("b"))
        dots = next(m for m in marks if set(m.texts) == {""})
        tails.append(dots)
        assert "".join("".join(m.texts) for m in marks).replace(" ", "") == words.replace("\t", "").replace(" ", "")
        assert len(dots.xs) > 8 and np.diff(dots.xs) == pytest.approx(np.diff(dots.xs)[0])
    number = _set("\tx\t12", 200.0, leader=".", align="left")
    last = line_marks(number, 0, 0, 0, BLACK, from_block("b"))[-1]
    assert _advance_of(last, number) == pytest.approx(200.0, abs=0.01)


def _advance_of(mark: Glyphs, lines: Lines) -> float:
    shaped = lines.style.face.shape("".join(mark.texts), lines.style.setting.features)
    return float(mark.xs[0]) + mark.size * shaped.width


# Reading leftwards -------------------------------------------------------------------------------

HEBREW = "הפרדס שומר על לוח השנה שלו ואיש אינו שוכח את הכפור של חודש שבט ואת הסולמות הארוכים שליד השער"


def _hebrew(text: str, measure: float = 160.0, **role: object) -> Lines:
    return _set(text, measure, "he_IL", family="Frank Ruhl Libre", figures="", hyphenate=False, **role)


def test_hebrew_is_set_from_the_right() -> None:
    assert reads_leftwards("he_IL") and reads_leftwards("ar") and not reads_leftwards("en_GB")
    lines = _hebrew(HEBREW * 3)
    assert lines.count > 4
    for line in range(lines.count):
        marks = _marks(lines, line)
        right = max(_right_end(m, lines) for m in marks)
        assert right == pytest.approx(160.0, abs=0.05)
        left = min(float(m.xs.min()) for m in marks)
        if line < lines.count - 1:
            assert left == pytest.approx(0.0, abs=0.6)
        else:
            assert left > 1
    first = HEBREW.split()[0]
    said = "".join("".join(m.texts) for m in _marks(lines, 0))
    assert said.split()[-1] == first[::-1] or first in said.split()[-1]


def _right_end(mark: Glyphs, lines: Lines) -> float:
    advances = [lines.style.face.shape(text).width if text.strip() else 0.0 for text in mark.texts]
    return max(float(x) + mark.size * a for x, a in zip(mark.xs, advances, strict=True))


def test_words_and_numbers_that_read_rightwards_keep_their_order_in_hebrew() -> None:
    lines = _hebrew("שנת 1914 החדשה The Pruning Year ועוד", 400.0, align="left")
    words = "".join("".join(m.texts) for m in _marks(lines, 0)).split()
    places = {word: i for i, word in enumerate(words)}
    assert places["The"] < places["Pruning"] < places["Year"]
    assert places["1914"] > places["Year"]  # it comes earlier in reading, so it stands further right


def test_marks_over_letters_are_placed_by_the_face() -> None:
    lines = _hebrew("שָׁלוֹם", align="left")
    assert len({m.baseline for m in _marks(lines, 0)}) >= 1
    assert "".join("".join(m.texts) for m in _marks(lines, 0)).strip() != ""


@settings(max_examples=40, deadline=None)
@given(st.lists(st.sampled_from(["שלום", "גן", "1914", "Graft", "תפוח", "x"]), min_size=1, max_size=12))
def test_every_word_of_a_leftward_line_is_seen_once(words: list[str]) -> None:
    lines = _hebrew(" ".join(words), 2000.0, align="left")
    said = "".join("".join(m.texts) for m in _marks(lines, 0)).split()
    assert sorted("".join(sorted(w)) for w in said) == sorted("".join(sorted(w)) for w in words)


# Paragraphs and pages ----------------------------------------------------------------------------


def test_a_paragraph_of_another_language_is_hyphenated_in_it() -> None:
    word = "Baumschulgärtnerei"
    german = COMPOSER.lines(
        LineRequest(
            Paragraph(role="body", runs=(Run(text=f"die {word} " * 8),)), style_of(BODY, "de_DE"), (64.0,), False
        )
    )
    english = _set(f"die {word} " * 8, 64.0)
    assert german.bounds != english.bounds


def test_looseness_asks_for_a_line_more_or_fewer() -> None:
    def count(looseness: int) -> int:
        paragraph = Paragraph(role="body", runs=(Run(text=TEXT * 3),), looseness=looseness)
        return COMPOSER.lines(LineRequest(paragraph, style_of(BODY, "en_GB"), (170.0,), False)).count

    assert count(1) == count(0) + 1
    assert count(-1) in (count(0), count(0) - 1)


def _columns(lines: int, count: int = 14) -> list[Column]:
    return [Column(f"b{i}", Rect(0, 0, 92.0, 900), 10.0, lines, page=i + 1) for i in range(count)]


@pytest.mark.parametrize("lines", range(5, 12))
def test_no_word_is_hyphenated_from_one_page_to_another(lines: int) -> None:
    story = Story(id="s", title="S", paragraphs=tuple(Paragraph(role="body", runs=(Run(text=TEXT * 3),)) for _ in "ab"))
    result = flow(COMPOSER, story, lambda _: BODY, _columns(lines), 13.0)
    ends = [chunk for chunk in result.chunks if chunk.end < chunk.lines.count]
    assert len(ends) > 4
    assert not any(chunk.lines.ends_in_hyphen(chunk.end - 1) for chunk in ends)
    one_page = [Column(c.block, c.rect, c.first_baseline, c.lines, page=1) for c in _columns(lines)]
    free = flow(COMPOSER, story, lambda _: BODY, one_page, 13.0)
    assert sum(c.lines.ends_in_hyphen(c.end - 1) for c in free.chunks if c.end < c.lines.count) >= 0


def test_space_after_and_lines_kept_together() -> None:
    roles = {"body": BODY, "list": replace(BODY, name="list", after=2, keep_together=True)}
    paragraphs = tuple(
        Paragraph(role=role, runs=(Run(text=text),)) for role, text in (("list", TEXT), ("body", TEXT), ("list", TEXT))
    )
    story = Story(id="s", title="S", paragraphs=paragraphs)
    columns = [Column(f"b{i}", Rect(0, 0, 170.0, 900), 10.0, 16) for i in range(3)]
    result = flow(COMPOSER, story, roles.__getitem__, columns, 13.0)
    first, second = result.chunks[0], result.chunks[1]
    assert second.at == first.end + 2
    whole = [c for c in result.chunks if c.lines.paragraph.role == "list"]
    assert all(c.end - c.start == c.lines.count for c in whole)


@settings(max_examples=30, deadline=None)
@given(st.lists(st.tuples(st.floats(50, 200), st.floats(0, 60)), min_size=12, max_size=40), st.integers(1, 3))
def test_lines_are_set_for_the_very_slots_they_stand_in(places: list[tuple[float, float]], count: int) -> None:
    slots = tuple(Slot(i, left, width) for i, (width, left) in enumerate(places))
    column = Column("b", Rect(0, 0, 260, 900), 10.0, len(slots), 1, slots, True)
    story = Story(
        id="s", title="S", paragraphs=tuple(Paragraph(role="body", runs=(Run(text=TEXT),)) for _ in range(count))
    )
    result = flow(COMPOSER, story, lambda _: BODY, [column], 13.0)
    for chunk in result.chunks:
        for line in range(chunk.start, chunk.end):
            slot = column.slot(chunk.at + line - chunk.start)
            assert chunk.lines.measure(line) == pytest.approx(slot.width)
            assert chunk.lines.left(line) == pytest.approx(slot.left)


def test_what_a_composer_keeps_is_bounded_by_what_it_takes(monkeypatch: pytest.MonkeyPatch) -> None:
    """A job whose measures change again and again does not fill the memory with lines it will not ask for."""
    from half_fold.core.typesetting.lines import composer as module

    monkeypatch.setattr(module, "KEPT_OCTETS", 400_000)
    composer, style = Composer(), style_of(Role(name="body", label="Body"), "en_GB")
    paragraphs = [Paragraph(role="body", runs=(Run(text=f"{n} hedges and ditches " * 6),)) for n in range(20)]
    for measure in range(100, 180):
        wanted = [LineRequest(paragraph, style, (float(measure),), False) for paragraph in paragraphs]
        composer.prepare(wanted)
        assert [composer.lines(each).count for each in wanted]
        assert composer._lines.octets == sum(module._octets(lines) for _, lines in composer._lines.items()) <= 400_000
    assert len(composer._lines) < 140 and composer._tokens.octets <= 400_000


def test_a_word_of_very_many_dashes_is_parted_at_some_of_them() -> None:
    from half_fold.core.typesetting.lines.tokens import MOST_BREAKS, TokenSetting, TokenTable

    table = TokenTable(TokenSetting("EB Garamond", "Regular", hyphenate=False))
    assert len(table.breaks_of(table.plain["ab-" * 300])) <= MOST_BREAKS + 1
    assert len(table.breaks_of(table.plain["ab-" * 20])) == 20
    assert len(table.breaks_of(table.plain["ab-" * 4000])) == 1
