"""What can be set of a cover beside what lies on it: its inks and fields, what its spine says, whole or in pieces."""

from typing import Any

from msgspec.structs import replace

from half_fold.core.grid.edits import GRID
from half_fold.core.measure.length import Length
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.fields import field_of
from half_fold.core.publication.property import Choices, Property, named
from half_fold.core.publication.records import Cover, Publication, SpinePiece

AS_ALL = "as the whole cover"
MOST_MARGIN_MM, MOST_FIELDS = 60.0, 24
LEAST_TYPE_PT, MOST_TYPE_PT = 2.0, 72.0
STANDS: Choices = (("start", "at its start"), ("middle", "in its middle"), ("end", "at its end"))
_READS = (("down", "from head to foot"), ("up", "from foot to head"))


def _of_grid(key: str, most: float = 0.0) -> Property[Cover]:
    """What a grid has, of the cover's own."""
    of = named(GRID, key)

    def parse(publication: Publication, cover: Cover, text: str) -> Any:
        assert of.parse is not None
        return of.parse(publication, cover.grid, text)

    return Property(
        of.key,
        of.label,
        of.kind,
        lambda cover: of.read(cover.grid),
        lambda cover, value: replace(cover, grid=of.write(cover.grid, value)),
        of.least,
        most,
        none=of.none,
        note=of.note,
        parse=parse if of.parse is not None else None,
    )


def _all_round(cover: Cover, size: Length) -> Cover:
    return replace(cover, grid=replace(cover.grid, head=size, foot=size, inside=size, outside=size))


def _laid_over(cover: Cover, count: int | None) -> Cover:
    grid = cover.grid
    return replace(cover, grid=replace(grid, columns_over=0 if count in (None, grid.columns) else count))


COVER: tuple[Property[Cover], ...] = (
    field_of(Cover, "ink", "Ink", "paint", note="all over it, to the bleed"),
    field_of(Cover, "tint", "Tint", "share"),
    Property(
        "margin", "Margin", "length", lambda cover: cover.grid.head, _all_round, 0.0, MOST_MARGIN_MM,
        note="common to all cover lines",
    ),
    _of_grid("columns", MOST_FIELDS),
    _of_grid("rows", MOST_FIELDS),
    replace(_of_grid("columns_over", MOST_FIELDS), write=_laid_over),
    _of_grid("pencil"),
)  # fmt: skip
SPINE: tuple[Property[Cover], ...] = (
    field_of(
        Cover, "spine", "Says", "text", key="words", none="nothing",
        note="{title}, {author}, {issue} and {season} are filled in",
    ),
    field_of(
        Cover, "spine_size", "Size", "length", key="size", none="solved", least=LEAST_TYPE_PT, most=MOST_TYPE_PT
    ),
    Property(
        "reads", "Reads", "choice", lambda cover: "up" if cover.reads_up else "down",
        lambda cover, way: replace(cover, reads_up=way == "up"), choices=_READS,
        note="from head to foot it is upright when the copy lies face up",
    ),
    field_of(Cover, "spine_ink", "Its ink", "ink", key="ink"),
)  # fmt: skip
PANELS: tuple[Property[Cover], ...] = (
    field_of(Cover, "front_ink", "Ink of the front", "paint", none=AS_ALL),
    field_of(Cover, "back_ink", "Ink of the back", "paint", none=AS_ALL),
    field_of(Cover, "spine_ground", "Ink of the spine", "paint", none=AS_ALL),
    field_of(Cover, "flap_ink", "Ink of the flaps", "paint", none=AS_ALL),
    field_of(Cover, "joint_ink", "Ink of the joints", "paint", none=AS_ALL, note="of a case, beside its spine"),
    field_of(Cover, "turn_in_ink", "Ink turned in", "paint", none=AS_ALL, note="of a case, round its boards"),
)
ROW: tuple[Property[Cover], ...] = (
    field_of(Cover, "row_picture", "Runs over the row", "picture", none="none", note="a picture over several spines"),
    field_of(Cover, "row_of", "Copies in the row", "count", applies=lambda cover: bool(cover.row_picture)),
    field_of(Cover, "row_at", "This is number", "count", applies=lambda cover: bool(cover.row_picture)),
)
PIECE: tuple[Property[SpinePiece], ...] = (
    field_of(SpinePiece, "words", "Words", "text", note="{title}, {author} and {publisher} are filled in"),
    field_of(SpinePiece, "picture", "Picture", "picture", none="none", note="a mark, upright on the spine"),
    field_of(SpinePiece, "stands", "Stands", "choice", choices=STANDS),
    field_of(SpinePiece, "ink", "Its ink", "ink", none="as the spine's words"),
    field_of(SpinePiece, "size", "Its size", "share", note="of the spine's own"),
)
MOST_PIECES = 8


def set_cover(publication: Publication, key: str, typed: str) -> Publication:
    """The job with one value of its whole cover set. Problem where that cannot be."""
    return _put(publication, COVER, key, typed)


def set_spine(publication: Publication, key: str, typed: str) -> Publication:
    """The job with one value of its spine's words set. Problem where that cannot be."""
    return _put(publication, SPINE, key, typed)


def set_panel(publication: Publication, key: str, typed: str) -> Publication:
    """The job with another ink on a panel, or another row of spines. Problem where that cannot be."""
    made = _put(publication, (*PANELS, *ROW), key, typed)
    row_of, row_at = made.cover.row_of, made.cover.row_at
    if made.cover.row_picture and row_at > row_of:
        raise Problem(f"Of {row_of} copies in a row there is no number {row_at}; give 1 to {row_of}.")
    return made


def _put(publication: Publication, table: tuple[Property[Cover], ...], key: str, typed: str) -> Publication:
    return replace(publication, cover=named(table, key).set(publication, publication.cover, typed))


def set_piece(publication: Publication, number: int, key: str, typed: str) -> Publication:
    """The job with a piece of its spine, counted from 1, changed. Problem where there is none, or it cannot be."""
    pieces = list(publication.cover.pieces)
    pieces[_index(publication, number)] = named(PIECE, key).set(publication, pieces[number - 1], typed)
    return replace(publication, cover=replace(publication.cover, pieces=tuple(pieces)))


def add_piece(publication: Publication, words: str = "", stands: str = "end") -> Publication:
    """The job with another piece; what the spine says so far becomes the first. Problem where there are too many."""
    cover = publication.cover
    if len(cover.pieces) >= MOST_PIECES:
        raise Problem(f"A spine takes {MOST_PIECES} pieces and no more; put words of two of them into one.")
    first = () if cover.pieces or not cover.spine.strip() else (SpinePiece(words=cover.spine),)
    piece = SpinePiece(words=words, stands=stands)  # type: ignore[arg-type]  # one of STANDS
    return replace(publication, cover=replace(cover, pieces=(*cover.pieces, *first, piece)))


def remove_piece(publication: Publication, number: int) -> Publication:
    """The job without a piece, counted from 1; with the last the spine says its words again."""
    at = _index(publication, number)
    pieces = publication.cover.pieces
    return replace(publication, cover=replace(publication.cover, pieces=(*pieces[:at], *pieces[at + 1 :])))


def _index(publication: Publication, number: int) -> int:
    count = len(publication.cover.pieces)
    if not 1 <= number <= count:
        raise Problem(f"The spine has no piece {number}; it has {count}.")
    return number - 1
