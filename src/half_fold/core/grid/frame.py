"""The frame of a page in spread space: trim, text area, fields and baselines, all in points.

Fields are true to the baseline: each begins at the cap height of its first line and ends on a baseline.
Column width = (page width - inside - outside - (n - 1) x gutter) / n; the fold loss is added to the inside.
"""

from msgspec import Struct

from half_fold.core.brief.allowances import fold_loss
from half_fold.core.brief.bindings import binding_named
from half_fold.core.grid.pencil import Pencilled, pencilled
from half_fold.core.measure.entry import MM
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Grid, Publication
from half_fold.core.publication.surgery import role_named
from half_fold.core.typesetting.lines.roles import style_of

BODY = "body"
LEAST_SIZE = 1.0
GUIDES = {"halves": 2, "thirds": 3, "quarters": 4}


class Baselines(Struct, frozen=True):
    """The grid that text stands on: ``step`` is the body's leading, ``cap`` its cap height, in points."""

    step: float
    cap: float


class PageFrame(Struct, frozen=True):
    """One page; where it ``has_fold`` its inner edge is one, else all its edges are trimmed.

    ``columns`` and ``rows`` are (from, to) pairs, ``lines`` counts baselines in the text area.

    ``over`` are the columns of a second count laid over the first; ``guides`` are in how many parts the
    trim is divided; ``pencil`` are the lines drawn on it.
    """

    on_right: bool
    trim: Rect
    area: Rect
    bleed: float
    columns: tuple[tuple[float, float], ...]
    rows: tuple[tuple[float, float], ...]
    baselines: Baselines
    lines: int
    lines_per_field: float
    over: tuple[tuple[float, float], ...] = ()
    guides: tuple[int, ...] = ()
    pencil: tuple[Pencilled, ...] = ()
    has_fold: bool = True

    @property
    def lands(self) -> bool:
        """True where every field holds a whole number of lines."""
        return abs(self.lines_per_field - round(self.lines_per_field)) < 1e-6

    @property
    def fold(self) -> float:
        """Where the page's own fold lies, or would."""
        return self.trim.left if self.on_right else self.trim.right

    def columns_of(self, count: int) -> tuple[tuple[float, float], ...]:
        """The columns of the count they were set against: those laid over, where it is theirs."""
        return self.over if self.over and count == len(self.over) != len(self.columns) else self.columns

    def guide_lines(self) -> tuple[list[float], list[float]]:
        """Where guides cross the page from side to side (x) and from head to foot (y)."""
        shares = sorted({index / parts for parts in self.guides for index in range(1, parts)})
        return (
            [self.trim.left + share * self.trim.width for share in shares],
            [self.trim.top + share * self.trim.height for share in shares],
        )

    def baseline(self, line: int) -> float:
        """Where the baseline of a line (from 0) lies, in points from the head."""
        return self.area.top + self.baselines.cap + line * self.baselines.step

    @property
    def bleed_box(self) -> Rect:
        """The page with bleed on all sides, the fold's included."""
        return self.trim.grown(self.bleed)


def baselines_of(publication: Publication) -> Baselines:
    """Step and cap height of the body role."""
    style = style_of(role_named(publication, BODY), publication.language)
    return Baselines(style.leading, style.face.cap_height * style.size)


def _spans(start: float, end: float, count: int, gap: float) -> tuple[tuple[float, float], ...]:
    size = max(LEAST_SIZE, (end - start - (count - 1) * gap) / count)
    return tuple((start + i * (size + gap), start + i * (size + gap) + size) for i in range(count))


def page_frame(publication: Publication, grid: Grid, on_right: bool, between: float | None = None) -> PageFrame:
    """The frame of a left or a right page on ``grid``.

    ``between`` (points) keeps the right one off, for the spine of a cover; it is None of pages.
    """
    brief = publication.brief
    width, height = brief.width.pt, brief.height.pt
    apart = between or 0.0
    trim = Rect(apart, 0, apart + width, height) if on_right else Rect(-width, 0, 0, height)
    inside, outside = grid.inside.pt + fold_loss(publication).value * MM, grid.outside.pt
    left, right = (inside, outside) if on_right else (outside, inside)
    base = baselines_of(publication)
    top = grid.head.pt
    lines = max(1, int((height - top - grid.foot.pt - base.cap) / base.step + 1e-6) + 1)
    area = Rect(
        trim.left + left,
        top,
        max(trim.left + left + LEAST_SIZE, trim.right - right),
        top + base.cap + (lines - 1) * base.step,
    )
    per_field = (lines - (grid.rows - 1) * grid.row_gap) / grid.rows
    row_gap = (grid.row_gap + 1) * base.step - base.cap
    return PageFrame(
        on_right,
        trim,
        area,
        brief.bleed.pt,
        _spans(area.left, area.right, grid.columns, grid.gutter.pt),
        _spans(area.top, area.bottom, grid.rows, row_gap),
        base,
        lines,
        per_field,
        _spans(area.left, area.right, grid.columns_over, grid.gutter.pt) if grid.columns_over else (),
        tuple(GUIDES[name] for name in grid.guides),
        pencilled(grid.pencil, trim, on_right),
        has_fold(publication, between is not None),
    )


def has_fold(publication: Publication, of_cover: bool = False) -> bool:
    """Whether the inner edge of its pages, or of those of its cover, is a fold: of a sheet by itself it is cut."""
    binding = binding_named(publication.brief.binding)
    return binding.cover != "front" if of_cover else binding.bound or binding.pairs
