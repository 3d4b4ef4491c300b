"""Furniture: the folio and the running foot, at the outer edge under the text area."""

from half_fold.core.drawing.marks import Glyphs
from half_fold.core.grid.frame import PageFrame
from half_fold.core.plan.sections import folio_of, section_of
from half_fold.core.publication.records import Master, Paragraph, Publication, Run
from half_fold.core.publication.surgery import role_named
from half_fold.core.spread.filled import filled_words
from half_fold.core.spread.inks import ink_of_role
from half_fold.core.typesetting.composer import Composer, Wanted
from half_fold.core.typesetting.line_marks import line_marks
from half_fold.core.typesetting.roles import style_of

FURNITURE = "furniture"
FOLIO_GAP_EMS = 1.4
UNDER_TEXT_LINES = 2


class Furniture:
    """Sets folios and feet; keeps the short paragraphs it made, so that their lines are kept too."""

    def __init__(self, composer: Composer) -> None:
        self._composer = composer
        self._paragraphs: dict[str, Paragraph] = {}

    def _paragraph(self, text: str) -> Paragraph:
        if text not in self._paragraphs:
            self._paragraphs[text] = Paragraph(role="folio", runs=(Run(text=text),))
        return self._paragraphs[text]

    def marks(self, publication: Publication, master: Master, frame: PageFrame, number: int) -> list[Glyphs]:
        """The furniture of page ``number``: folio outermost, then the foot."""
        baseline = furniture_baseline(frame)
        pattern = master.foot_right if frame.on_right else master.foot_left
        section = section_of(publication, number) if "{section}" in pattern else None
        foot = foot_words(publication, pattern.replace("{section}", section.name if section is not None else ""))
        folio = folio_of(publication, number) if master.folio else ""
        texts = ([("folio", folio)] if folio else []) + ([("running foot", foot)] if foot else [])
        out: list[Glyphs] = []
        x = frame.area.right if frame.on_right else frame.area.left
        for role_name, text in texts:
            role = role_named(publication, role_name)
            style = style_of(role, publication.language)
            lines = self._composer.lines(Wanted(self._paragraph(text), style, (frame.trim.width,), False))
            width = lines.strip.width(lines.bounds[0], lines.bounds[-1]) * style.size
            left = x - width if frame.on_right else x
            out += line_marks(lines, 0, left, baseline, ink_of_role(publication, role), FURNITURE)
            x += (-1 if frame.on_right else 1) * (width + FOLIO_GAP_EMS * style.size)
        return out


def furniture_baseline(frame: PageFrame) -> float:
    """Two baseline steps under the text area, drawn up where the foot margin has no room for that."""
    wanted = frame.area.bottom + UNDER_TEXT_LINES * frame.baselines.step
    return min(wanted, (frame.area.bottom + frame.trim.bottom) / 2 + frame.baselines.cap / 2)


def foot_words(publication: Publication, pattern: str) -> str:
    """The running foot with {title}, {issue} and {season} filled in."""
    return " ".join(filled_words(publication, pattern).split())
