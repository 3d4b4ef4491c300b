"""Spine text: one line along the spine, sized to what the folds leave clear, absent where there is no room.

Reads from head to foot (upright when the copy lies face up), or from foot to head where that is the practice.
"""

from dataclasses import dataclass

from msgspec.structs import replace

from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.compare import spine_text_from
from half_fold.core.brief.spine import spine, spine_text_clear
from half_fold.core.brief.wrap import cover_panels
from half_fold.core.drawing.affine import turned
from half_fold.core.drawing.marks import Glyphs
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import figure
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Paragraph, Publication, Run
from half_fold.core.spread.evened import ink_of, one_line
from half_fold.core.typesetting.composer import Composer

SPINE_TEXT = "spine"
_TRIED = 10.0


@dataclass(frozen=True, slots=True)
class SpineText:
    """The line as set; ``absent`` says why there is none. ``wide`` is the width its ink takes, ``clear`` what it may.

    All in points.
    """

    marks: tuple[Glyphs, ...] = ()
    size: float = 0.0
    solved: float = 0.0
    wide: float = 0.0
    clear: float = 0.0
    long: float = 0.0
    room: float = 0.0
    absent: str = ""


def _absence(publication: Publication) -> str:
    panel = spine(publication)
    if panel is None:
        why = binding_named(publication.brief.binding).no_spine
        return f"{why[:1].upper()}{why[1:]}, so nothing can stand on it."
    own, thinnest = publication.cover.spine_size is not None, spine_text_from(publication)
    if panel.value < thinnest - 1e-9 and not own:
        says = (
            publication.printer.name if publication.printer is not None else "unless the printer's sheet says otherwise"
        )
        return (
            f"A spine of {panel.text} is too thin for words: from {figure(thinnest)} mm they can be held clear of "
            f"the folds, {says if publication.printer is None else f'says {says}'}."
        )
    sheet = publication.printer
    if sheet is not None and len(publication.pages) < sheet.spine_text_pages and not own:
        return f"{sheet.name} prints words on a spine from {sheet.spine_text_pages} pages; this has fewer."
    return "" if publication.cover.spine.strip() else "Nothing is to be said on the spine."


def spine_text(composer: Composer, publication: Publication) -> SpineText:
    """The spine's line in the coordinates of the flat."""
    absent = _absence(publication)
    panel, clear = spine(publication), spine_text_clear(publication)
    if absent or panel is None or clear is None:
        return SpineText(absent=absent)
    cover = publication.cover
    line = _paragraph(cover.spine)
    tried = ink_of(one_line(composer, publication, line, _TRIED, cover.spine_ink))
    if tried.width <= 0:
        return SpineText(absent="Nothing is to be said on the spine.")
    room = cover_panels(publication).height * MM - 2 * cover.grid.head.pt
    solved = _TRIED * min(clear.value * MM / tried.height, room / tried.width)
    size = cover.spine_size.pt if cover.spine_size is not None else solved
    marks = one_line(composer, publication, line, size, cover.spine_ink)
    ink = ink_of(marks)
    turned = _along(marks, ink, panel.value * MM, publication)
    return SpineText(turned, size, solved, ink.height, clear.value * MM, ink.width, room)


def _along(marks: list[Glyphs], ink: Rect, width: float, publication: Publication) -> tuple[Glyphs, ...]:
    """The line turned onto the middle of the spine, starting at the head's margin (or the foot's)."""
    up = publication.cover.reads_up
    head = publication.cover.grid.head.pt
    middle = (ink.top + ink.bottom) / 2
    start = cover_panels(publication).height * MM - head if up else head
    # The line is set with its ink's start and middle on the place it is then turned about.
    about = (width / 2, start)
    turn = turned(about, -90.0 if up else 90.0)
    return tuple(
        replace(mark, xs=mark.xs - ink.left + about[0], baseline=about[1] - middle, block=SPINE_TEXT, turn=turn)
        for mark in marks
    )


_paragraphs: dict[str, Paragraph] = {}


def _paragraph(words: str) -> Paragraph:
    """The line as a paragraph; the same one each time, so that its setting is kept."""
    if words not in _paragraphs:
        _paragraphs.clear()
        _paragraphs[words] = Paragraph(role=SPINE_TEXT, runs=(Run(text=words),))
    return _paragraphs[words]
