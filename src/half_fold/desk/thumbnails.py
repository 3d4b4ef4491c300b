"""Small pictures of the spreads, made off the interface thread with a setter of their own."""

from collections.abc import Iterator

from PyQt6.QtCore import QObject, QRunnable, QTimer, pyqtSignal
from PyQt6.QtGui import QColor, QImage, QPainter

from half_fold.core.pictures.library.pyramid import STEPS
from half_fold.core.plan.spreads import Spread, spread_index, spreads_of
from half_fold.core.publication.records import HoldsPicture, Publication
from half_fold.core.publication.surgery import cover_blocks, every_block
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.developed import key_of_block
from half_fold.core.spread.where.frames import blocks_on, spread_area
from half_fold.desk.beside.workers import workers
from half_fold.desk.faults import tell_fault
from half_fold.desk.paint.painter import paint
from half_fold.desk.session import Session

QUIET_MS = 250


class _Run(QRunnable):
    """One pass over the spreads, those near the one in view first; given up once there is a newer one."""

    def __init__(
        self, maker: "Thumbnails", publication: Publication, pictures: dict[str, QImage], ratio: float
    ) -> None:
        super().__init__()
        self.maker, self.publication, self.pictures, self.ratio = maker, publication, pictures, ratio
        self.number, self.near = maker.newest, spread_index(publication, maker.session.view.page)

    def run(self) -> None:
        try:
            self._make()
        except Exception:
            tell_fault()

    def _make(self) -> None:
        every = spreads_of(self.publication)
        for index in sorted(range(len(every)), key=lambda i: abs(i - self.near)):
            if self.number != self.maker.newest:
                return
            image = self._fresh(index, every[index])
            if image is not None:
                self.maker.made.emit(self.number, index, image)
        self.maker.made.emit(self.number, -1, QImage())

    def _fresh(self, index: int, spread: Spread) -> QImage | None:
        """The spread's picture where there is none, or the one there is follows from other records."""
        setter, publication = self.maker.setter, self.publication
        shown = tuple(self.pictures[p].cacheKey() for p in self._pictures_on(spread) if p in self.pictures)
        follows = setter.follows_from(publication, spread)
        held = self.maker.follows.get(index)
        if held is not None and held[1] == (spread, shown) and _same(held[0], follows):
            return None
        self.maker.follows[index] = (follows, (spread, shown))
        area = spread_area(publication, spread)
        scale = self.maker.height * self.ratio / area.height
        image = QImage(max(1, round(area.width * scale)), round(area.height * scale), QImage.Format.Format_RGB32)
        image.fill(QColor("white"))
        painter = QPainter(image)
        painter.scale(scale, scale)
        painter.translate(-area.left, -area.top)
        paint(painter, setter.spread(publication, spread), lambda picture, _width: self.pictures.get(picture))
        painter.end()
        return image

    def _pictures_on(self, spread: Spread) -> Iterator[str]:
        for _, _, block in blocks_on(self.publication, spread):
            if isinstance(block.holds, HoldsPicture):
                yield key_of_block(self.publication, block)


def used_keys(publication: Publication) -> set[str]:
    """What tells each picture, as it is treated, that lies on a page or on the cover."""
    every = (*(block for _, _, block in every_block(publication)), *cover_blocks(publication))
    return {key_of_block(publication, b) for b in every if isinstance(b.holds, HoldsPicture)}


def _same(before: tuple[object, ...], now: tuple[object, ...]) -> bool:
    return len(before) == len(now) and all(a is b or a == b for a, b in zip(before, now, strict=True))


class Thumbnails(QObject):
    """Gives what has been made; ``came`` tells of each new one. Made again when the edits pause."""

    came = pyqtSignal()
    made = pyqtSignal(int, int, QImage)

    def __init__(self, session: Session, height: int) -> None:
        super().__init__()
        self.session, self.height = session, height
        self.newest = 0
        self.ratio = 1.0
        self._images: dict[int, QImage] = {}
        self._done = 0
        self._base: Publication | None = None
        self._stopped = False
        # Touched by the one working thread alone:
        self.setter = Setter()
        self.follows: dict[int, tuple[tuple[object, ...], tuple[object, ...]]] = {}
        self._pool = workers(1)
        self.made.connect(self._take)
        self._quiet = QTimer(self)
        self._quiet.setSingleShot(True)
        self._quiet.setInterval(QUIET_MS)
        self._quiet.timeout.connect(self._start)

    def get(self, index: int) -> QImage | None:
        """What was made for the spread at ``index``, though it may be of an earlier state."""
        return self._images.get(index)

    def refresh(self) -> None:
        """Look through all of them once the edits pause; after an edit the pass that is under way is given up."""
        if self._stopped:
            return
        if self.session.publication is not self._base:
            self.newest += 1
        self._quiet.start()

    @property
    def busy(self) -> bool:
        """Whether some may still be out of date."""
        return self._quiet.isActive() or self._done != self.newest

    def _start(self) -> None:
        self.newest += 1
        self._base = publication = self.session.publication
        pictures = {key: self.session.proxies.image(key, STEPS[0]) for key in sorted(used_keys(publication))}
        ready = {picture: image for picture, image in pictures.items() if image is not None}
        self._pool.start(_Run(self, publication, ready, self.ratio))

    def _take(self, number: int, index: int, image: QImage) -> None:
        if index >= 0:
            self._images[index] = image
            self.came.emit()
        elif number == self.newest:
            self._done = number

    def stop(self) -> None:
        """Make nothing more, and wait for the one being made."""
        self._stopped = True
        self._quiet.stop()
        self.newest += 1
        self._pool.waitForDone()
