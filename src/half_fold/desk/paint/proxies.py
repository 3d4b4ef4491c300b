"""Picture proxies: reduced copies read off the interface thread, those in use kept at hand."""

from collections.abc import Hashable
from pathlib import Path
from time import monotonic

from PIL import Image
from PyQt6.QtCore import QObject, QRunnable, Qt, pyqtSignal
from PyQt6.QtGui import QImage

from half_fold.core.measure.kept import Keeper
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.colour.colour import as_printed
from half_fold.core.pictures.colour.treat import parse_drawn_key
from half_fold.core.pictures.library.bring import picture_file
from half_fold.core.pictures.library.developing import shown_whole
from half_fold.core.pictures.library.on_screen import copy_of, octets_shown
from half_fold.core.pictures.library.pyramid import STEPS, Step, step_for
from half_fold.core.publication.records import Picture
from half_fold.desk.beside.workers import workers
from half_fold.desk.faults import tell_fault

MOST_OCTETS, MOST_HELD = 240_000_000, 4000
READERS = 2
IN_USE_S, FOREGONE_S = 3.0, 20.0
Key = tuple[str, Step, str, str]  # content, pixels the long way, what was said of its inks, and what is drawn


def to_qimage(picture: Image.Image) -> QImage:
    """A Pillow picture as a QImage of its own."""
    rgba = picture.convert("RGBA")
    data = rgba.tobytes()
    return QImage(data, rgba.width, rgba.height, 4 * rgba.width, QImage.Format.Format_RGBA8888).convertToFormat(
        QImage.Format.Format_ARGB32_Premultiplied if picture.mode == "RGBA" else QImage.Format.Format_RGB32
    )


class _Read(QRunnable):
    def __init__(self, proxies: "Proxies", key: Key, picture: Picture) -> None:
        super().__init__()
        self.proxies, self.key, self.picture, self.folder = proxies, key, picture, proxies.folder

    def run(self) -> None:
        try:
            content, step, inks, look = self.key
            plain = copy_of(picture_file(self.folder, self.picture), content, step)
            treatment = parse_drawn_key(look)[1]
            octets = octets_shown(plain, self.folder, self.picture, treatment)
            if octets is None:
                image = to_qimage(as_printed(shown_whole(plain, self.folder, self.picture, treatment), inks))
            else:
                high, wide = octets.shape[:2]
                image = QImage(octets.tobytes(), wide, high, 4 * wide, QImage.Format.Format_RGB32).copy()
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
    """Answers with what it has, and tells when something better has been read.

    Those least recently asked for go first. Where all there is room for is in use, one that comes is shown by a smaller
    copy: it would be read again at each repaint, for another that would be read again in turn.
    """

    ready = pyqtSignal(str)  # the picture, by its content
    loaded = pyqtSignal(object, QImage)

    def __init__(self, folder: Path, most: int = MOST_OCTETS) -> None:
        super().__init__()
        self.folder = folder
        self.pictures: dict[str, Picture] = {}
        self._held: Keeper[QImage] = Keeper(MOST_HELD, most, QImage.sizeInBytes)
        self._most = most
        self._asked: dict[Hashable, float] = {}  # when each that is held, or being read, was last asked for
        self._reading: set[Key] = set()
        self._foregone: dict[Key, float] = {}  # what cannot be read, or has no room: not asked for again for a while
        self._latest: dict[str, Key] = {}  # what of each picture was last shown as it should be
        self.seen = 0  # grows with every image that came
        self.read = 0  # how many times one was asked for from its file
        self._pool = workers(READERS)
        self.loaded.connect(self._keep)

    @property
    def held_octets(self) -> int:
        """How much room the images take."""
        return self._held.octets

    def know(self, pictures: tuple[Picture, ...]) -> None:
        """The pictures of the job, by which names are looked up from now on."""
        self.pictures = {picture.id: picture for picture in pictures}

    def image(self, picture: str, width: float) -> QImage | None:
        """The best image there is for ``width`` device pixels; a fitting one is read if it is lacking."""
        known = self.pictures.get(parse_drawn_key(picture)[0])
        if known is None:
            return None
        step = step_for(width * max(1.0, known.height / known.width))
        key, now = (known.digest, step, known.inks, picture), monotonic()
        self._asked[key] = now
        found = self._held.find(key)
        if found is not None:
            self._latest[known.id] = key
            return found
        if key not in self._reading and now - self._foregone.get(key, -FOREGONE_S) >= FOREGONE_S:
            self._reading.add(key)
            self.read += 1
            # The newest first: what was asked for before has perhaps been scrolled away.
            self._pool.start(_Read(self, key, known), self.read)
        others = (
            (known.digest, other, known.inks, picture) for other in sorted(STEPS, key=lambda other: abs(other - step))
        )
        # As it was treated a moment ago, until what it is now has come: a slider would make it flicker.
        before = (self._latest[known.id],) if known.id in self._latest else ()
        return next((image for other in (*others, *before) if (image := self._held.find(other)) is not None), None)

    def _keep(self, key: Key, image: QImage) -> None:
        self._reading.discard(key)
        if image.isNull():
            self._foregone[key] = monotonic()
            return
        if self._is_full(image):
            self._foregone[key] = monotonic()
            if key[1] == STEPS[0]:
                return
            key, image = (
                (key[0], STEPS[0], *key[2:]),
                image.scaled(STEPS[0], STEPS[0], Qt.AspectRatioMode.KeepAspectRatio),
            )
        self._held.keep(key, None, image)
        self.seen += 1
        self.ready.emit(key[0])

    def _is_full(self, image: QImage) -> bool:
        """Whether there is no room for one more but for what is in use."""
        since = monotonic() - IN_USE_S
        in_use = sum(held.sizeInBytes() for key, held in self._held.items() if self._asked.get(key, 0.0) >= since)
        return in_use > 0 and in_use + image.sizeInBytes() > self._most

    def stop(self) -> None:
        """Read nothing more, and wait for what is being read."""
        self._pool.clear()
        self._pool.waitForDone()

    def wait(self) -> None:
        """Until everything asked for has been read."""
        self._pool.waitForDone()
