"""Photo books are planned and drafted off the interface thread; only the newest plan, and the newest draft, count."""

from pathlib import Path

from PyQt6.QtCore import pyqtSignal

from half_fold.core.arrange.draft import Plan, Wishes, draft_book, match_draft, planned
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.library.told import told_of_all
from half_fold.core.publication.records import Publication
from half_fold.desk.beside.newest import Newest, StillWanted


class Drafter(Newest):
    """``planned`` gives what a draft would be, ``drafted`` the job with it laid; ``moved`` how far that has come."""

    planned = pyqtSignal(object)
    drafted = pyqtSignal(object)
    failed = pyqtSignal(str)
    moved = pyqtSignal(int, int)

    def __init__(self) -> None:
        super().__init__()
        self.busy = False

    def plan(self, publication: Publication, folder: Path, wishes: Wishes) -> None:
        """Find out what a draft would be."""

        def work(still_wanted: StillWanted) -> object:
            try:
                told = told_of_all(folder, publication.pictures, still_wanted)
                return planned(publication, told, wishes)
            except Problem as problem:
                return str(problem)

        self.busy = True
        self.begin(work)

    def draft(self, publication: Publication, folder: Path, wishes: Wishes) -> None:
        """Make one."""

        def work(still_wanted: StillWanted) -> object:
            try:
                told = told_of_all(folder, publication.pictures, still_wanted)
                plan = planned(publication, told, wishes)
                made = draft_book(publication, told, plan, wishes, still_wanted, self.moved.emit)
                if wishes.match:
                    made = match_draft(made, plan, folder, wishes.match, still_wanted)
                return made, plan
            except Problem as problem:
                return str(problem)

        self.busy = True
        self.begin(work)

    def cancel(self) -> None:
        super().cancel()
        self.busy = False

    def taken(self, result: object) -> None:
        """Say what has come, or why nothing has."""
        self.busy = False
        if isinstance(result, str):
            self.failed.emit(result)
        elif isinstance(result, Plan):
            self.planned.emit(result)
        else:
            self.drafted.emit(result)

    def gave_up(self) -> None:
        self.busy = False
        self.failed.emit("")
