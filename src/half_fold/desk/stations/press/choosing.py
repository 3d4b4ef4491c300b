"""What is to be made: which part, in which form, for the printer or to be read."""

from contextlib import suppress
from functools import partial

from PyQt6.QtWidgets import (
    QButtonGroup,
    QCheckBox,
    QGridLayout,
    QHBoxLayout,
    QProgressBar,
    QPushButton,
    QRadioButton,
    QVBoxLayout,
    QWidget,
)

from half_fold.core.measure.problem import Problem
from half_fold.core.plan.page_ranges import asks_for_pages
from half_fold.core.press.outputs import (
    FORM_WORDS,
    in_effect,
)
from half_fold.core.press.parts import PAGES, PressPart, part_named, parts_of
from half_fold.core.publication.records import Output, OutputForm
from half_fold.desk.kit.plain import label
from half_fold.desk.session import Session
from half_fold.desk.stations.station import Station
from half_fold.desk.theme import tokens

PARTS_IN_LINE = 5
PICTURED = ("cover", "front")  # parts without pages that a picture is made of


class ChoosingStation(Station):
    """The choices at the foot of the Press station; ``asked`` is the output that they come to."""

    session: Session

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.choice, self.marks, self.to_read, self.ppi = PAGES, True, False, 0
        self.without: tuple[str, ...] = ()  # sets that are left out
        self.form: OutputForm = "pages"
        self.marks_wanted = True  # by the printer; what is chosen here afterwards stands
        self.pages = ""  # those asked for, where not all are to be made

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
        self.button.clicked.connect(self.act)
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

    def part(self) -> PressPart:
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

    def _choose(self, choice: str, on: bool) -> None:
        if not on:
            return
        self.choice, self.ppi, self.without = choice, 0, ()
        self._fill_parts()
        self._is_another()

    def _take_form(self, form: OutputForm, on: bool) -> None:
        if not on:
            return
        self.form, self.ppi, self.without = form, 0, ()
        self._is_another()

    def show_sheet(self) -> None:
        """Draw the sheet as it will be now."""
        raise NotImplementedError

    def _is_another(self) -> None:
        """Something else will be made: the sheet, the foot and the working say so."""
        self.show_sheet()
        self.moved.emit()
        self.session.view.selected.emit()

    def _set_marks(self, on: bool) -> None:
        self.marks = on
        self._is_another()

    def _set_to_read(self, on: bool) -> None:
        self.to_read, self.ppi, self.without = on, 0, ()
        self.with_marks.setVisible(not on)
        self._is_another()

    def asked(self) -> Output:
        """What is chosen here, as an output without a name."""
        asked = Output(
            name="", part=self.part().key, form=self.form, marks=self.marks, to_read=self.to_read, ppi=self.ppi,
            without=self.without,
        )  # fmt: skip
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
        self.without = output.without
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
