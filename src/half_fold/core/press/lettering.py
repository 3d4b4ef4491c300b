"""What the program itself writes on sheets: words on one line, in black."""

from msgspec.structs import replace

from half_fold.core.drawing.marks import Glyphs, Origin
from half_fold.core.drawing.tone import BLACK
from half_fold.core.publication.records import Paragraph, Publication, Run
from half_fold.core.spread.setting.evened import one_line
from half_fold.core.typesetting.lines.composer import Composer

ROLE = "cover note"  # which every job has


def lettered(
    composer: Composer, publication: Publication, text: str, size: float, place: tuple[float, float], origin: Origin
) -> list[Glyphs]:
    """Words at ``size`` points, their baseline beginning at that place."""
    line = one_line(composer, publication, Paragraph(role=ROLE, runs=(Run(text=text),)), size, BLACK)
    return [replace(mark, xs=mark.xs + place[0], baseline=mark.baseline + place[1], origin=origin) for mark in line]
