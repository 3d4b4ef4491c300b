"""Drop caps: letters as deep as some lines, solved so that their tops and feet stand on those lines."""

from msgspec import Struct

from half_fold.core.publication.records import Paragraph
from half_fold.core.typesetting.faces.faces import face, face_key
from half_fold.core.typesetting.faces.words import Piece
from half_fold.core.typesetting.lines.lit import kept_light
from half_fold.core.typesetting.lines.openings import initials
from half_fold.core.typesetting.lines.roles import Style

GAP_EMS = 0.22


class Drop(Struct, frozen=True):
    """The letters, their size in points, how deep they stand, and the room they take from each of those lines.

    Of that room ``gap`` is left between them and the lines.

    ``shift`` (points) is taken off at the left, so that the stem and not its bearing stands on the edge.
    """

    piece: Piece
    face: str
    size: float
    lines: int
    takes: float
    shift: float
    gap: float


def drop_for(paragraph: Paragraph, style: Style, lines: int, pitch: float) -> Drop | None:
    """The drop cap of a paragraph over ``lines`` lines ``pitch`` points apart; None where there is nothing to drop.

    Its cap height is (lines - 1) x pitch + the cap height of the text; its size that over the face's cap height.
    """
    text = initials(paragraph.text, style.drop_letters)
    if lines < 2 or not text.strip():
        return None
    run = paragraph.runs[0]
    key = face_key(style.setting.family, style.setting.style, run.bold, run.italic)
    drawn = face(key)
    height = (lines - 1) * pitch + style.face.cap_height * style.size
    size = height / drawn.cap_height
    shaped = drawn.shape(text)
    inks = [drawn.ink_of(gid) for gid in shaped.glyphs]
    pens = [sum(shaped.advances[:i]) for i in range(len(inks))]
    bearing = inks[0][0] if inks else 0.0
    right = max((pen + ink[2] for pen, ink in zip(pens, inks, strict=True)), default=shaped.width)
    gap = GAP_EMS * style.size
    takes = (right - bearing) * size + gap
    piece = Piece(text, run.bold, run.italic, ink=run.ink, light=kept_light(run))
    return Drop(piece, key, size, lines, takes, bearing * size, gap)
