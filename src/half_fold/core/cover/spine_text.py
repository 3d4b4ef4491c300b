"""Spine text: one line along the spine, sized to what the folds leave clear, absent where there is no room.

Reads from head to foot (upright when the copy lies face up), or from foot to head where that is the practice.
"""

from msgspec import Struct

from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.compare import spine_text_from
from half_fold.core.brief.spine import spine, spine_text_clear
from half_fold.core.brief.wrap import cover_panels
from half_fold.core.cover.spine_pieces import SpineRoom, piece_marks, solved_size
from half_fold.core.drawing.marks import Mark
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import format_length
from half_fold.core.publication.records import Publication
from half_fold.core.typesetting.lines.composer import Composer

NOTHING = "Nothing is to be said on the spine."


class SpineText(Struct, frozen=True):
    """The line as set; ``absent`` says why there is none. ``wide`` is the width its ink takes, ``clear`` what it may.

    All in points.
    """

    marks: tuple[Mark, ...] = ()
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
        unit = publication.brief.unit
        return (
            f"A spine of {panel.to(unit).text} is too thin for words: from {format_length(thinnest * MM, unit)} "
            f"they can be held clear of the folds, {says if publication.printer is None else f'says {says}'}."
        )
    sheet = publication.printer
    if sheet is not None and len(publication.pages) < sheet.spine_text_pages and not own:
        return f"{sheet.name} prints words on a spine from {sheet.spine_text_pages} pages; this has fewer."
    cover = publication.cover
    has_words = bool(cover.spine.strip()) or any(piece.words.strip() or piece.picture for piece in cover.pieces)
    return "" if has_words else NOTHING


def spine_text(composer: Composer, publication: Publication) -> SpineText:
    """The spine's line in the coordinates of the flat."""
    absent = _absence(publication)
    panel, clear = spine(publication), spine_text_clear(publication)
    if absent or panel is None or clear is None:
        return SpineText(absent=absent)
    cover = publication.cover
    height, head = cover_panels(publication).height * MM, cover.grid.head.pt
    room = SpineRoom(panel.value * MM, clear.value * MM, head, height - head, cover.reads_up)
    solved = solved_size(composer, publication, room)
    size = cover.spine_size.pt if cover.spine_size is not None else solved
    marks, reach = piece_marks(composer, publication, room, size)
    if not marks:
        return SpineText(absent=NOTHING)
    return SpineText(tuple(marks), size, solved, reach.height, room.clear, reach.width, room.long)
