"""The worked numbers of what is selected on a spread."""

from half_fold.core.apart.sides import panel_called
from half_fold.core.brief.allowances import fold_loss, picture_ppi
from half_fold.core.grid.stops import Edge, describe
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import counted, figure, format_length, format_size, of_unit
from half_fold.core.measure.rect import Axis, Rect
from half_fold.core.measure.worked import Worked, given
from half_fold.core.pictures.library.fit import REFUSED_BELOW, SOFT_BELOW, cropped_away, effective_ppi, placed
from half_fold.core.plan.order import pages_told
from half_fold.core.publication.places import Floating
from half_fold.core.publication.records import Block, HoldsBarcode, HoldsCode, HoldsPicture, Picture, Publication
from half_fold.core.publication.surgery import page_of_block, picture_of, story_of
from half_fold.core.spread.codes.barcode import X_MM, symbol_of
from half_fold.core.spread.codes.code import FAR, QUIET, code_area
from half_fold.core.spread.setting.evened import evened, ink_of
from half_fold.core.spread.setting.goods import from_row
from half_fold.core.spread.setting.threads import Threads, thread
from half_fold.core.spread.where.frames import block_box, frames_of, page_frame_of
from half_fold.core.spread.where.neighbours import gap_before
from half_fold.core.spread.where.reaching import FROM, format_told_from, place_told
from half_fold.core.typesetting.flow.counting import count_words
from half_fold.core.typesetting.lines.composer import Composer


def _reach_words(publication: Publication, number: int, block: Block, low: Edge, high: Edge) -> str:
    if isinstance(block.place, Floating):
        return "its own, whatever becomes of the page"
    frames = frames_of(publication, number)
    start, end = (describe(getattr(block.place, edge), edge, frames) for edge in (low, high))
    return f"{start} to {end}"


def block_numbers(publication: Publication, block: str) -> list[Worked]:
    """Width, height and distance from the fold, each with the stops it runs between."""
    index, _, found = page_of_block(publication, block)
    box = block_box(publication, index + 1, found)
    across = _reach_words(publication, index + 1, found, "left", "right")
    down = _reach_words(publication, index + 1, found, "top", "bottom")
    numbers = [
        given(box.width / MM, "mm", "Width", how=across, edits="width", typed=_typed(publication, box.width)),
        given(box.height / MM, "mm", "Height", how=down, edits="height", typed=_typed(publication, box.height)),
        *_place_numbers(publication, index + 1, found),
        *_beside_numbers(publication, block),
    ]
    if isinstance(found.holds, HoldsPicture):
        numbers += picture_numbers(publication, found.holds, box)
    if page_frame_of(publication, index + 1).has_fold:
        numbers.append(_fold_clearance(publication, index + 1, box))
    return [number.said_in(publication.brief.unit) for number in numbers]


def _place_numbers(publication: Publication, number: int, block: Block) -> list[Worked]:
    """How far across and down the block lies: a held one from the left trim and the head, one that floats as said."""
    frames, floats = frames_of(publication, number), isinstance(block.place, Floating)
    words: tuple[tuple[Axis, str, str], ...] = (
        ("across", "From the left", "its left edge, from the trim"),
        ("down", "From the head", "its upper edge, from the trim"),
    )
    return [
        given(
            (at := place_told(block.place, axis, frames)) / MM,
            "mm",
            _from_words(format_told_from(block.place, axis), axis) if floats else name,
            how="inwards, but from a middle to the right or down" if floats else how,
            edits=axis,
            typed=_typed(publication, at),
        )
        for axis, name, how in words
    ]


def _beside_numbers(publication: Publication, block: str) -> list[Worked]:
    """How far off what lies to its left and above it ends, where anything does."""
    words: tuple[tuple[Axis, str, str], ...] = (("across", "From its left", "beside"), ("down", "From above", "under"))
    gaps = [(name, key, gap_before(publication, block, axis)) for axis, name, key in words]
    return [
        given(gap / MM, "mm", name, how="to what lies there", edits=key, typed=_typed(publication, gap))
        for name, key, gap in gaps
        if gap is not None
    ]


def _from_words(name: str, axis: Axis) -> str:
    words = {each: said for each, said, _, _ in FROM[axis]}.get(name, "from its stop")
    return words[0].upper() + words[1:]


def _typed(publication: Publication, points: float) -> str:
    """A length as it would be typed, in the job's unit, to about a micrometre."""
    return of_unit(points, publication.brief.unit).typed


def stack_numbers(composer: Composer, publication: Publication, block: Block, box: Rect) -> list[Worked]:
    """The size that each line of an evened stack was solved to."""
    inner = box if block.inset is None else box.grown(-block.inset.pt)
    measure = f"its ink from edge to edge of {format_length(inner.width, publication.brief.unit)}"
    lines = evened(composer, publication, block, inner)
    wide = [ink_of(list(line.marks)).width for line in lines]
    short = any(width < inner.width - 0.05 for width in wide)
    how = "all drawn smaller together, to the height of the block" if short else measure
    return [
        given(line.size, "pt", f"Line {index + 1}", how=how if not index else "") for index, line in enumerate(lines)
    ]


def _fold_clearance(publication: Publication, number: int, box: Rect) -> Worked:
    loss, fold = fold_loss(publication), page_frame_of(publication, number).fold
    lost = (
        f"{loss.to(publication.brief.unit).text} of each page is lost there" if loss.value else "nothing is lost in it"
    )
    if box.left < fold - 0.01 and box.right > fold + 0.01:
        return given(0.0, "mm", "From the fold", how=f"crosses it; {lost}")
    away = min(abs(box.left - fold), abs(box.right - fold)) / MM
    if not loss.value:
        return given(away, "mm", "From the fold", how=lost)
    clear, unit = away - loss.value, publication.brief.unit
    words = (
        f"{format_length(clear * MM, unit)} clear of the {loss.to(unit).text} lost in the fold"
        if clear >= 0
        else (f"reaches {format_length(-clear * MM, unit)} into the {loss.to(unit).text} lost in the fold")
    )
    return given(away, "mm", "From the fold", how=words)


def printed_well(publication: Publication, picture: Picture) -> float:
    """How wide a picture prints well, in millimetres."""
    return picture.width / picture_ppi(publication)[0] * 25.4


def picture_numbers(publication: Publication, holds: HoldsPicture, box: Rect) -> list[Worked]:
    """Effective resolution and what the crop takes away."""
    picture = picture_of(publication, holds.picture)
    where = placed(picture, holds, box)
    ppi = effective_ppi(picture, where)
    printed = given(where.width / MM, "mm", "Printed width of the whole picture").said_in(publication.brief.unit)
    note, (good, says) = "", picture_ppi(publication)
    if ppi < good * REFUSED_BELOW:
        note = f"Too few pixels: a printer would refuse under {good * REFUSED_BELOW:.0f} ppi."
    elif ppi < good * SOFT_BELOW:
        note = f"Would print soft: {good:.0f} ppi is asked for, {good * SOFT_BELOW:.0f} just does."
    how = f"{picture.width} px ÷ {printed.text}; {good:.0f} is {says}"
    cut = 100 * cropped_away(where, box, holds.turn)
    focus = (
        f"kept round the focus, {holds.focus_x * 100:.0f} % from the left, {holds.focus_y * 100:.0f} % from the head"
    )
    if picture.art:
        return [printed, Worked(cut, "%", "Cropped away", focus if cut >= 0.5 else "nothing", note="")]
    return [
        Worked(ppi, "ppi", "Resolution", how, (printed,), note=note),
        Worked(cut, "%", "Cropped away", focus if cut >= 0.5 else "nothing", note=""),
    ]


def _where(publication: Publication, pages: list[int]) -> str:
    """On which pages something lies; on which panels, of a side of the cover."""
    if not pages:
        return "not on a page yet"
    panels = [panel_called(publication, number) for number in pages]
    if all(panels):
        return f"on the {' and the '.join(panels)}"
    return f"on {pages_told(pages)}"


def story_numbers(publication: Publication, threads: Threads, story: str) -> list[Worked]:
    """Words, lines, and by how much the story is over or under its blocks."""
    record = story_of(publication, story)
    words = count_words(record.paragraphs)
    flow = threads.flow(publication, story)
    places = thread(publication, story)
    pages = sorted({number for number, _ in places})
    columns = counted(len(flow.columns), "column")
    where = _where(publication, pages)
    numbers = [
        given(words, "words", "Words", how=counted(len(record.paragraphs), "paragraph")),
        given(len(places), "", "Blocks", how=f"{where}, {columns}" if pages else where),
    ]
    if flow.over_lines:
        over = given(
            flow.over_lines,
            "lines",
            "Over",
            how=f"{counted(flow.over_words, 'word')} without a place",
            note="Give it another block, or cut that many words.",
        )
        return [*numbers, over]
    return [
        *numbers,
        given(flow.room, "lines", "Room left", how=f"{flow.used:,} of {counted(flow.used + flow.room, 'line')} filled"),
    ]


def format_barcode(publication: Publication, holds: HoldsBarcode) -> str:
    """How large a code prints, and how wide its narrowest bar is."""
    drawn = symbol_of(holds)
    unit = publication.brief.unit
    size = f"{format_size(drawn.width, drawn.height, unit)} with quiet zones and figures"
    narrowest = X_MM * holds.size / 100 - holds.narrowed / 1000
    return f"{size}; narrowest bar {figure(narrowest, 3)} mm"


def format_code(publication: Publication, block: Block, box: Rect) -> str:
    """How large a block's code prints, how large its modules are, and from how far it is read."""
    holds = from_row(publication, block).holds
    assert isinstance(holds, HoldsCode)
    area, module = code_area(publication, holds, box)
    far, unit = area.width / MM * FAR, publication.brief.unit
    count = round(area.width / module) - 2 * QUIET
    return (
        f"{count} × {count} modules of {format_length(module, unit)}, "
        f"{format_length(area.width, unit)} with its quiet zone; "
        f"read from {figure(far / 1000, 1)} m, ten times its size"
    )
