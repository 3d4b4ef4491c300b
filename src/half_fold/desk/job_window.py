"""What a window does with whole jobs: new ones, the next number, versions, kinds of one's own, contact sheets."""

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import (
    QFileDialog,
    QInputDialog,
    QMainWindow,
)

from half_fold.core.measure.problem import Problem
from half_fold.core.store.own import file_name
from half_fold.desk.session import Session

if TYPE_CHECKING:
    pass

if TYPE_CHECKING:
    from half_fold.desk.beside.child import Child


class JobWindow(QMainWindow):
    """A window on a job. ``wants_job`` tells of another that is to be opened."""

    wants_job = pyqtSignal(object)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.contact: Child | None = None  # what makes contact sheets

    def keep_by_name(self) -> None:
        """Ask for a name, and keep a version under it."""
        name, fine = QInputDialog.getText(self, "Keep a version", "Its name, such as “sent to printer”")
        if fine:
            self.session.keep_version(name)

    def new_job(self) -> None:
        """Ask the desk for a new job."""
        self.wants_job.emit(None)

    def start_next(self) -> None:
        """Ask for a folder, and begin the next number of this job in it."""
        from half_fold.core.plan.next_number import begin_next_number
        from half_fold.core.store.next_job import create_next

        job, after = self.session.job, begin_next_number(self.session.publication)
        name = file_name(" ".join(filter(None, (after.title, after.issue))), "job")
        chosen, _ = QFileDialog.getSaveFileName(self, "A folder for the next number", str(job.folder.parent / name))
        if not chosen:
            return
        try:
            self.wants_job.emit(create_next(Path(chosen), after, job.folder))
        except Problem as problem:
            self.session.said.emit(str(problem))

    def contact_sheets(self) -> None:
        """Ask for a file, and write contact sheets of the pictures into it, in a process of its own."""
        from half_fold.desk.beside.child import Child

        start = self.session.job.folder / f"{self.session.job.file.stem}-pictures.pdf"
        chosen, _ = QFileDialog.getSaveFileName(self, "Contact sheets", str(start), "PDF (*.pdf)")
        if chosen and not (self.contact is not None and self.contact.busy):
            self.session.autosave.flush()
            self.session.noted.emit("Making contact sheets")
            self.contact = Child(self, "contact", str(self.session.job.file), chosen)
            self.contact.done.connect(lambda words: self.session.noted.emit(f"Contact sheets: {words}."))
            self.contact.failed.connect(self.session.said)

    def keep_as_kind(self) -> None:
        """Ask for a name, and keep this job as a kind to start others from."""
        from half_fold.core.plan.own_kinds import keep_kind
        from half_fold.desk.paint.proof import write_small

        name, taken = QInputDialog.getText(
            self, "Keep as a kind", "What jobs like this one are called:", text=self.session.publication.title
        )
        if not taken:
            return
        job = self.session.job
        try:
            kept = keep_kind(self.session.publication, job.folder, name)
            write_small(job, kept.picture)
        except Problem as problem:
            self.session.said.emit(str(problem))
            return
        self.session.noted.emit(f"“{kept.name}” now stands among the kinds in the way in.")

    def open_job(self) -> None:
        """Ask which job to open."""
        start = str(self.session.job.folder.parent)
        name, _ = QFileDialog.getOpenFileName(self, "Open a job", start, "Half Fold jobs (*.halffold)")
        if name:
            self.wants_job.emit(Path(name))
