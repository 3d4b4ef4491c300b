"""The running order as a plan for the wall: every spread of the job on one landscape page."""

from operator import itemgetter
from pathlib import Path

import pikepdf

from half_fold.core.drawing.marks import UNSAID, Line, Mark, Shape
from half_fold.core.drawing.tone import BLACK, Tone
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import counted, figure
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.sections import advert_share, bands, folios, spans
from half_fold.core.plan.signatures import printed_sheets
from half_fold.core.plan.spreads import on_right, spread_index, spreads_of
from half_fold.core.press.lettering import lettered
from half_fold.core.press.make import PDF_BEGINS, Writer
from half_fold.core.press.pdf.leaves import draw_page
from half_fold.core.press.sheets import Sheet
from half_fold.core.publication.records import Publication
from half_fold.core.spread.running.states import page_state
from half_fold.core.spread.setting.evened import ink_of
from half_fold.core.store.atomic import whole_file
from half_fold.core.store.files import require_output
from half_fold.core.typesetting.lines.composer import Composer

WALL = Rect(0, 0, 420 * MM, 297 * MM)
MARGIN, HEAD, GAP = 12 * MM, 16 * MM, 3 * MM
LARGEST, SMALLEST, OF_PAGE = 9.0, 3.0, 1 / 7  # letters in points, and as a share of a page's width
UNDER = 2.4  # times the letters' size, left under a row
BANDS = (Tone(c=0.25, y=0.2), Tone(m=0.15, y=0.3), Tone(c=0.15, m=0.12), Tone(y=0.35, k=0.05))
SOLD = Tone(k=0.12)


def wall_plan(publication: Publication) -> tuple[Mark, ...]:
    """The marks of the plan."""
    return tuple(_Plan(publication).marks())


def _letters(page_width: float) -> float:
    return min(LARGEST, max(SMALLEST, page_width * OF_PAGE))


def _page_width(columns: int, rows: int, room: Rect, tall: float) -> float:
    """How wide a page may be for so many columns and rows of spreads, with its letters under it (points)."""
    across = (room.width - (columns - 1) * GAP) / columns / 2
    high = (room.height - HEAD) / rows - GAP
    down = (high - UNDER * LARGEST) / tall, high / (tall + UNDER * OF_PAGE), (high - UNDER * SMALLEST) / tall
    return min(across, sorted(down)[1])  # letters as large as may be, of the page's size, or as small as may be


class _Plan:
    def __init__(self, publication: Publication) -> None:
        self.publication, self.composer = publication, Composer()
        spreads = len(spreads_of(publication))
        room = WALL.grown(-MARGIN)
        tall = publication.brief.height.pt / publication.brief.width.pt
        widths = {n: _page_width(n, -(-spreads // n), room, tall) for n in range(1, spreads + 1)}
        self.columns, self.page_width = max(widths.items(), key=itemgetter(1))
        self.page_height = self.page_width * tall
        self.letters = _letters(self.page_width)
        self.left, self.top = room.left, room.top + HEAD

    def page_area(self, number: int) -> Rect:
        row, column = divmod(spread_index(self.publication, number), self.columns)
        x = (
            self.left
            + column * (2 * self.page_width + GAP)
            + (self.page_width if on_right(self.publication, number) else 0)
        )
        y = self.top + row * (self.page_height + UNDER * self.letters + GAP)
        return Rect(x, y, x + self.page_width, y + self.page_height)

    def marks(self) -> list[Mark]:
        publication = self.publication
        share = figure(100 * advert_share(publication), 1)
        sheets = counted(len(printed_sheets(publication)), "sheet")
        title = " ".join(filter(None, (publication.title, publication.issue, publication.season)))
        head = f"{title}: running order, {counted(len(publication.pages), 'page')} on {sheets}, {share} % advertising"
        out = self.words(head, 16.0, self.left, self.top - HEAD * 0.5, WALL.width)
        said = folios(publication)
        inside = bands(publication)
        names = {span.first: span.section.name for span in spans(publication)}
        for index, page in enumerate(publication.pages):
            number, area = index + 1, self.page_area(index + 1)
            fill = SOLD if page.advert else Tone()
            out.append(Shape(area, fill, BLACK, 0.4))
            if number in inside:
                band = Rect(area.left, area.top, area.right, area.top + self.letters * 0.5)
                out.append(Shape(band, BANDS[inside[number][0] % len(BANDS)]))
            size, x, y = self.letters, area.left + self.letters * 0.5, area.top + self.letters * 1.6
            for line in filter(None, (names.get(number, ""), page.runs, page.advert, page_state(publication, index))):
                out += self.words(line, size * 0.8, x, y, self.page_width - self.letters)
                y += size * 1.1
            folio = str(number) if said[index] == str(number) else f"{number} ({said[index] or 'no folio'})"
            out += self.words(folio, size, x, area.bottom + size * 1.2, self.page_width)
        return [*out, *self._folds()]

    def _folds(self) -> list[Mark]:
        """Letters of the sheets under the first page of each of their runs."""
        out: list[Mark] = []
        for sheet in printed_sheets(self.publication):
            for first, _last in sheet.spans:
                area = self.page_area(first)
                y = area.bottom + self.letters * 1.2
                out += self.words(sheet.letter, self.letters, area.right - self.letters, y, self.letters)
                out.append(Line((area.left, area.bottom + 1.5), (area.right, area.bottom + 1.5), BLACK, 1.2))
        return out

    def words(self, text: str, size: float, x: float, y: float, width: float) -> list[Mark]:
        """Words on one line, cut where they would run beyond ``width``."""
        shown = text
        while shown:
            marks = lettered(self.composer, self.publication, shown, size, (x, y), UNSAID)
            if ink_of(marks).width <= width or len(shown) < 2:
                return list(marks)
            shown = shown[:-2].rstrip() if len(shown) > 2 else ""
        return []


def write_wall_plan(publication: Publication, out: Path) -> None:
    """One page of A3, landscape."""
    sheet = Sheet("plan", WALL, WALL, wall_plan(publication), lambda _mark: WALL)
    require_output(out, PDF_BEGINS)
    with whole_file(out) as temporary, pikepdf.new() as pdf:
        writer = Writer(pdf, publication, Path(), publication.brief.text_paper, marks=False)
        writer.add(draw_page(sheet, writer.resources, False, media=WALL))
        writer.save(temporary, "running order")
