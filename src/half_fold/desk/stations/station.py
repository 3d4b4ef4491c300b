"""What every station is: a bench, its working, its keys, and where the pointer stands."""

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QMimeData, QPoint, pyqtSignal
from PyQt6.QtWidgets import QWidget

from half_fold.core.spread.edits.grouping import delete_things
from half_fold.core.spread.edits.placing import add_story
from half_fold.core.store.tables import SUFFIXES as TABLE_SUFFIXES
from half_fold.core.typesetting.texts.text_in import SUFFIXES, read_plain
from half_fold.desk.asking import ask_for_pictures, ask_for_table, ask_for_text
from half_fold.desk.kit.rows import Edit, RowSection
from half_fold.desk.room import Folds
from half_fold.desk.workpiece import Then, Workpiece


class Station(QWidget):
    """A station at the desk; the window shows its working and its keys beside it."""

    follows_pointer = False  # whether its working says what lies under the pointer, or is chosen on its bench
    lays_things = False  # whether things from the clipboard go on its bench
    moved = pyqtSignal()  # the pointer, or what the foot says of it
    turned = pyqtSignal()  # another view or thing is shown, which has other rows
    asked_for = pyqtSignal(int)

    def __init__(self, session: Workpiece) -> None:
        super().__init__()
        self.session = session

    def folds(self) -> Folds | None:
        """The drawer of its own, which can be folded away; none at most stations."""
        return None

    def opened(self) -> None:
        """It has been pulled out: look at what lies outside the document."""

    def picture_came(self) -> None:
        """Show pictures better than before: what was read is there now."""
        self.update()

    def refresh(self) -> None:
        """Show the document as it is now."""
        self.update()

    def sections(self) -> Sequence[RowSection]:
        """The working column."""
        return ()

    def keys(self) -> Sequence[tuple[str, str]]:
        """(key, what it does now)."""
        return ()

    def where(self) -> str:
        """Where the pointer or the selection is, in words."""
        return ""

    def take_focus(self) -> None:
        """Put the focus on the bench."""
        self.setFocus()

    def brief_edit(self, key: str) -> Edit:
        """An edit that sets one value of the plan."""
        from half_fold.core.plan.settings import set_value

        return lambda text: self.session.edit(lambda p: set_value(p, key, text), f"{key} {text}")

    def act(self) -> None:
        """Do what this station is for (Ctrl+P at the press)."""

    def bring(self, what: str) -> None:
        """Ask for pictures, a text or a table of goods to bring in; the user stays at the station."""
        if what == "pictures":
            names = ask_for_pictures(self)
            if names:
                self.session.bring_pictures(names)
        elif what == "goods":
            table = ask_for_table(self)
            if table is not None:
                self.session.bring_goods(table)
        else:
            name = ask_for_text(self)
            if name is not None:
                self.session.bring_text(name)

    def take_files(self, paths: Sequence[Path], at: QPoint | None = None) -> None:
        """Pictures, texts and tables dropped on the window (``at`` a place of the screen), or pasted."""
        for path in (path for path in paths if path.suffix.lower() in TABLE_SUFFIXES):
            self.session.bring_goods(path)
        paths = [path for path in paths if path.suffix.lower() not in TABLE_SUFFIXES]
        texts = [path for path in paths if path.suffix.lower() in SUFFIXES]
        for path in texts:
            self.session.bring_text(path)
        pictures = [path for path in paths if path not in texts]
        if pictures:
            self.session.bring_pictures(pictures, self.place_for(at))

    def place_for(self, _at: QPoint | None) -> Then | None:
        """What is done with the first picture of those dropped there, once it is in the job."""
        return None

    def to_copy(self, pictures: Path) -> QMimeData | None:
        """What is chosen, for the clipboard; ``pictures`` is the job's folder of them. None where nothing is."""
        from half_fold.desk.beside.copying import copied

        return copied(self.session, pictures)

    def cut(self) -> None:
        """What is chosen, taken off; it has been copied."""
        names = self.session.view.chosen
        if names:
            self.session.edit(lambda p: delete_things(p, names), "cut")

    def lay(self, mime: QMimeData, mirror: bool) -> bool:
        """Lay what was copied where the user is; whether there was anything of the kind."""
        from half_fold.desk.beside.copying import paste_here

        return self.lays_things and paste_here(self.session, mime, mirror)

    def take_words(self, words: str) -> None:
        """Words pasted outside any text: a new story, which waits in its drawer."""
        paragraphs = tuple(read_plain(words).paragraphs)
        if self.session.edit(lambda p: add_story(p, "", paragraphs)[0], "pasted words"):
            self.session.noted.emit("The words are a new story; it waits among the stories of Spreads.")

    def show_block(self, side: str, block: str) -> None:
        """Show that side of the cover with that block selected, where a station shows covers."""

    def stop(self) -> None:
        """End what runs in the background; the window is closing."""
