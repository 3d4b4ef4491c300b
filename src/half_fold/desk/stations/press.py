"""Press: what to make, the sheet as it will be, progress that can be cancelled, and the record of what was made."""

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QPointF, QProcess, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import (
    QButtonGroup,
    QCheckBox,
    QFileDialog,
    QHBoxLayout,
    QProgressBar,
    QPushButton,
    QRadioButton,
    QVBoxLayout,
    QWidget,
)

from half_fold.core.cover.sides import is_blank
from half_fold.core.drawing.marks import DisplayList
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import figure
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour import profile_name
from half_fold.core.plan.bound import binding_report
from half_fold.core.press.cover_sheets import cover_sheet
from half_fold.core.press.crop_marks import crop_marks, slug
from half_fold.core.press.make import default_profile
from half_fold.core.press.sheets import Sheet, page_sheet, spread_sheet
from half_fold.desk.child import command_line
from half_fold.desk.kit.plain import label
from half_fold.desk.kit.rows import Card, Row, Section
from half_fold.desk.paint.painter import paint, qrect
from half_fold.desk.session import Session
from half_fold.desk.stations.station import Station
from half_fold.desk.theme import tokens

CHOICES = (("pages", "Pages, one by one"), ("spreads", "Spreads, as read"), ("cover", "Cover, one flat"))


class SheetView(QWidget):
    """The sheet drawn as it will be printed, with its boxes and marks."""

    def __init__(self, station: "PressStation") -> None:
        super().__init__()
        self.station = station
        station.session.proxies.ready.connect(self.update)

    def _sheet(self) -> Sheet:
        session, choice = self.station.session, self.station.choice
        if choice == "cover":
            return cover_sheet(session.publication, session.covers, "outside")
        if choice == "spreads":
            return spread_sheet(session.publication, session.setter, session.spread)
        return page_sheet(session.publication, session.setter, session.page)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), tokens.colour(tokens.SURROUND))
        try:
            sheet = self._sheet()
        except Problem as problem:
            painter.setPen(tokens.colour(tokens.INK))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, str(problem))
            return
        trim, bleed = sheet.trim, self.station.session.publication.brief.bleed.pt
        media = trim.grown(slug(bleed)) if self.station.marks else trim.grown(bleed)
        scale = min((self.width() - 60) / media.width, (self.height() - 74) / media.height)
        painter.save()
        painter.translate(self.width() / 2, self.height() / 2 - 10)
        painter.scale(scale, scale)
        painter.translate(-media.centre[0], -media.centre[1])
        painter.fillRect(qrect(media), QColor("white"))
        marks = DisplayList(sheet.bleed, sheet.marks)
        paint(painter, marks, self.station.session.proxies.image, clip_of=sheet.clip_of)
        painter.setPen(QPen(tokens.colour(tokens.INK), 0))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(qrect(trim))
        painter.setPen(QPen(tokens.colour(tokens.OCHRE), 0, Qt.PenStyle.DashLine))
        painter.drawRect(qrect(trim.grown(bleed)))
        if self.station.marks:
            painter.setPen(QPen(tokens.colour(tokens.INK), 0))
            for mark in crop_marks(trim, bleed, sheet.folds):
                painter.drawLine(QPointF(*mark.start), QPointF(*mark.end))
        painter.restore()
        self._caption(painter, trim, media, scale)

    def _caption(self, painter: QPainter, trim: Rect, media: Rect, scale: float) -> None:
        painter.setFont(tokens.font(12))
        painter.setPen(tokens.colour(tokens.INK))
        words = (
            f"Trim {figure(trim.width / MM)} × {figure(trim.height / MM)} mm, "
            f"sheet {figure(media.width / MM)} × {figure(media.height / MM)} mm, "
            f"drawn at {figure(100 * scale * 72 / self.logicalDpiX(), 0)} %"
        )
        area = QRectF(0, self.height() - 34, self.width(), 20)
        painter.drawText(area, Qt.AlignmentFlag.AlignCenter, words)


class PressStation(Station):
    """Runs the press as a process of its own, so that the window stays free."""

    number, name = 7, "Press"

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.choice, self.marks = "pages", True
        self.process: QProcess | None = None
        self.out: Path | None = None
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
        self.group = QButtonGroup(shelf)
        self.choices: dict[str, QRadioButton] = {}
        for choice, words in CHOICES:
            button = QRadioButton(words)
            button.setChecked(choice == self.choice)
            button.toggled.connect(lambda on, choice=choice: on and self._choose(choice))
            self.group.addButton(button)
            self.choices[choice] = button
            line.addWidget(button)
            line.addSpacing(10)
        self.with_marks = QCheckBox("Crop marks")
        self.with_marks.setChecked(True)
        self.with_marks.toggled.connect(self._set_marks)
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

    def _choose(self, choice: str) -> None:
        self.choice = choice
        self.sheet.update()
        self.moved.emit()
        self.session.selected.emit()

    def _set_marks(self, on: bool) -> None:
        self.marks = on
        self.sheet.update()

    def refresh(self) -> None:
        self.sheet.update()

    def keys(self) -> Sequence[tuple[str, str]]:
        return (("Ctrl+P", "press"), ("PgUp PgDn", "sheets"), ("Tab", "choices"))

    def where(self) -> str:
        return f"Sheet of {'the cover' if self.choice == 'cover' else 'spread ' + self.session.spread.label}"

    # Pressing -----------------------------------------------------------------------------------

    def act(self) -> None:
        self.ask()

    def ask(self) -> None:
        """Ask where the PDF shall go, then press it."""
        name = f"{self.session.job.file.stem}{'-cover' if self.choice == 'cover' else ''}.pdf"
        start = self.session.job.folder / "press" / name
        start.parent.mkdir(exist_ok=True)
        chosen, _ = QFileDialog.getSaveFileName(self, "Press the PDF", str(start), "PDF (*.pdf)")
        if chosen:
            self.press(Path(chosen))

    def press(self, out: Path) -> None:
        """Press into ``out`` in a process of its own."""
        if self.process is not None:
            return
        self.session.autosave.flush()
        self.out = out
        part = "cover" if self.choice == "cover" else "pages"
        form = "spreads" if self.choice == "spreads" else "pages"
        asked = ["press", str(self.session.job.file), str(out), "--part", part, "--as", form, "--progress"]
        self.process = QProcess(self)
        self.process.readyReadStandardOutput.connect(self._progress)
        self.process.finished.connect(self._finished)
        self.process.start(*command_line(*asked, *(["--marks"] if self.marks else [])))
        self._show_progress(True)

    def _show_progress(self, on: bool) -> None:
        self.button.setEnabled(not on)
        self.bar.setRange(0, 0)
        for widget in (self.bar, self.cancel, self.progress_words):
            widget.setVisible(on)
        self.progress_words.setText("Setting the pages")

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
            tell = self.session.said if said else self.session.noted
            proved = self.session.job.pressed()[-1].get("proved", "") if self.session.job.pressed() else ""
            tell.emit(" ".join([f"Pressed: {self.out}, proved: {proved}.", *said.splitlines()]))
        elif status == 2:
            self.session.said.emit(said.removeprefix("half-fold: "))
        else:
            self.session.noted.emit("Cancelled; nothing half made was left.")
        self.session.selected.emit()

    # Working ------------------------------------------------------------------------------------

    def sections(self) -> Sequence[Section]:
        publication = self.session.publication
        part = "cover" if self.choice == "cover" else "pages"
        profile = profile_name(default_profile(publication, part))
        paper = publication.brief.cover_paper if part == "cover" else publication.brief.text_paper
        count = {
            "cover": "1 page" if is_blank(publication, "inside") else "2 pages, outside and inside",
            "pages": f"{len(publication.pages)} pages",
            "spreads": f"{len(publication.pages) // 2 + 1} spreads",
        }[self.choice]
        brief = publication.brief
        items: list[Row | Card] = [
            Row("File", count, dict(CHOICES)[self.choice]),
            Row("Standard", "PDF/X-4", "live transparency, profile inside"),
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
