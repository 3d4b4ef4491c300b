"""Brief: what is made and what the printer asks for, drawn as the thing itself."""

from collections.abc import Sequence

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen, QPixmap, QPolygonF

from half_fold.core.brief import thickness
from half_fold.core.brief.bindings import bindings
from half_fold.core.brief.papers import known_papers
from half_fold.core.brief.settings import trims
from half_fold.core.brief.thickness import ROUNDINGS, SCHOOLS
from half_fold.core.cover.flat import Flat, cover_flat
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import figure
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.worked import Worked
from half_fold.core.plan.bound import binding_report
from half_fold.core.plan.order import set_extent
from half_fold.desk.kit.rows import Card, Edit, Row, Section, row_of
from half_fold.desk.paint.painter import paint, qrect
from half_fold.desk.stations.station import Station
from half_fold.desk.theme import tokens


class BriefStation(Station):
    """The bench draws the closed copy and the wrap laid flat, dimensioned like a working drawing."""

    number, name = 1, "Brief"

    def keys(self) -> Sequence[tuple[str, str]]:
        return (("Tab", "next value"), ("Enter", "edit it"), ("Ctrl+2", "order"))

    def where(self) -> str:
        return "Closed copy and cover flat in true proportion; every figure unfolds in the working"

    def _edit_for(self, key: str) -> Edit | None:
        return self.brief_edit(key)

    def _number(self, number: Worked | None, large: bool = False) -> list[Row]:
        if number is None:
            return []
        unit = self.session.unit
        return [row_of(number.to(unit) if number.unit == "mm" and unit != "mm" else number, self._edit_for, large)]

    def _choice(self, name: str, key: str, now: str, choices: Sequence[tuple[str, str]], working: str = "") -> Row:
        shown = dict(choices).get(now, now).partition("   ")[0]
        return Row(name, shown, working, "", now, self.brief_edit(key), choices)

    def sections(self) -> Sequence[Section]:
        publication = self.session.publication
        brief = publication.brief
        text_papers = [
            (p.name, f"{p.name}   {p.grammage:g} g/m², {p.volume:g} cm³/g") for p in known_papers(publication)
        ]
        first: list[Row | Card] = []
        first += self._number(thickness.spine(publication), large=True)
        if not first:
            first.append(Row("Spine", "none", "a stitched copy has no spine panel, so no spine text"))
        first += self._number(thickness.block(publication))
        first += self._number(thickness.wrap_width(publication)) + self._number(thickness.wrap_height(publication))
        report = binding_report(publication)
        if report.sentence:
            fixes = [
                (f"Make it {n} pages", lambda n=n: self.session.edit(lambda p: set_extent(p, n), f"{n} pages"))
                for n in report.counts
            ]
            first.append(
                Card(
                    "Cannot be bound" if report.stops_press else "Ask the printer",
                    report.sentence,
                    fixes,
                    report.stops_press,
                )
            )
        named_trims = [(name, f"{name}   {size}") for name, size in trims().items()]
        trim_now = next((n for n, s in trims().items() if s == f"{brief.width.mm:g}x{brief.height.mm:g}mm"), "own size")
        made: list[Row | Card] = [
            Row("Title", publication.title, "", "", publication.title, self.brief_edit("title")),
            Row("Issue", publication.issue or "none", "", "", publication.issue, self.brief_edit("issue")),
            Row("Season", publication.season or "none", "", "", publication.season, self.brief_edit("season")),
            *self._number(thickness.trim_width(publication)),
            *self._number(thickness.trim_height(publication)),
            self._choice("Named trim", "trim", trim_now, named_trims),
            *self._number(thickness.pages(publication)),
            *self._number(thickness.leaves(publication)),
            self._choice("Binding", "binding", brief.binding, [(b.name, b.label) for b in bindings()]),
        ]
        papers: list[Row | Card] = [
            self._choice(
                "Text paper",
                "paper.text",
                brief.text_paper,
                text_papers,
                thickness.text_caliper(publication).text
                + ", "
                + thickness.text_caliper(publication).how.partition(": ")[2],
            ),
            self._choice(
                "Cover paper",
                "paper.cover",
                brief.cover_paper,
                [("none", "none: the text is its own cover"), *text_papers],
                cover.text + ", " + cover.how.partition(": ")[2]
                if (cover := thickness.cover_caliper(publication))
                else "",
            ),
            Row(
                "Own text paper",
                "state one",
                "grammage=130,volume=1.1",
                "",
                "grammage=,volume=",
                self.brief_edit("paper.text"),
            ),
        ]
        asked: list[Row | Card] = [
            *self._number(thickness.bleed(publication)),
            *self._number(thickness.safe_zone(publication)),
            *self._number(thickness.fold_loss(publication)),
            self._choice("Spine counts", "spine.school", brief.spine_school, list(SCHOOLS.items())),
            self._choice(
                "Rounding", "spine.rounding", brief.spine_rounding, [(k, v or "none") for k, v in ROUNDINGS.items()]
            ),
            self._choice("Unit", "unit", brief.unit, [("mm", "mm"), ("in", "in"), ("pt", "pt")]),
        ]
        has_spine = thickness.spine(publication) is not None
        school = f"{SCHOOLS[brief.spine_school]}; the printer's own sheet wins"
        spine_words = school if has_spine else "stitched through the fold"
        return [
            Section(
                "Spine and wrap",
                spine_words,
                first,
            ),
            Section("What is made", "", made),
            Section("Papers", "", papers),
            Section("What the printer asks for", "usual figures; the printer's own sheet wins", asked),
        ]

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), tokens.colour(tokens.SURROUND))
        area = QRectF(self.rect()).adjusted(48, 24, -48, -20)
        try:
            flat = cover_flat(self.session.publication)
        except Problem as problem:
            self._say(painter, area, str(problem))
            return
        upper = QRectF(area.left(), area.top(), area.width(), area.height() * 0.4)
        lower = QRectF(area.left(), upper.bottom() + 16, area.width(), area.height() * 0.6 - 16)
        self._closed_copy(painter, upper, flat)
        self._wrap(painter, lower, flat)

    def _say(self, painter: QPainter, area: QRectF, sentence: str) -> None:
        painter.setFont(tokens.font(tokens.SECTION))
        painter.setPen(tokens.colour(tokens.INK))
        painter.drawText(area, Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, sentence)

    def _cover_pixmap(self, flat: Flat, scale: float) -> QPixmap:
        ratio = self.devicePixelRatioF()
        sheet = flat.trim.grown(flat.bleed)
        pixmap = QPixmap(max(1, round(sheet.width * scale * ratio)), max(1, round(sheet.height * scale * ratio)))
        pixmap.setDevicePixelRatio(ratio)
        pixmap.fill(QColor("white"))
        painter = QPainter(pixmap)
        painter.scale(scale, scale)
        painter.translate(-sheet.left, -sheet.top)
        paint(painter, self.session.covers.marks(self.session.publication), self.session.proxies.image)
        painter.end()
        return pixmap

    def _closed_copy(self, painter: QPainter, area: QRectF, flat: Flat) -> None:
        """The closed copy seen a little from the fore edge: front, block of leaves and head."""
        publication = self.session.publication
        thick = thickness.copy_thickness(publication).value * MM
        scale = (area.height() - 34) / flat.front.height
        width, height = flat.front.width * scale, flat.front.height * scale
        depth = max(2.0, thick * scale)
        left, top = area.center().x() - width / 2 - depth, area.top() + depth * 0.4 + 2
        for spread, strength in ((9, 10), (6, 14), (3, 20)):
            painter.fillRect(
                QRectF(left + 6, top + 8, width + depth + spread, height - 8 + spread / 2), QColor(0, 0, 0, strength)
            )
        pixmap = self._cover_pixmap(flat, scale)
        ratio = pixmap.devicePixelRatio()
        source = QRectF(
            (flat.front.left - flat.trim.left + flat.bleed) * scale * ratio,
            flat.bleed * scale * ratio,
            width * ratio,
            height * ratio,
        )
        painter.drawPixmap(QRectF(left, top, width, height), pixmap, source)
        painter.setBrush(QColor("#F3F1EA"))
        painter.setPen(QPen(tokens.colour(tokens.INK), 0.8))
        painter.drawPolygon(
            QPolygonF(
                [
                    QPointF(left + width, top),
                    QPointF(left + width + depth, top - depth * 0.4),
                    QPointF(left + width + depth, top + height - depth * 0.4),
                    QPointF(left + width, top + height),
                ]
            )
        )
        painter.drawPolygon(
            QPolygonF(
                [
                    QPointF(left, top),
                    QPointF(left + depth, top - depth * 0.4),
                    QPointF(left + width + depth, top - depth * 0.4),
                    QPointF(left + width, top),
                ]
            )
        )
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(QRectF(left, top, width, height))
        width_mm, height_mm = thickness.trim_width(publication).number, thickness.trim_height(publication).number
        size = f"{width_mm} × {height_mm} × {thickness.copy_thickness(publication).text}"
        words = f"Closed copy, {size}, {len(publication.pages)} pages on {publication.brief.text_paper}"
        painter.setFont(tokens.font(12))
        painter.setPen(tokens.colour(tokens.INK))
        painter.drawText(QRectF(area.left(), top + height + 8, area.width(), 20), Qt.AlignmentFlag.AlignHCenter, words)

    def _wrap(self, painter: QPainter, area: QRectF, flat: Flat) -> None:
        """Back, spine and front laid flat with bleed, folds, safe zones and dimensions."""
        sheet = flat.trim.grown(flat.bleed)
        scale = min((area.width() - 60) / sheet.width, (area.height() - 76) / sheet.height)
        left, top = area.center().x() - sheet.width * scale / 2, area.top() + 36
        painter.fillRect(QRectF(left + 4, top + 4, sheet.width * scale, sheet.height * scale), QColor(0, 0, 0, 26))
        painter.drawPixmap(QPointF(left, top), self._cover_pixmap(flat, scale))
        painter.save()
        painter.translate(left, top)
        painter.scale(scale, scale)
        painter.translate(-sheet.left, -sheet.top)
        _hatch(painter, flat, scale)
        thin = QPen(tokens.colour(tokens.INK), 0)
        painter.setPen(thin)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(qrect(flat.trim))
        dotted = QPen(QColor(255, 255, 255, 200), 0, Qt.PenStyle.DotLine)
        painter.setPen(dotted)
        safe = self.session.publication.brief.safe.pt
        for panel in (flat.back, flat.front):
            painter.drawRect(qrect(panel.grown(-safe)))
        chain = QPen(tokens.colour(tokens.INK), 0, Qt.PenStyle.DashDotLine)
        for x in (flat.back.right, flat.front.left):
            painter.setPen(chain)
            painter.drawLine(QPointF(x, sheet.top - 9 / scale), QPointF(x, sheet.bottom + 9 / scale))
        painter.restore()
        self._dimensions(painter, flat, left + (flat.bleed - flat.trim.left) * scale, top + flat.bleed * scale, scale)

    def _dimensions(self, painter: QPainter, flat: Flat, x0: float, y0: float, scale: float) -> None:
        publication = self.session.publication
        above, below = y0 - flat.bleed * scale - 18, y0 + (flat.trim.height + flat.bleed) * scale + 22
        width = figure(flat.front.width / MM)
        for panel, words in ((flat.back, f"back {width}"), (flat.front, f"front {width}")):
            _dimension(painter, x0 + panel.left * scale, x0 + panel.right * scale, above, words)
        spine = thickness.spine(publication)
        if spine is not None and flat.spine is not None:
            painter.setFont(tokens.font(tokens.BASE, tokens.BOLD))
            painter.setPen(tokens.colour(tokens.LODEN))
            middle = x0 + flat.spine.centre[0] * scale
            painter.drawText(
                QRectF(middle - 60, above - 24, 120, 16), Qt.AlignmentFlag.AlignCenter, f"spine {spine.number}"
            )
        wrap = thickness.wrap_width(publication)
        if wrap is not None:
            parts = f"{width} + {spine.number} + {width}" if spine is not None else f"2 × {width}"
            words = f"wrap {wrap.number} = {parts} + 2 × {figure(flat.bleed / MM)}"
            sheet = flat.trim.grown(flat.bleed)
            _dimension(painter, x0 + sheet.left * scale, x0 + sheet.right * scale, below, words)
        painter.save()
        painter.translate(x0 + (flat.trim.left - flat.bleed) * scale - 20, y0 + flat.trim.height * scale)
        painter.rotate(-90)
        _dimension(painter, 0, flat.trim.height * scale, 0, figure(flat.trim.height / MM))
        painter.restore()


def _hatch(painter: QPainter, flat: Flat, scale: float) -> None:
    """The bleed as a hatched band outside the trim."""
    from PyQt6.QtGui import QPainterPath

    band = QPainterPath()
    band.addRect(qrect(flat.trim.grown(flat.bleed)))
    band.addRect(qrect(flat.trim))
    painter.save()
    painter.setClipPath(band)
    painter.setPen(QPen(tokens.colour(tokens.OCHRE, 0.8), 0))
    step = 5 / scale
    whole = flat.trim.grown(flat.bleed)
    x = whole.left - whole.height
    while x < whole.right:
        painter.drawLine(QPointF(x, whole.bottom), QPointF(x + whole.height, whole.top))
        x += step
    painter.restore()


def _dimension(painter: QPainter, start: float, end: float, y: float, words: str) -> None:
    """A dimension line with its figure in a gap in the middle."""
    painter.setFont(tokens.font(12, tokens.MEDIUM))
    text = painter.fontMetrics().horizontalAdvance(words)
    middle = (start + end) / 2
    painter.setPen(QPen(tokens.colour(tokens.INK), 1))
    if end - start > text + 24:
        painter.drawLine(QPointF(start, y), QPointF(middle - text / 2 - 6, y))
        painter.drawLine(QPointF(middle + text / 2 + 6, y), QPointF(end, y))
    for x in (start, end):
        painter.drawLine(QPointF(x, y - 4), QPointF(x, y + 4))
    painter.drawText(QRectF(middle - text / 2 - 2, y - 9, text + 4, 18), Qt.AlignmentFlag.AlignCenter, words)
