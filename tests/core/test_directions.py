"""Which way text reads, held against another hand's reading of Unicode's algorithm, and what stands in for letters."""

import re
from pathlib import Path

import numpy as np
import pytest
from bidi import get_display
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.checks.finding import summary
from half_fold.core.checks.run import check
from half_fold.core.drawing.marks import (
    UNSAID,
    Glyphs,
    from_block,
)
from half_fold.core.drawing.tone import BLACK
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.settings import set_value
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import HoldsDisplay, Paragraph, Publication, Role, Run
from half_fold.core.publication.surgery import role_named, with_page
from half_fold.core.spread.edits.placing import add_story, place_story
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.typesetting.faces.directions import (
    as_read,
    begins_right,
    has_turns,
    in_sight_order,
    language_of,
    levels_of,
)
from half_fold.core.typesetting.lines.composer import Composer, LineRequest, Lines
from half_fold.core.typesetting.lines.roles import style_of
from half_fold.core.typesetting.marks.line_marks import line_marks
from half_fold.core.typesetting.marks.unbroken import unbroken
from half_fold.core.typesetting.sheet.sheet import set_role, with_fallback
from tests.blocks import block_over

ROLE = Role(name="body", label="Body", align="left", fallback="Hebrew: Frank Ruhl Libre, Arabic: Amiri")
BRACKETS = str.maketrans("()[]{}<>", "        ")


def _lines(text: str, language: str, measure: float = 1e5, runs: tuple[Run, ...] = ()) -> Lines:
    paragraph = Paragraph(role="body", runs=runs or (Run(text=text),))
    return Composer().lines(LineRequest(paragraph, style_of(ROLE, language), (measure,), False))


def _seen(marks: list[Glyphs]) -> str:
    """What marks say from left to right, brackets aside: a face may have one glyph for either way they turn."""
    glyphs = [(x, said) for mark in marks for x, said in zip(mark.xs.tolist(), mark.texts, strict=True)]
    return "".join(said for _, said in sorted(glyphs, key=lambda each: each[0])).translate(BRACKETS)


def _wanted(text: str, leftwards: bool) -> str:
    return str(get_display(text, base_dir="R" if leftwards else "L")).translate(BRACKETS)


MIXED = [
    ("שלום 14/3/2027 (abc) עולם [1948], סוף.", "he_IL"),
    ("עמ' 12-14, +3% ו־₪50 – סוף", "he_IL"),
    ("שבט 1914 – 1918 (וגם 1948) סוף", "he_IL"),
    ("The word שלום עולם (peace, world) stands 12 times", "en_GB"),
    ("Whip, saw and הסכין (2027), no more", "en_GB"),
    ("שלום abc def עולם", "en_GB"),
]


@pytest.mark.parametrize(("text", "language"), MIXED)
def test_a_line_is_seen_as_the_algorithm_says(text: str, language: str) -> None:
    wanted = _wanted(text, begins_right(text, language))
    assert _seen(line_marks(_lines(text, language), 0, 0.0, 0.0, BLACK, from_block("b"))) == wanted
    paragraph = Paragraph(role="body", runs=(Run(text=text),))
    assert (
        _seen(unbroken(Composer(), paragraph, style_of(ROLE, language)).marks(0.0, 0.0, BLACK, from_block("b")))
        == wanted
    )


@settings(max_examples=150, deadline=None)
@given(
    st.lists(
        st.sampled_from(
            ["שלום", "עולם,", "abc", "def.", "12", "3/4", "-5%", "1948", "(", "אב)", "₪7", "a1", "ב2", "!"]
        ),
        min_size=1,
        max_size=9,
    ),
    st.sampled_from(["he_IL", "en_GB"]),
    st.integers(0, 40),
)
def test_any_mixture_of_words_in_any_styles_is_seen_as_the_algorithm_says(
    words: list[str], language: str, cut: int
) -> None:
    text = " ".join(words)
    runs = tuple(run for run in (Run(text=text[:cut]), Run(text=text[cut:], bold=True)) if run.text)
    found = _seen(line_marks(_lines(text, language, runs=runs), 0, 0.0, 0.0, BLACK, from_block("b")))
    assert found == _wanted(text, begins_right(text, language))


def test_arabic_figures_and_dates_run_to_the_right() -> None:
    (marks,) = line_marks(_lines("منذ", "ar"), 0, 0.0, 0.0, BLACK, from_block("b"))
    assert marks.face.startswith("Amiri")
    seen = _seen(line_marks(_lines("سنة ١٩٤٨ أو 14/3/2027", "ar"), 0, 0.0, 0.0, BLACK, from_block("b")))
    assert "١٩٤٨" in seen and "14/3/2027" in seen and seen.index("14/3/2027") < seen.index("١٩٤٨")


def test_the_second_rule_of_lines_by_hand() -> None:
    """UAX 9, L2, its own example: car is THE CAR in arabic, levels 0 and 1, with a number at level 2."""
    assert in_sight_order([0, 1, 2, 1, 0]) == [0, 3, 2, 1, 4]
    assert in_sight_order([1, 1, 2, 2, 1]) == [4, 2, 3, 1, 0]
    assert in_sight_order([]) == []
    assert levels_of("אב 12", "he_IL") == (1, 1, 1, 2, 2)
    assert levels_of("ab גד", "en_GB") == (0, 0, 0, 1, 1)


def test_lines_that_begin_at_the_right_end_at_their_measure() -> None:
    lines = _lines("הפרדס שומר על לוח השנה שלו 1948 ואיש אינו שוכח את הכפור של חודש שבט " * 3, "he_IL", 150.0)
    assert lines.count > 3
    for line in range(lines.count):
        marks = line_marks(lines, line, 20.0, 0.0, BLACK, from_block("b"))
        face = style_of(ROLE, "he_IL")
        ends = max(float(mark.xs[-1]) for mark in marks) + face.size
        assert 20.0 + 150.0 < ends < 20.0 + 150.0 + face.size + 0.01


def test_labels_and_tails_and_drop_caps_stand_at_the_right_of_what_reads_from_there() -> None:
    role = replace(ROLE, tab=ROLE.size, drop_lines=0)
    paragraph = Paragraph(role="body", runs=(Run(text="7\tהפרדס שומר\t12"),))
    lines = Composer().lines(LineRequest(paragraph, style_of(role, "he_IL"), (200.0,), False))
    marks = line_marks(lines, 0, 0.0, 0.0, BLACK, from_block("b"))
    seen = _seen(marks).replace(" ", "")
    assert seen.startswith("12") and seen.endswith("7")
    assert max(float(mark.xs[-1]) for mark in marks) > 190
    dropped = replace(ROLE, drop_lines=2)
    words = Paragraph(role="body", runs=(Run(text="הפרדס שומר על לוח השנה שלו ואיש אינו שוכח את הכפור " * 2),))
    lines = Composer().lines(LineRequest(words, style_of(dropped, "he_IL"), (200.0,), False))
    first = line_marks(lines, 0, 0.0, 0.0, BLACK, from_block("b"), pitch=13.0)
    cap = max(first, key=lambda mark: mark.size)
    rest = [mark for mark in first if mark is not cap]
    assert cap.xs[0] > max(float(mark.xs.max()) for mark in rest) and cap.xs[0] < 200
    assert min(float(mark.xs.min()) for mark in rest) >= -0.01


def test_a_date_is_not_parted_and_a_slash_between_words_may_be() -> None:
    from half_fold.core.typesetting.lines.tokens import TokenSetting, TokenTable

    table = TokenTable(TokenSetting("EB Garamond", "Regular"))
    breaks = lambda word: [at for _, _, _, at in table.breaks_of(table.plain[word]) if at >= 0]  # noqa: E731
    assert breaks("14/3/2027") == [] and breaks("2027-03-14") == []
    assert breaks("and/or") == [4] and breaks("1914–1918") == [5]


def test_a_text_that_reads_from_the_other_side_is_told_by_its_letters(magazine: Publication) -> None:
    assert language_of("שלום עולם abc", "en_GB") == "he_IL" and language_of("سلام", "en_GB") == "ar"
    assert language_of("Hello שלום all", "en_GB") == "en_GB" and language_of("hello", "he_IL") == "he_IL"
    made, story = add_story(magazine, "x", (Paragraph(role="body", runs=(Run(text="שלום עולם"),)),))
    assert made.stories[-1].language == "he_IL" and story == made.stories[-1].id


def test_a_copy_bound_against_its_reading_is_a_finding_with_its_fix() -> None:
    job = set_value(start("magazine", "x"), "language", "he")
    (found,) = [f for f in check(job, Setter(), None) if f.rule == "bound against reading"]
    assert found.fix is not None and found.fix.edit(job).brief.right_bound
    assert not [f for f in check(found.fix.edit(job), Setter(), None) if f.rule == found.rule]
    manga = set_value(set_value(start("book", "x"), "language", "ja_JP"), "bound", "right")
    assert not [f for f in check(manga, Setter(), None) if f.rule == found.rule]


# What the face has not got ---------------------------------------------------------------------------------


def _shown(text: str, family: str = "Young Serif") -> Publication:
    job = set_role(start("magazine", "x"), "headline", "family", family)
    block = block_over("b1", HoldsDisplay(paragraphs=(Paragraph(role="headline", runs=(Run(text=text),)),)))
    return with_page(job, replace(job.pages[2], things=(block,)))


@pytest.mark.parametrize(
    ("text", "named"),
    [
        ("हिम", ["हि", "म"]),  # a base with its mark, whole
        ("a\u0489b", ["a\u0489"]),  # a mark the face has not got, on a letter that it has
        ("👩‍🌾", ["👩\u200d🌾"]),  # letters joined to one sign
        ("x葉y", ["葉"]),
    ],
)
def test_what_is_drawn_together_is_named_together(text: str, named: list[str]) -> None:
    (found,) = [f for f in check(_shown(text), Setter(), None) if f.rule == "missing glyph"]
    for each in named:
        assert f"“{each}”" in found.message
    assert found.stops_press and f"{len(named)} letter" in found.why


def test_signs_that_only_choose_a_form_are_not_missing() -> None:
    assert not [f for f in check(_shown("a\ufe0eb\u200cc\u2060d"), Setter(), None) if f.rule == "missing glyph"]


def test_all_that_a_block_lacks_is_counted_beyond_its_first_line() -> None:
    text = "ab 葉 cd\u2003" + " ".join("木水火土金風雨雪")
    job, _ = place_story(start("book", "x"), Setter(), "x", (Paragraph(role="body", runs=(Run(text=text * 4),)),))
    (found,) = [f for f in check(job, Setter(), None) if f.rule == "missing glyph"]
    assert "and 4 more" in found.message and "9 letters" in found.why


def test_what_a_long_story_lacks_is_one_finding_at_its_first_page() -> None:
    paragraphs = tuple(Paragraph(role="body", runs=(Run(text="木 and more words " * 200),)) for _ in range(12))
    job, story = place_story(start("book", "x"), Setter(), "x", paragraphs)
    pages = [c.page for c in Setter().threads.flow(job, story).columns]
    assert len(set(pages)) > 5
    (found,) = [f for f in check(job, Setter(), None) if f.rule == "missing glyph"]
    assert found.page == min(pages)


def test_furniture_and_spine_are_looked_at_too() -> None:
    job = start("book", "葉書")
    places = {f.place or f.where for f in check(job, Setter(), None) if f.rule == "missing glyph"}
    assert "spine" in places


@pytest.mark.parametrize(
    ("language", "text"),
    [
        ("ar", "البستان في الشتاء"),
        ("he_IL", "גן הפרי 1948, מאת רות כהן"),
        ("he_IL", "שלום Graftwood Pippin שלום"),
        ("ar", "سنة ١٩٤٨ و 14/3/2027 هنا"),
        ("en_GB", "The word שלום עולם stands here, 12 times"),
        ("en_GB", "Graftwood, no. 14"),
    ],
)
def test_words_are_named_as_they_are_read(language: str, text: str) -> None:
    """What lies from left to right on a line is turned back: a masthead was named “ناتسبلا” in its trial."""
    style = style_of(role_named(start("magazine", "Named"), "body"), language)
    line = unbroken(Composer(), Paragraph(role="body", runs=(Run(text=text),)), style)
    marks = sorted(line.marks(0, 0, BLACK, UNSAID), key=lambda mark: float(mark.xs[0]))
    assert as_read([text for mark in marks for text in mark.texts]) == text


@given(st.text("abאבגدذ 12.,(", max_size=14))
def test_nothing_is_lost_where_words_are_named(text: str) -> None:
    assert sorted(as_read(list(text))) == sorted(text)
    if not has_turns(text):
        assert as_read(list(text)) == text


def test_a_face_stands_in_by_script_and_the_finding_offers_it() -> None:
    job = _shown("שלום (1948)")
    (found,) = [f for f in check(job, Setter(), None) if f.rule == "missing glyph"]
    assert found.fix is not None and found.fix.words == "Set Hebrew in Frank Ruhl Libre"
    made = found.fix.edit(job)
    found = check(made, Setter(), None)
    assert not [f for f in found if f.rule == "missing glyph"]
    (said,) = [f for f in found if f.rule == "face that stands in"]
    assert said.message == "4 letters of Hebrew in Frank Ruhl Libre" and said.severity == "note"
    assert summary([said]) == "nothing found"
    assert role_named(made, "headline").fallback == role_named(made, "body").fallback == "Hebrew: Frank Ruhl Libre"
    assert with_fallback(made, "Hebrew", "Frank Ruhl Libre") == made


def test_several_scripts_are_mended_one_after_another() -> None:
    job = _shown("גדר and سياج and 藪")
    words = []
    for _ in range(3):
        (found,) = [f for f in check(job, Setter(), None) if f.rule == "missing glyph"]
        if found.fix is None:
            break
        words.append(found.fix.words)
        job = found.fix.edit(job)
    assert sorted(words) == ["Set Arabic in Amiri", "Set Hebrew in Frank Ruhl Libre"]
    assert "“藪”" in found.message and found.fix is None


def test_only_letters_that_are_lacking_are_set_in_what_stands_in() -> None:
    marks = line_marks(_lines("ab שלום (1948) cd", "en_GB"), 0, 0.0, 0.0, BLACK, from_block("b"))
    told = {mark.face.split("/")[0]: "".join(mark.texts) for mark in marks if "".join(mark.texts).strip()}
    assert re.fullmatch(r"[אבגדהוזחטיכלמנסעפצקרשתםןךףץ]+", told["Frank Ruhl Libre"])
    assert all(0 not in mark.gids for mark in marks)
    assert np.all(np.diff([mark.xs[0] for mark in marks]) >= 0)


@pytest.mark.parametrize(
    ("typed", "said"),
    [
        ("Hebrew", "names no script"),
        ("Elvish: Amiri", "no script “Elvish”"),
        ("Hebrew: No", "no family “No”"),
    ],
)
def test_what_cannot_stand_in_is_said(typed: str, said: str) -> None:
    with pytest.raises(Problem, match=said):
        set_role(start("book", "x"), "body", "fallback", typed)
    made = set_role(start("book", "x"), "body", "fallback", " hebrew :Frank Ruhl Libre ,ARABIC: Amiri,")
    assert role_named(made, "body").fallback == "Hebrew: Frank Ruhl Libre, Arabic: Amiri"


def test_arabic_ships_with_its_licence() -> None:
    from half_fold.core.typesetting.faces.faces import face_file

    licence = Path(face_file("Amiri/Regular")).with_name("LICENSE.txt").read_text()
    assert "SIL Open Font License" in licence
