"""The worked numbers of a master's grid and of the type on it."""

from half_fold.core.brief.allowances import fold_loss, trim_height, trim_width
from half_fold.core.grid.frame import baselines_of, page_frame
from half_fold.core.grid.solver import format_fit
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import figure
from half_fold.core.measure.worked import Worked, given, given_length
from half_fold.core.publication.records import Master, Publication
from half_fold.core.publication.surgery import role_named
from half_fold.core.typesetting.lines.frequencies import characters_a_word, language_name
from half_fold.core.typesetting.lines.measure_text import average_width
from half_fold.core.typesetting.lines.roles import style_of


def grid_numbers(publication: Publication, master: Master) -> list[Worked]:
    """Margins, columns, fields and lines of a master, in the order they are read."""
    grid = master.grid
    frame = page_frame(publication, grid, True)
    base = baselines_of(publication)
    typed_inside = given_length(grid.inside, "Inside as typed", edits="grid.inside")
    loss = fold_loss(publication)
    inside = (typed_inside + loss).named("Inside", "grid.inside")
    outside = given_length(grid.outside, "Outside", key="grid.outside", edits="grid.outside")
    head = given_length(grid.head, "Head", key="grid.head", edits="grid.head")
    gutter = given_length(grid.gutter, "Gutter", key="grid.gutter", edits="grid.gutter")
    columns = given(grid.columns, "", "Columns", key="grid.columns", edits="grid.columns", typed=str(grid.columns))
    rows = given(grid.rows, "", "Rows", key="grid.rows", edits="grid.rows", typed=str(grid.rows))
    step = given(base.step / MM, "mm", "Leading", key="grid.leading", how=f"{figure(base.step)} pt, the body's")
    cap = given(base.cap / MM, "mm", "Cap height", how="of the body's face")
    lines = given(
        frame.lines,
        "lines",
        "Lines a column",
        key="grid.lines",
        how=f"from {grid.head.typed} down to {grid.foot.typed} or more, by {figure(base.step)} pt",
    )
    text_height = cap + (lines - given(1, "lines", "")) * step
    area_height = Worked(text_height.value, "mm", "", text_height.how, text_height.parts).named(
        "Text height", "grid.text.height"
    )
    foot = (trim_height(publication) - head - area_height).named("Foot", "grid.foot")
    gaps = given(grid.columns - 1, "", "")
    column = ((trim_width(publication) - inside - outside - gaps * gutter) / columns).named(
        "Column", "grid.column.width"
    )
    row_gap = given(
        grid.row_gap,
        "lines",
        "Between rows",
        key="grid.row_gap",
        edits="grid.row_gap",
        typed=str(grid.row_gap),
        how="empty lines",
    )
    between = (rows - given(1, "", "")) * row_gap
    per_field = Worked(
        frame.lines_per_field,
        "lines",
        "",
        f"({lines.number} − {between.number}) ÷ {rows.number}",
        (lines, rows, row_gap),
    )
    note = format_fit(publication, grid)
    return [
        inside,
        typed_inside,
        outside,
        head,
        foot,
        given_length(grid.foot, "Foot at least", edits="grid.foot"),
        columns,
        gutter,
        column,
        rows,
        row_gap,
        step,
        lines,
        per_field.named("Lines a field", "grid.field.lines", note),
        area_height,
    ]


def extent_numbers(publication: Publication, master: Master, words: int) -> list[Worked]:
    """What a page holds when it is full of text, and how many pages a story of ``words`` words would take.

    An estimate from the average character, for planning; ``Make it fit`` sets the story itself.
    """
    by_key = {number.key: number for number in (*grid_numbers(publication, master), *type_numbers(publication, master))}
    letters, lines = by_key["type.body.characters_per_line"], by_key["grid.lines"]
    columns = given(master.text_columns, "", "Text columns")
    language = publication.language
    each = given(
        characters_a_word(language),
        "",
        "Characters a word",
        how=f"{language_name(language)}, with the space after it",
    )
    story = given(words, "words", "A story of")
    a_page = letters / each * lines * columns
    page = Worked(a_page.value, "words", "", a_page.how, a_page.parts).named("Words a page", "type.page.words")
    made = Worked(
        words / max(1.0, page.value), "pages", "", f"{words} ÷ {figure(page.value, 0)} words a page", (story, page)
    )
    return [story, page, made.named("Pages it takes", "type.story.pages")]


def type_numbers(publication: Publication, master: Master) -> list[Worked]:
    """Text columns of a master and what they hold."""
    by_key = {number.key: number for number in grid_numbers(publication, master)}
    count = given(
        master.text_columns,
        "",
        "Text columns",
        key="type.columns",
        edits="grid.text_columns",
        typed=str(master.text_columns),
    )
    gaps = given(master.text_columns - 1, "", "")
    room = trim_width(publication) - by_key["grid.inside"] - by_key["grid.outside"] - gaps * by_key["grid.gutter"]
    measure = (room / count).named("Measure", "type.body.measure")
    style = style_of(role_named(publication, "body"), publication.language)
    average = given(
        average_width(style) / MM,
        "mm",
        "Average character",
        how=f"{style.setting.family} {style.setting.style} at {figure(style.size)} pt, "
        f"{language_name(publication.language)} letters",
    )
    letters = measure / average
    note = (
        ""
        if 35 <= letters.value <= 75
        else "Running text reads well from 45 to 75 characters a line, 35 in narrow columns."
    )
    characters = Worked(letters.value, "", "", letters.how, letters.parts).named(
        "Characters a line", "type.body.characters_per_line", note
    )
    return [count, measure, characters]
