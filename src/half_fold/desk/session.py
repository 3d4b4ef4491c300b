"""The open job as the window sees it: the document now, its history, its autosave, and what is selected."""

import shutil
import tempfile
from collections.abc import Callable
from datetime import datetime
from pathlib import Path

from PyQt6.QtCore import QCoreApplication, QTimer, pyqtSignal
from PyQt6.QtGui import QImage

from half_fold.core.checks.finding import Finding
from half_fold.core.cover.flat import CoverSetter
from half_fold.core.legibility.reading import Surface
from half_fold.core.measure.length import counted
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.library.bring import with_picture, with_pictures
from half_fold.core.pictures.library.folders import with_folders
from half_fold.core.publication.history import History
from half_fold.core.publication.records import Paragraph, Picture, Publication
from half_fold.core.publication.surgery import story_of
from half_fold.core.spread.edits.sets import with_new_in_set
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.autosave import Autosave
from half_fold.core.store.job import Job
from half_fold.core.typesetting.faces.fonts import join_fonts
from half_fold.desk.beside.bringing import Bringing, PlacedText, Written
from half_fold.desk.beside.checker import Checker
from half_fold.desk.beside.post import by_post
from half_fold.desk.paint.proxies import Proxies
from half_fold.desk.view import View
from half_fold.desk.workpiece import Then, Workpiece

CHECKED_AFTER_MS = 500


def version_words(version: Path) -> str:
    """A version's date, time and name as read: ``25 Nov, 14:02, sent to printer``."""
    day, _, rest = version.name.removesuffix(".halffold.gz").partition(" ")
    clock, _, name = rest.partition(" ")
    at = datetime.strptime(f"{day} {clock[:8]}", "%Y-%m-%d %H.%M.%S")
    return ", ".join(filter(None, (f"{at.day} {at:%b}", f"{at:%H:%M}", name)))


class Session(Workpiece):
    """One job at one desk. Every edit goes through ``edit``; a Problem is ``said``, plain news is ``noted``."""

    saved = pyqtSignal(str)
    checked = pyqtSignal()

    def __init__(self, job: Job) -> None:
        super().__init__()
        self.job = job
        join_fonts(job.publication, job.folder)
        self.history = History(job.publication)
        self.setter = Setter()
        self.covers = CoverSetter(self.setter)
        self.proxies = Proxies(job.pictures)
        self.proxies.know(job.publication.pictures)
        self.autosave = Autosave(job, by_post(self._tell_saved))
        self.saved_at: datetime | None = None
        self.save_problem = ""
        self.saved.connect(self._note_saved)
        self._pasted: list[Path] = []
        self._then: dict[Path, Then] = {}
        self.open_set = ""  # that new things fall into
        self._within: tuple[str, str] | None = None  # what is done belongs to this edit, and is said and joined so
        self._batch = (0, 0)
        self._refused = (0, "")  # in which batch, and what was said of the last of it
        self.bringing = Bringing()
        self.bringing.brought.connect(self._brought)
        self.bringing.placed.connect(self._placed)
        self.bringing.failed.connect(self._refuse)
        self.bringing.written.connect(self._written)
        self._checker = Checker()
        self._checker.found.connect(self._take_findings)
        self.findings: list[Finding] = []
        self.is_checked = False  # once: what was found before stands until what is found now
        self._quiet = QTimer(self)
        self._quiet.setSingleShot(True)
        self._quiet.setInterval(CHECKED_AFTER_MS)
        self._quiet.timeout.connect(self._check_in_quiet)
        self._quiet.start()
        self.view = View(self, 1, job.publication.stories[0].id if job.publication.stories else None)

    @property
    def publication(self) -> Publication:
        return self.history.now

    def edit(self, make: Callable[[Publication], Publication], said: str, joining: str = "") -> bool:
        """Apply a pure edit; False, with the sentence said, where it cannot be."""
        from half_fold.core.editing.door import apply_edit  # with all that can be set of things: at the first edit

        before = self.publication
        try:
            made = apply_edit(before, self._into_open_set(make), self.job.pictures, self.setter)
        except Problem as problem:
            self.said.emit(str(problem))
            return False
        if made is not before:
            self.history.edit(made, *(self._within or (said, joining)))
            self._now()
            self._tell_of_spine(before, made)
        return True

    def _into_open_set(self, make: Callable[[Publication], Publication]) -> Callable[[Publication], Publication]:
        """The edit, what it makes in the set that is open."""
        name = self.open_set
        if not name:
            return make
        return lambda publication: with_new_in_set(publication, make(publication), name)

    def _tell_of_spine(self, before: Publication, after: Publication) -> None:
        """Say what another spine moved on the cover."""
        if before.brief is after.brief and len(before.pages) == len(after.pages):
            return
        from half_fold.core.cover.spine_moves import format_spine_moves

        words = format_spine_moves(before, after)
        if words:
            self.noted.emit(words)

    def sheet(self, setter: Setter) -> Surface:
        return Surface(self.publication, self.job.pictures, self.view.spread, setter)

    def bring_pictures(self, paths: list[Path], then: Then | None = None) -> None:
        """Bring pictures in as one edit, those of folders too; what cannot be read is said and passed over.

        ``then`` is told the id of the first once it is in the job.
        """
        try:
            paths = with_folders(paths)
        except Problem as problem:
            self.said.emit(str(problem))
            return
        if paths:
            if then is not None:
                self._then[paths[0]] = then
            self.noted.emit(f"Bringing in {counted(len(paths), 'picture')}")
            self.bringing.start(self.publication.pictures, self.job.pictures, paths)

    def bring_text(self, path: Path) -> None:
        """Read a text and thread it through the next free pages, as one edit when it is ready."""
        self.noted.emit(f"Bringing in “{path.name}”")
        self.bringing.start_text(self.publication, path)

    def _placed(self, placed: PlacedText) -> None:
        if placed.base is not self.publication:  # edited meanwhile: place it in the document as it is now
            self.bringing.start_text(self.publication, placed.path, placed.reading)
            return
        self.setter.take_over(placed.setter)
        self.edit(lambda _: placed.publication, f"brought in {placed.path.name}")
        self.view.select(None)
        self.view.choose_story(placed.story)
        flow = self.setter.threads.flow(self.publication, placed.story)
        if flow.columns:
            self.view.go_to(flow.columns[0].page)
        news = dict.fromkeys(placed.reading.notes)
        where = "on its pages" if flow.columns else "in the story drawer; claim fields for it, and press S"
        self._tell(" ".join([*news] if flow.columns and news else [f"“{placed.reading.title}” is {where}.", *news]))

    def write_long(self, story: str, paragraphs: tuple[Paragraph, ...]) -> None:
        """Give a story very many paragraphs, which are set beside the window first."""
        self.bringing.start_writing(self.publication, story, paragraphs)

    def _written(self, written: Written) -> None:
        if written.base is not self.publication:  # edited meanwhile: written into the document as it is now
            now = next((each for each in self.publication.stories if each.id == written.story), None)
            if now is not None and now is story_of(written.base, written.story):
                self.write_long(written.story, story_of(written.publication, written.story).paragraphs)
            else:
                self.said.emit("The story was changed while that was pasted into it; paste it once more.")
            return
        self.setter.take_over(written.setter)
        self.edit(lambda _: written.publication, "pasted words")

    def make_contents(self) -> None:
        """The story that lists the others, made or with what it lacked; it is chosen."""
        from half_fold.core.spread.setting.contents import with_contents

        made = ""

        def make(publication: Publication) -> Publication:
            nonlocal made
            publication, made = with_contents(publication, self.setter.threads)
            return publication

        if self.edit(make, "contents"):
            self.view.choose_story(made)
            is_laid = bool(self.setter.threads.flow(self.publication, made).columns)
            where = "" if is_laid else " Claim fields for them, and press S."
            self.noted.emit(f"The contents list what is laid; their folios follow the pages.{where}")

    def bring_goods(self, table: Path) -> None:
        """The goods of a table for those the job had; what is new is said."""
        from half_fold.core.catalogue.table import read_goods, take_goods

        news: list[str] = []

        def take(publication: Publication) -> Publication:
            publication, said = take_goods(publication, read_goods(table))
            news.extend(said)
            return publication

        if self.edit(take, f"goods from {table.name}"):
            self.noted.emit(f"{'; '.join(news) or 'Nothing is otherwise'}.")

    def bring_image(self, image: QImage) -> None:
        """A picture without a file, such as the clipboard's, brought in as a PNG."""
        folder = Path(tempfile.mkdtemp(prefix="half-fold-"))
        self._pasted.append(folder)
        image.save(str(folder / "pasted.png"), "PNG")
        self.bring_pictures([folder / "pasted.png"])

    def _refuse(self, sentence: str) -> None:
        self._refused = self.bringing.batch, sentence
        self.said.emit(sentence)

    def _tell(self, words: str) -> None:
        """News of what was brought in, with what was refused of the same batch."""
        if self._refused[0] == self.bringing.batch:
            self.said.emit(f"{words} {self._refused[1]}")
        else:
            self.noted.emit(words)

    def _brought(self, came: list[tuple[Picture, Path]]) -> None:
        self._batch = self._batch if self._batch[0] == self.bringing.batch else (self.bringing.batch, 0)
        count = self._batch[1] + len(came)
        self._batch = self._batch[0], count
        name = came[0][1].name if count == 1 else counted(count, "picture")
        said, joining = f"brought in {name}", f"batch {self._batch[0]}"
        if self.edit(lambda p: with_pictures(p, (each for each, _ in came)), said, joining):
            words = f"{name} {'is' if count == 1 else 'are'} in the picture drawer."
            left_out = next((f"{each.file}: {each.left_out}" for each, _ in came if each.left_out), "")
            self._tell(f"{words} Left out of {left_out}." if left_out else words)
        for picture, path in came:
            then = self._then.pop(path, None)
            if then is not None:
                self._within = said, joining  # to bring a picture in and to put it there is one edit
                try:
                    then(with_picture(self.publication, picture)[1].id)
                finally:
                    self._within = None

    def undo(self) -> None:
        """Take back the latest edit, and say which."""
        words = self.history.undoes
        if words:
            self.history.undo()
            self._now()
        self.noted.emit(f"Undone: {words}. Ctrl+Shift+Z does it again." if words else "There is nothing to undo.")

    def redo(self) -> None:
        """Make the edit again that was taken back last, and say which."""
        words = self.history.redoes
        if words:
            self.history.redo()
            self._now()
        self.noted.emit(f"Done again: {words}." if words else "There is nothing to do again.")

    def _now(self) -> None:
        publication = self.publication
        self.view.follow()
        self.proxies.know(publication.pictures)
        self.autosave.offer(publication)
        self._quiet.start()
        self.changed.emit()

    def _check_in_quiet(self) -> None:
        """Not while pictures come in: every one of them is another job to check, and they want both processors."""
        if self.bringing.busy:
            self._quiet.start()
        else:
            self.check_now()

    def check_now(self) -> None:
        """Begin to run every rule; begun by itself when the edits pause. ``checked`` tells when it is done."""
        self._quiet.stop()
        self._checker.start(self.publication, self.job.pictures)

    def _take_findings(self, findings: list[Finding]) -> None:
        self.findings, self.is_checked = findings, True
        self.checked.emit()

    def return_to(self, version: Path) -> None:
        """Back to a kept version: an edit like any other, which undo takes back."""
        self.edit(lambda _: self.job.read_version(version), f"returned to {version_words(version)}")

    def keep_version(self, name: str = "") -> None:
        """Keep the job as it stands under a name."""
        try:
            self.job.keep_version(self.publication, name)
        except Problem as problem:
            self.said.emit(str(problem))
            return
        self.noted.emit("A version was kept.")
        self.saved.emit("")

    def _tell_saved(self, problem: str) -> None:
        self.saved.emit(problem)

    def _note_saved(self, problem: str) -> None:
        self.save_problem = problem
        if not problem:
            self.saved_at = datetime.now()
        else:
            self.said.emit(problem)

    def close(self) -> None:
        """Save what waits, and let go of the job."""
        self._quiet.stop()
        self._checker.wait()
        while self.bringing.busy:
            self.bringing.wait()
            QCoreApplication.sendPostedEvents()  # what was brought in meanwhile
        self.bringing.give()
        for folder in self._pasted:
            shutil.rmtree(folder, ignore_errors=True)
        self.autosave.close()
        self.proxies.stop()
        self.job.close()
