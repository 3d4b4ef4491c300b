"""What can be set of a block, and of what it holds."""

from collections.abc import Callable
from functools import partial
from typing import Any, cast

from msgspec.structs import replace

from half_fold.core.drawing.marks import BLENDS
from half_fold.core.pictures.colour.treatment_properties import TREATMENT, nested_property
from half_fold.core.publication.kinds import NO_NUMBER
from half_fold.core.publication.property import Choices, Kind, Property
from half_fold.core.publication.ranges import IN_POINTS, RANGES
from half_fold.core.publication.records import (
    Block,
    Group,
    HoldsBarcode,
    HoldsCode,
    HoldsDisplay,
    HoldsNothing,
    HoldsPicture,
    HoldsStory,
    Paragraph,
    Publication,
    Run,
    Treatment,
    Wrap,
)
from half_fold.core.publication.surgery import block_named, with_thing_anywhere
from half_fold.core.spread.codes.barcode import LARGEST, SMALLEST
from half_fold.core.spread.codes.code import as_said
from half_fold.core.spread.codes.ean import addon
from half_fold.core.spread.framing.aim_words import format_aims, parse_aims
from half_fold.core.spread.settable.form_properties import (
    ground_properties,
    panel_properties,
    picture_forms,
    rule_properties,
)
from half_fold.core.spread.settable.light_properties import LIGHT
from half_fold.core.spread.settable.part_properties import part_properties
from half_fold.core.spread.settable.type_properties import TYPE
from half_fold.core.spread.setting.developed import own_treatment, with_treatment
from half_fold.core.spread.setting.goods import rows_of, typed_number

NOTE_ROLE = "cover note"
HALF, WHOLE = (("left", "left"), ("right", "right")), 100.0


def _held(holds: type[Any], key: str, label: str, kind: Kind, field: str = "", **more: Any) -> Property[Block]:
    """A field of what a block holds; its range is that of the record, a share of 1 shown as of 100."""
    name = field or key
    least, most = RANGES.get(holds, {}).get(name, (0.0, 0.0))
    by = WHOLE if kind == "share" and most == 1.0 else 1.0

    def read(block: Block) -> Any:
        value = getattr(block.holds, name)
        return value * by if by > 1 else value

    def write(block: Block, value: Any) -> Block:
        return replace(block, holds=replace(block.holds, **{name: value / by if by > 1 else value}))

    applies = more.pop("applies", lambda _: True)
    reach = {"least": least, "most": most * by, "unit": "pt" if name in IN_POINTS else ""}
    told: dict[str, Any] = {**reach, **more, "applies": lambda block: isinstance(block.holds, holds) and applies(block)}
    return Property(key, label, kind, read, write, **told)


def _treated(of: Property[Treatment]) -> Property[Block]:
    """A field of how a picture is treated."""
    return nested_property(
        of, "treatment.", own_treatment, with_treatment, lambda block: isinstance(block.holds, HoldsPicture)
    )


def _of(holds: type[Any]) -> Callable[..., Property[Block]]:
    return partial(_held, holds)


_picture, _story, _words, _code, _square = map(_of, (HoldsPicture, HoldsStory, HoldsDisplay, HoldsBarcode, HoldsCode))


def _words_in(holds: Any) -> bool:
    return bool(getattr(holds, "even", False))


def _with_role(block: Block, role: str) -> Block:
    holds = block.holds
    assert isinstance(holds, HoldsDisplay)
    return replace(block, holds=replace(holds, paragraphs=tuple(replace(p, role=role) for p in holds.paragraphs)))


def _has_second(block: Block) -> bool:
    return isinstance(block.holds, HoldsDisplay) and len(block.holds.paragraphs) > 1


def _is_told_apart(block: Block) -> bool:
    """Whether its lines have several roles, and sizes that do not follow from the measure."""
    holds = block.holds
    assert isinstance(holds, HoldsDisplay)
    fills = holds.even and holds.even_by == "size" and holds.lies == "straight"
    return len({paragraph.role for paragraph in holds.paragraphs}) > 1 and not fills


def _with_second_role(block: Block, role: str) -> Block:
    holds = block.holds
    assert isinstance(holds, HoldsDisplay)
    first, *rest = holds.paragraphs
    return replace(block, holds=replace(holds, paragraphs=(first, *(replace(each, role=role) for each in rest))))


def _with_wrap(block: Block, shape: str) -> Block:
    return replace(block, wrap=None if shape == "none" else replace(block.wrap or Wrap(), shape=shape))


def _with_number(block: Block, text: str) -> Block:
    return replace(block, holds=replace(block.holds, number=typed_number(text)))


def _with_lines(block: Block, text: str) -> Block:
    parts = [part.strip() for part in text.split("/")]
    lines = tuple(Paragraph(role=NOTE_ROLE, runs=(Run(text=part),)) for part in parts if part)
    return replace(block, holds=replace(block.holds, paragraphs=lines))


def with_parted(publication: Publication, block: str) -> Publication:
    """A picture block with its picture parted by what the fold takes."""
    found = block_named(publication, block)
    assert isinstance(found.holds, HoldsPicture)
    return with_thing_anywhere(publication, replace(found, holds=replace(found.holds, parted=True)))


def _is_bent(block: Block) -> bool:
    return getattr(block.holds, "lies", "straight") in ("arched up", "arched down", "wave")


def _is_straight_stack(block: Block) -> bool:
    return _words_in(block.holds) and getattr(block.holds, "lies", "straight") == "straight"


def _wraps(block: Block) -> bool:
    return not isinstance(block.holds, HoldsStory)


_PROOFS: Choices = (
    ("low", "7 % may be lost"), ("medium", "15 % may be lost"), ("high", "25 % may be lost"),
    ("highest", "30 % may be lost"),
)  # fmt: skip
_SIDES: Choices = (("left", "left"), ("centre", "centred"), ("right", "right"))
_STANDS: Choices = (("head", "at the head"), ("middle", "in the middle"), ("foot", "at the foot"))
_EVENED: Choices = (("size", "their size"), ("width", "wider or narrower letters"), ("tracking", "their tracking"),
                    ("both", "tracking first, then size"))  # fmt: skip
_MIRRORED = (("across", "left and right"), ("down", "head and foot"))
_LIES: Choices = (
    ("straight", "straight"),
    ("arched up", "on an arc, over its middle"),
    ("arched down", "on an arc, under its middle"),
    ("wave", "along a wave"),
    ("letter under letter", "letter under letter"),
)
_BEND = "of the arc, as wide as its block; of a wave, how steep"
_SHAPES: Choices = (
    ("none", "runs under it"),
    ("box", "round its box"),
    ("ellipse", "round an ellipse"),
    ("outline", "round its outline"),
)
_RUNS: Choices = (
    ("larger", "the wider side"),
    ("left", "left of it"),
    ("right", "right of it"),
    ("both", "both sides"),
)


def _rows(publication: Publication, block: Block) -> list[str]:
    """The rows that there are, and the one that it has."""
    rows = list(rows_of(publication.goods)) if publication.goods is not None else []
    return rows if not block.row or block.row in rows else [*rows, block.row]


def _sets(publication: Publication, _: Block) -> Choices:
    return [(each.name, each.name) for each in publication.sets]


BLOCK: tuple[Property[Block], ...] = (
    _picture("picture", "Which", "picture", also=("photo", "image")),
    _picture("ink", "Ink", "ink", none="its own colours", note="all of vector art in one", also=("recolour",)),
    _picture("scale", "Sits", "choice", choices=(("fill", "fills the block"), ("fit", "fits inside")), also=("crop",)),
    _picture("focus.across", "Focus across", "share", "focus_x", note="from the left"),
    _picture("focus.down", "Focus down", "share", "focus_y", note="from the head"),
    _picture("closer", "Drawn closer", "number", note="times; 1 just fills its block", also=("zoom", "scale", "crop")),
    _picture(
        "turn", "Picture turned", "number", unit="°", note="clockwise about the middle of its block", also=("rotate",)
    ),
    _picture("flipped", "Flipped", "flag", note="left and right change places", also=("mirror",)),
    _picture("repeated", "Repeated", "flag", note="to both sides, by its mirror images", also=("tile", "lengthen")),
    _picture(
        "parted", "Parted", "flag", note="by what the fold takes, so that nothing is lost", also=("fold", "gutter")
    ),
    _picture(
        "masthead",
        "Is the name",
        "flag",
        note="on a cover: drawn, in place of words",
        also=("masthead", "logo", "title"),
    ),
    Property(
        "aims",
        "Aims",
        "text",
        lambda block: format_aims(block.holds.aims),  # type: ignore[union-attr]
        lambda block, text: replace(block, holds=replace(block.holds, aims=parse_aims(text))),
        none="none",
        note="named points of it on stops, such as eyes on row 3",
        applies=lambda block: isinstance(block.holds, HoldsPicture),
    ),
    *map(_treated, TREATMENT),
    _story("columns", "Columns", "count", note="in this block"),
    _story("balanced", "Made even", "flag", note="where the story ends in this block"),
    _words(
        "size",
        "Size",
        "length",
        least=2.0,
        unit="pt",
        none="as the role says",
        applies=lambda block: not _words_in(block.holds),
        also=("points", "bigger", "smaller"),
    ),
    Property(
        "role",
        "Role",
        "role",
        lambda block: block.holds.paragraphs[0].role if block.holds.paragraphs else "headline",  # type: ignore[union-attr]
        _with_role,
        applies=lambda block: isinstance(block.holds, HoldsDisplay),
        also=("style",),
    ),
    Property(
        "second.role",
        "Second lines",
        "role",
        lambda block: block.holds.paragraphs[1].role,  # type: ignore[union-attr]
        _with_second_role,
        note="in another manner than the first",
        applies=_has_second,
        also=("another face", "secondary"),
    ),
    _words(
        "second.size",
        "Their size",
        "number",
        "second",
        unit="%",
        note="of the first line's; 0 is as their role says",
        applies=_is_told_apart,
        also=("ratio",),
    ),
    *TYPE,
    _words("calm", "Keeps calm", "flag", note="moves to a calm place when another picture lies under it"),
    _words("even", "Evened", "flag", note="each line fills the measure", also=("stack",)),
    _words("even.by", "Evened by", "choice", "even_by", choices=_EVENED, applies=_is_straight_stack),
    _words("side", "Flush", "choice", choices=_SIDES, none="as the role says", also=("align",)),
    _words("ink", "Ink", "ink", none="the role's", also=("colour",)),
    _words("stands", "Stands", "choice", choices=_STANDS, note="in its block"),
    _words("lies", "Lies", "choice", choices=_LIES, also=("arc", "curve", "circle", "vertical", "wave")),
    _words("bend", "Bend", "number", unit="°", note=_BEND, applies=_is_bent),
    _words(
        "mirrored",
        "Mirrored",
        "choice",
        choices=_MIRRORED,
        none="no",
        also=("flip the words", "mirror the words", "flip text", "mirror text", "heat transfer"),
    ),
    *ground_properties(),
    *panel_properties(),
    *picture_forms(),
    *rule_properties(),
    Property(
        "number",
        "Number",
        "text",
        lambda block: "" if block.holds.number == NO_NUMBER else block.holds.number,  # type: ignore[union-attr]
        _with_number,
        note="EAN, ISBN or ISSN as issued; its check digit is proved. Or a column of goods: {ean}",
        applies=lambda block: isinstance(block.holds, HoldsBarcode),
        also=("isbn", "issn", "ean"),
    ),
    Property(
        "addon",
        "Add-on",
        "text",
        lambda block: block.holds.addon,  # type: ignore[union-attr]
        lambda block, text: replace(block, holds=replace(block.holds, addon=addon(text))),
        note="2 digits for an issue, 5 for a price",
        applies=lambda block: isinstance(block.holds, HoldsBarcode),
    ),
    _code("size", "Size", "number", least=SMALLEST, most=LARGEST, unit="", note="per cent of the standard's own"),
    _code(
        "tall",
        "Bars",
        "number",
        least=50.0,
        most=100.0,
        note="per cent of their own height; shorter ones are read by fewer scanners",
    ),
    _code(
        "narrowed",
        "Narrower by",
        "number",
        least=0.0,
        most=120.0,
        note="thousandths of a mm, for a press that thickens bars; your printer says",
    ),
    _code("ink", "Ink", "ink", none="black alone"),
    _code("white", "White panel", "flag", note="a ground of its own, to the end of its quiet zones"),
    Property(
        "says",
        "Says",
        "text",
        lambda block: block.holds.says,  # type: ignore[union-attr]
        lambda block, text: replace(block, holds=replace(block.holds, says=as_said(text))),
        note="an address or words; {title} and {issue} are filled in",
        applies=lambda block: isinstance(block.holds, HoldsCode),
        also=("qr", "link", "address", "url"),
    ),
    _square("proof", "Proof against loss", "choice", choices=_PROOFS, also=("error correction",)),
    _square("ink", "Ink", "ink", none="black alone"),
    _square("white", "White panel", "flag", note="a ground of its own, to the end of its quiet zone"),
    _code("side", "Stands", "choice", choices=HALF, note="at the foot of its block"),
    Property(
        "lines",
        "Above it",
        "text",
        lambda block: " / ".join(paragraph.text for paragraph in block.holds.paragraphs),  # type: ignore[union-attr]
        _with_lines,
        note="lines parted by /; {title}, {issue} and {season} are filled in",
        applies=lambda block: isinstance(block.holds, HoldsBarcode),
    ),
    Property(
        "name",
        "Called",
        "text",
        lambda block: block.name,
        lambda block, name: replace(block, name=" ".join(name.split())),
        none="none",
        note="a name of your own, to find it by",
        also=("name", "label"),
    ),
    Property(
        "set",
        "Belongs to",
        "choice",
        lambda block: block.set,
        lambda block, name: replace(block, set=name),
        choices=_sets,
        none="no set",
        note="shown, hidden, locked and left out with all that is in it",
        also=("sets", "layer", "layers"),
    ),
    Property(
        "inset",
        "Inset",
        "length",
        lambda block: block.inset,
        lambda block, size: replace(block, inset=size if size is not None and size.pt else None),
        0.0,
        1500.0,
        none="none",
        note="of the text from the block's edges",
        applies=lambda block: isinstance(block.holds, HoldsStory | HoldsDisplay),
    ),
    Property(
        "opacity",
        "Opacity",
        "share",
        lambda block: block.opacity,
        lambda block, share: replace(block, opacity=share),
        0.0,
        WHOLE,
        note="what lies behind is seen through below 100",
        also=("see-through", "transparent"),
    ),
    Property(
        "blend",
        "Mixes by",
        "choice",
        lambda block: block.blend,
        lambda block, blend: replace(block, blend=blend),
        choices=tuple((blend, "covering" if blend == "normal" else blend) for blend in BLENDS),
        note="with what lies behind",
        also=("multiply", "blend"),
    ),
    Property(
        "look",
        "Look",
        "look",
        lambda block: block.look,
        lambda block, look: replace(block, look=look),
        none="none",
        note="shadow, glow and outline, kept under a name",
        also=("shadow", "glow", "outline", "effect"),
        applies=lambda block: not isinstance(block.holds, HoldsNothing | HoldsBarcode | HoldsCode),
    ),
    *LIGHT,
    Property(
        "row",
        "Row of the goods",
        "choice",
        lambda block: block.row,
        lambda block, row: replace(block, row=row),
        choices=lambda publication, block: [("", "none"), *((row, row) for row in _rows(publication, block))],
        note="fills in what it names, such as {price}",
        also=("product", "item", "table"),
        applies=lambda block: isinstance(block.holds, HoldsDisplay | HoldsPicture | HoldsBarcode | HoldsCode),
    ),
    Property(
        "angle",
        "Turned",
        "number",
        lambda block: block.angle,
        lambda block, angle: replace(block, angle=angle),
        -360.0,
        360.0,
        "°",
        note="clockwise about its middle, with all it holds",
        also=("rotate", "slant"),
    ),
    Property(
        "locked",
        "Locked",
        "flag",
        lambda block: block.locked,
        lambda block, locked: replace(block, locked=locked),
        note="keeps what it is, and where",
        also=("protect", "fix"),
    ),
    Property(
        "wrap",
        "Text",
        "choice",
        lambda block: block.wrap.shape if block.wrap is not None else "none",
        _with_wrap,
        choices=_SHAPES,
        note="of stories on this spread",
        applies=_wraps,
        also=("runaround",),
    ),
    Property(
        "wrap.side",
        "Text runs",
        "choice",
        lambda block: block.wrap.side if block.wrap is not None else "larger",
        lambda block, side: replace(block, wrap=replace(block.wrap or Wrap(), side=side)),
        choices=_RUNS,
        applies=lambda block: _wraps(block) and block.wrap is not None,
    ),
    Property(
        "wrap.offset",
        "Kept off by",
        "length",
        lambda block: block.wrap.offset if block.wrap is not None else Wrap().offset,
        lambda block, size: replace(block, wrap=replace(block.wrap or Wrap(), offset=size)),
        0.0,
        1500.0,
        applies=lambda block: _wraps(block) and block.wrap is not None,
    ),
)

KEEPS = (
    ("", "nothing"),
    ("even across", "even gaps across"),
    ("even down", "even gaps down"),
    ("centred", "centred in the one at the back"),
    ("centred across", "centred across"),
    ("centred down", "centred down"),
)
_OF_ALL = ("name", "set", "opacity", "blend", "angle", "locked")
# What can be set of a group: what can be set of blocks of every kind, and is the whole's.
GROUP: tuple[Property[Group], ...] = (
    *(cast(Property[Group], each) for each in BLOCK if each.key in _OF_ALL),
    Property(
        "keeps",
        "Keeps",
        "choice",
        lambda group: group.keeps,
        lambda group, keeps: replace(group, keeps=keeps),
        choices=KEEPS,
        note="whatever becomes of its members; the one at the back stays",
        also=("distribute", "equal gaps", "same distance", "centre", "middle"),
    ),
)


def block_properties(block: Block) -> list[Property[Block]]:
    """What can be set of a block as it is, in the order in which it is shown."""
    return [*(each for each in BLOCK if each.applies(block)), *(p for p in part_properties(block) if p.applies(block))]
