"""Stories through columns: every word placed once or counted as over, no widows, lines on the grid."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from half_fold.core.drawing.marks import UNSAID
from half_fold.core.drawing.tone import BLACK
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Paragraph, Run, Story
from half_fold.core.publication.surgery import role_named
from half_fold.core.typesetting.faces.faces import face, face_key, families
from half_fold.core.typesetting.faces.words import SOFT_HYPHEN
from half_fold.core.typesetting.flow.flow import Chunk, Column, Flow, flow
from half_fold.core.typesetting.lines.composer import Composer, LineRequest
from half_fold.core.typesetting.lines.roles import grid_lines, style_of
from half_fold.core.typesetting.marks.line_marks import line_marks, words_on

JOB = start("magazine", "Flow")
COMPOSER = Composer()
TEXT = (
    "The difficulty of the office was that the baffled flies found it efficient, and the afflicted apprentices of the "
    "orchard kept their own calendar of whip-and-tongue grafting through February and the first of the frosts. "
)


def _role(name: str) -> "object":
    return role_named(JOB, name)


def _story(*paragraphs: tuple[str, str]) -> Story:
    return Story(
        id="s", title="S", paragraphs=tuple(Paragraph(role=role, runs=(Run(text=text),)) for role, text in paragraphs)
    )


def _columns(*sizes: tuple[float, int]) -> list[Column]:
    return [Column(f"b{i}", Rect(0, 0, width, 900), 10.0, lines) for i, (width, lines) in enumerate(sizes)]


def _index(story: Story, chunk: Chunk) -> int:
    """Which paragraph of the story a chunk sets."""
    return next(i for i, paragraph in enumerate(story.paragraphs) if paragraph is chunk.lines.paragraph)


def _words(story: Story) -> list[str]:
    return " ".join(p.text for p in story.paragraphs).split()


def _placed_text(result: "object") -> str:
    said = []
    for chunk in result.chunks:  # type: ignore[attr-defined]
        for line in range(chunk.start, chunk.end):
            text = "".join("".join(run.texts) for run in line_marks(chunk.lines, line, 0, 0, BLACK, UNSAID))
            said.append(
                text[:-1] + SOFT_HYPHEN
                if text.endswith(SOFT_HYPHEN)
                else text + (" " if not text.endswith("-") else "")
            )
    return "".join(said).replace(SOFT_HYPHEN, "").strip()


@settings(max_examples=40, deadline=None)
@given(
    st.integers(1, 6),
    st.lists(st.tuples(st.sampled_from([120.0, 170.0, 240.0]), st.integers(1, 14)), min_size=1, max_size=5),
)
def test_every_word_is_placed_or_counted(count: int, sizes: list[tuple[float, int]]) -> None:
    story = _story(*[("body", TEXT)] * count)
    result = flow(COMPOSER, story, _role, _columns(*sizes), 13.0)
    placed = _placed_text(result).split()
    everything = _words(story)
    assert everything[: len(placed) - 1] == placed[:-1]
    assert abs(len(placed) + result.over_words - len(everything)) <= 1
    if not result.over_lines:
        assert placed == everything and result.over_words == 0


@settings(max_examples=40, deadline=None)
@given(st.integers(2, 5), st.lists(st.integers(4, 15), min_size=2, max_size=5))
def test_two_lines_at_least_at_head_and_foot(count: int, lines: list[int]) -> None:
    story = _story(*[("body", TEXT)] * count)
    result = flow(COMPOSER, story, _role, _columns(*[(170.0, n) for n in lines]), 13.0)
    for chunk in result.chunks:
        full = chunk.end - chunk.start == chunk.lines.count
        last_of_all = chunk is result.chunks[-1] and result.over_lines
        assert full or chunk.end - chunk.start >= 2 or last_of_all
    for chunk in result.chunks:
        assert (
            chunk.at >= 0 and chunk.at + (chunk.end - chunk.start - 1) * chunk.step < result.columns[chunk.column].lines
        )


def test_a_heading_is_kept_with_what_follows() -> None:
    story = _story(("body", "One line only."), ("crosshead", "A heading"), ("body", TEXT))
    for room in range(2, 5):
        result = flow(COMPOSER, story, _role, _columns((170.0, room), (170.0, 40)), 13.0)
        heading = next(chunk for chunk in result.chunks if _index(story, chunk) == 1)
        following = next(chunk for chunk in result.chunks if _index(story, chunk) == 2)
        assert heading.column == following.column == 1, room


def test_no_columns_means_all_is_over() -> None:
    result = flow(COMPOSER, _story(("body", TEXT)), _role, [], 13.0)
    assert result.over_words == len(TEXT.split()) and result.over_lines > 0


def test_an_indent_only_after_a_paragraph_of_the_same_role() -> None:
    story = _story(("body", TEXT), ("body", TEXT), ("crosshead", "Next"), ("body", TEXT))
    result = flow(COMPOSER, story, _role, _columns((170.0, 80)), 13.0)
    starts = {
        _index(story, c): line_marks(c.lines, 0, 0, 0, BLACK, UNSAID)[0].xs[0] for c in result.chunks if c.start == 0
    }
    assert (starts[0], starts[3]) == (0, 0) and starts[1] == pytest.approx(10)


def test_justified_lines_end_on_the_measure() -> None:
    role = role_named(JOB, "body")
    lines = COMPOSER.lines(
        LineRequest(Paragraph(role="body", runs=(Run(text=TEXT * 3),)), style_of(role, "en_GB"), (170.0,), False)
    )
    for line in range(lines.count - 1):
        run = line_marks(lines, line, 0, 0, BLACK, UNSAID)[-1]
        shaped = face(run.face).shape(words_on(lines, line)[-1][1][-1].text, ("onum",))
        end = run.xs[-1] + shaped.advances[-1] * run.size
        assert end == pytest.approx(170.0, abs=0.02)


def test_ligatures_stand_for_their_letters() -> None:
    shaped = face("EB Garamond/Regular").shape("office")
    assert "".join(shaped.texts) == "office" and len(shaped.gids) < 6


def test_bold_and_italic_words_take_their_own_faces() -> None:
    paragraph = Paragraph(
        role="body",
        runs=(Run(text="Half"), Run(text="fold", italic=True), Run(text=" and "), Run(text="bold", bold=True)),
    )
    lines = COMPOSER.lines(LineRequest(paragraph, style_of(role_named(JOB, "body"), "en_GB"), (300.0,), False))
    runs = line_marks(lines, 0, 0, 0, BLACK, UNSAID)
    assert "".join("".join(run.texts) for run in runs) == "Halffold and bold"
    assert [run.face.split("/")[1] for run in runs] == ["Regular", "Italic", "Regular", "SemiBold"]


def test_small_caps_are_real_ones() -> None:
    upright, small = face("EB Garamond/Regular").shape("graft"), face("EB Garamond/Regular").shape("graft", ("smcp",))
    assert upright.gids.tolist() != small.gids.tolist() and small.missing == 0


def test_every_shipped_face_can_set_english() -> None:
    for family, styles in families().items():
        for style in styles:
            for bold, italic in ((False, False), (True, False), (False, True), (True, True)):
                shaped = face(face_key(family, style, bold, italic)).shape("Hand “grafting” – £4, 1 ½; naïve?")
                assert shaped.missing == 0, (family, style)


def test_lines_on_the_grid() -> None:
    assert [grid_lines(leading, 13) for leading in (10, 13, 13.2, 19, 26, 41)] == [1, 1, 1, 2, 2, 4]


# Going on from an edit ------------------------------------------------------------------------------


def _said(result: Flow) -> list[tuple[object, ...]]:
    return [(c.column, c.at, c.start, c.end, c.step, id(c.lines.paragraph), c.lines.bounds) for c in result.chunks]


PARAGRAPHS = st.lists(
    st.tuples(st.sampled_from(["body", "body", "body", "crosshead", "quote", "list"]), st.integers(0, 60)), max_size=9
)


def _made(role: str, words: int) -> Paragraph:
    return Paragraph(role=role, runs=(Run(text=" ".join(TEXT.split()[i % 30] for i in range(words))),))


@settings(max_examples=150, deadline=None)
@given(
    PARAGRAPHS,
    st.lists(st.tuples(st.sampled_from([120.0, 170.0]), st.integers(1, 14)), max_size=6),
    st.lists(st.tuples(st.integers(0, 9), st.integers(0, 3), PARAGRAPHS), min_size=1, max_size=4),
)
def test_going_on_from_an_edit_gives_what_setting_all_gives(
    first: list[tuple[str, int]],
    sizes: list[tuple[float, int]],
    edits: list[tuple[int, int, list[tuple[str, int]]]],
) -> None:
    """Any paragraphs taken out and put in, in any place, edit upon edit."""
    columns = tuple(_columns(*sizes))
    story = Story(id="s", title="S", paragraphs=tuple(_made(*p) for p in first))
    now = flow(COMPOSER, story, _role, columns, 13.0)
    for at, out, put in edits:
        kept = story.paragraphs
        story = Story(id="s", title="S", paragraphs=(*kept[:at], *(_made(*p) for p in put[:3]), *kept[at + out :]))
        now = flow(COMPOSER, story, _role, columns, 13.0, now)
        whole = flow(COMPOSER, story, _role, columns, 13.0)
        assert _said(now) == _said(whole) and now.starts == whole.starts
        assert (now.over_lines, now.over_words, now.room, now.used) == (
            whole.over_lines,
            whole.over_words,
            whole.room,
            whole.used,
        )


def test_an_edit_leaves_what_it_does_not_move() -> None:
    """A word changed in the middle of forty paragraphs makes one paragraph's chunks anew."""
    columns = tuple(_columns(*[(170.0, 20)] * 40))
    paragraphs = tuple(_made("body", 40) for _ in range(40))
    before = flow(COMPOSER, Story(id="s", title="S", paragraphs=paragraphs), _role, columns, 13.0)
    changed = Paragraph(role="body", runs=(Run(text=paragraphs[20].text.replace("office", "orchard", 1)),))
    story = Story(id="s", title="S", paragraphs=(*paragraphs[:20], changed, *paragraphs[21:]))
    after = flow(COMPOSER, story, _role, columns, 13.0, before)
    old = set(map(id, before.chunks))
    fresh = [chunk for chunk in after.chunks if id(chunk) not in old]
    assert 1 <= len(fresh) <= 4 and len(after.chunks) == len(before.chunks)
    block = before.columns[before.starts[35].column].block
    assert all(a is b for a, b in zip(before.chunks_of(block), after.chunks_of(block), strict=True))


@settings(max_examples=60, deadline=None)
@given(
    st.lists(st.sampled_from(["body", "crosshead", "body", "lead"]), min_size=1, max_size=7),
    st.lists(st.tuples(st.sampled_from([120.0, 170.0]), st.integers(0, 9)), min_size=2, max_size=6),
    st.integers(1, 5),
)
def test_more_columns_are_filled_as_if_they_had_always_been_there(
    roles: list[str], sizes: list[tuple[float, int]], had: int
) -> None:
    known = {role.name for role in JOB.roles}
    story = _story(
        *[(role if role in known else "body", TEXT if role != "crosshead" else "A heading") for role in roles]
    )
    columns = tuple(_columns(*sizes))
    first = flow(COMPOSER, story, _role, columns[: min(had, len(columns) - 1)], 13.0)
    further, fresh = flow(COMPOSER, story, _role, columns, 13.0, first), flow(COMPOSER, story, _role, columns, 13.0)

    def told(made: Flow) -> object:
        chunks = [(c.column, c.at, c.start, c.end, c.lines.bounds, c.lines.measures) for c in made.chunks]
        return chunks, made.starts, made.over_lines, made.over_words, made.room, made.used

    assert told(further) == told(fresh)


def test_what_stood_stays_where_columns_are_added() -> None:
    story, columns = _story(*[("body", TEXT)] * 30), tuple(_columns(*[(170.0, 20)] * 12))
    first = flow(COMPOSER, story, _role, columns[:4], 13.0)
    further = flow(COMPOSER, story, _role, columns, 13.0, first)
    assert first.over_lines > 0 and further.over_lines < first.over_lines
    stood = len(first.chunks) - 3
    assert all(a is b for a, b in zip(first.chunks[:stood], further.chunks[:stood], strict=True))
