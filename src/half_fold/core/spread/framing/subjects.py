"""The focus of laid pictures proposed from what is seen in them."""

from collections.abc import Sequence
from pathlib import Path

from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.library.bring import picture_file
from half_fold.core.pictures.library.pyramid import STEPS, reduced
from half_fold.core.publication.records import Block, HoldsPicture, Picture, Publication
from half_fold.core.publication.surgery import block_named, every_thing_of, is_free, picture_of
from half_fold.core.spread.framing.reframing import focus_on

Point = tuple[float, float]


def aim_at_subject(publication: Publication, pictures: Path, name: str) -> Publication:
    """The picture of a block with its focus on its subject. Problem where it holds none, or its file is not there."""
    holds = block_named(publication, name).holds
    if not isinstance(holds, HoldsPicture):
        raise Problem("That block holds no picture; choose one that does.")
    return focus_on(publication, name, _subject(pictures, picture_of(publication, holds.picture)))


def aim_all_at_subjects(
    publication: Publication, pictures: Path, files: Sequence[str] = ()
) -> tuple[Publication, dict[str, Point]]:
    """Every picture that is laid, or those named, with the focus on its subject; and where that is, by file.

    Blocks that are locked stay as they are, and so do drawings. Problem where a name is that of no picture laid.
    """
    found: dict[str, Point] = {}
    blocks = [thing for thing in every_thing_of(publication) if isinstance(thing, Block)]
    for block in blocks:
        if not isinstance(block.holds, HoldsPicture) or not is_free(publication, block.id):
            continue
        picture = picture_of(publication, block.holds.picture)
        if picture.art or (files and picture.file not in files):
            continue
        if picture.file not in found:
            found[picture.file] = _subject(pictures, picture)
        publication = focus_on(publication, block.id, found[picture.file])
    for file in files:
        if file not in found:
            raise Problem(f"“{file}” is no picture that is laid and free; half-fold get JOB lists what there is.")
    return publication, found


def _subject(pictures: Path, picture: Picture) -> Point:
    from half_fold.core.pictures.library.subject import subject_of

    return subject_of(reduced(picture_file(pictures, picture), picture.digest, STEPS[0]))
