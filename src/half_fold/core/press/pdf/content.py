"""A display list as a PDF content stream."""

from collections.abc import Callable, Sequence
from itertools import islice, takewhile
from zlib import crc32

import numpy as np
import numpy.typing as npt
from msgspec import Struct, field
from msgspec.structs import replace

from half_fold.core.brief.allowances import GOOD_PPI
from half_fold.core.drawing.affine import Affine
from half_fold.core.drawing.marks import (
    BLENDS,
    Blend,
    Glyphs,
    Line,
    Mark,
    MarkGroup,
    Path,
    PictureMark,
    Shape,
    Veil,
    passes,
)
from half_fold.core.drawing.outline import TAKES, Outline
from half_fold.core.drawing.overprint import USUAL, Overprint
from half_fold.core.drawing.tone import REGISTRATION, Gradient, GradientStop, Paint, Spot, Tone
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour.treat import parse_drawn_key
from half_fold.core.press.pdf.fonts import FontTables, FontUse
from half_fold.core.press.pdf.paints import VEIL, Shading, resource_name, shading, spot_name
from half_fold.core.press.pdf.reach import touched_area
from half_fold.core.press.pdf.seen import PicturePart, part_of
from half_fold.core.press.pdf.shown import ShownRuns
from half_fold.core.press.pdf.text_groups import TextGroup, grouped, part_by_clip

Written = bytes
OVERPRINT, KNOCK_OUT = "GOver", "GKnock"
# Where groups lie on a page renderers differ in what overprints on them; multiplied, black alone makes the same plates.
MULTIPLIED = "GMult"
FORM, STATE, MASKED = "G", "GT", "GTM"
_OPERATORS = ("m", "l", "c", "h")


class Resources(Struct):
    """What the pages of one file share: its fonts, found or made on first use, and what of ``black`` overprints."""

    fonts: dict[str, FontUse] = field(default_factory=dict)
    sizes: dict[str, tuple[int, int]] = field(default_factory=dict)
    ppi: float = GOOD_PPI
    black: Overprint = USUAL
    tables: FontTables = field(default_factory=FontTables)
    _grouped: tuple[Sequence[Mark], list[TextGroup | Mark]] = ((), [])

    def font(self, key: str) -> FontUse:
        if key not in self.fonts:
            self.fonts[key] = FontUse(key)
            self.tables.add(self.fonts[key])
        return self.fonts[key]

    def part(self, mark: PictureMark, clip: Rect) -> tuple[PicturePart, PictureMark]:
        """The part of a picture that goes into the file for what is seen of it, and that part as it is laid."""
        size = self.sizes[parse_drawn_key(mark.picture)[0]]
        part = part_of(mark, clip, size, self.ppi)
        return part, part.laid(mark, size)

    def groups(self, marks: Sequence[Mark]) -> list[TextGroup | Mark]:
        """The marks grouped; those of a spread are asked for by one page after the other."""
        if self._grouped[0] is not marks:
            self._grouped = marks, list(grouped(marks))
        return self._grouped[1]


class ContentForm(Struct, frozen=True):
    """The marks of a group as they are written, under their name, and how far they are seen.

    ``of`` is the group they are written for: a mask is written turned into light.
    """

    name: str
    group: MarkGroup
    clip: Rect
    octets: bytes
    of: MarkGroup


def state_name(opacity: float, blend: Blend) -> str:
    """The name of the state in which a group is laid on what is behind: its opacity in thousandths, and its blend."""
    return f"{STATE}{round(opacity * 1000)}{blend}"


# Blends by their names in the file (ISO 32000, 11.3.5.2).
BLEND_NAMES: dict[str, str] = {blend: blend.title().replace("-", "") for blend in BLENDS}


def is_mask(name: str) -> bool:
    """Whether a state masks what is drawn in it."""
    return name.startswith(MASKED)


def parse_state_name(name: str) -> tuple[float, str]:
    """The opacity and the blend that a state's name says."""
    figures = "".join(takewhile(str.isdigit, name.removeprefix(STATE)))
    return int(figures) / 1000, name.removeprefix(STATE + figures)


def veil_name(mark: Veil) -> str:
    """The name of a veil in the file."""
    return resource_name(VEIL, f"{mark.cover.shape}{mark.tone}{crc32(mark.cover.tobytes())}")


def mask_as_written(mask: MarkGroup) -> MarkGroup:
    """A mask as it is written: as light as it is black, since a PDF lets be seen what is light in a mask."""
    return replace(mask, marks=tuple(_lit(mark) for mark in mask.marks))


def _lit(mark: Mark) -> Mark:
    if isinstance(mark, Path) and mark.fill is not None and mark.stroke is None:
        return replace(mark, fill=_light(mark.fill))
    if isinstance(mark, Veil):
        return replace(mark, tone=_light_of(mark.tone))
    raise TypeError(f"no way to write a {type(mark).__name__} in a mask")


def _light(paint: Paint) -> Paint:
    if isinstance(paint, Tone):
        return _light_of(paint)
    return Gradient(paint.way, paint.affine, tuple(GradientStop(at, _light_of(tone)) for at, tone in paint.stops))


def _light_of(tone: Tone) -> Tone:
    return Tone(k=1 - tone.k)


def picture_matrix(mark: PictureMark | Veil, media: Rect) -> tuple[float, ...]:
    """How the unit square, y upwards, is laid onto a picture's place, counted from the left foot of its sheet."""
    corner, right, foot = ((x - media.left, media.bottom - y) for x, y in mark.corners)
    across, up = (right[0] - corner[0], right[1] - corner[1]), (corner[0] - foot[0], corner[1] - foot[1])
    return (*across, *up, *foot)


def form_matrix(affine: Affine, media: Rect) -> tuple[float, ...]:
    """An affine as the file has it: y upwards, counted from the left foot of the sheet ``media``."""
    left, foot = media.left, media.bottom
    corners = [affine.of(left + x, foot - y) for x, y in ((0, 0), (1, 0), (0, 1))]
    (x0, y0), (x1, y1), (x2, y2) = ((x - left, foot - y) for x, y in corners)
    return x1 - x0, y1 - y0, x2 - x0, y2 - y0, x0, y0


def _n6(value: float) -> str:
    """A figure that others are multiplied by."""
    return f"{value:.6f}".rstrip("0").rstrip(".") or "0"


def _n(value: float) -> str:
    return f"{value:.4f}".rstrip("0").rstrip(".") or "0"


class Content:
    """Writes the marks of one page; ``media`` is its sheet in the marks' own coordinates."""

    def __init__(self, media: Rect, resources: Resources) -> None:
        self.media, self.resources = media, resources
        self.out: list[bytes] = []
        self.fonts: set[str] = set()
        self.pictures: set[PicturePart] = set()
        self.states: set[str] = set()
        self.forms: list[ContentForm] = []
        self.spots: set[Spot] = set()
        self.shadings: dict[str, Shading] = {}
        self.veils: dict[str, Veil] = {}
        self._mixes = False

    def bytes(self) -> bytes:
        return b"\n".join(self.out)

    def _put(self, operators: str) -> None:
        self.out.append(operators.encode("ascii"))

    def x(self, x: float) -> str:
        return _n(x - self.media.left)

    def y(self, y: float) -> str:
        return _n(self.media.bottom - y)

    def draw(self, marks: Sequence[Mark], clip_of: Callable[[Mark], Rect]) -> None:
        """Draw marks, each clipped to ``clip_of`` it where it might pass that."""
        groups = self.resources.groups(marks)
        self._mixes = self._mixes or any(isinstance(group, MarkGroup | Veil) for group in groups)
        for group in groups:
            if isinstance(group, TextGroup):
                for part, clip in part_by_clip(group, clip_of):
                    self._text(part, clip)
            elif isinstance(group, Glyphs):
                self._turned_text(group, clip_of(group))
            else:
                self._alone(group, clip_of(group))

    def _alone(self, mark: Mark, clip: Rect) -> None:
        box = touched_area(mark)
        seen = box.clipped(clip)
        if seen.is_empty():
            return
        self._put("q" if seen == box else f"q {self._clip(clip)}")
        self._mark(mark, clip)
        self._put("Q")

    def _clip(self, rect: Rect) -> str:
        return f"{self._rect(rect)} W n"

    def _rect(self, rect: Rect) -> str:
        return f"{self.x(rect.left)} {self.y(rect.bottom)} {_n(rect.width)} {_n(rect.height)} re"

    def _mark(self, mark: Mark, clip: Rect) -> None:
        if isinstance(mark, Shape):
            self._shape(mark)
        elif isinstance(mark, Line):
            self._line(mark)
        elif isinstance(mark, Path):
            self._path(mark)
        elif isinstance(mark, PictureMark):
            self._picture(mark, clip)
        elif isinstance(mark, Veil):
            self._veil(mark)
        elif isinstance(mark, MarkGroup):
            self._group(mark, clip)
        else:
            raise TypeError(f"no way to write a {type(mark).__name__}")

    def _group(self, mark: MarkGroup, clip: Rect) -> None:
        """Its marks as a form, laid on what is behind through its opacity."""
        if mark.affine is not None:
            clip = mark.affine.inverse().around(clip)
        name, state = self._form(mark, mark, clip), state_name(mark.opacity, mark.blend)
        self.states.add(state)
        matrix = "" if mark.affine is None else " ".join(map(_n6, form_matrix(mark.affine, self.media))) + " cm "
        masked = ""
        if mark.mask is not None:
            masked = f"{MASKED}{self._form(mask_as_written(mark.mask), mark.mask, clip)}"
            self.states.add(masked)
            masked = f"/{masked} gs "
        self._put(f"/{state} gs {matrix}{masked}/{name} Do")

    def _form(self, written: MarkGroup, of: MarkGroup, clip: Rect) -> str:
        """Write the marks of a group by themselves; gives their name."""
        inner = Content(self.media, self.resources)
        inner._mixes, inner.forms, inner.veils = True, self.forms, self.veils
        inner.fonts, inner.pictures, inner.states = self.fonts, self.pictures, self.states
        inner.spots, inner.shadings = self.spots, self.shadings
        inner.draw(written.marks, lambda _: clip)
        name = f"{FORM}{len(self.forms) + 1}"
        self.forms.append(ContentForm(name, written, clip, inner.bytes(), of))
        return name

    def _veil(self, mark: Veil) -> None:
        name = veil_name(mark)
        self.veils[name] = mark
        if mark.tone.spot is not None:
            self.spots.add(mark.tone.spot)
        matrix = " ".join(map(_n, picture_matrix(mark, self.media)))
        self._put(f"/{KNOCK_OUT} gs {matrix} cm /{name} Do")

    def _path(self, mark: Path) -> None:
        for each, overprints in passes(mark, self.resources.black):
            assert isinstance(each, Path)
            self._pass(each, self._over if overprints else KNOCK_OUT)

    def _pass(self, mark: Path, state: str) -> None:
        words = [f"/{state} gs"]
        if mark.fill is not None:
            words.append(self._ink(mark.fill))
        if mark.stroke is not None:
            words.append(f"{self._ink(mark.stroke.tone, True)} {_n(mark.stroke.weight)} w")
            if mark.stroke.dashes:
                words.append(f"[{' '.join(map(_n, mark.stroke.dashes))}] 0 d")
            if mark.stroke.is_round:
                words.append("1 J")
        words.append(self._along(mark.outline))
        words.append(
            {(True, False): "f", (False, True): "S", (True, True): "B"}[mark.fill is not None, mark.stroke is not None]
        )
        self._put(" ".join(words))

    def _state(self, paint: Paint) -> str:
        """The state that a paint is laid in: on what lies behind it, or in a gap of that."""
        return self._over if self.resources.black.shapes(paint) else KNOCK_OUT

    @property
    def _over(self) -> str:
        return MULTIPLIED if self._mixes else OVERPRINT

    def _along(self, outline: Outline) -> str:
        """The operators that make a path of an outline."""
        words: list[str] = []
        points = iter(outline.points.tolist())
        for op in outline.ops:
            words += [f"{self.x(x)} {self.y(y)}" for x, y in islice(points, TAKES[op])]
            words.append(_OPERATORS[op])
        return " ".join(words)

    def _ink(self, colour: Paint, stroke: bool = False) -> str:
        """The operators that choose a paint."""
        space, shade = ("CS", "SCN") if stroke else ("cs", "scn")
        if isinstance(colour, Gradient):
            lies = shading(colour, self.media)
            self.shadings[lies.name] = lies
            self.spots.update(lies.spots)
            return f"/Pattern {space} /{lies.name} {shade}"
        if colour.spot is not None:
            self.spots.add(colour.spot)
            return f"/{spot_name(colour.spot)} {space} {_n(colour.s)} {shade}"
        return f"{_n(colour.c)} {_n(colour.m)} {_n(colour.y)} {_n(colour.k)} {'K' if stroke else 'k'}"

    def _shape(self, mark: Shape) -> None:
        if mark.fill is not None:
            self._put(f"/{self._state(mark.fill)} gs {self._ink(mark.fill)} {self._rect(mark.rect)} f")
        if mark.stroke is not None:
            inner, stroke = mark.rect.grown(-mark.weight / 2), mark.stroke
            chosen = f"/{self._state(stroke)} gs {self._ink(stroke, True)}"
            self._put(f"{chosen} {_n(mark.weight)} w {self._rect(inner)} S")

    def _line(self, mark: Line) -> None:
        ink = self._ink(mark.colour, True)
        (x0, y0), (x1, y1) = mark.start, mark.end
        gs = OVERPRINT if mark.colour == REGISTRATION else self._state(mark.colour)
        path = f"{self.x(x0)} {self.y(y0)} m {self.x(x1)} {self.y(y1)} l S"
        self._put(f"/{gs} gs {ink} {_n(mark.weight)} w {path}")

    def _picture(self, mark: PictureMark, clip: Rect) -> None:
        part, laid = self.resources.part(mark, clip)
        name = resource_name("P", part.key)
        self.pictures.add(part)
        matrix = " ".join(map(_n, picture_matrix(laid, self.media)))
        around = self._rect(mark.clip) if mark.outline is None else self._along(mark.outline)
        self._put(f"/{KNOCK_OUT} gs {around} W n {matrix} cm /{name} Do")

    def _text(self, group: TextGroup, clip: Rect) -> None:
        """Draw upright glyphs: all that stand inside the clip together, or else each with its own."""
        seen, inside = group.seen_in(clip)
        if not seen.any():
            return
        if (seen == inside).all() or len(group.marks) == 1:
            self._begin_text(None if inside.any() else clip)
            self.out += [self._shown(group.runs, seen), b"ET Q"]
            return
        for mark in group.marks:
            self._text(TextGroup([mark]), clip)

    def _turned_text(self, mark: Glyphs, clip: Rect) -> None:
        box = touched_area(mark)
        if box.meets(clip):
            self._begin_text(None if box.clipped(clip) == box else clip)
            self._put(self._turned_matrix(mark))
            self.out += [self._shown(ShownRuns([mark]), np.ones(1, np.bool_), is_upright=False), b"ET Q"]

    def _begin_text(self, clip: Rect | None) -> None:
        self._put("q BT" if clip is None else f"q {self._clip(clip)} BT")

    def _shown(self, runs: ShownRuns, seen: npt.NDArray[np.bool_], is_upright: bool = True) -> Written:
        """What shows the runs that are seen, each look chosen where it begins."""
        looks = set(runs.looks[seen].tolist())
        chosen = [self._chosen(mark) if look in looks else b"" for look, mark in enumerate(runs.first_of)]
        fonts = [self.resources.font(mark.face) for mark in runs.first_of]
        return runs.shown(
            self.resources.tables, fonts, chosen, seen, self.media.left, self.media.bottom, is_upright=is_upright
        )

    def _chosen(self, mark: Glyphs) -> Written:
        """The operators that choose the look of a mark."""
        self.fonts.add(mark.face)
        state = self._over if self.resources.black.letters(mark.colour, mark.size) else KNOCK_OUT
        font = f"/{resource_name('F', mark.face)} {_n(mark.size)} Tf"
        return f"/{state} gs {self._ink(mark.colour)} {font}\n".encode("ascii")

    def _turned_matrix(self, mark: Glyphs) -> str:
        """Where a turned run begins, and which way it runs."""
        assert mark.turn is not None
        x, y = mark.turn.of(float(mark.xs[0]), mark.baseline)
        turn = " ".join(map(_n, (mark.turn.a, -mark.turn.b, -mark.turn.c, mark.turn.d)))
        return f"{turn} {self.x(x)} {self.y(y)} Tm"
