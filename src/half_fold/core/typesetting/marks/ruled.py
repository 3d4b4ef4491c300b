"""Rules under words and through them, as long as the letters that stand over them."""

from collections.abc import Iterator, Sequence

from half_fold.core.drawing.marks import Glyphs, Origin, Path
from half_fold.core.drawing.outline import rectangle
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Role
from half_fold.core.typesetting.faces.faces import face

UNDER_EMS = 0.14  # from the baseline down to the middle of a rule whose distance is not given
THROUGH = 0.5  # of the height of an x, where words are struck through


def with_rules(marks: Sequence[Glyphs], role: Role, origin: Origin) -> list[Glyphs | Path]:
    """The glyphs of lines between the rules of their role: those under them lie behind, those through them in front."""
    if role.underline is None and role.strike is None:
        return list(marks)
    under: list[Path] = []
    through: list[Path] = []
    for mark in marks:
        if role.underline is not None and role.underline.pt:
            off = UNDER_EMS * mark.size if role.underline_off is None else role.underline_off.pt
            under += _ruled(mark, off, role.underline.pt, origin)
        if role.strike is not None and role.strike.pt:
            through += _ruled(mark, -THROUGH * face(mark.face).x_height * mark.size, role.strike.pt, origin)
    return [*under, *marks, *through]


def _ruled(mark: Glyphs, down: float, weight: float, origin: Origin) -> Iterator[Path]:
    """A rule of a weight, its middle so far under the baseline of a run of glyphs; all in points."""
    drawn = face(mark.face)
    left = float(mark.xs.min())
    right = max(float(x) + drawn.advance(int(gid)) * mark.size for gid, x in zip(mark.gids, mark.xs, strict=True))
    middle = mark.baseline + down
    outline = rectangle(Rect(left, middle - weight / 2, right, middle + weight / 2))
    yield Path(outline if mark.turn is None else outline.through(mark.turn), mark.colour, None, origin)
