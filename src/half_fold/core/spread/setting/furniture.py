"""Furniture: folios, heads, feet, rules and pictures that repeat round the text area of a master's pages."""

from collections import defaultdict
from collections.abc import Callable
from typing import assert_never

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.drawing.marks import Glyphs, Line, Origin, PictureMark, Shape
from half_fold.core.grid.frame import PageFrame
from half_fold.core.inks.tones import ink, ink_of_role
from half_fold.core.measure.kept import Keeper
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.sections import folio_of, section_of
from half_fold.core.publication.records import Furniture, HoldsStory, Master, Paragraph, Publication, Run
from half_fold.core.publication.surgery import picture_of, role_named, story_of
from half_fold.core.spread.where.filled import fill_words
from half_fold.core.typesetting.lines.composer import Composer
from half_fold.core.typesetting.lines.roles import Style, style_of
from half_fold.core.typesetting.marks.unbroken import Unbroken, unbroken

FURNITURE = Origin("furniture")
KEPT_LINES = 4000
GAP_EMS = 1.4
HANGS_EMS = 0.25  # how far letters hang under their baseline


class PlacedPiece(Struct, frozen=True):
    """A piece of furniture on a page: its marks, and the box round them in points of spread space."""

    piece: Furniture
    marks: tuple[Glyphs | Line | PictureMark | Shape, ...]
    box: Rect


class Furnisher:
    """Sets furniture; keeps the lines it made. ``chapter_of`` gives the words of the chapter on a page."""

    def __init__(self, composer: Composer, chapter_of: Callable[[Publication, int], str]) -> None:
        self._composer, self._chapter_of = composer, chapter_of
        self._lines: Keeper[Unbroken] = Keeper(KEPT_LINES)

    def _line(self, role: str, text: str, style: Style) -> Unbroken:
        paragraph = Paragraph(role=role, runs=(Run(text=text),))
        return self._lines.of((style, text), lambda: unbroken(self._composer, paragraph, style))

    def pieces(
        self, publication: Publication, master: Master, frame: PageFrame, number: int, every: bool = False
    ) -> list[PlacedPiece]:
        """The furniture of page ``number``; pieces of one line and side follow one another from that side.

        ``every`` shows what the page hides too, as the master has it, and as typed what has nothing to say there.
        """
        hidden = () if every else publication.pages[number - 1].without
        used: dict[tuple[str, str, float], float] = defaultdict(float)
        out = []
        for piece in master.furniture:
            if piece.id in hidden or not _is_on(piece, frame):
                continue
            if piece.kind == "words":
                row = piece.at, piece.side, piece.lines
                placed = self._words(publication, piece, frame, number, used[row], every)
                if placed is not None:
                    gap = GAP_EMS * role_named(publication, piece.role).size.pt
                    used[row] += placed.box.width + gap
                    out.append(placed)
            elif piece.kind == "rule":
                out.append(_rule(publication, piece, frame))
            elif piece.kind == "picture":
                out.append(_picture(publication, piece, frame))
            elif piece.kind == "frame":
                out.append(_frame(publication, piece, frame))
            else:
                assert_never(piece.kind)
        return out

    def _words(
        self, publication: Publication, piece: Furniture, frame: PageFrame, number: int, used: float, every: bool
    ) -> PlacedPiece | None:
        pattern = piece.words
        if "{chapter}" in pattern:
            pattern = pattern.replace("{chapter}", self._chapter_of(publication, number))
        words = fill_furniture(publication, pattern, number) or (piece.words if every else "")
        if not words:
            return None
        role = role_named(publication, piece.role)
        style = style_of(role, publication.language, None, "left")
        line = self._line(piece.role, words, style)
        width = line.width
        left = _left(piece, frame, width, used)
        baseline = piece_baseline(frame, piece)
        marks = line.marks(left, baseline, ink_of_role(publication, role), FURNITURE)
        top = baseline - style.face.cap_height * style.size
        return PlacedPiece(piece, tuple(marks), Rect(left, top, left + width, baseline + HANGS_EMS * style.size))


def _is_on(piece: Furniture, frame: PageFrame) -> bool:
    return piece.pages == "both" or (piece.pages == "right") == frame.on_right


def _left(piece: Furniture, frame: PageFrame, width: float, used: float) -> float:
    """Where a piece ``width`` wide begins, after what of its row is ``used``."""
    area = frame.area
    if piece.side == "centre":
        return area.centre[0] - width / 2 + used
    at_right = frame.on_right == (piece.side == "outside")
    return area.right - used - width if at_right else area.left + used


def piece_baseline(frame: PageFrame, piece: Furniture) -> float:
    """As many steps from the text area as it asks, drawn up where the margin has no room for that."""
    base, away = frame.baselines, piece.lines * frame.baselines.step
    if piece.at == "foot":
        return min(frame.area.bottom + away, (frame.area.bottom + frame.trim.bottom) / 2 + base.cap / 2)
    return max(frame.area.top - away, (frame.area.top + frame.trim.top) / 2 + base.cap / 2)


def moved_to(piece: Furniture, frame: PageFrame, x: float, y: float) -> Furniture:
    """The piece on the half line and the third of the width that a place (points of spread space) is in."""
    area = frame.area
    is_head = y < area.centre[1]
    away = (area.top - y) if is_head else (y - area.bottom)
    third = min(2, max(0, int(3 * (x - area.left) / area.width)))
    sides = ("inside", "centre", "outside") if frame.on_right else ("outside", "centre", "inside")
    lines = max(0.0, round(2 * away / frame.baselines.step) / 2)
    return replace(piece, at="head" if is_head else "foot", lines=lines, side=sides[third])


def fill_furniture(publication: Publication, pattern: str, number: int) -> str:
    """The words of a piece on page ``number``, with all it picks up filled in."""
    if "{folio}" in pattern:
        pattern = pattern.replace("{folio}", folio_of(publication, number))
    if "{section}" in pattern:
        section = section_of(publication, number)
        pattern = pattern.replace("{section}", section.name if section is not None else "")
    if "{story}" in pattern:
        pattern = pattern.replace("{story}", story_title(publication, number))
    return " ".join(fill_words(publication, pattern).split())


def story_title(publication: Publication, number: int) -> str:
    """The title of the first story on a page, or ""."""
    holds = (block.holds for block in publication.pages[number - 1].blocks)
    return next((story_of(publication, each.story).title for each in holds if isinstance(each, HoldsStory)), "")


def _rule(publication: Publication, piece: Furniture, frame: PageFrame) -> PlacedPiece:
    y, weight = piece_baseline(frame, piece), piece.weight.pt
    left, right = frame.area.left, frame.area.right
    outer_left, outer_right = (
        (frame.trim.left, frame.trim.right + frame.bleed)
        if frame.on_right
        else (frame.trim.left - frame.bleed, frame.trim.right)
    )
    if piece.over == "page":
        left, right = outer_left, outer_right
    elif piece.over == "outside":
        left, right = (left, outer_right) if frame.on_right else (outer_left, right)
    line = Line((left, y), (right, y), ink(publication, piece.ink), weight, FURNITURE)
    return PlacedPiece(piece, (line,), Rect(left, y - weight / 2, right, y + weight / 2))


def _picture(publication: Publication, piece: Furniture, frame: PageFrame) -> PlacedPiece:
    picture = picture_of(publication, piece.picture)
    width = piece.width.pt
    left, foot = _left(piece, frame, width, 0.0), piece_baseline(frame, piece)
    box = Rect(left, foot - width * picture.height / picture.width, left + width, foot)
    return PlacedPiece(piece, (PictureMark(picture.id, box, box, FURNITURE),), box)


def _frame(publication: Publication, piece: Furniture, frame: PageFrame) -> PlacedPiece:
    """A rule round the page; with margins of twice its distance and its weight it stands midway to the text."""
    box = frame.trim.grown(-piece.width.pt)
    shape = Shape(box, None, ink(publication, piece.ink), piece.weight.pt, FURNITURE)
    return PlacedPiece(piece, (shape,), box)


def room_fault(publication: Publication, piece: Furniture, frame: PageFrame) -> str:
    """Why a piece cannot stand where it asks to, or ''."""
    if piece.kind == "frame":
        inner = frame.trim.grown(-piece.width.pt - piece.weight.pt)
        return (
            "" if inner.clipped(frame.area) == frame.area else "It would run through the text; set it nearer the trim."
        )
    step, size = frame.baselines.step, role_named(publication, piece.role).size.pt
    cap = style_of(role_named(publication, piece.role), publication.language).face.cap_height * size
    high = {"words": cap, "rule": piece.weight.pt / 2, "picture": piece.width.pt}[piece.kind]
    if piece.kind == "picture" and piece.picture:
        picture = picture_of(publication, piece.picture)
        high = piece.width.pt * picture.height / picture.width
    deep = {"words": HANGS_EMS * size, "rule": piece.weight.pt / 2, "picture": 0.0}[piece.kind]
    least = (high if piece.at == "foot" else deep) / step
    if piece.lines < least - 1e-6:
        return f"It would stand in the text; keep it {least:.2g} lines or more away."
    return ""
