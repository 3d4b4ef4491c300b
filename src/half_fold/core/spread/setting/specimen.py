"""A role shown by a few words set in it."""

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.drawing.marks import UNSAID, DisplayList, Glyphs, Mark
from half_fold.core.inks.tones import ink_of_role
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Look, Paragraph, Publication, Role, Run
from half_fold.core.publication.surgery import role_named
from half_fold.core.spread.setting.evened import ink_of, one_line
from half_fold.core.spread.setting.looks import dressed
from half_fold.core.typesetting.lines.composer import Composer, LineRequest
from half_fold.core.typesetting.lines.roles import style_of
from half_fold.core.typesetting.marks.line_marks import line_marks

WORDS = {
    "body": "Pears keep best where it is dark, cool and a little damp, each on its own square of paper, and none of "
    "them touching another. Look them over on the first of the month and take out what has gone soft.",
    "folio": "128",
    "running foot": "{title}",
    "entry": "14 March\tGrafting day at the long barn",
    "contents": "12\tThe winter of long ladders",
}
RUNNING = "Look them over on the first of the month, and take out what has gone soft before the others catch it."
SHORT = "Winter pears"
MOST_LINES = 3
LOOK_WORD, LOOK_FILLS, LOOK_SCALE = "Pear", 0.72, 1.0


class Specimen(Struct, frozen=True):
    """The marks, their first baseline a cap height under 0, and the height they take in points."""

    marks: DisplayList
    height: float


class Specimens:
    """Sets specimens; keeps the paragraphs it made, so that their lines are kept too."""

    def __init__(self, composer: Composer) -> None:
        self._composer = composer
        self._paragraphs: dict[tuple[str, str], Paragraph] = {}

    def of(self, publication: Publication, role: Role, measure: float) -> Specimen:
        """A few lines in a role (complete, with what it is based on), ``measure`` points wide."""
        display = role.size.pt > 14
        words = WORDS.get(role.name, SHORT if display else RUNNING)
        words = words.replace("{title}", publication.title)
        key = role.name, words
        if key not in self._paragraphs:
            self._paragraphs[key] = Paragraph(role=role.name, runs=(Run(text=words),))
        style = style_of(role, publication.language)
        wanted = LineRequest(self._paragraphs[key], style, (measure,), False, pitch=style.leading)
        lines = self._composer.lines(wanted)
        shown = min(lines.count, 1 if display else max(MOST_LINES, role.drop_lines))
        colour = ink_of_role(publication, role)
        top = style.face.cap_height * style.size
        marks: list[Glyphs] = []
        for line in range(shown):
            baseline = top + line * style.leading
            marks += line_marks(lines, line, 0.0, baseline, colour, UNSAID, None, style.leading)
        height = top + (shown - 1) * style.leading + 0.3 * style.size
        return Specimen(DisplayList(Rect(0, 0, measure, height), tuple(marks)), height)


def look_specimen(composer: Composer, publication: Publication, look: Look, box: Rect) -> list[Mark]:
    """A word in a look, as large as a box allows, in the type of the job's headlines."""
    name = next((role.name for role in publication.roles if role.name == "headline"), publication.roles[0].name)
    role = role_named(publication, name)
    size = box.height * LOOK_FILLS
    line = one_line(composer, publication, Paragraph(role=role.name, runs=(Run(text=LOOK_WORD),)), size, "")
    ink = ink_of(line)
    left, baseline = box.centre[0] - ink.width / 2 - ink.left, box.centre[1] - ink.height / 2 - ink.top
    marks = [replace(mark, xs=mark.xs + left, baseline=baseline) for mark in line]
    return dressed(publication, marks, look, UNSAID, LOOK_SCALE * size / role.size.pt)
