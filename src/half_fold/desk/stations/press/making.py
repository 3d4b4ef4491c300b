"""The making of what was chosen: a process of its own, so that the window stays free, and how far it is."""

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QProcess
from PyQt6.QtWidgets import (
    QFileDialog,
)

from half_fold.core.measure.length import counted
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.spreads import spread_index
from half_fold.core.press.parts import PAGES
from half_fold.core.store.files import own_folder_of
from half_fold.core.store.job import PRESS
from half_fold.core.store.own import file_name
from half_fold.desk.beside.child import command_line
from half_fold.desk.session import Session
from half_fold.desk.stations.press.choosing import ChoosingStation


class MakingStation(ChoosingStation):
    """Begins the press, tells how far it is, and what came of it."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.process: QProcess | None = None
        self.out: Path | None = None
        self._tell: Callable[[str], None] = self._tell_pressed
        self._heard, self._asked = "", ""  # the last line that the work said of what it did, and which work it was
        self._returned = ""  # what was said of the file that was proved last

    def act(self) -> None:
        self.ask()

    def ask(self) -> None:
        """Ask where the PDF shall go, then press it."""
        part = self.part()
        kept = self.kept()
        name = kept.name if kept is not None else "" if part.key == PAGES else part.label
        name += " to read" if self.to_read and kept is None else ""
        what = f"-{file_name(name, 'part')}" if name else ""
        out = self._asked_for("Press the PDF", f"{self.session.job.file.stem}{what}.pdf", "PDF (*.pdf)")
        if out is not None:
            self.press(out)

    def _asked_for(self, title: str, name: str, kinds: str) -> Path | None:
        """The file that is to be written, ``name`` in the job's press folder proposed."""
        chosen, _ = QFileDialog.getSaveFileName(self, title, str(self._press_folder() / name), kinds)
        return Path(chosen) if chosen else None

    def _press_folder(self) -> Path:
        """Where what is made is proposed to go."""
        job = self.session.job.folder
        try:
            return own_folder_of(job, PRESS)
        except Problem:  # another place is chosen
            return job

    def press(self, out: Path) -> None:
        """Press into ``out`` in a process of its own."""
        words = ["press", str(self.session.job.file), str(out), "--progress"]
        kept, asked = self.kept(), self.asked()
        if kept is not None:
            words += ["--output", kept.name]
        else:
            words += ["--part", asked.part, "--as", asked.form]
            words += ["--marks"] * asked.marks + ["--to-read"] * asked.to_read
        self._run(words, out, "Setting the pages", self._tell_pressed)

    def ask_outputs(self) -> None:
        """Ask which folder every output that is kept shall be made in, then make them."""
        chosen = QFileDialog.getExistingDirectory(self, "Make every output", str(self._press_folder()))
        if chosen:
            asked = ["outputs", str(self.session.job.file), chosen, "--progress"]
            count = counted(len(self.session.publication.outputs), "output")
            self._run(asked, Path(chosen), "Setting the pages", lambda said: self._tell_made(f"{count} made", said))

    def ask_everything(self) -> None:
        """Ask where everything for the printer shall go, then press all parts of the job into one archive."""
        out = self._asked_for("Gather for the printer", f"{self.session.job.file.stem}.zip", "ZIP (*.zip)")
        if out is not None:
            asked = ["gather", str(self.session.job.file), str(out), "--progress"]
            self._run(asked, out, "Looking through the job", self._tell_pressed)

    def ask_which(self) -> None:
        """Ask for a file that came back, then say whether it is one that was made, whole and unchanged."""
        chosen, _ = QFileDialog.getOpenFileName(self, "Prove a file", str(self._press_folder()), "PDF (*.pdf)")
        if chosen:
            asked = ["prove", str(self.session.job.file), chosen]
            self._run(asked, Path(chosen), "Reading the file", lambda _: self._tell_returned(self._heard))

    def _tell_returned(self, words: str) -> None:
        """What the file is, at the foot and whole in its card."""
        self._returned = self._of_its_name(words)
        self.session.noted.emit(self._returned)

    def _of_its_name(self, words: str) -> str:
        """The words with the name of the file for its path."""
        return words.replace(str(self.out), self.out.name) if self.out is not None else words

    def ask_picture(self) -> None:
        """Ask where a picture of what is in view shall go, then draw it."""
        name = f"{self.session.job.file.stem}-{file_name(self._in_view(), 'picture')}.png"
        out = self._asked_for("Write the picture", name, "PNG (*.png);;JPEG (*.jpg)")
        if out is None:
            return
        part, spread = self.part(), spread_index(self.session.publication, self.session.view.page) + 1
        what = ["--spread", str(spread)] if part.has_pages else [f"--{part.key}"]
        asked = ["proof", str(self.session.job.file), str(out), *what]
        self._run(asked, out, "Drawing the picture", lambda _: self.session.noted.emit(f"Written: {out}."))

    def _in_view(self) -> str:
        part = self.part()
        return f"spread {self.session.view.spread.label}" if part.has_pages else part.label

    def _run(self, asked: list[str], out: Path, words: str, tell: Callable[[str], None]) -> None:
        """Write ``out`` in a process of its own, unless one is at work; ``words`` say what it begins with.

        ``tell`` says what came of it, given what it said beside.
        """
        if self.process is not None:
            return
        self.session.autosave.flush()
        self.out, self._tell, self._heard, self._asked = out, tell, "", asked[0]
        self.process = QProcess(self)
        self.process.readyReadStandardOutput.connect(self._progress)
        self.process.finished.connect(self._finished)
        self.process.start(*command_line(*asked))
        self._show_progress(True, words)

    def _show_progress(self, on: bool, words: str = "") -> None:
        self.button.setEnabled(not on)
        self.bar.setRange(0, 0)
        for widget in (self.bar, self.cancel, self.progress_words):
            widget.setVisible(on)
        self.progress_words.setText(words)

    def _progress(self) -> None:
        assert self.process is not None
        lines = bytes(self.process.readAllStandardOutput().data()).decode().split("\n")
        self._heard = next((line for line in reversed(lines) if line.strip()), self._heard)
        told = [line.split(" ", 2) for line in lines if line.strip()]
        steps = [(int(line[0]), int(line[1]), line[2]) for line in told if len(line) == 3 and line[0].isdigit()]
        if steps:
            done, count, words = steps[-1]
            self.bar.setRange(0, count)
            self.bar.setValue(done)
            self.progress_words.setText(words[0].upper() + words[1:])

    def stop(self) -> None:
        """Cancel; what was half made is removed."""
        if self.process is not None:
            self.process.terminate()

    def _finished(self, status: int) -> None:
        process, self.process = self.process, None
        assert process is not None
        said = bytes(process.readAllStandardError().data()).decode().strip()
        self._show_progress(False)
        if status == 0:
            self._tell(said)
        elif status == 2:
            words = said.removeprefix("half-fold: ")
            if self._asked == "prove":
                self._returned = words = self._of_its_name(words)
            self.session.said.emit(words)
        else:
            self.session.noted.emit("Cancelled; nothing half made was left.")
        self.session.view.selected.emit()

    def _tell_made(self, what: str, said: str) -> None:
        """What was made, and what was said beside."""
        tell = self.session.said if said else self.session.noted
        tell.emit(" ".join([f"{what}: {self.out}.", *said.splitlines()]))

    def _tell_pressed(self, said: str) -> None:
        tell = self.session.said if said else self.session.noted
        made = self.session.job.pressed()
        proved = proved_words(made[-1]) if made else ""
        tell.emit(" ".join([f"Pressed: {', '.join(filter(None, (str(self.out), proved)))}.", *said.splitlines()]))


def proved_words(entry: dict[str, object]) -> str:
    """What the record says was read back out of a file; nothing of files that an earlier program made."""
    proved = entry.get("proved", "")
    return f"proved: {proved}" if proved else ""
