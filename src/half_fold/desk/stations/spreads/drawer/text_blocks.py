"""Paragraphs of a story as blocks of Qt's text, and back."""

from functools import lru_cache

from PyQt6.QtCore import Qt
from PyQt6.QtGui import (
    QFont,
    QTextBlock,
    QTextBlockFormat,
    QTextBlockUserData,
    QTextCharFormat,
)
from PyQt6.QtWidgets import QTextEdit

from half_fold.core.publication.records import Paragraph, Run
from half_fold.core.typesetting.faces.directions import reads_leftwards
from half_fold.core.typesetting.lines.lit import kept_light, look_in
from half_fold.core.typesetting.texts.reading import join_paragraphs

ROLE, SMALL_CAPS, RISE, INK, ASKED, APART, LIGHT = (0x100000 + at for at in range(1, 8))


class KeptParagraph(QTextBlockUserData):
    """The paragraph a block of text stands for, as long as its words and styles are the same."""

    def __init__(self, paragraph: Paragraph) -> None:
        super().__init__()
        self.paragraph = paragraph


def units(text: str, at: int) -> int:
    """The place of a letter as Qt counts: letters outside the basic plane take two places."""
    return at if text.isascii() else at + sum(letter > "\uffff" for letter in text[:at])


def blocks_of_text(text: QTextEdit) -> list[QTextBlock]:
    out = []
    document = text.document()
    assert document is not None
    block = document.begin()
    while block.isValid():
        out.append(block)
        block = block.next()
    return out


def role_of(block: QTextBlock) -> str:
    return str(block.blockFormat().property(ROLE) or "body")


def format_of(role: str, paragraph: Paragraph | None = None) -> QTextBlockFormat:
    """The format of a block of that role; what a paragraph asks for besides travels with it."""
    if paragraph is None:
        return _asked_format(role, "", 0, 0.0, "")
    return _asked_format(role, paragraph.language, paragraph.looseness, paragraph.tracking, paragraph.filler)


@lru_cache(256)
def _asked_format(role: str, language: str, looseness: int, tracking: float, filler: str) -> QTextBlockFormat:
    made = QTextBlockFormat()
    made.setProperty(ROLE, role)
    if language or looseness or tracking or filler:
        made.setProperty(ASKED, f"{language} {looseness} {tracking!r} {filler}")
        if reads_leftwards(language):
            made.setLayoutDirection(Qt.LayoutDirection.RightToLeft)
    made.setBottomMargin(3)
    return made


def style_of_words(run: Run) -> QTextCharFormat:
    apart = f"{run.size!r} {run.tracking!r} {run.face}" if run.face or run.size != 100.0 or run.tracking else ""
    return _styled(run.bold, run.italic, run.small_caps, run.rise, run.ink, apart, kept_light(run))


@lru_cache(256)
def _styled(bold: bool, italic: bool, small_caps: bool, rise: str, ink: str, apart: str, light: str) -> QTextCharFormat:
    """How words look in the text, with what they are written in the format's own properties."""
    made = QTextCharFormat()
    made.setFontWeight(QFont.Weight.Bold if bold else QFont.Weight.Normal)
    made.setFontItalic(italic)
    made.setFontCapitalization(QFont.Capitalization.SmallCaps if small_caps else QFont.Capitalization.MixedCase)
    places = {
        "superior": QTextCharFormat.VerticalAlignment.AlignSuperScript,
        "inferior": QTextCharFormat.VerticalAlignment.AlignSubScript,
    }
    made.setVerticalAlignment(places.get(rise, QTextCharFormat.VerticalAlignment.AlignNormal))
    made.setProperty(SMALL_CAPS, small_caps)
    made.setProperty(RISE, rise)
    made.setProperty(INK, ink)
    made.setProperty(APART, apart)
    made.setProperty(LIGHT, light)
    made.setFontUnderline(bool(ink or apart or light))
    return made


def run_of(text: str, style: QTextCharFormat) -> Run:
    size, tracking, face = str(style.property(APART) or "100.0 0.0 ").split(" ", 2)
    light = str(style.property(LIGHT) or "")
    return Run(
        text=text,
        bold=style.fontWeight() >= QFont.Weight.DemiBold,
        italic=style.fontItalic(),
        small_caps=bool(style.property(SMALL_CAPS)),
        rise=str(style.property(RISE) or ""),  # type: ignore[arg-type]
        ink=str(style.property(INK) or ""),
        face=face,
        size=float(size),
        tracking=float(tracking),
        light=look_in(light) if light else None,
    )


def paragraph_of(block: QTextBlock) -> Paragraph:
    """The block's paragraph; the record of before where nothing in it changed."""
    runs: list[Run] = []
    iterator = block.begin()
    while not iterator.atEnd():
        fragment = iterator.fragment()
        runs.append(run_of(fragment.text().replace("\u2028", " "), fragment.charFormat()))
        iterator += 1
    kept = block.userData()
    language, looseness, tracking, filler = str(block.blockFormat().property(ASKED) or " 0 0.0 ").split(" ")
    made = Paragraph(
        role=role_of(block),
        runs=join_paragraphs(runs),
        language=language,
        looseness=int(looseness),
        tracking=float(tracking),
        filler=filler,
    )
    if isinstance(kept, KeptParagraph) and kept.paragraph == made:
        return kept.paragraph
    block.setUserData(KeptParagraph(made))
    return made
