"""Rows of the cover's working that follow from properties: inks of panels, pieces of the spine, its versions."""

from collections.abc import Callable
from functools import partial

from msgspec.structs import replace

from half_fold.core.cover.flat import cover_flat
from half_fold.core.cover.front_frame import LABEL, front_frame, set_front_frame
from half_fold.core.cover.properties import (
    COVER,
    PANELS,
    PIECE,
    ROW,
    SPINE,
    add_piece,
    remove_piece,
    set_cover,
    set_panel,
    set_piece,
    set_spine,
)
from half_fold.core.cover.spine_text import SpineText
from half_fold.core.cover.versions import add_version, choose_version, remove_version, version_name, version_names
from half_fold.core.measure.length import counted, figure
from half_fold.core.publication.property import Property
from half_fold.core.publication.records import Cover, Publication
from half_fold.desk.kit.property_rows import property_row
from half_fold.desk.kit.rows import Card, Row, RowSection
from half_fold.desk.session import Session

Put = Callable[[Publication, str, str], Publication]


def _cover_row(job: Session, of: Property[Cover], put: Put = set_panel) -> Row:
    publication = job.publication
    return property_row(
        publication, publication.cover, of,
        lambda text: job.edit(lambda p: put(p, of.key, text), f"cover, {of.label.lower()}"),
    )  # fmt: skip


def cover_rows(job: Session) -> list[Row]:
    """What can be set of the whole cover, its ink first."""
    return [*(_cover_row(job, of, set_cover) for of in COVER), _frame_row(job)]


def _frame_row(job: Session) -> Row:
    """A stroke round the front, by its inset."""
    typed = front_frame(job.publication)
    return Row(LABEL, typed or "none", "so far inside the trim", "", typed, partial(_put_frame, job))


def _put_frame(job: Session, text: str) -> bool:
    return job.edit(partial(set_front_frame, text=text), LABEL.lower())


def spine_rows(job: Session, text: SpineText) -> list[Row]:
    """What the spine says in one line, where it is not in pieces, and how."""
    rows = {of.key: _cover_row(job, of, set_spine) for of in SPINE}
    solved = f"solved so that its ink fills the clearance: {figure(text.solved)} pt" if text.solved else ""
    rows["size"] = replace(rows["size"], value=f"{figure(text.size)} pt" if text.size else "none", working=solved)
    if job.publication.cover.pieces:
        del rows["words"]
    return list(rows.values())


def panel_rows(job: Session) -> list[Row]:
    """The inks of single panels, of those that there are."""
    flat = cover_flat(job.publication)
    there = {"front_ink": True, "back_ink": flat.back is not None}
    there |= {"spine_ground": flat.spine is not None, "flap_ink": bool(flat.flaps)}
    there |= dict.fromkeys(("joint_ink", "turn_in_ink"), flat.what == "case")
    return [_cover_row(job, of) for of in PANELS if there[of.key]]


def piece_sections(job: Session) -> list[RowSection]:
    """The spine's pieces, each with what can be set of it; what adds one."""
    publication = job.publication
    cover = publication.cover
    sections = []
    for number, piece in enumerate(cover.pieces, 1):
        rows: list[Row | Card] = [
            property_row(
                publication, piece, of,
                lambda text, n=number, of=of: job.edit(  # type: ignore[misc]
                    lambda p: set_piece(p, n, of.key, text), f"piece of the spine: {of.label.lower()}"
                ),
            )
            for of in PIECE
            if of.key != "words" or not piece.picture
        ]  # fmt: skip
        away = ("Take it away", partial(job.edit, partial(remove_piece, number=number), "a piece of the spine gone"))
        sections.append(RowSection(f"Piece {number}", "", [*rows, Card("This piece", "", [away])]))
    words = "Title, author and a mark, each in its place, sized together to what the folds leave clear."
    add = ("Add a piece", partial(job.edit, add_piece, "a piece of the spine"))
    row = [_cover_row(job, of) for of in ROW if of.applies(cover)]
    return [*sections, RowSection("Pieces", "", [Card("In pieces", words, [add]), *row])]


def version_section(job: Session, show: Callable[[], object]) -> RowSection:
    """The covers of the job by name, and ways to add, compare and choose."""
    publication = job.publication
    every = version_names(publication)
    now = version_name(publication, publication.cover)

    def add(text: str) -> bool:
        return job.edit(lambda p: add_version(p, text), f"another cover, {text}")

    def choose(name: str) -> bool:
        return job.edit(lambda p: choose_version(p, name), f"the cover {name}")

    items: list[Row | Card] = [
        Row("In use", now, f"of {counted(len(every), 'cover')}", "", now, choose, [(name, name) for name in every]),
        Row("Another", "name it", "begins as a copy of this one", "", "", add),
    ]
    if len(every) > 1:
        items.append(Card("Side by side", "Judged by the same figures.", [("Compare them (0)", show)]))
    return RowSection("Versions", "", items)


def chosen_sections(job: Session, found: list[tuple[str, tuple[tuple[str, str], ...], bool]]) -> list[RowSection]:
    """Every cover with its figures, and what chooses or removes it."""
    sections = []
    for name, figures, in_use in found:
        rows: list[Row | Card] = [Row(label, value) for label, value in figures]
        if not in_use:
            take = ("Use it", partial(job.edit, partial(choose_version, name=name), f"the cover {name}"))
            away = ("Remove it", partial(job.edit, partial(remove_version, name=name), f"the cover {name} gone"))
            rows.append(Card(name, "", [take, away]))
        sections.append(RowSection(name, "in use" if in_use else "", rows))
    return sections
