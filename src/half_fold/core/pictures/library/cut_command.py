"""Cutting out in words: a box and strokes in per cent of the picture."""

from collections.abc import Sequence
from pathlib import Path

from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.cutting.cutting import ALIKE_SAID, Box, Cutting
from half_fold.core.pictures.cutting.masks import cut_out, keep_mask
from half_fold.core.pictures.library.bring import ENOUGH, picture_file
from half_fold.core.pictures.library.pyramid import reduced
from half_fold.core.publication.records import Publication

STROKE = 0.02  # of the longer side


def cut_by_words(
    publication: Publication,
    pictures: Path,
    file: str,
    box: str,
    this: Sequence[str],
    not_this: Sequence[str],
    soft: bool,
) -> tuple[Publication, str, str]:
    """The job with a cut-out of a picture among its pictures, its id, and what is to be looked at, if anything.

    Problem where it cannot be.
    """
    found = next((p for p in publication.pictures if file in (p.file, p.id) and not p.art), None)
    if found is None:
        raise Problem(f"There is no picture “{file}” in this job that could be cut out; bring it in first.")
    sides = _figures(box)
    if len(sides) != 4:
        raise Problem(f"“{box}” is no box; give left, top, right and bottom in per cent, such as 20 10 80 90.")
    cutting = Cutting(reduced(picture_file(pictures, found), found.digest, ENOUGH), Box(*sides))
    for strokes, keeps in ((this, True), (not_this, False)):
        for stroke in strokes:
            cutting.stroke(parse_stroke(stroke), keeps, STROKE)
    mask = cutting.mask(soft)
    made, cut_picture = cut_out(publication, found, keep_mask(pictures, mask), mask)
    return made, cut_picture.id, ALIKE_SAID if cutting.is_alike else ""


def parse_stroke(text: str) -> list[tuple[float, float]]:
    """Places of a stroke as shares of the picture, from words. Problem where it is none."""
    figures = _figures(text)
    if len(figures) < 2 or len(figures) % 2:
        raise Problem(f"“{text}” is no stroke; give places across and down in per cent, such as 40 50 60 50.")
    return list(zip(figures[::2], figures[1::2], strict=True))


def _figures(text: str) -> list[float]:
    try:
        return [float(part) / 100 for part in text.replace(",", " ").split()]
    except ValueError as error:
        raise Problem(f"“{text}” are no figures; give per cent of the picture, such as 20 10 80 90.") from error
