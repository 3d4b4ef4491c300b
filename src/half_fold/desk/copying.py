"""What goes to the clipboard from a selected block: its picture, as a file and as an image, or its words."""

from pathlib import Path

from PyQt6.QtCore import QMimeData, QUrl

from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.bring import ENOUGH
from half_fold.core.pictures.pyramid import reduced
from half_fold.core.publication.records import HoldsDisplay, HoldsPicture, HoldsStory
from half_fold.core.publication.surgery import page_of_block, picture_of, story_of
from half_fold.desk.paint.proxies import to_qimage
from half_fold.desk.workpiece import Workpiece


def copied(workpiece: Workpiece, pictures: Path) -> QMimeData | None:
    """The selected block's picture or words; None where there is neither. The image is reduced as far as ENOUGH."""
    if workpiece.block is None:
        return None
    publication = workpiece.publication
    holds = page_of_block(publication, workpiece.block)[2].holds
    mime = QMimeData()
    if isinstance(holds, HoldsPicture):
        picture = picture_of(publication, holds.picture)
        path = pictures / picture.file
        try:
            mime.setImageData(to_qimage(reduced(path, picture.digest, ENOUGH)))
        except Problem:
            return None
        mime.setUrls([QUrl.fromLocalFile(str(path))])
        return mime
    if not isinstance(holds, HoldsDisplay | HoldsStory):
        return None
    paragraphs = holds.paragraphs if isinstance(holds, HoldsDisplay) else story_of(publication, holds.story).paragraphs
    mime.setText("\n\n".join(paragraph.text for paragraph in paragraphs))
    return mime
