"""Grids, masters, and the furniture that repeats on their pages."""

from typing import Literal

from half_fold.core.measure.length import Length, length
from half_fold.core.publication.places import Record

PencilEdge = Literal["head", "foot", "fold", "outside"]


class Pencil(Record, frozen=True, kw_only=True):
    """A line that is pencilled on a page, so far ``at`` from an edge of it, and again ``every`` so much from there.

    Its ``number`` is what stops know it by.
    """

    number: int
    edge: PencilEdge
    at: Length
    every: Length | None = None


class Grid(Record, frozen=True, kw_only=True):
    """Margins, columns and rows of fields; the gap between rows is in empty lines, so fields stay on the baseline.

    ``columns_over`` lays a second count of columns over the first, where it is not 0. ``guides`` divide the trimmed
    page.
    """

    head: Length
    foot: Length
    inside: Length
    outside: Length
    columns: int
    rows: int
    gutter: Length
    row_gap: int = 1
    columns_over: int = 0
    guides: tuple[Literal["halves", "thirds", "quarters"], ...] = ()
    pencil: tuple[Pencil, ...] = ()


class Furniture(Record, frozen=True, kw_only=True):
    """What repeats on the pages of a master, outside the text area.

    It stands at the ``head`` or the ``foot``, ``lines`` baseline steps from the text area, on one side of it or in the
    centre; pieces of one line and side follow one another from there. Words name what they pick up: {folio},
    {section}, {chapter}, {story}, {title}, {issue}, {season}, {date}. A rule runs over the ``text``, the ``page`` or
    to the ``outside``. A picture is ``width`` wide and keeps its proportion; a frame runs round the page, ``width``
    inside the trim. No ``ink`` is black alone.
    """

    id: str
    kind: Literal["words", "rule", "picture", "frame"] = "words"
    pages: Literal["both", "left", "right"] = "both"
    at: Literal["head", "foot"] = "foot"
    side: Literal["outside", "centre", "inside"] = "outside"
    lines: float = 2.0
    words: str = ""
    role: str = "running foot"
    weight: Length = length("0.5pt")
    over: Literal["text", "page", "outside"] = "text"
    ink: str = ""
    picture: str = ""
    width: Length = length("12mm")


class Master(Record, frozen=True, kw_only=True):
    """A left and a right page that repeat: the grid, and the furniture round the text.

    One ``based_on`` another carries its furniture under its own, and stands on its grid where it ``takes_grid``.
    ``between`` is what lies between the two pages: nothing inside, the spine on the flat of a cover.
    """

    name: str
    grid: Grid
    based_on: str = ""
    takes_grid: bool = False
    between: Length | None = None
    furniture: tuple[Furniture, ...] = ()
    text_columns: int = 3
