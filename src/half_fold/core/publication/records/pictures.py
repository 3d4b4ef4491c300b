"""Pictures and drawings that were brought in."""

from typing import Annotated, Literal

from msgspec import Meta

from half_fold.core.publication.places import Record


class ArtStop(Record, frozen=True, kw_only=True):
    """A colour (#rrggbb) at a place of a gradient in vector art, 0 to 1, and how opaque it is."""

    at: float
    colour: str
    opacity: float = 1.0


class ArtGradient(Record, frozen=True, kw_only=True):
    """A gradient in vector art: ``matrix`` brings the line from 0 to 1, or the circle of radius 1, to where it lies."""

    way: Literal["linear", "radial"]
    matrix: tuple[float, float, float, float, float, float]
    stops: Annotated[tuple[ArtStop, ...], Meta(min_length=1)]


class Art(Record, frozen=True, kw_only=True):
    """A filled shape of vector art: ``data`` are operators and places in the picture's own units, M, L, C and Z.

    It is filled with a ``colour`` (#rrggbb) or a gradient.
    """

    data: str
    colour: str = ""
    gradient: ArtGradient | None = None
    opacity: float = 1.0


Worth = Literal["", "opens", "carries", "fills", "left out"]


class Point(Record, frozen=True, kw_only=True):
    """A named point of a picture, as shares of its width and height."""

    name: str
    across: float
    down: float


class Picture(Record, frozen=True, kw_only=True):
    """A picture that was copied into the job; size in pixels.

    ``outline`` is that of a cut-out: where its bands from head to foot begin and end, as shares of the width. ``inks``
    is what was said of how it prints: in ``black`` alone, a grey in all ``four``, its own inks ``kept`` or
    ``converted``, or ``held`` to the paper's limit. Vector ``art`` is printed as outlines, back to front, whatever its
    size; ``left_out`` is what of its file was not understood. ``tones`` is how light its parts are, a letter each. A
    cut-out shares its file with the picture it was cut out of, and has a ``mask``. ``worth`` is what a picture desk
    says of it, ``caption`` and ``credit`` what its own file said, or was typed since. Areas to ``keep_clear`` (left,
    top, right and bottom as shares) are not to be cut or covered; ``points`` of it have names.
    """

    id: str
    file: str
    width: int
    height: int
    digest: str
    has_alpha: bool = False
    inks: Literal["", "black", "four", "kept", "converted", "held"] = ""
    outline: tuple[tuple[float, float], ...] = ()
    art: tuple[Art, ...] = ()
    left_out: str = ""
    tones: str = ""
    mask: str = ""
    worth: Worth = ""
    caption: str = ""
    credit: str = ""
    keep_clear: tuple[tuple[float, float, float, float], ...] = ()
    points: tuple[Point, ...] = ()
