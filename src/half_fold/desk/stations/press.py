"""Press: what to make, the sheet as it will be, progress that can be cancelled, and the record of what was made."""

from collections.abc import Callable, Sequence
from contextlib import suppress
from functools import partial
from pathlib import Path

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

from half_fold.core.brief.allowances import pixels
from half_fold.core.brief.printers import STANDARD
from half_fold.core.drawing.marks import DisplayList
from half_fold.core.measure.length import counted, figure, show_size
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour import profile_for, profile_name
from half_fold.core.plan.bound import binding_report
from half_fold.core.plan.spreads import spread_index
from half_fold.core.press.crop_marks import crop_marks, slug
from half_fold.core.press.parts import PAGES, Part, part_named, parts_of, sheet_at
from half_fold.core.press.sheets import Sheet
from half_fold.core.store.own import file_name
from half_fold.desk.child import command_line
from half_fold.desk.kit.plain import label
from half_fold.desk.kit.rows import Card, Row, Section
from half_fold.desk.paint.painter import paint, qrect
from half_fold.desk.session import Session
from half_fold.desk.stations.station import Station
from half_fold.desk.theme import tokens

MOST_ACROSS, GAP = 2, 18
FORMS = (("pages", "Pages, one by one"), ("spreads", "Spreads, as read"))
PARTS_IN_LINE = 5
PICTURED = ("cover", "front")  # parts without pages that a picture is made of


class SheetView(QWidget):
    """The sheet drawn as it will be printed, with its boxes and marks."""

    def __init__(self, station: "PressStation") -> None:
        super().__init__()
        self.station = station
        station.session.proxies.ready.connect(lambda _: self.update())

    def _sheets(self) -> list[Sheet]:
        """The sheet in view, or all of a part that has no pages."""
        station, session = self.station, self.station.session
        part = station.part()
        makers = part.makers(session.setter, station.form)
        if part.has_pages:
            makers = [makers[sheet_at(session.publication, part, station.form, session.page)]]
        return [make() for make in makers]

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), tokens.colour(tokens.SURROUND))
        try:
            sheets = self._sheets()
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
        bleed = sheet.trim.left - sheet.bleed.left
        return sheet.trim.grown(slug(bleed)) if self.station.marks else sheet.bleed

    def _draw(self, painter: QPainter, sheet: Sheet, media: Rect) -> None:
        painter.fillRect(qrect(media), QColor("white"))
        marks = DisplayList(sheet.bleed, sheet.marks)
        paint(painter, marks, self.station.session.proxies.image, clip_of=sheet.clip_of)
        painter.setPen(QPen(tokens.colour(tokens.INK), 0))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(qrect(sheet.trim))
        painter.setPen(QPen(tokens.colour(tokens.OCHRE), 0, Qt.PenStyle.DashLine))
        painter.drawRect(qrect(sheet.bleed))
        if self.station.marks:
            painter.setPen(QPen(tokens.colour(tokens.INK), 0))
            for mark in crop_marks(sheet.trim, sheet.trim.left - sheet.bleed.left, sheet.folds):
                painter.drawLine(QPointF(*mark.start), QPointF(*mark.end))

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
        self.choice, self.form, self.marks = PAGES, "pages", True
        self.marks_wanted = True  # by the printer; what is chosen here afterwards stands
        self.pages = ""  # those asked for, where not all are to be made
        self.process: QProcess | None = None
        self.out: Path | None = None
        self._tell: Callable[[str], None] = self._tell_pressed
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
        for form, words in FORMS:
            button = QRadioButton(words)
            button.setChecked(form == self.form)
            button.toggled.connect(partial(self._take_form, form))
            self.group.addButton(button)
            self.forms[form] = button
            line.addWidget(button)
        self._fill_parts()
        self.with_marks = QCheckBox("Crop marks")
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
        self.choice = choice
        self._fill_parts()
        self.sheet.update()
        self.moved.emit()
        self.session.selected.emit()

    def _take_form(self, form: str, on: bool) -> None:
        if not on:
            return
        self.form = form
        self.sheet.update()
        self.moved.emit()
        self.session.selected.emit()

    def _set_marks(self, on: bool) -> None:
        self.marks = on
        self.sheet.update()

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
        return f"Sheet of {self._in_view()}"

    # Pressing -----------------------------------------------------------------------------------

    def act(self) -> None:
        self.ask()

    def ask(self) -> None:
        """Ask where the PDF shall go, then press it."""
        part = self.part()
        what = "" if part.key == PAGES else "-" + file_name(part.label, "part")
        out = self._asked_for("Press the PDF", f"{self.session.job.file.stem}{what}.pdf", "PDF (*.pdf)")
        if out is not None:
            self.press(out)

    def _asked_for(self, title: str, name: str, kinds: str) -> Path | None:
        """The file that is to be written, ``name`` in the job's press folder proposed."""
        start = self.session.job.folder / "press" / name
        with suppress(OSError):  # where that cannot be, another place is chosen
            start.parent.mkdir(exist_ok=True)
        chosen, _ = QFileDialog.getSaveFileName(self, title, str(start), kinds)
        return Path(chosen) if chosen else None

    def press(self, out: Path) -> None:
        """Press into ``out`` in a process of its own."""
        part, form = self.part().key, self.form
        asked = ["press", str(self.session.job.file), str(out), "--part", part, "--as", form, "--progress"]
        self._run([*asked, *(["--marks"] if self.marks else [])], out, "Setting the pages", self._tell_pressed)

    def ask_everything(self) -> None:
        """Ask where everything for the printer shall go, then press all parts of the job into one archive."""
        out = self._asked_for("Gather for the printer", f"{self.session.job.file.stem}.zip", "ZIP (*.zip)")
        if out is not None:
            asked = ["gather", str(self.session.job.file), str(out), "--progress"]
            self._run(asked, out, "Looking through the job", self._tell_pressed)

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
        self.out, self._tell = out, tell
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
            self.session.said.emit(said.removeprefix("half-fold: "))
        else:
            self.session.noted.emit("Cancelled; nothing half made was left.")
        self.session.selected.emit()

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

    def sections(self) -> Sequence[Section]:
        publication = self.session.publication
        part = self.part()
        profile, paper = profile_name(profile_for(publication, part.paper)), part.paper
        count = counted(len(part.makers(self.session.setter, self.form)), "sheet")
        brief = publication.brief
        items: list[Row | Card] = [
            Row("File", count, dict(FORMS)[self.form] if part.has_pages else part.label),
            *([self._pages_row()] if self.choice == PAGES else []),
            Row("Standard", STANDARD, "live transparency, profile inside"),
            Row(
                "Profile",
                profile.partition(" (")[0].removeprefix("Half Fold "),
                f"{profile}, for {paper}; the printer's own profile wins (--profile)",
            ),
            Row("Bleed", brief.bleed.typed, "on every side"),
            Row("Text black", "K alone", "overprints up to 24 pt"),
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
        return [
            Section("What will be made", "", items),
            Section("Made before", "" if made else "nothing yet", made),
        ]


def _proved_words(entry: dict[str, object]) -> str:
    """What the record says was read back out of a file; nothing of files that an earlier program made."""
    proved = entry.get("proved", "")
    return f"proved: {proved}" if proved else ""
