"""How pictures are treated, in which regions of them."""

from typing import Annotated, Literal

from msgspec import Meta

from half_fold.core.publication.places import Record

Range = Literal["reds", "oranges", "yellows", "greens", "blues", "purples"]


class Hue(Record, frozen=True, kw_only=True):
    """The hues of a range turned by so many degrees."""

    range: Range
    by: float


PicturePoint = tuple[float, float]  # a point of a picture, as shares of its width and height


class Slope(Record, tag="slope", frozen=True, kw_only=True):
    """A part of a picture: nothing of it before ``start``, all after ``end``, and more and more between."""

    start: PicturePoint
    end: PicturePoint


class Oval(Record, tag="oval", frozen=True, kw_only=True):
    """A part of a picture: inside an ellipse, whose half axes are shares of its sides; ``soft`` per cent of the way in.

    It is all but that where ``outside`` is set.
    """

    middle: PicturePoint
    half: PicturePoint
    soft: float = 50.0
    outside: bool = False


class Drawn(Record, tag="drawn", frozen=True, kw_only=True):
    """A part of a picture: inside an outline through points; ``soft`` in thousandths of the longer side."""

    points: Annotated[tuple[PicturePoint, ...], Meta(min_length=3)]
    soft: float = 10.0
    outside: bool = False


class Brushed(Record, tag="brushed", frozen=True, kw_only=True):
    """A part of a picture: where strokes of a brush went, in a file among the job's masks.

    Its ``rim`` is moved outwards and made ``soft`` by so many thousandths of the longer side.
    """

    file: str
    outside: bool = False
    rim: float = 0.0
    soft: float = 0.0


class Coloured(Record, tag="coloured", frozen=True, kw_only=True):
    """A part of a picture: where it has nearly a ``colour`` (``#rrggbb``), no farther off than ``reach`` in L*a*b*."""

    colour: Annotated[str, Meta(pattern="^#[0-9a-f]{6}$")]
    reach: float = 20.0
    outside: bool = False


Region = Slope | Oval | Drawn | Brushed | Coloured


class Area(Record, frozen=True, kw_only=True):
    """A treatment of one part of a picture, upon that of the whole."""

    where: Region
    treatment: "Treatment"


class Patch(Record, frozen=True, kw_only=True):
    """What a stray thing was painted away with: a file among the job's masks, and where it lies as shares."""

    file: str
    left: float
    top: float
    right: float
    bottom: float


class Upright(Record, frozen=True, kw_only=True):
    """Two lines of a picture, each from a point to a point, that are made upright."""

    first: tuple[PicturePoint, PicturePoint]
    second: tuple[PicturePoint, PicturePoint]


class Treatment(Record, frozen=True, kw_only=True):
    """How a picture is developed; nothing of it is done to its file.

    ``exposure`` is in stops; ``contrast``, ``warmth``, ``tint`` (from green to magenta), ``saturation`` and
    ``vibrance`` go from -100 to 100; ``black`` and ``white`` are per cent of the way to white. Curves go through
    places, per cent from and to. A ``grey`` weighs red, green and blue, but for the range that is ``kept``; ``toned``
    it is printed in inks, from its blacks to its whites. ``faded`` is per cent of the way to paper, ``blur``
    thousandths of the longer side, ``sharpen`` per cent at the printed size. ``patches`` mend it before all else;
    what is to be ``upright`` in it is. ``areas`` are parts treated by themselves, and only what lies in ``seen`` is
    shown.
    """

    exposure: float = 0.0
    contrast: float = 0.0
    black: float = 0.0
    white: float = 100.0
    warmth: float = 0.0
    tint: float = 0.0
    saturation: float = 0.0
    vibrance: float = 0.0
    hues: tuple[Hue, ...] = ()
    curve: tuple[tuple[float, float], ...] = ()
    curve_red: tuple[tuple[float, float], ...] = ()
    curve_green: tuple[tuple[float, float], ...] = ()
    curve_blue: tuple[tuple[float, float], ...] = ()
    grey: bool = False
    weights: tuple[float, float, float] = (30.0, 59.0, 11.0)
    kept: Literal["", "reds", "oranges", "yellows", "greens", "blues", "purples"] = ""
    toned_dark: str = ""
    toned_middle: str = ""
    toned_light: str = ""
    faded: float = 0.0
    blur: float = 0.0
    sharpen: float = 0.0
    patches: tuple[Patch, ...] = ()
    upright: Upright | None = None
    areas: tuple[Area, ...] = ()
    seen: Region | None = None
