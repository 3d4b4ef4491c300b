"""Bringing pictures and texts in off the interface thread: reading, copying and setting there, the edit here."""

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from PyQt6.QtCore import QObject, QRunnable, QThreadPool, pyqtSignal

from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.bring import copy_in
from half_fold.core.pictures.pyramid import make_copies
from half_fold.core.publication.records import Picture, Publication
from half_fold.core.spread.compose import Setter
from half_fold.core.spread.placing import place_story
from half_fold.core.typesetting.texts.reading import role_table
from half_fold.core.typesetting.texts.text_in import Reading, read_text_file
from half_fold.desk.faults import tell_fault


@dataclass(frozen=True)
class Placed:
    """A text on its pages in the document it was placed in, and the setter that has all of it set."""

    path: Path
    reading: Reading
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
        self.bringing.ended.emit(self.sitting)

    def bring(self) -> None:
        raise NotImplementedError


class _CopyIn(_Run):
    def __init__(self, bringing: "Bringing", known: tuple[Picture, ...], folder: Path, source: Path) -> None:
        super().__init__(bringing)
        self.known, self.folder, self.source = known, folder, source

    def bring(self) -> None:
        picture = copy_in((*self.known, *self.bringing.copied), self.folder, self.source, make_copies)
        self.bringing.copied.append(picture)
        self.bringing.brought.emit(picture, self.source.name)


class _Place(_Run):
    def __init__(self, bringing: "Bringing", publication: Publication, source: Path, read: Reading | None) -> None:
        super().__init__(bringing)
        self.publication, self.source, self.read = publication, source, read

    def bring(self) -> None:
        publication = self.publication
        reading = self.read or read_text_file(self.source, role_table(publication), publication.language)
        setter = Setter()
        made, story = place_story(self.publication, setter, reading.title, tuple(reading.paragraphs))
        for other in made.stories:
            setter.threads.flow(made, other.id)
        if self.sitting == self.bringing.sitting:
            self.bringing.placed.emit(Placed(self.source, reading, self.publication, made, story, setter))


class Bringing(QObject):
    """Files in the order they were asked for.

    ``brought`` gives a picture's record without an id, and the file's name; ``placed`` a text on its pages;
    ``moved`` tells that ``done`` of ``asked`` have been dealt with.
    """

    brought = pyqtSignal(object, str)
    placed = pyqtSignal(object)
    failed = pyqtSignal(str)
    ended = pyqtSignal(int)
    moved = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self._pool = QThreadPool()
        self._pool.setMaxThreadCount(1)
        self.copied: list[Picture] = []  # in this sitting; written by the one working thread
        self.sitting = 0
        self.asked = self.done = 0
        self.ended.connect(self._count)

    @property
    def busy(self) -> bool:
        return self.done < self.asked

    def start(self, known: tuple[Picture, ...], folder: Path, paths: Sequence[Path]) -> None:
        """Bring pictures in."""
        for path in paths:
            self._begin(_CopyIn(self, known, folder, path))

    def start_text(self, publication: Publication, path: Path, read: Reading | None = None) -> None:
        """Read a text, unless it has been read, and thread it through the free pages of that document."""
        self._begin(_Place(self, publication, path, read))

    def _begin(self, run: _Run) -> None:
        if not self.busy:
            self.asked = self.done = 0
        self.asked += 1
        self._pool.start(run)
        self.moved.emit()

    def _count(self, sitting: int) -> None:
        if sitting == self.sitting:
            self.done += 1
            self.moved.emit()

    def cancel(self) -> None:
        """Bring no more of what was asked for; what has come stays."""
        self._pool.clear()
        self.sitting += 1
        self.asked = self.done = 0
        self.moved.emit()

    def wait(self) -> None:
        """Until everything asked for has been dealt with."""
        self._pool.waitForDone()
