"""Between what every figure of a document may lie, whoever wrote its file: one table, walked over all records."""

import math
from collections.abc import Iterator
from functools import cache
from itertools import repeat
from typing import NamedTuple, get_args

import msgspec
from msgspec import Struct

from half_fold.core.measure.length import Length
from half_fold.core.publication import records as r
from half_fold.core.publication.own_files import DIGESTS, MAY_BE_NONE, NAMING, is_digest, is_plain_name
from half_fold.core.publication.places import Floating, Stop

Range = tuple[float, float]
MOST_PAGES = 4000
MOST_FIELDS = 60
MOST_RATIO = 5.0  # of a leading to its size
MOST_WEIGHT = 400  # per cent of what a part of an arrangement counts usually
SMALLEST_TRIM_MM, LARGEST_TRIM_MM = 30.0, 1500.0
_SHARE, _UNIT = (0.0, 100.0), (0.0, 1.0)
_ABOUT = (-2.0, 3.0)  # shares of a picture, and some way round it
_POINTS, _PAGE_MM = (1.0, 2000.0), (0.0, LARGEST_TRIM_MM)

# Lengths are in millimetres unless the field stands in IN_POINTS.
RANGES: dict[type, dict[str, Range]] = {
    r.Paper: dict.fromkeys(("grammage", "volume", "caliper", "ppi", "pounds"), (0.0, 5000.0)),
    r.Dummy: {"pages": (2, 2 * MOST_PAGES), "measured": (0.01, 1000)},
    r.PrinterSheet: {
        "spine_text_pages": (0, MOST_PAGES),
        "multiple": (0, 128),
        "ink_limit": (0, 400),
        "picture_ppi": (0, 2400),
    },
    r.Section: {"offset": (0, 100_000)},
    r.Brief: {
        "width": (SMALLEST_TRIM_MM, LARGEST_TRIM_MM),
        "height": (SMALLEST_TRIM_MM, LARGEST_TRIM_MM),
        "bleed": (0, 100),
        "safe": (0, 200),
        "fold_loss": (0, 100),
        "spine": (0, 150),
        "flap": (0, LARGEST_TRIM_MM),
        "boards": (0, 20),
        "signature": (2, 128),
        "swell": (0.5, 2),
        "core": (0, 20),
        "quantity": (0, 1_000_000_000),
    },
    r.Grid: {
        **dict.fromkeys(("head", "foot", "inside", "outside", "gutter"), _PAGE_MM),
        "columns": (1, MOST_FIELDS),
        "rows": (1, MOST_FIELDS),
        "columns_over": (0, MOST_FIELDS),
        "row_gap": (0, 60),
    },
    r.Pencil: {"at": _PAGE_MM, "every": (1, 2000), "number": (1, 1_000_000)},
    r.Furniture: {"lines": (-400, 400), "weight": (0, 100), "width": _PAGE_MM},
    r.Master: {"between": _PAGE_MM, "text_columns": (1, 12)},
    r.Ink: dict.fromkeys(("cyan", "magenta", "yellow", "black"), _SHARE),
    r.Role: {
        "size": _POINTS,
        "leading": _POINTS,
        "ratio": (0, MOST_RATIO),
        "shift": (-200, 200),
        "underline": (0, 40),
        "underline_off": (0, 200),
        "strike": (0, 40),
        "indent": (-400, 400),
        "tint": _SHARE,
        "left": _PAGE_MM,
        "right": _PAGE_MM,
        "tab": _PAGE_MM,
        "before": (0, 40),
        "after": (0, 40),
        "hyphens_in_row": (0, 5),
        "tracking": (-200, 500),
        "word_least": (40, 100),
        "word_most": (100, 300),
        "letter_give": (0, 10),
        "rule_above": (0, 100),
        "rule_below": (0, 100),
        "drop_lines": (0, 12),
        "drop_letters": (1, 12),
        "opening_words": (0, 40),
    },
    r.Run: {"size": (20, 500), "tracking": (-200, 500)},  # per cent of the role's size
    r.Paragraph: {"looseness": (-20, 20), "tracking": (-200, 500)},
    r.Picture: {"width": (1, 300_000), "height": (1, 300_000), "outline": _UNIT, "keep_clear": _UNIT},
    r.ArtStop: {"at": _UNIT, "opacity": _UNIT},
    r.Art: {"opacity": _UNIT},
    r.ArtGradient: {"matrix": (-1e6, 1e6)},
    Floating: {"width": (0.01, 3000), "height": (0.01, 3000)},
    Stop: {"index": (-1000, 1000), "count": (0, 1000), "off": (-3000, 3000)},
    r.FadeStop: dict.fromkeys(("at", "tint", "opacity"), _SHARE),
    r.Fade: {"angle": (-360, 360), "line": (-10, 10)},
    r.Shadow: {
        "distance": (0, 200),
        "blur": (0, 100),
        "opacity": _SHARE,
        "angle": (-360, 360),
        "across": (-200, 200),
        "down": (-200, 200),
    },
    r.Glow: {"reach": (0, 100), "opacity": _SHARE},
    r.Contour: {"weight": (0, 200)},
    r.Raised: {"width": (0, 50), "opacity": _SHARE},
    r.Look: {"feather": (0, 200), "grain": _SHARE},
    r.Form: {
        "corner": _PAGE_MM,
        "hole": (1, 99),
        "points": (3, 200),
        "depth": (1, 99),
        "places": (-2.0, 3.0),
        "slice": (-2.0, 3.0),
    },
    r.HoldsPicture: {"focus_x": _UNIT, "focus_y": _UNIT, "closer": (1, 20), "turn": (-360, 360)},
    r.Treatment: {
        "exposure": (-4, 4),
        **dict.fromkeys(("contrast", "warmth", "tint", "saturation", "vibrance"), (-100, 100)),
        "black": (0, 60),
        "white": (40, 100),
        "weights": (-200, 200),
        "faded": (0, 100),
        "blur": (0, 50),
        "sharpen": (0, 300),
        **dict.fromkeys(("curve", "curve_red", "curve_green", "curve_blue"), (0, 100)),
    },
    r.Hue: {"by": (-60, 60)},
    r.Slope: {"start": _ABOUT, "end": _ABOUT},
    r.Oval: {"middle": _ABOUT, "half": (0.005, 3), "soft": _SHARE},
    r.Drawn: {"points": _ABOUT, "soft": (0, 200)},
    r.Brushed: {"rim": (-100, 100), "soft": (0, 200)},
    r.Coloured: {"reach": (1, 150)},
    r.Upright: {"first": _ABOUT, "second": _ABOUT},
    r.Patch: dict.fromkeys(("left", "top", "right", "bottom"), _UNIT),
    r.Point: {"across": _UNIT, "down": _UNIT},
    r.HoldsStory: {"columns": (1, 12), "turn": (-10_000, 10_000)},
    r.HoldsDisplay: {"size": _POINTS, "bend": (1, 359), "second": (0, 300)},
    r.HoldsRule: {"weight": (0, 200), "tint": _SHARE, "gap": (0, 100)},
    r.Ground: {"tint": _SHARE},
    r.HoldsBarcode: {"size": (10, 1000), "tall": (10, 100), "narrowed": (0, 200)},
    r.HoldsPanel: {"tint": _SHARE},
    r.Edge: {"weight": (0, 100), "tint": _SHARE, "gap": (0, 100)},
    r.Wrap: {"offset": (0, LARGEST_TRIM_MM)},
    r.Block: {"inset": _PAGE_MM, "opacity": _SHARE, "angle": (-360, 360)},
    r.Group: {"opacity": _SHARE, "angle": (-360, 360)},
    r.Cover: {"tint": _SHARE, "spine_size": _POINTS, "row_of": (1, 99), "row_at": (1, 99)},
    r.SpinePiece: {"size": (10, 200)},
    r.CardPart: {"count": (1, 40)},
    r.Output: {"ppi": (0, 2400)},
    r.Insert: {
        **dict.fromkeys(("width", "height"), (5.0, 3000.0)),
        **dict.fromkeys(("stub", "cut", "perforations"), (0.0, 3000.0)),
        "up": (1, 8),
    },
    r.Publication: {"light": (-360, 360)},
    r.Manner: {
        **dict.fromkeys(
            (
                "crop",
                "fold",
                "sharp",
                "size",
                "looks",
                "rank",
                "order",
                "edges",
                "balance",
                "white",
                "contrast",
            ),
            (0, MOST_WEIGHT),
        ),
        "variety": (-MOST_WEIGHT, MOST_WEIGHT),
        "room": (10, 100),
        "frame": (0.5, 60),
        "bleed": (-100, 100),
    },
    r.Schedule: dict.fromkeys(("files", "passed", "proofs", "cover", "copy"), (0.0, 400.0)),
}
IN_POINTS = frozenset(
    {"size", "leading", "indent", "rule_above", "rule_below", "spine_size", "weight", "outline"}
    | {"shift", "underline", "underline_off", "strike"}
)
# How many there may be of a kind, and how long a text may be.
MOST_GOODS, MOST_COLUMNS = 5000, 60
FEWEST: dict[tuple[type, str], tuple[int, str]] = {
    (r.Fade, "stops"): (2, "runs from nothing to nothing: it needs two inks")
}
MOST: dict[tuple[type, str], int] = {
    (r.Publication, "pages"): MOST_PAGES,
    (r.Publication, "unplaced"): MOST_PAGES,
    (r.Publication, "stories"): 20_000,
    (r.Publication, "pictures"): 50_000,
    (r.Publication, "roles"): 2000,
    (r.Publication, "masters"): 500,
    (r.Publication, "inks"): 2000,
    (r.Publication, "fades"): 500,
    (r.Publication, "looks"): 500,
    (r.Fade, "stops"): 6,
    (r.Form, "places"): 400,
    (r.Form, "slice"): 2,
    (r.Picture, "art"): 4000,
    (r.ArtGradient, "stops"): 60,
    (r.Page, "things"): 5000,
    (r.Group, "members"): 2000,
    (r.Insert, "parts"): 60,
    (r.Insert, "verso"): 60,
    (r.Insert, "perforations"): 60,
    (r.Publication, "outputs"): 200,
    (r.Goods, "columns"): MOST_COLUMNS,
    (r.Goods, "rows"): MOST_GOODS,
}
LONGEST_NAME = 500  # of names, titles and other words that are not text
_LONG = frozenset({"text", "note", "digest", "data", "caption", "credit", "says", "runs"})  # as long as they like


class _Fields(NamedTuple):
    """The fields of a record in which something may be out of range."""

    words: tuple[str, ...]  # that are words
    counted: tuple[tuple[str, int], ...]  # and how many there may be
    figures: tuple[tuple[str, Range], ...]
    within: tuple[str, ...]  # that hold records, or may
    files: tuple[tuple[str, str], ...]  # that name a file of the job, and what it is
    digests: tuple[str, ...]


@cache
def _fields(kind: type[Struct]) -> _Fields:
    types = {field.name: field.type for field in msgspec.structs.fields(kind)}
    ranges = RANGES.get(kind, {})
    return _Fields(
        tuple(name for name in types if _may_be(types[name], str)),
        tuple((name, MOST[kind, name]) for name in types if (kind, name) in MOST),
        tuple((name, ranges[name]) for name in types if name in ranges),
        tuple(name for name in types if _may_be(types[name], Struct)),
        tuple((name, NAMING[kind, name][0]) for name in types if (kind, name) in NAMING),
        tuple(name for name in types if (kind, name) in DIGESTS),
    )


def _may_be(kind: object, wanted: type) -> bool:
    """Whether values of a type are of another, or may have some within."""
    if isinstance(kind, type):
        return issubclass(kind, wanted)
    return any(_may_be(each, wanted) for each in get_args(kind))


def figures_out_of_range(record: Struct, path: tuple[Struct, ...] = (), before: object = None) -> Iterator[str]:
    """What of a record, and of all it holds, cannot be: each in words.

    ``path`` is what it lies in. What it shares with ``before``, the record as it stood, is known to be within.
    """
    fields, path = _fields(type(record)), (*path, record)
    for field in fields.words:
        value = getattr(record, field)
        if type(value) is not str:
            continue
        if len(value) > LONGEST_NAME and field not in _LONG:
            words = f"{len(value):,} letters long; {LONGEST_NAME} are the most"
            yield f"the {_words(field)} of {_where(path)} is {words}"
        elif not is_writable(value):
            yield f"the {_words(field)} of {_where(path)} holds half a letter, which no file can; type it again"
    for field, what in fields.files:
        name = getattr(record, field)
        if not (is_plain_name(name) or (not name and (type(record), field) in MAY_BE_NONE)):
            yield f"the {what} “{name[:40]}” would lie outside its folder"
    for field in fields.digests:
        if not is_digest(getattr(record, field)):
            yield f"the {field} of {_where(path)} is none: it has figures and the letters a to f only"
    for field, most in fields.counted:
        count = len(getattr(record, field))
        if count > most:
            yield f"{_where(path)} has {count:,} {field}, more than the {most:,} there may be"
            return
        if (type(record), field) in FEWEST and count < FEWEST[type(record), field][0]:
            yield f"{_where(path)} {FEWEST[type(record), field][1]}"
            return
    for field, (low, high) in fields.figures:
        value = getattr(record, field)
        if not (type(value) is float and low <= value <= high):  # as nearly all are
            yield from _out_of((low, high), field, value, path)
    for field in fields.within:
        value, stood = getattr(record, field), getattr(before, field, None)
        if value is stood:
            continue
        now = value if isinstance(value, tuple) else (value,)
        then = stood if isinstance(stood, tuple) else (stood,)
        there = set(map(id, then))
        for each, was in zip(now, then if len(then) == len(now) else repeat(None), strict=False):
            if id(each) in there:
                continue
            if isinstance(each, r.Run):  # of which there are very many
                if each.size != 100.0 or each.tracking or each.light is not None or not is_writable(each.text):
                    yield from _of_run(each, path)
            elif isinstance(each, Struct):
                yield from figures_out_of_range(each, path, was)


def is_writable(text: str) -> bool:
    """Whether a text can be written to a file: half a letter, as a broken name or a clipboard may give, cannot."""
    if text.isascii():
        return True
    try:
        text.encode()
    except UnicodeEncodeError:
        return False
    return True


def _of_run(run: r.Run, path: tuple[Struct, ...]) -> Iterator[str]:
    if not is_writable(run.text):
        yield f"the text of {_where(path)} holds half a letter, which no file can; type it again"
    for field in ("size", "tracking"):
        yield from _out_of(RANGES[r.Run][field], f"{field} of words", getattr(run, field), path)
    if run.light is not None:
        yield from figures_out_of_range(run.light, path)


def _out_of(limits: Range, field: str, value: object, path: tuple[Struct, ...]) -> Iterator[str]:
    low, high = limits
    for figure in value if isinstance(value, tuple) else (value,):
        if isinstance(figure, tuple):
            yield from _out_of(limits, field, figure, path)
            continue
        unit = ""
        if isinstance(figure, Length):
            unit = " pt" if field in IN_POINTS else " mm"
            figure = figure.pt if field in IN_POINTS else figure.mm
        if figure is None or isinstance(figure, str | bool | Struct):
            continue
        if not (math.isfinite(figure) and low - 1e-6 <= figure <= high + 1e-6):
            words = f"{figure:.6g}{unit}; it may be from {low:g} to {high:g}{unit}"
            yield f"the {_words(field)} of {_where(path)} is {words}"


def _where(path: tuple[Struct, ...]) -> str:
    """The innermost record of a path that has words of its own."""
    return next(filter(None, map(_named, reversed(path))), "the job")


def _words(field: str) -> str:
    return field.replace("_", " ")


def _named(record: object) -> str:
    """A record in words: its kind, and what it is called."""
    name = next((getattr(record, field) for field in ("name", "title", "file", "id") if hasattr(record, field)), "")
    words = {"HoldsPicture": "a picture block", "HoldsStory": "a story block", "HoldsPanel": "a panel"}
    kind = words.get(type(record).__name__) or f"the {type(record).__name__.removeprefix('Holds').lower()}"
    return f"{kind} “{str(name)[:40]}”" if name else kind if type(record).__name__ in words else ""
