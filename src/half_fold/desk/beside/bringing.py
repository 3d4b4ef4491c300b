"""Bringing pictures and texts in off the interface thread: reading, copying and setting there, the edit here."""

from collections.abc import Sequence
from pathlib import Path
from threading import Lock

from msgspec import Struct
from PyQt6.QtCore import QObject, QRunnable, QTimer, pyqtSignal

from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.library.bring import keep_copy, named_for, read_record
from half_fold.core.pictures.library.pyramid import make_copies
from half_fold.core.publication.records import Paragraph, Picture, Publication
from half_fold.core.spread.edits.placing import place_story
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.typesetting.texts.reading import role_table
from half_fold.core.typesetting.texts.text_in import Reading, read_text_file
from half_fold.core.typesetting.texts.titles import with_text
from half_fold.desk.beside.workers import workers
from half_fold.desk.faults import tell_fault

READERS = 2
GATHERED_MS = 500


class PlacedText(Struct, frozen=True):
    """A text on its pages in the document it was placed in, and the setter that has all of it set."""

    path: Path
    reading: Reading
    base: Publication
    publication: Publication
    story: str
    setter: Setter


class Written(Struct, frozen=True):
    """A story with very many paragraphs, in the document it was written in, and the setter that has all of it set."""

    base: Publication
    publication: Publication
    story: str
    setter: Setter


class _Run(QRunnable):
    """One file; what is cancelled before its turn is passed over, and what is cancelled after is not given."""

    def __init__(self, bringing: "Bringing") -> None:
        super().__init__()
        self.bringing, self.sitting = bringing, bringing.sitting

    def run(self) -> None:
        try:
            if self.sitting == self.bringing.sitting:
                self.bring()
        except Problem as problem:
            self.bringing.failed.emit(str(problem))
        except MemoryError:
            self.bringing.failed.emit("The machine has not enough memory for that file; close other programs.")
        except Exception:
            tell_fault()
        self.tell()  # before it counts as dealt with: who stops then is to keep it
        self.bringing.ended.emit(self.sitting)

    def bring(self) -> None:
        raise NotImplementedError

    def tell(self) -> None:
        """Hand over what was made, if anything."""


class _CopyIn(_Run):
    def __init__(self, bringing: "Bringing", known: tuple[Picture, ...], folder: Path, source: Path, at: int) -> None:
        super().__init__(bringing)
        self.known, self.folder, self.source, self.at = known, folder, source, at
        self.picture: Picture | None = None

    def tell(self) -> None:
        self.bringing.read.emit(self.sitting, self.at, self.picture, self.source)

    def bring(self) -> None:
        record, image = read_record(self.source)
        with self.bringing.copying:  # so that no two take one name, and none comes twice
            picture = named_for((*self.known, *self.bringing.copied), self.folder, self.source, record)
            self.bringing.copied.append(picture)
        keep_copy(self.folder, self.source, picture)
        make_copies(image, record.digest)
        self.picture = picture


class _Place(_Run):
    def __init__(self, bringing: "Bringing", publication: Publication, source: Path, read: Reading | None) -> None:
        super().__init__(bringing)
        self.publication, self.source, self.read = publication, source, read

    def bring(self) -> None:
        publication = self.publication
        reading = self.read or read_text_file(self.source, role_table(publication), publication.language)
        setter = Setter()
        made, story = place_story(self.publication, setter, reading.title, tuple(reading.paragraphs))
        _set_all(setter, made)
        if self.sitting == self.bringing.sitting:
            self.bringing.placed.emit(PlacedText(self.source, reading, self.publication, made, story, setter))


class _Write(_Run):
    def __init__(
        self, bringing: "Bringing", publication: Publication, story: str, paragraphs: tuple[Paragraph, ...]
    ) -> None:
        super().__init__(bringing)
        self.publication, self.story, self.paragraphs = publication, story, paragraphs

    def bring(self) -> None:
        made, setter = with_text(self.publication, self.story, self.paragraphs), Setter()
        _set_all(setter, made)
        if self.sitting == self.bringing.sitting:
            self.bringing.written.emit(Written(self.publication, made, self.story, setter))


def _set_all(setter: Setter, publication: Publication) -> None:
    """Every story of it, so that the window has nothing left to set."""
    for story in publication.stories:
        setter.threads.flow(publication, story.id)


class Bringing(QObject):
    """Files in the order they were asked for.

    ``brought`` gives some pictures' records without ids, each with its file, a few times a second; ``placed`` a text
    on its pages, ``written`` one with very many paragraphs; ``moved`` tells that ``done`` of ``asked`` have been dealt
    with. ``batch`` counts what was asked for at once.
    """

    brought = pyqtSignal(list)
    read = pyqtSignal(int, int, object, object)
    placed = pyqtSignal(object)
    written = pyqtSignal(object)
    failed = pyqtSignal(str)
    ended = pyqtSignal(int)
    moved = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self._pool = workers(READERS)
        self.copied: list[Picture] = []  # since the window was opened
        self.copying = Lock()
        self.sitting = self.batch = 0
        self._read: dict[int, tuple[Picture | None, Path]] = {}  # which came before one that was asked for earlier
        self._next = self._last = 0
        self._came: list[tuple[Picture, Path]] = []
        self._gather = QTimer(self)
        self._gather.setSingleShot(True)
        self._gather.setInterval(GATHERED_MS)
        self._gather.timeout.connect(self.give)
        self.read.connect(self._note)
        self.asked = self.done = 0
        self.ended.connect(self._count)

    @property
    def busy(self) -> bool:
        """Whether something asked for has not been dealt with yet."""
        return self.done < self.asked

    def start(self, known: tuple[Picture, ...], folder: Path, paths: Sequence[Path]) -> None:
        """Bring pictures in."""
        for path in paths:
            self._begin(_CopyIn(self, known, folder, path, self._last))
            self._last += 1

    def _note(self, sitting: int, at: int, picture: Picture | None, path: Path) -> None:
        """Put a picture that was read behind those that were asked for before it."""
        if sitting != self.sitting:
            return
        self._read[at] = picture, path
        while self._next in self._read:
            one, source = self._read.pop(self._next)
            self._next += 1
            if one is not None:
                self._came.append((one, source))
        if self._came and not self._gather.isActive():
            self._gather.start()

    def give(self) -> None:
        """Give what has come."""
        self._gather.stop()
        came, self._came = self._came, []
        if came:
            self.brought.emit(came)

    def start_text(self, publication: Publication, path: Path, read: Reading | None = None) -> None:
        """Read a text, unless it has been read, and thread it through the free pages of that document."""
        self._begin(_Place(self, publication, path, read))

    def start_writing(self, publication: Publication, story: str, paragraphs: tuple[Paragraph, ...]) -> None:
        """Set a story of that document with these paragraphs."""
        self._begin(_Write(self, publication, story, paragraphs))

    def _begin(self, run: _Run) -> None:
        if not self.busy:
            self.asked = self.done = 0
            self.batch += 1
        self.asked += 1
        self._pool.start(run)
        self.moved.emit()

    def _count(self, sitting: int) -> None:
        if sitting == self.sitting:
            self.done += 1
            self.moved.emit()
            if not self.busy:
                self.give()

    def cancel(self) -> None:
        """Bring no more of what was asked for; what has come stays."""
        self._pool.clear()
        self._came += [(one, source) for _, (one, source) in sorted(self._read.items()) if one is not None]
        self.give()
        self._read.clear()
        self._next = self._last
        self.sitting += 1
        self.asked = self.done = 0
        self.moved.emit()

    def wait(self) -> None:
        """Until everything asked for has been dealt with."""
        self._pool.waitForDone()
