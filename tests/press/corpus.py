"""Display lists, one for each kind of mark, each feature and their combinations; all on a sheet of 120 by 90 points."""

from collections.abc import Sequence

import numpy as np
from msgspec.structs import replace

from half_fold.core.drawing.affine import Affine, flipped, turned
from half_fold.core.drawing.marks import (
    BLENDS,
    Glyphs,
    Line,
    Mark,
    MarkGroup,
    Path,
    PictureMark,
    Shape,
    Stroke,
    Veil,
    from_block,
    leaves,
    paints,
)
from half_fold.core.drawing.outline import Outline, ellipse, polygon, rectangle, rounded
from half_fold.core.drawing.overprint import USUAL, Overprint
from half_fold.core.drawing.shapes import burst, ring
from half_fold.core.drawing.tone import BLACK, REGISTRATION, WHITE, Gradient, GradientStop, Spot, Tone
from half_fold.core.measure.length import length
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Glow, Look, Raised
from half_fold.core.spread.setting.cast import swept
from half_fold.core.spread.setting.surface import feather_edge, surfaced
from half_fold.core.typesetting.faces.faces import face

SHEET = Rect(0, 0, 120, 90)
CYAN, RED, LEAF = Tone(c=1.0), Tone(m=0.9, y=0.8), Tone(c=0.7, y=0.9, k=0.1)
STRAW, GREY = Tone(y=0.3, m=0.05), Tone(k=0.4)
LEFT, RIGHT = Rect(12, 10, 72, 60), Rect(40, 30, 108, 80)
SERIF, SANS = "EB Garamond/Regular", "Young Serif/Regular"


def words(text: str, size: float, left: float, baseline: float, tone: Tone = BLACK, key: str = SERIF) -> Glyphs:
    shaped = face(key).shape(text)
    pens = np.concatenate([[0.0], np.cumsum(shaped.advances)[:-1]])
    return Glyphs(key, size, shaped.gids, left + size * pens, baseline, tone, shaped.texts, from_block("b1"))


def _picture(box: Rect, clip: Rect | None = None, name: str = "p1") -> PictureMark:
    return PictureMark(name, box, clip or box, from_block("b2"))


def _star() -> Outline:
    around = np.arange(10) * np.pi / 5
    reach = np.where(np.arange(10) % 2, 14, 34)
    places = np.column_stack([60 + reach * np.sin(around), 45 - reach * np.cos(around)])
    return polygon([(x, y) for x, y in places.tolist()])


def _panel(rect: Rect, tone: Tone) -> Path:
    return Path(rounded(rect, 8), tone)


_RAISED = Look(name="", raised=Raised(width=length("8pt")))


def _surfaced(look: Look, shape: Outline) -> list[Mark]:
    return surfaced(start("magazine", "Corpus"), look, shape, from_block("b1"), 1.0)


def _group(*marks: Mark, opacity: float = 1.0, blend: str = "normal") -> MarkGroup:
    return MarkGroup(marks, opacity, blend)  # type: ignore[arg-type]


def _turned_group(angle: float, *marks: Mark, opacity: float = 1.0, blend: str = "normal") -> MarkGroup:
    return MarkGroup(marks, opacity, blend, affine=turned(SHEET.centre, angle))  # type: ignore[arg-type]


PLUM, MOSS = Spot("Ellerby plum", 0.4, 0.9, 0.1, 0.1), Spot("Wet moss", 0.6, 0.2, 0.9, 0.3)
PLUM_TONE, MOSS_TONE = Tone(s=1.0, spot=PLUM), Tone(s=0.6, spot=MOSS)
SPOTS = (PLUM.name, MOSS.name)


def _fade(*tones: Tone, way: str = "linear", angle: float = 0.0, box: Rect = LEFT) -> Gradient:
    """Tones from the left of a box to its right, turned, or from its middle outwards."""
    stops = tuple(GradientStop(at / (len(tones) - 1), tone) for at, tone in enumerate(tones))
    middle = box.centre
    lies = Affine(box.width, 0, 0, box.width, box.left, middle[1])
    if way == "radial":
        lies = Affine(box.width / 2, 0, 0, box.height / 2, *middle)
    return Gradient(way, turned(middle, angle).after(lies), stops)  # type: ignore[arg-type]  # words of a test


def _mask(*tones: Tone, box: Rect = SHEET, way: str = "linear") -> MarkGroup:
    return MarkGroup((Path(rectangle(box), _fade(*tones, way=way, box=box)),))


def _soft(wide: int = 320, high: int = 240) -> np.ndarray:
    y, x = np.mgrid[0:high, 0:wide]
    far = np.hypot((x + 0.5) / wide - 0.5, (y + 0.5) / high - 0.5)
    return (255 * np.clip(1.2 - 2.4 * far, 0, 1)).astype(np.uint8)


HALF, CLEAR = Tone(k=0.5), Tone()
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
    "black areas over others": [*_TWO, Shape(Rect(30, 20, 90, 50), BLACK), Path(ellipse(Rect(60, 40, 118, 88)), BLACK)],
    "black over a spot": [Shape(LEFT, PLUM_TONE), Shape(RIGHT, BLACK), Shape(Rect(2, 62, 38, 88), MOSS_TONE)],
    "black over a picture": [_PICTURED, Path(rounded(LEFT, 12), BLACK), Line((5, 80), (115, 80), BLACK, 6.0)],
    "black round a colour": [_PICTURED, Shape(LEFT, RED, BLACK, 8.0), Path(_star(), STRAW, Stroke(BLACK, 8.0))],
    "a colour round black": [_PICTURED, Shape(LEFT, BLACK, RED, 8.0), Path(_star(), BLACK, Stroke(STRAW, 8.0))],
    "black in a group": [Shape(SHEET, LEAF), _group(Shape(LEFT, RED), Shape(RIGHT, BLACK), opacity=0.7)],
    "black beside what mixes": [Shape(SHEET, LEAF), _group(Shape(LEFT, RED), blend="multiply"), Shape(RIGHT, BLACK)],
    "black and grey and rich": [_PICTURED, Shape(LEFT, GREY), Shape(RIGHT, Tone(c=0.6, m=0.4, y=0.4, k=1.0))],
    "a picture": [_picture(LEFT)],
    "a clipped picture": [_picture(Rect(-20, -10, 100, 80), LEFT)],
    "a turned picture": [PictureMark("p1", LEFT, SHEET, from_block("b"), turned(LEFT.centre, 25))],
    "a flipped picture": [PictureMark("p1", LEFT, SHEET, from_block("b"), flipped(LEFT))],
    "turned, flipped and clipped": [
        PictureMark("p1", Rect(0, 0, 90, 70), LEFT, from_block("b"), turned((45, 35), -40).after(flipped(LEFT)))
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
    "a gradient": [Path(rectangle(LEFT), _fade(LEAF, STRAW))],
    "a gradient of three tones": [Path(ellipse(RIGHT), _fade(CYAN, WHITE, RED, box=RIGHT))],
    "a gradient at an angle": [Path(rounded(LEFT, 9), _fade(LEAF, STRAW, angle=37))],
    "a gradient outwards": [Path(rectangle(LEFT), _fade(STRAW, RED, LEAF, way="radial"))],
    "a gradient in a stroke": [Path(ellipse(LEFT), None, Stroke(_fade(RED, CYAN), 9.0))],
    "a gradient in words": [Shape(SHEET, STRAW), words("Hedge", 40, 6, 58, _fade(RED, CYAN, box=SHEET), SANS)],
    "a gradient in turned words": [replace(words("Hed", 40, 20, 58, _fade(RED, CYAN)), turn=turned((60, 45), -20))],
    "a gradient beyond its ends": [Path(rectangle(SHEET), _fade(LEAF, STRAW, box=Rect(50, 30, 70, 60)))],
    "a gradient in a turn": [Shape(SHEET, STRAW), _turned_group(25, Path(rectangle(LEFT), _fade(LEAF, RED, angle=20)))],
    "a see-through gradient": [_PICTURED, _group(Path(rectangle(RIGHT), _fade(LEAF, RED, box=RIGHT)), opacity=0.6)],
    "a mask": [Shape(LEFT, LEAF), MarkGroup((Shape(SHEET, RED),), mask=_mask(BLACK, CLEAR))],
    "a mask of a part": [Shape(LEFT, LEAF), MarkGroup((Shape(SHEET, RED),), mask=_mask(BLACK, HALF, box=RIGHT))],
    "a wash that fades over a picture": [_PICTURED, MarkGroup((Shape(SHEET, STRAW),), 0.8, mask=_mask(CLEAR, BLACK))],
    "a picture in a mask": [Shape(LEFT, LEAF), MarkGroup((_PICTURED,), mask=_mask(BLACK, CLEAR, way="radial"))],
    "a mask, turned and multiplied": [
        _PICTURED,
        MarkGroup(
            (Shape(SHEET, STRAW),), 1.0, "multiply", from_block("b"), turned((60, 45), 30), _mask(CLEAR, BLACK, CLEAR)
        ),
    ],
    "a mask in a group": [
        Shape(LEFT, CYAN),
        _group(
            MarkGroup((Shape(SHEET, RED),), mask=_mask(BLACK, CLEAR)), Shape(Rect(60, 5, 90, 40), LEAF), opacity=0.7
        ),
    ],
    "a veil": [Shape(SHEET, STRAW), Veil(_soft(), RIGHT, RED, "b")],
    "a turned veil": [Shape(LEFT, LEAF), Veil(_soft(), LEFT, STRAW, "b", turned((60, 45), 30))],
    "a shadow of black alone": [
        _PICTURED,
        MarkGroup((Veil(_soft(), RIGHT, BLACK),), 0.6, "multiply"),
        Shape(LEFT, RED),
    ],
    "a glow": [
        Shape(SHEET, LEAF),
        MarkGroup((Veil(_soft(), SHEET, STRAW),), 0.8, "screen"),
        words("Hedge", 24, 20, 50),
    ],
    "a spot": [Shape(SHEET, STRAW), Path(ellipse(RIGHT), PLUM_TONE)],
    "two spots, the nearer hides": [Shape(LEFT, PLUM_TONE), Shape(RIGHT, MOSS_TONE), Line((5, 45), (115, 45), RED, 6)],
    "process ink on a spot": [Shape(SHEET, PLUM_TONE), Shape(RIGHT, LEAF), _picture(Rect(10, 10, 40, 30))],
    "a spot's words and stroke": [
        Shape(SHEET, STRAW),
        words("Hedge", 40, 6, 58, PLUM_TONE, SANS),
        Path(rectangle(LEFT), None, Stroke(MOSS_TONE, 4.0, (9.0, 6.0))),
    ],
    "black text overprints a spot": [Shape(SHEET, PLUM_TONE), words("Hedge", 24, 20, 50)],
    "black text over a spot and a group": [
        Shape(SHEET, PLUM_TONE),
        _group(Shape(LEFT, RED), opacity=0.5),
        words("Hedge", 24, 20, 50),
    ],
    "a see-through spot": [Shape(LEFT, LEAF), _group(Shape(RIGHT, PLUM_TONE), opacity=0.5)],
    "a multiplied spot": [_PICTURED, _group(Path(ellipse(RIGHT), PLUM_TONE), blend="multiply")],
    "a gradient between spots": [Path(rectangle(LEFT), _fade(PLUM_TONE, WHITE, MOSS_TONE))],
    "a gradient from process to spot": [Path(rectangle(SHEET), _fade(LEAF, PLUM_TONE, box=SHEET))],
    "a soft edge": [Shape(SHEET, STRAW), *feather_edge([_picture(LEFT)], rectangle(LEFT), 14.0, from_block("b2"))],
    "a soft edge of words": [
        *feather_edge([words("Bo", 60, 20, 70, RED, SANS)], rectangle(RIGHT), 9.0, from_block("b1"))
    ],
    "a glow inside": [Path(_star(), LEAF), *_surfaced(Look(name="", inner=Glow(reach=length("9pt"))), _star())],
    "a raised edge": [
        _panel(LEFT, RED),
        *_surfaced(Look(name="", raised=Raised(width=length("8pt"))), rounded(LEFT, 8)),
    ],
    "a shadow swept": [Shape(SHEET, STRAW), Path(swept(_star(), 14, 9), GREY), Path(_star(), LEAF)],
    "a spot's veil": [Shape(SHEET, STRAW), Veil(_soft(), RIGHT, PLUM_TONE, "b")],
    "registration on every plate": [
        Shape(LEFT, PLUM_TONE),
        Shape(RIGHT, MOSS_TONE),
        Line((20, 70), (100, 70), REGISTRATION, 8.0),
    ],
    "a picture in an ellipse": [
        Shape(SHEET, STRAW),
        PictureMark("p1", LEFT, LEFT, from_block("b"), None, ellipse(LEFT)),
    ],
    "a turned picture in a burst": [
        PictureMark("p1", LEFT, SHEET, from_block("b"), turned(LEFT.centre, 25), burst(Rect(20, 5, 80, 65), 9, 0.3))
    ],
    "a ring, multiplied": [_PICTURED, _group(Path(ring(RIGHT, 0.5), LEAF), blend="multiply")],
    "a picture in a shape in a turn": [
        _turned_group(40, PictureMark("p2", LEFT, LEFT, from_block("b"), None, ring(LEFT, 0.4)))
    ],
    "nothing to see": [_group(Shape(Rect(300, 300, 320, 320), RED), opacity=0.5), Shape(LEFT, LEAF)],
    **{f"{blend} on an area": [Shape(LEFT, LEAF), _group(Shape(RIGHT, RED), blend=blend)] for blend in BLENDS},
    **{
        f"a spot, {blend}": [
            Shape(LEFT, STRAW),
            Path(ellipse(RIGHT), MOSS_TONE),
            _group(Path(_star(), PLUM_TONE), blend=blend),
        ]
        for blend in BLENDS
    },
    **{
        f"process ink on a spot, {blend}": [Shape(LEFT, PLUM_TONE), _group(Shape(RIGHT, LEAF), _PICTURED, blend=blend)]
        for blend in BLENDS
    },
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


def _has_black(marks: Sequence[Mark]) -> bool:
    return any(BLACK in paints(mark) for mark in leaves(marks))


# Every list as usual, and those that have black in them by whatever else a printer may ask for.
CASES = [(name, USUAL) for name in LISTS]
CASES += [
    (name, rule)
    for rule in (Overprint("all"), Overprint("none"), Overprint("text", 60.0))
    for name, marks in LISTS.items()
    if _has_black(marks)
]
CASE_NAMES = [f"{name}, {rule.of} to {rule.up_to:g}" for name, rule in CASES]
