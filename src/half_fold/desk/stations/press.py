"""Press: what to make, the sheet as it will be, progress that can be cancelled, and the record of what was made."""

from collections.abc import Callable, Sequence
from contextlib import suppress
from functools import partial
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtCore import QPointF, QProcess, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import (
    QButtonGroup,
    QCheckBox,
    QFileDialog,
    QGridLayout,
    QHBoxLayout,
    QProgressBar,
    QPushButton,
    QRadioButton,
    QVBoxLayout,
    QWidget,
)

from half_fold.core.brief.allowances import overprint, pixels
from half_fold.core.brief.printers import STANDARD
from half_fold.core.drawing.marks import DisplayList, Line, Mark
from half_fold.core.measure.length import counted, figure, show_size
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour.colour import profile_for, profile_name
from half_fold.core.plan.bound import binding_report
from half_fold.core.plan.page_ranges import asks_for_pages
from half_fold.core.plan.spreads import spread_index
from half_fold.core.press.make import READ_PPI
from half_fold.core.press.outputs import (
    FORM_WORDS,
    OUTPUT,
    drop_output,
    in_effect,
    keep_output,
    output_named,
    said_output,
    set_output,
)
from half_fold.core.press.parts import PAGES, SHEETS_FORM, Part, part_named, parts_of, sheet_at, side_name
from half_fold.core.press.sheets import NOWHERE, Sheet, cut_to_trim
from half_fold.core.publication.property import Property
from half_fold.core.publication.records import Output, OutputForm, Publication
from half_fold.core.store.files import own_folder_of
from half_fold.core.store.job import PRESS
from half_fold.core.store.own import file_name
from half_fold.desk.beside.child import command_line
from half_fold.desk.kit.plain import label
from half_fold.desk.kit.property_rows import property_row
from half_fold.desk.kit.rows import Card, Edit, Row, Section
from half_fold.desk.paint.painter import paint, qrect
from half_fold.desk.session import Session
from half_fold.desk.stations.station import Station
from half_fold.desk.theme import tokens

MOST_ACROSS, GAP = 2, 18
PARTS_IN_LINE = 5
MADE_OF: dict[OutputForm, str] = {"pages": "page", "spreads": "spread", "sheets": "side"}
PICTURED = ("cover", "front")  # parts without pages that a picture is made of


class SheetView(QWidget):
    """The sheet drawn as it will be printed, with its boxes and marks."""

    def __init__(self, station: "PressStation") -> None:
        super().__init__()
        self.station = station
        station.session.proxies.ready.connect(self._picture_is_ready)

    def _picture_is_ready(self, _picture: str) -> None:
        """A slot of its own object: what a closed window's pictures tell no longer reaches it."""
        self.update()

    def sheets(self) -> list[Sheet]:
        """The sheet in view, or all of a part that has no pages."""
        station, session = self.station, self.station.session
        part = station.part()
        makers = part.makers(session.setter, station.form)
        if part.has_pages:
            makers = [makers[sheet_at(session.publication, part, station.form, session.page)]]
        made = [make() for make in makers]
        return [cut_to_trim(sheet) for sheet in made] if station.to_read else made

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), tokens.colour(tokens.SURROUND))
        try:
            sheets = self.sheets()
        except Problem as problem:
            painter.setPen(tokens.colour(tokens.INK))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, str(problem))
            return
        medias = [self._media(sheet) for sheet in sheets]
        across = min(len(sheets), MOST_ACROSS)
        rows = -(-len(sheets) // across)
        wide, tall = max(media.width for media in medias), max(media.height for media in medias)
        room = self.width() - 60 - GAP * (across - 1), self.height() - 74 - GAP * (rows - 1)
        scale = min(room[0] / (across * wide), room[1] / (rows * tall))
        left = (self.width() - scale * wide * across - GAP * (across - 1)) / 2
        top = (self.height() - 20 - scale * tall * rows - GAP * (rows - 1)) / 2
        for at, (sheet, media) in enumerate(zip(sheets, medias, strict=True)):
            row, column = divmod(at, across)
            painter.save()
            painter.translate(left + column * (scale * wide + GAP), top + row * (scale * tall + GAP))
            painter.scale(scale, scale)
            painter.translate(-media.left, -media.top)
            self._draw(painter, sheet, media)
            painter.restore()
        self._caption(painter, sheets[0].trim, medias[0], scale)

    def _media(self, sheet: Sheet) -> Rect:
        return sheet.area(self.station.marks)

    def _draw(self, painter: QPainter, sheet: Sheet, media: Rect) -> None:
        painter.fillRect(qrect(media), QColor("white"))
        marks = DisplayList(sheet.bleed, sheet.marks, overprint(self.station.session.publication)[0])
        paint(painter, marks, self.station.session.proxies.image, clip_of=sheet.clip_of)
        painter.setPen(QPen(tokens.colour(tokens.INK), 0))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(qrect(sheet.trim))
        painter.setPen(QPen(tokens.colour(tokens.OCHRE), 0, Qt.PenStyle.DashLine))
        painter.drawRect(qrect(sheet.bleed))
        if self.station.marks:
            self._draw_printers(painter, sheet.printers)

    def _draw_printers(self, painter: QPainter, marks: Sequence[Mark]) -> None:
        """The printer's marks, their lines as thin as the window shows lines, however small the sheet is drawn."""
        painter.setPen(QPen(tokens.colour(tokens.INK), 0))
        for mark in marks:
            if isinstance(mark, Line):
                painter.drawLine(QPointF(*mark.start), QPointF(*mark.end))
        others = tuple(mark for mark in marks if not isinstance(mark, Line))
        paint(painter, DisplayList(NOWHERE, others), self.station.session.proxies.image)

    def _caption(self, painter: QPainter, trim: Rect, media: Rect, scale: float) -> None:
        painter.setFont(tokens.font(12))
        painter.setPen(tokens.colour(tokens.INK))
        unit = self.station.session.publication.brief.unit
        words = (
            f"Trim {show_size(trim.width, trim.height, unit)}, "
            f"sheet {show_size(media.width, media.height, unit)}, "
            f"drawn at {figure(100 * scale * 72 / self.logicalDpiX(), 0)} %"
        )
        area = QRectF(0, self.height() - 34, self.width(), 20)
        painter.drawText(area, Qt.AlignmentFlag.AlignCenter, words)


class PressStation(Station):
    """Runs the press as a process of its own, so that the window stays free."""

    session: Session

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.choice, self.marks, self.to_read, self.ppi = PAGES, True, False, 0
        self.form: OutputForm = "pages"
        self.marks_wanted = True  # by the printer; what is chosen here afterwards stands
        self.pages = ""  # those asked for, where not all are to be made
        self.process: QProcess | None = None
        self.out: Path | None = None
        self._tell: Callable[[str], None] = self._tell_pressed
        self._heard, self._asked = "", ""  # the last line that the work said of what it did, and which work it was
        self._returned = ""  # what was said of the file that was proved last
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.sheet = SheetView(self)
        column.addWidget(self.sheet, 1)
        column.addWidget(self._controls())

    def _controls(self) -> QWidget:
        shelf = QWidget()
        shelf.setObjectName("shelf")
        shelf.setStyleSheet(f"#shelf {{ background: {tokens.SHELF}; }}")
        whole = QVBoxLayout(shelf)
        whole.setContentsMargins(20, 10, 20, 12)
        line = QHBoxLayout()
        line.setSpacing(18)
        self.parts_lines = QGridLayout()
        self.parts_lines.setHorizontalSpacing(18)
        self.parts_lines.setColumnStretch(PARTS_IN_LINE, 1)
        self.parts_group = QButtonGroup(shelf)
        self.choices: dict[str, QRadioButton] = {}
        whole.addLayout(self.parts_lines)
        self.group = QButtonGroup(shelf)
        self.forms: dict[str, QRadioButton] = {}
        for form, words in FORM_WORDS.items():
            button = QRadioButton(words.capitalize())
            button.setChecked(form == self.form)
            button.toggled.connect(partial(self._take_form, form))
            self.group.addButton(button)
            self.forms[form] = button
            line.addWidget(button)
        self._fill_parts()
        line.addStretch(1)
        whole.addLayout(line)
        line = QHBoxLayout()
        line.setSpacing(18)
        self.purposes = QButtonGroup(shelf)
        self.for_press, self.for_reading = QRadioButton("For the printer"), QRadioButton("To read on a screen")
        self.for_press.setChecked(True)
        for button in (self.for_press, self.for_reading):
            self.purposes.addButton(button)
            line.addWidget(button)
        self.for_reading.toggled.connect(self._set_to_read)
        self.with_marks = QCheckBox("Printer’s marks")
        self.with_marks.setChecked(True)
        self.with_marks.toggled.connect(self._set_marks)
        self._as_the_printer_wants()
        line.addWidget(self.with_marks)
        line.addStretch(1)
        self.button = QPushButton("Press the PDF")
        self.button.setProperty("primary", True)
        self.button.setToolTip("Ctrl+P")
        self.button.clicked.connect(self.ask)
        line.addWidget(self.button)
        whole.addLayout(line)
        progress = QHBoxLayout()
        self.bar = QProgressBar()
        self.bar.setTextVisible(False)
        self.cancel = QPushButton("Cancel")
        self.cancel.clicked.connect(self.stop)
        self.progress_words = label("", 12)
        for widget in (self.progress_words, self.bar, self.cancel):
            progress.addWidget(widget)
            widget.hide()
        whole.addLayout(progress)
        return shelf

    def part(self) -> Part:
        """The part that is chosen; the pages where it is no longer there."""
        every = parts_of(self.session.publication)
        if self.choice == PAGES and self.pages:
            try:
                return part_named(self.session.publication, self.pages)
            except Problem:  # the pages that were asked for have gone since
                self.pages = ""
        return next((part for part in every if part.key == self.choice), every[0])

    def _fill_parts(self) -> None:
        """A button for each part there is now, the chosen one pressed."""
        every = {part.key: part.label for part in parts_of(self.session.publication)}
        if every != {key: button.text() for key, button in self.choices.items()}:
            for button in self.choices.values():
                self.parts_group.removeButton(button)
                button.deleteLater()
            while self.parts_lines.count():
                self.parts_lines.takeAt(0)
            self.choices = {key: QRadioButton(words) for key, words in every.items()}
            for at, (key, button) in enumerate(self.choices.items()):
                self.parts_group.addButton(button)
                self.parts_lines.addWidget(button, *divmod(at, PARTS_IN_LINE))
                button.toggled.connect(partial(self._choose, key))
        self.choice = self.choice if self.choice in self.choices else next(iter(self.choices))
        self.choices[self.choice].setChecked(True)
        for button in self.forms.values():
            button.setVisible(self.part().has_pages)

    def take_focus(self) -> None:
        self.button.setFocus()

    def _choose(self, choice: str, on: bool) -> None:
        if not on:
            return
        self.choice, self.ppi = choice, 0
        self._fill_parts()
        self._is_another()

    def _take_form(self, form: OutputForm, on: bool) -> None:
        if not on:
            return
        self.form, self.ppi = form, 0
        self._is_another()

    def _is_another(self) -> None:
        """Something else will be made: the sheet, the foot and the working say so."""
        self.sheet.update()
        self.moved.emit()
        self.session.selected.emit()

    def _set_marks(self, on: bool) -> None:
        self.marks = on
        self._is_another()

    def _set_to_read(self, on: bool) -> None:
        self.to_read, self.ppi = on, 0
        self.with_marks.setVisible(not on)
        self._is_another()

    # Outputs ------------------------------------------------------------------------------------

    def asked(self) -> Output:
        """What is chosen here, as an output without a name."""
        asked = Output(
            name="", part=self.part().key, form=self.form, marks=self.marks, to_read=self.to_read, ppi=self.ppi
        )
        return in_effect(self.session.publication, asked)

    def kept(self) -> Output | None:
        """The output that is as what is chosen here; None where none is."""
        asked, publication = self.asked(), self.session.publication
        for output in publication.outputs:
            with suppress(Problem):  # its part has gone since
                if in_effect(publication, output) == asked:
                    return output
        return None

    def take(self, output: Output) -> None:
        """Choose here what an output says."""
        paged = asks_for_pages(output.part)
        self.choice, self.pages = (PAGES, output.part) if paged else (output.part, "")
        self.form = output.form
        self.with_marks.setChecked(output.marks)
        (self.for_reading if output.to_read else self.for_press).setChecked(True)
        self.forms[output.form].setChecked(True)
        self.ppi = output.ppi  # which goes with the rest: what is chosen otherwise is as fine as is asked
        self._fill_parts()
        self._is_another()

    def _as_the_printer_wants(self) -> None:
        """Marks as the printer's sheet says, when that says otherwise than before."""
        sheet = self.session.publication.printer
        wanted = sheet is None or sheet.marks
        if wanted != self.marks_wanted:
            self.marks_wanted = wanted
            self.with_marks.setChecked(wanted)

    def refresh(self) -> None:
        self._as_the_printer_wants()
        self._fill_parts()
        self.sheet.update()

    def keys(self) -> Sequence[tuple[str, str]]:
        return (("Ctrl+P", "press"), ("PgUp PgDn", "sheets"), ("Tab", "choices"))

    def where(self) -> str:
        if self.form == SHEETS_FORM and self.part().has_pages:
            label = side_name(self.session.publication, self.part(), self.session.page)
            return label[0].upper() + label[1:]
        return f"Sheet of {self._in_view()}"

    # Pressing -----------------------------------------------------------------------------------

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
        part, spread = self.part(), spread_index(self.session.publication, self.session.page) + 1
        what = ["--spread", str(spread)] if part.has_pages else [f"--{part.key}"]
        asked = ["proof", str(self.session.job.file), str(out), *what]
        self._run(asked, out, "Drawing the picture", lambda _: self.session.noted.emit(f"Written: {out}."))

    def _in_view(self) -> str:
        part = self.part()
        return f"spread {self.session.spread.label}" if part.has_pages else part.label

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
        self.session.selected.emit()

    def _tell_made(self, what: str, said: str) -> None:
        """What was made, and what was said beside."""
        tell = self.session.said if said else self.session.noted
        tell.emit(" ".join([f"{what}: {self.out}.", *said.splitlines()]))

    def _tell_pressed(self, said: str) -> None:
        tell = self.session.said if said else self.session.noted
        made = self.session.job.pressed()
        proved = _proved_words(made[-1]) if made else ""
        tell.emit(" ".join([f"Pressed: {', '.join(filter(None, (str(self.out), proved)))}.", *said.splitlines()]))

    # Working ------------------------------------------------------------------------------------

    def _picture_card(self) -> list[Row | Card]:
        """A picture of what is in view, for those who see it on a screen; none of what is bound in."""
        part = self.part()
        if not part.has_pages and part.key not in PICTURED:
            return []
        words = f"{self._in_view().capitalize()}, cut to the trim, as PNG or JPEG."
        if part.key == "front":
            wide, high, _ = pixels(self.session.publication)
            words = f"The front as PNG or JPEG, {wide} × {high} pixels."
        return [Card("A picture for the screen", words, [("Write the picture", self.ask_picture)])]

    def _pages_row(self) -> Row:
        """Which pages are made."""

        def take(text: str) -> bool:
            wanted = "" if text.strip().lower() in ("", "all") else text
            try:
                self.pages = part_named(self.session.publication, wanted).key if wanted else ""
            except Problem as problem:
                self.session.said.emit(str(problem))
                return False
            self.sheet.update()
            self.session.selected.emit()
            return True

        return Row("Pages", self.pages or "all", "such as 1, 6-9", "", self.pages or "all", take)

    def _kept_outputs(self) -> Section:
        """What is made again and again: chosen, set, kept and dropped."""
        publication, kept = self.session.publication, self.kept()
        every = publication.outputs
        items: list[Row | Card] = []
        if every:
            names = [(output.name, output.name) for output in every]
            words = said_output(kept) if kept is not None else "what is chosen below has no name"
            items.append(
                Row("Output", kept.name if kept is not None else "choose", words, "", "", self._take_named, names)
            )
        if kept is None:
            items.append(Row("Keep this as", "name it", said_output(self.asked()), "", "", self._keep))
        else:
            items += [property_row(publication, kept, of, self._setter(kept.name, of)) for of in OUTPUT]
        actions: list[tuple[str, Callable[[], object]]] = [("Make every output", self.ask_outputs)] if every else []
        if kept is not None:
            actions.append((f"Drop “{kept.name}”", partial(self._drop, kept.name)))
        if actions:
            made = counted(len(every), "output") + (" is kept." if len(every) == 1 else " are kept.")
            items.append(Card("Made again and again", f"{made} Each is a file of its own.", actions))
        return Section("Outputs", "", items)

    def _take_named(self, name: str) -> bool:
        self.take(output_named(self.session.publication, name))
        return True

    def _keep(self, name: str) -> bool:
        asked = replace(self.asked(), name=name)
        return self.session.edit(lambda p: keep_output(p, asked), f"output {name} kept")

    def _drop(self, name: str) -> None:
        self.session.edit(lambda p: drop_output(p, name), f"output {name} dropped")

    def _setter(self, name: str, of: Property[Output]) -> Edit:
        def take(text: str) -> bool:
            if not self.session.edit(lambda p: set_output(p, name, of.key, text), f"{name} {of.label.lower()}"):
                return False
            at = [output.name for output in self.session.publication.outputs]
            now = name if name in at else " ".join(text.split())
            self.take(output_named(self.session.publication, now))
            return True

        return take

    def sections(self) -> Sequence[Section]:
        publication = self.session.publication
        part = self.part()
        profile, paper = profile_name(profile_for(publication, part.paper)), part.paper
        what = MADE_OF[self.form] if part.has_pages else "sheet"
        count = counted(len(part.makers(self.session.setter, self.form)), what)
        brief = publication.brief
        items: list[Row | Card] = [
            Row("File", count, FORM_WORDS[self.form].capitalize() if part.has_pages else part.label),
            *([self._pages_row()] if self.choice == PAGES else []),
            Row("Standard", STANDARD, "live transparency, profile inside")
            if not self.to_read
            else Row("Standard", "none", f"cut to the trim, pictures of {self.ppi or READ_PPI:g} ppi; not for a press"),
            Row(
                "Profile",
                profile.partition(" (")[0].removeprefix("Half Fold "),
                f"{profile}, for {paper}"
                + ("; inks are shown by it" if self.to_read else "; the printer's own profile wins (--profile)"),
            ),
        ]
        if not self.to_read:
            items += [
                Row("Bleed", brief.bleed.typed, "on every side"),
                _black_row(publication),
            ]
        report = binding_report(publication)
        if report.stops_press:
            items.append(Card("Would stop the press", report.sentence, (), True))
        items += self._picture_card()
        words = "Every part pressed and proved, and the job ticket, in one archive."
        items.append(Card("Everything for the printer", words, [("Gather it", self.ask_everything)]))
        made = [
            Row(
                str(entry.get("when", "")).replace("T", " ")[:16],
                f"{entry.get('part', '')}",
                ", ".join(filter(None, (Path(str(entry.get("file", ""))).name, _proved_words(entry)))),
            )
            for entry in reversed(self.session.job.pressed()[-8:])
        ]
        words = self._returned or "Whether a file that comes back is one of these, whole and unchanged."
        back = [Card("Is this the file?", words, [("Prove a file", self.ask_which)])] if made else []
        return [
            Section("What will be made", "", items),
            self._kept_outputs(),
            Section("Made before", "" if made else "nothing yet", [*back, *made]),
        ]


def _black_row(publication: Publication) -> Row:
    """What of black alone is printed on what lies behind it."""
    rule, says = overprint(publication)
    return Row("Black", "K alone", f"{rule.words}; {says}")


def _proved_words(entry: dict[str, object]) -> str:
    """What the record says was read back out of a file; nothing of files that an earlier program made."""
    proved = entry.get("proved", "")
    return f"proved: {proved}" if proved else ""
