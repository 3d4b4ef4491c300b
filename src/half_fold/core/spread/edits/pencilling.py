"""Pencil lines drawn on a page: they are its master's, or its own where it has a grid of its own."""

from half_fold.core.grid.edits import set_grid, set_page_grid
from half_fold.core.grid.pencil import format_pencil, pull_line
from half_fold.core.measure.rect import Axis
from half_fold.core.publication.records import Publication
from half_fold.core.publication.surgery import master_of
from half_fold.core.spread.where.frames import page_frame_of


def draw_pencil(publication: Publication, number: int, axis: Axis, place: float, unit: str) -> Publication:
    """A pencil line on page ``number`` at a place of its spread (points). Problem where there are too many."""
    page, frame = publication.pages[number - 1], page_frame_of(publication, number)
    grid = page.grid or master_of(publication, page).grid
    said = format_pencil(pull_line(grid.pencil, axis, place, frame.trim, frame.on_right, unit))
    if page.grid is not None:
        return set_page_grid(publication, (number,), "pencil", said)
    return set_grid(publication, page.master, "pencil", said)


def format_drawn(publication: Publication, number: int) -> str:
    """What is said of a line that was drawn on a page: where it lies, and on which pages."""
    page = publication.pages[number - 1]
    line = format_pencil((page.grid or master_of(publication, page).grid).pencil[-1:])
    where = f"page {number} alone" if page.grid is not None else f"all pages of the master “{page.master}”"
    return f"A pencil line, {line}, on {where}; at Grid it is moved, and rubbed out by dragging it off."
