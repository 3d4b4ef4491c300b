"""What goes to the clipboard from what is chosen: the things themselves, and what other programs can take of one."""

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import TypeVar

from PyQt6.QtCore import QMimeData, QUrl

from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.library.bring import ENOUGH
from half_fold.core.pictures.library.pyramid import reduced
from half_fold.core.publication.kinds import kind_of, text_of
from half_fold.core.publication.records import HoldsPicture, Publication
from half_fold.core.publication.surgery import page_of_block, picture_of
from half_fold.core.spread.edits.taking import KIND, copy_things, paste_things, put_pages, taken_pages
from half_fold.desk.paint.proxies import to_qimage
from half_fold.desk.workpiece import Workpiece

T = TypeVar("T")


def copied(workpiece: Workpiece, pictures: Path) -> QMimeData | None:
    """The things that are chosen; of one block also its picture, reduced as far as ENOUGH, or its words."""
    if not workpiece.view.chosen:
        return None
    mime = QMimeData()
    mime.setData(KIND, copy_things(workpiece.publication, workpiece.view.chosen))
    if workpiece.view.block is not None:
        _for_others(workpiece.publication, workpiece.view.block, pictures, mime)
    return mime


def copied_pages(publication: Publication, numbers: Sequence[int]) -> QMimeData:
    """Whole pages, for the running order of this job or of another."""
    mime = QMimeData()
    mime.setData(KIND, taken_pages(publication, numbers))
    return mime


def lay_pages(session: Workpiece, mime: QMimeData, at: int) -> tuple[int, ...]:
    """The pages that were copied before index ``at`` of the order; gives their numbers, none where there were none."""
    if not mime.hasFormat(KIND):
        return ()
    return _lay(session, lambda p: put_pages(p, at, mime.data(KIND).data()), "pasted pages") or ()


def _for_others(publication: Publication, block: str, pictures: Path, mime: QMimeData) -> None:
    """What other programs can take: a picture as a file and as an image, words as text."""
    holds = page_of_block(publication, block)[2].holds
    if isinstance(holds, HoldsPicture):
        picture = picture_of(publication, holds.picture)
        path = pictures / picture.file
        mime.setUrls([QUrl.fromLocalFile(str(path))])
        try:
            mime.setImageData(to_qimage(reduced(path, picture.digest, ENOUGH)))
        except Problem:
            return
    if kind_of(holds).is_words:
        mime.setText("\n\n".join(paragraph.text for paragraph in text_of(publication, holds)))


def paste_here(workpiece: Workpiece, mime: QMimeData, mirror: bool = False) -> bool:
    """Lay what was copied on the page in view, and choose it; whether there was anything to lay."""
    if not mime.hasFormat(KIND):
        return False
    made = _lay(workpiece, lambda p: paste_things(p, workpiece.view.page, mime.data(KIND).data(), mirror), "pasted")
    if made is not None:
        workpiece.view.choose(made)
    return True


def _lay(workpiece: Workpiece, make: Callable[[Publication], tuple[Publication, T, str]], said: str) -> T | None:
    """What was laid, and what could not come with it is said; None where it could not be done."""
    made: T | None = None
    words = ""

    def edit(publication: Publication) -> Publication:
        nonlocal made, words
        publication, made, words = make(publication)
        return publication

    if not workpiece.edit(edit, said):
        return None
    if words:
        workpiece.said.emit(words)
    return made
