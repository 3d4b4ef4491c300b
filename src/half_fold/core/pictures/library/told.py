"""What a picture's own file tells of it, and what is measured on reduced copies: kept in the user's cache."""

from collections.abc import Callable, Iterable
from contextlib import suppress
from pathlib import Path

import msgspec
import numpy as np
import numpy.typing as npt
from PIL import Image

from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.colour.colour import lab_of_picture
from half_fold.core.pictures.library.file_words import file_words
from half_fold.core.pictures.library.pyramid import STEPS, copies_folder, reduced
from half_fold.core.publication.places import Record
from half_fold.core.publication.records import Picture
from half_fold.core.store.atomic import write_whole
from half_fold.core.store.files import own_file

LIKENESS = 6  # by so many parts across and down two pictures are held against each other


class Told(Record, frozen=True, kw_only=True):
    """Words and time from the file; ``sharp`` is how much fine detail there is, ``light`` the mean L*.

    ``parts`` are the L*a*b* of six by six parts, by which likeness is measured. ``focus`` is where its subject
    is likely to be, ``faces`` (left, top, right, bottom) what looks like faces, in shares of it.
    """

    taken: str = ""  # YYYY-MM-DD HH:MM:SS
    caption: str = ""
    creator: str = ""
    credit: str = ""
    place: str = ""
    keywords: str = ""
    sharp: float = 0.0
    light: float = 0.0
    parts: tuple[float, ...] = ()
    focus: tuple[float, float] = (0.5, 0.5)
    faces: tuple[tuple[float, float, float, float], ...] = ()

    @property
    def words(self) -> str:
        """All that can be searched, in small letters."""
        return " ".join((self.caption, self.creator, self.credit, self.place, self.keywords, self.taken)).lower()


def told_facts(path: Path, digest: str) -> Told:
    """What is known of the picture in a file whose content is ``digest``; found once, and kept."""
    kept = copies_folder() / digest[:2] / f"{digest}-known.json"
    with suppress(OSError, msgspec.DecodeError, ValueError):
        return msgspec.json.decode(kept.read_bytes(), type=Told)
    found = _found(path, digest)
    with suppress(OSError, Problem):
        kept.parent.mkdir(parents=True, exist_ok=True)
        write_whole(kept, msgspec.json.encode(found))
    return found


def told_of_all(
    folder: Path, pictures: Iterable[Picture], wanted: Callable[[], bool] = lambda: True
) -> dict[str, Told]:
    """What is known of pictures in a folder, by content, while it is ``wanted``; nothing of a file that has gone."""
    found: dict[str, Told] = {}
    for picture in pictures:
        if not wanted():
            break
        try:
            found[picture.digest] = told_facts(own_file(folder, picture.file, "picture"), picture.digest)
        except Problem:
            found[picture.digest] = Told()
    return found


def _found(path: Path, digest: str) -> Told:
    from half_fold.core.pictures.library.subject import (  # with OpenCV: when a picture is first looked at
        faces_in,
        subject_of,
    )

    try:
        small, large = (reduced(path, digest, step) for step in STEPS[:2])
    except Problem:
        return Told()
    grey = np.asarray(large.convert("L"), np.float32)
    lab = lab_of_picture(small.convert("RGB"))
    parts = lab_of_picture(small.convert("RGB").resize((LIKENESS, LIKENESS), Image.Resampling.BOX))
    return Told(
        **file_words(path),
        sharp=round(_detail(grey), 1),
        light=round(float(lab[..., 0].mean()), 1),
        parts=tuple(round(float(value), 1) for value in parts.ravel()),
        focus=subject_of(small),
        faces=faces_in(large),
    )


def _detail(grey: npt.NDArray[np.float32]) -> float:
    """How much fine detail there is: the variance of the Laplacian (Pech-Pacheco and others, 2000)."""
    if min(grey.shape) < 3:
        return 0.0
    around = grey[:-2, 1:-1] + grey[2:, 1:-1] + grey[1:-1, :-2] + grey[1:-1, 2:]
    return float((around - 4 * grey[1:-1, 1:-1]).var())
