"""What can be set of a cover beside what lies on it: inks of its panels, and pieces of its spine."""

from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.fields import field_of
from half_fold.core.publication.property import Choices, Property, named
from half_fold.core.publication.records import Cover, Publication, SpinePiece

AS_ALL = "as the whole cover"
STANDS: Choices = (("start", "at its start"), ("middle", "in its middle"), ("end", "at its end"))
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


def set_panel(publication: Publication, key: str, typed: str) -> Publication:
    """The job with another ink on a panel, or another row of spines. Problem where that cannot be."""
    cover = named((*PANELS, *ROW), key).set(publication, publication.cover, typed)
    if cover.row_picture and cover.row_at > cover.row_of:
        raise Problem(f"Of {cover.row_of} copies in a row there is no number {cover.row_at}; give 1 to {cover.row_of}.")
    return replace(publication, cover=cover)


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
