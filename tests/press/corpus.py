"""Display lists, one for each kind of mark, each feature and their combinations; all on a sheet of 120 by 90 points."""

from collections.abc import Sequence

import numpy as np
from msgspec.structs import replace

from half_fold.core.drawing.affine import flipped, turned
from half_fold.core.drawing.marks import (
    BLACK,
    BLENDS,
    WHITE,
    Glyphs,
    Group,
    Line,
    Mark,
    Path,
    Picture,
    Shape,
    Stroke,
    Tone,
)
from half_fold.core.drawing.outline import Outline, ellipse, polygon, rectangle, rounded
from half_fold.core.measure.rect import Rect
from half_fold.core.typesetting.faces import face

SHEET = Rect(0, 0, 120, 90)
CYAN, RED, LEAF = Tone(c=1.0), Tone(m=0.9, y=0.8), Tone(c=0.7, y=0.9, k=0.1)
STRAW, GREY = Tone(y=0.3, m=0.05), Tone(k=0.4)
LEFT, RIGHT = Rect(12, 10, 72, 60), Rect(40, 30, 108, 80)
SERIF, SANS = "EB Garamond/Regular", "Young Serif/Regular"


def words(text: str, size: float, left: float, baseline: float, tone: Tone = BLACK, key: str = SERIF) -> Glyphs:
    shaped = face(key).shape(text)
    pens = np.concatenate([[0.0], np.cumsum(shaped.advances)[:-1]])
    return Glyphs(key, size, shaped.gids, left + size * pens, baseline, tone, shaped.texts, "b1")


def _picture(box: Rect, clip: Rect | None = None, name: str = "p1") -> Picture:
    return Picture(name, box, clip or box, "b2")


def _star() -> Outline:
    around = np.arange(10) * np.pi / 5
    reach = np.where(np.arange(10) % 2, 14, 34)
    places = np.column_stack([60 + reach * np.sin(around), 45 - reach * np.cos(around)])
    return polygon([(x, y) for x, y in places.tolist()])


def _panel(rect: Rect, tone: Tone) -> Path:
    return Path(rounded(rect, 8), tone)


def _group(*marks: Mark, opacity: float = 1.0, blend: str = "normal") -> Group:
    return Group(marks, opacity, blend)  # type: ignore[arg-type]


def _turned_group(angle: float, *marks: Mark, opacity: float = 1.0, blend: str = "normal") -> Group:
    return Group(marks, opacity, blend, affine=turned(SHEET.centre, angle))  # type: ignore[arg-type]


_TWO = (Shape(LEFT, LEAF), Shape(RIGHT, RED))
_PICTURED = _picture(Rect(0, 0, 120, 90))

LISTS: dict[str, Sequence[Mark]] = {
    "an area": [Shape(LEFT, LEAF)],
    "areas, the nearer hides": _TWO,
    "white on an area": [Shape(LEFT, LEAF), Shape(RIGHT, WHITE)],
    "an area with its stroke": [Shape(LEFT, STRAW, RED, 4.0)],
    "a stroke alone": [Shape(LEFT, None, BLACK, 3.0)],
    "a rule": [Line((10, 20), (110, 20), LEAF, 2.0), Line((30, 5), (90, 85), RED, 5.0)],
    "round corners": [Path(rounded(LEFT, 12), LEAF)],
    "an ellipse": [Path(ellipse(RIGHT), RED)],
    "a star": [Path(_star(), LEAF)],
    "filled and stroked": [Path(_star(), STRAW, Stroke(RED, 3.0))],
    "a stroked ellipse": [Path(ellipse(LEFT), None, Stroke(LEAF, 4.0))],
    "stroked round corners": [Path(rounded(LEFT, 12), None, Stroke(BLACK, 5.0))],
    "dashes": [Path(rectangle(LEFT), None, Stroke(LEAF, 3.0, (9.0, 6.0)))],
    "dots": [Path(rectangle(LEFT), None, Stroke(RED, 4.0, (0.0, 8.0), True))],
    "dashes along a curve": [Path(ellipse(RIGHT), None, Stroke(BLACK, 2.0, (6.0, 4.0)))],
    "a hairline": [Path(rectangle(LEFT), None, Stroke(BLACK, 0.25))],
    "black text overprints": [Shape(SHEET, LEAF), words("Hedge", 24, 20, 50)],
    "coloured text knocks out": [Shape(SHEET, STRAW), words("Hedge", 30, 10, 55, RED, SANS)],
    "large black text knocks out": [Shape(SHEET, CYAN), words("Hed", 44, 10, 60, BLACK, SANS)],
    "white text": [Shape(SHEET, LEAF), words("Hedge", 30, 10, 55, WHITE)],
    "turned text": [replace(words("Hedge", 20, 30, 60, LEAF), turn=turned((30, 60), -50))],
    "letters to and fro": [words("עץ חיים", 26, 16, 52, RED, "Frank Ruhl Libre/Regular")],
    "a picture": [_picture(LEFT)],
    "a clipped picture": [_picture(Rect(-20, -10, 100, 80), LEFT)],
    "a turned picture": [Picture("p1", LEFT, SHEET, "b", turned(LEFT.centre, 25))],
    "a flipped picture": [Picture("p1", LEFT, SHEET, "b", flipped(LEFT))],
    "turned, flipped and clipped": [
        Picture("p1", Rect(0, 0, 90, 70), LEFT, "b", turned((45, 35), -40).after(flipped(LEFT)))
    ],
    "a cut-out": [Shape(SHEET, STRAW), _picture(RIGHT, name="p2")],
    "a grey picture": [Shape(SHEET, STRAW), _picture(RIGHT, name="p3")],
    "a see-through area": [Shape(LEFT, LEAF), _group(Shape(RIGHT, RED), opacity=0.4)],
    "a see-through picture": [Shape(LEFT, LEAF), _group(_picture(RIGHT), opacity=0.6)],
    "see-through words": [Shape(LEFT, STRAW), _group(words("Hedge", 36, 8, 58, RED, SANS), opacity=0.5)],
    "two in one group": [Shape(SHEET, STRAW), _group(*_TWO, opacity=0.5)],
    "a group in a group": [
        Shape(LEFT, CYAN),
        _group(_group(Shape(RIGHT, RED), opacity=0.5), Shape(Rect(60, 5, 90, 40), LEAF), opacity=0.7),
    ],
    "a wash over a picture": [_PICTURED, _group(_panel(RIGHT, WHITE), opacity=0.6), words("Hedge", 18, 48, 60)],
    "overprint before a group": [
        Shape(SHEET, STRAW),
        words("Hedge", 20, 20, 40),
        _group(Shape(LEFT, RED), opacity=0.5),
    ],
    "overprint over a group": [_group(Shape(LEFT, RED), opacity=0.5), words("Hedge", 20, 20, 40)],
    "black text in a group": [Shape(SHEET, LEAF), _group(words("Hedge", 24, 20, 50), opacity=0.8)],
    "paths in a group": [Shape(SHEET, STRAW), _group(Path(_star(), LEAF, Stroke(RED, 3.0)), opacity=0.5)],
    "dots in a group": [
        Shape(LEFT, CYAN),
        _group(Path(ellipse(RIGHT), None, Stroke(RED, 4.0, (0.0, 8.0), True)), opacity=0.6),
    ],
    "a turned area": [Shape(LEFT, LEAF), _turned_group(-20, Shape(RIGHT, RED))],
    "a turned block": [
        _PICTURED,
        _turned_group(33, _panel(LEFT, STRAW), _picture(RIGHT, LEFT), words("Hedge", 20, 20, 40, RED)),
    ],
    "a turned block with black text": [Shape(SHEET, LEAF), _turned_group(-12, words("Hedge", 24, 20, 50))],
    "turned and see-through": [
        _PICTURED,
        _turned_group(15, Shape(LEFT, STRAW), words("Hedge", 24, 12, 50), opacity=0.6),
    ],
    "turned and multiplied": [_PICTURED, _turned_group(200, Path(_star(), LEAF, Stroke(RED, 3.0)), blend="multiply")],
    "a turn in a turn": [
        Shape(LEFT, CYAN),
        _turned_group(30, _turned_group(-70, Shape(RIGHT, RED), Line((10, 20), (110, 20), LEAF, 2.0)), opacity=0.7),
    ],
    "turned text in a turn": [
        _turned_group(90, Shape(RIGHT, STRAW), replace(words("Hedge", 20, 30, 60, LEAF), turn=turned((30, 60), -50)))
    ],
    "see-through in a turn": [Shape(LEFT, CYAN), _turned_group(45, _group(Shape(RIGHT, RED), opacity=0.5))],
    "nothing to see": [_group(Shape(Rect(300, 300, 320, 320), RED), opacity=0.5), Shape(LEFT, LEAF)],
    **{f"{blend} on an area": [Shape(LEFT, LEAF), _group(Shape(RIGHT, RED), blend=blend)] for blend in BLENDS},
    **{f"{blend} on a picture": [_PICTURED, _group(_panel(RIGHT, LEAF), blend=blend)] for blend in BLENDS},
    **{
        f"{blend} see-through": [
            Shape(LEFT, LEAF),
            Shape(Rect(50, 0, 70, 90), GREY),
            _group(Path(ellipse(RIGHT), STRAW), opacity=0.7, blend=blend),
        ]
        for blend in BLENDS
    },
    **{
        f"{blend} on two that are see-through": [
            _group(*_TWO, opacity=0.5),
            _group(_picture(Rect(20, 5, 70, 55)), opacity=0.8, blend=blend),
        ]
        for blend in BLENDS
    },
}
