"""Picture proxies: read and reduced off the interface thread, kept in steps of size."""

import struct
from collections import OrderedDict
from collections.abc import Callable
from functools import partial
from pathlib import Path

from PIL import Image
from PyQt6.QtCore import QObject, QRunnable, QThreadPool, pyqtSignal
from PyQt6.QtGui import QImage

from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.bring import load_pixels, open_picture, picture_file
from half_fold.core.pictures.colour import to_screen
from half_fold.core.publication.records import Picture
from half_fold.desk.faults import tell_fault

STEPS = (160, 800, 2000)
MOST_BYTES = 400_000_000


def to_qimage(picture: Image.Image) -> QImage:
    """A Pillow picture as a QImage of its own."""
    rgba = picture.convert("RGBA")
    data = rgba.tobytes()
    return QImage(data, rgba.width, rgba.height, 4 * rgba.width, QImage.Format.Format_RGBA8888).convertToFormat(
        QImage.Format.Format_ARGB32_Premultiplied if picture.mode == "RGBA" else QImage.Format.Format_RGB32
    )


def read_reduced(path: Path, width: int) -> QImage:
    """The picture at most about ``width`` pixels across. Problem where it cannot be read."""
    image = open_picture(path)
    image.draft("RGB" if image.mode != "CMYK" else "CMYK", (width, width))
    if image.width > 2 * width or image.format == "JPEG":
        try:
            image.load()
        except (OSError, ValueError, SyntaxError, EOFError, struct.error) as error:
            raise Problem(f"“{path.name}” is damaged.") from error
        from PIL import ImageOps

        image = ImageOps.exif_transpose(image)
    else:
        image = load_pixels(path)
    if image.width > width:
        image = image.resize((width, max(1, round(image.height * width / image.width))), Image.Resampling.BOX)
    return to_qimage(to_screen(image))


class _Read(QRunnable):
    def __init__(self, proxies: "Proxies", key: tuple[str, int], path: Callable[[], Path]) -> None:
        super().__init__()
        self.proxies, self.key, self.path = proxies, key, path

    def run(self) -> None:
        try:
            image = read_reduced(self.path(), self.key[1])
        except Problem:
            image = QImage()
        except Exception:
            tell_fault()
            image = QImage()
        try:
            self.proxies.loaded.emit(self.key, image)
        except RuntimeError:
            return  # the window closed while the picture was being read


class Proxies(QObject):
    """Answers with what it has, and tells when something better has been read."""

    ready = pyqtSignal()
    loaded = pyqtSignal(object, QImage)

    def __init__(self, folder: Path) -> None:
        super().__init__()
        self.folder = folder
        self.pictures: dict[str, Picture] = {}
        self._held: OrderedDict[tuple[str, int], QImage] = OrderedDict()
        self._asked: set[tuple[str, int]] = set()
        self.seen = 0  # grows with every image that came
        self._pool = QThreadPool()
        self._pool.setMaxThreadCount(1)
        self.loaded.connect(self._keep)

    def know(self, pictures: tuple[Picture, ...]) -> None:
        self.pictures = {picture.id: picture for picture in pictures}

    def image(self, picture: str, width: float) -> QImage | None:
        """The best image there is for ``width`` device pixels; a fitting one is read if it is lacking."""
        known = self.pictures.get(picture)
        if known is None:
            return None
        step = next((s for s in STEPS if s >= width), STEPS[-1])
        key = (known.digest, step)
        if key not in self._held and key not in self._asked:
            self._asked.add(key)
            self._pool.start(_Read(self, key, partial(picture_file, self.folder, known)))
        best = [
            self._held[k]
            for k in ((known.digest, s) for s in sorted(STEPS, key=lambda s: abs(s - step)))
            if k in self._held
        ]
        return next((image for image in best if not image.isNull()), None)

    def _keep(self, key: tuple[str, int], image: QImage) -> None:
        self._held[key] = image
        self.seen += 1
        while sum(i.sizeInBytes() for i in self._held.values()) > MOST_BYTES and len(self._held) > 1:
            gone, _ = self._held.popitem(last=False)
            self._asked.discard(gone)
        self.ready.emit()

    def stop(self) -> None:
        """Read nothing more, and wait for what is being read."""
        self._pool.clear()
        self._pool.waitForDone()

    def wait(self) -> None:
        """Until everything asked for has been read."""
        self._pool.waitForDone()
