"""What can be set of the forms and edges of panels, pictures and grounds, and of rules."""

from collections.abc import Callable, Sequence
from functools import partial
from typing import Any, get_args

from msgspec.structs import replace

from half_fold.core.measure.length import Length
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.places import Record
from half_fold.core.publication.property import Choices, Kind, Property
from half_fold.core.publication.ranges import IN_POINTS, RANGES
from half_fold.core.publication.records import (
    RECTANGLE,
    Block,
    Corner,
    Edge,
    Form,
    Ground,
    HoldsDisplay,
    HoldsPanel,
    HoldsPicture,
    HoldsRule,
    Publication,
)
from half_fold.core.publication.used import usual_ink

MADE: dict[str, Record] = {"edge": Edge(), "ground": Ground(), "form": RECTANGLE}
CORNERS: tuple[str, ...] = get_args(Corner)
_KINDS: Choices = (
    ("rectangle", "rectangle"),
    ("ellipse", "ellipse"),
    ("circle", "circle"),
    ("ring", "ring"),
    ("burst", "burst"),
    ("banner", "banner"),
    ("flash", "flash across a corner"),
    ("polygon", "polygon"),
)
_CORNERS: Choices = (("round", "round"), ("slanted", "slanted"), ("cut", "cut out square"), ("hollow", "hollow"))
_USUAL_GAP = "by its weight"
_DASHES: Choices = (("none", "unbroken"), ("dashed", "in dashes"), ("dotted", "in dots"))
_SIDES: Choices = (("inside", "inside"), ("centred", "half to either side"), ("outside", "outside"))
_RUNS: Choices = (("across", "across"), ("down", "down"), ("falling", "falling"), ("rising", "rising"))
_STANDS: Choices = (
    ("first", "at the head, or the left"),
    ("middle", "in the middle"),
    ("last", "at the foot, or right"),
)
_ROUNDED = ("rounded", "radius")
GROUND_INK = "straw"
_BLACK = "black alone"
_DEEP = ("burst", "banner", "flash")
_ROUND_IT = ("line round it", "border", "outline", "frame")
_FILLED = ("fill", "colour", "gradient", "fade")
Applies = Callable[[Block], bool]


def _read(path: Sequence[str], block: Block) -> Any:
    """What stands at the end of a path from what a block holds; of what is not there, as it would begin."""
    found: Any = block.holds
    for name in path:
        value = getattr(found, name)
        found = MADE[name] if value is None and name in MADE else value
    return found


def _write(path: Sequence[str], block: Block, value: Any) -> Block:
    def put(record: Record, rest: Sequence[str]) -> Record:
        name, *further = rest
        if not further:
            return replace(record, **{name: value})
        inner = getattr(record, name)
        return replace(record, **{name: put(MADE[name] if inner is None else inner, further)})

    return replace(block, holds=put(block.holds, path))


def _nested(
    holds: type[Record], owner: type[Record], path: Sequence[str], key: str, label: str, kind: Kind, **more: Any
) -> Property[Block]:
    """A field some way inside what a block holds; its range is that of the record it stands in, its ``owner``."""
    name = path[-1]
    least, most = RANGES.get(owner, {}).get(name, (0.0, 0.0))
    applies: Applies = more.pop("applies", lambda _: True)
    told: dict[str, Any] = {
        "least": least,
        "most": most,
        "unit": "pt" if name in IN_POINTS else "",
        "read": partial(_read, path),
        "write": partial(_write, path),
        **more,
    }
    return Property(key, label, kind, applies=lambda block: isinstance(block.holds, holds) and applies(block), **told)


def _typed_places(places: Sequence[Sequence[float]]) -> str:
    return "; ".join(f"{100 * x:g} {100 * y:g}" for x, y in places)


def _places(text: str, least: int, most: int) -> tuple[tuple[float, float], ...]:
    """Places typed as per cent of a block's width and height."""
    try:
        pairs = [
            tuple(float(figure) / 100 for figure in part.replace(",", " ").split())
            for part in text.split(";")
            if part.strip()
        ]
        places = tuple((x, y) for x, y in pairs)
    except ValueError:
        places = ()
    if not text.strip():
        return ()
    if not least <= len(places) <= most or any(not -2 <= figure <= 3 for place in places for figure in place):
        count = f"{least}" if least == most else f"{least} to {most}"
        raise Problem(f"“{text}” is no row of places; give {count}, each per cent across and down: 0 0; 100 0; 50 100.")
    return places


def _corners(text: str) -> tuple[str, ...]:
    names = tuple(part.strip() for part in text.split(",") if part.strip() and part.strip() != "all")
    wrong = [name for name in names if name not in CORNERS]
    if wrong:
        raise Problem(f"“{wrong[0]}” is no corner; there are {', '.join(CORNERS)}.")
    return names


def form_properties(
    holds: type[Record], prefix: str = "", before: str = "", there: Applies = lambda _: True
) -> list[Property[Block]]:
    """What can be set of a form; it stands at ``before`` in what is held, and its keys begin with ``prefix``."""
    path = [*before.split(), "form"]
    about = f"{prefix.rstrip('.').capitalize()}'s " if prefix else ""

    def kind_of(block: Block) -> str:
        return str(_read([*path, "kind"], block))

    def one(field: str, key: str, label: str, kind: Kind, kinds: Sequence[str] = (), **more: Any) -> Property[Block]:
        applies = lambda block: there(block) and (not kinds or kind_of(block) in kinds)  # noqa: E731
        words = about + (label.lower() if about else label)
        return _nested(holds, Form, [*path, field], prefix + key, words, kind, applies=applies, **more)

    def typed(field: str, told: Callable[[Any], str], reader: Callable[[str], Any]) -> dict[str, Any]:
        whole = [*path, field]
        return {
            "read": lambda block: told(_read(whole, block)),
            "write": lambda block, text: _write(whole, block, reader(text)),
        }

    has_corners = ("rectangle",)
    return [
        one("kind", "shape", "Shape", "choice", choices=_KINDS, also=("round", "oval", "circle", "star", "badge")),
        one("corner", "corner", "Corners", "length", has_corners, none="sharp", note="how large", also=_ROUNDED),
        one("corners", "corner.way", "Corners are", "choice", has_corners, choices=_CORNERS, also=("bevelled",)),
        one(
            "only", "corner.only", "Which corners", "text", ("rectangle", "flash"), none="all",
            note="head left, head right, foot right, foot left",
            **typed("only", lambda names: ", ".join(names), _corners),
        ),
        one("hole", "hole", "Open", "share", ("ring",), note="of its width"),
        one("points", "points", "Points", "count", ("burst",)),
        one("depth", "depth", "Deep", "share", _DEEP, note="of its radius, height or side"),
        one(
            "places", "places", "Corners at", "text", ("polygon",), note="per cent across and down: 0 0; 100 0; 50 100",
            **typed("places", _typed_places, lambda text: _places(text, 3, 400)),
        ),
        one(
            "slice", "slice", "Sliced", "text", none="no",
            note="along a line from place to place; what lies left of it stays", also=("cut", "diagonal"),
            **typed("slice", _typed_places, lambda text: _places(text, 2, 2)),
        ),
    ]  # fmt: skip


def edge_properties(
    holds: type[Record], prefix: str = "", before: str = "", there: Applies = lambda _: True
) -> list[Property[Block]]:
    """What can be set of the stroke along a form."""
    owner = before.split()

    def edge_in(block: Block) -> Edge | None:
        bearer: Any = _read(owner, block) if owner else block.holds
        return bearer.edge if bearer is not None else None

    def weigh(block: Block, weight: Length | None) -> Block:
        edge = None if weight is None or weight.pt == 0 else replace(edge_in(block) or Edge(), weight=weight)
        return _write([*owner, "edge"], block, edge)

    def weight_of(block: Block) -> Length | None:
        edge = edge_in(block)
        return edge.weight if edge is not None else None

    about = f"{prefix.rstrip('.').capitalize()}'s stroke" if prefix else "Stroke"
    one = partial(_nested, holds, Edge, applies=lambda block: there(block) and edge_in(block) is not None)
    broken = partial(_nested, holds, Edge, applies=lambda block: there(block) and _is_broken(edge_in(block)))
    along = "inside, outside, or half to either side"
    return [
        _nested(
            holds, Edge, [*owner, "edge", "weight"], f"{prefix}edge.weight", about, "length",
            read=weight_of, write=weigh, none="none", note="along its edge", also=_ROUND_IT, applies=there,
        ),
        one([*owner, "edge", "ink"], f"{prefix}edge.ink", f"{about}'s ink", "paint", none=_BLACK),
        one([*owner, "edge", "tint"], f"{prefix}edge.tint", f"{about}'s tint", "share"),
        one([*owner, "edge", "dashes"], f"{prefix}edge.dashes", f"{about} runs", "choice", choices=_DASHES),
        broken(
            [*owner, "edge", "gap"], f"{prefix}edge.gap", f"{about}'s gaps", "length", most=100.0, none=_USUAL_GAP,
            note="about so much between dashes or dots, shared out evenly",
        ),
        one([*owner, "edge", "side"], f"{prefix}edge.side", f"{about} lies", "choice", choices=_SIDES, note=along),
    ]  # fmt: skip


def _is_broken(edge: Edge | None) -> bool:
    return edge is not None and edge.dashes != "none"


def panel_properties() -> list[Property[Block]]:
    """Of panels."""
    inked = partial(_nested, HoldsPanel, HoldsPanel)
    return [
        inked(
            ["ink"], "ink", "Ink", "paint", none="none", note="an ink or a fade", also=("fill", "colour", "gradient")
        ),
        inked(["tint"], "tint", "Tint", "share", applies=lambda block: bool(getattr(block.holds, "ink", ""))),
        *form_properties(HoldsPanel),
        *edge_properties(HoldsPanel),
    ]


def picture_forms() -> list[Property[Block]]:
    """Of pictures."""
    return [*form_properties(HoldsPicture), *edge_properties(HoldsPicture)]


def rule_properties() -> list[Property[Block]]:
    """Of rules."""
    one = partial(_nested, HoldsRule, HoldsRule)
    return [
        one(["weight"], "weight", "Weight", "length", least=0.05),
        one(["ink"], "ink", "Ink", "ink", none=_BLACK, also=("colour",)),
        one(["tint"], "tint", "Tint", "share"),
        one(["runs"], "runs", "Runs", "choice", choices=_RUNS, note="falling and rising from the left"),
        one(["stands"], "stands", "Stands", "choice", choices=_STANDS, note="in its block", applies=_is_straight),
        one(["dashes"], "dashes", "Broken", "choice", choices=_DASHES),
        one(["gap"], "gap", "Gaps", "length", most=100.0, none=_USUAL_GAP, applies=_in_dashes),
        one(["is_round"], "ends", "Round ends", "flag"),
    ]


def _in_dashes(block: Block) -> bool:
    return isinstance(block.holds, HoldsRule) and block.holds.dashes != "none"


def _is_straight(block: Block) -> bool:
    return getattr(block.holds, "runs", "") in ("across", "down")


def _inked(publication: Publication, block: Block) -> Block:
    """A ground that has just been laid takes an ink that words can be read on, if it has none and no stroke."""
    ground = getattr(block.holds, "ground", None)
    if ground is None or ground.ink or ground.edge is not None:
        return block
    return _write(["ground", "ink"], block, usual_ink(publication, GROUND_INK))


def _centring(of: Property[Block]) -> Property[Block]:
    """The shape of a ground, which words that say nothing of it stand in the middle of, unless it is a rectangle."""

    def centre(publication: Publication, block: Block) -> Block:
        holds, made = block.holds, of.settle(publication, block)
        if not isinstance(holds, HoldsDisplay) or holds.ground is None or holds.ground.form.kind == "rectangle":
            return made
        side = holds.side or "centre"
        stands = "middle" if holds.stands == "head" else holds.stands
        return replace(made, holds=replace(made.holds, side=side, stands=stands))

    return replace(of, settle=centre) if of.key == "ground.shape" else of


def ground_properties() -> list[Property[Block]]:
    """Of what words stand on."""

    def has_ground(block: Block) -> bool:
        return getattr(block.holds, "ground", None) is not None

    def stand(block: Block, on: bool) -> Block:
        return _write(["ground"], block, (getattr(block.holds, "ground", None) or Ground()) if on else None)

    one = partial(_nested, HoldsDisplay, Ground, applies=has_ground)
    return [
        _nested(
            HoldsDisplay, Ground, ["ground"], "ground", "On a ground", "flag", read=has_ground, write=stand,
            note="a shape behind the words", also=("box behind it", "puff", "call-out", "background"), settle=_inked,
        ),
        one(["ground", "hugs"], "ground.hugs", "Ground hugs them", "flag", note="the words, as far off as their inset"),
        one(["ground", "ink"], "ground.ink", "Ground's ink", "paint", none="none"),
        one(["ground", "tint"], "ground.tint", "Ground's tint", "share"),
        *map(_centring, form_properties(HoldsDisplay, "ground.", "ground", has_ground)),
        *edge_properties(HoldsDisplay, "ground.", "ground", has_ground),
    ]  # fmt: skip
