"""Under which heading each property of a block stands, in the order of work; and what of a block is not at rest."""

from functools import cache

from msgspec.structs import fields

from half_fold.core.measure.kept import kept
from half_fold.core.publication.property import Property
from half_fold.core.publication.records import Block
from half_fold.core.spread.settable.part_properties import PART

PLACE, INSIDE, FOLD, STORY, TYPE, LINES, LETTERS, INK, CODE, LINE = (
    "Place", "Inside its block", "At the fold", "Story", "Type", "Lines", "Letters", "Ink", "Code", "Line",
)  # fmt: skip
AIMS, LIGHT, SURFACE, GROUND, SHAPE, TREATMENT, CUT, MIXES, CAPTION, PRINTS, ROUND_IT, AGAIN, CALLED = (
    "Aims and areas", "Light", "Edge and surface", "Ground", "Shape", "Light and colour", "Cut out", "Mixes", "Caption",
    "Prints", "Text round it", "Again", "Called",
)  # fmt: skip

# A key that ends in a full stop stands for all that begin with it. The first that fits a property is its heading.
KEYS: dict[str, tuple[str, ...]] = {
    PLACE: ("inset", "angle"),
    INSIDE: ("picture", "scale", "focus.", "closer", "turn", "flipped"),
    AIMS: ("repeated", "masthead", "aims"),
    FOLD: ("parted",),
    STORY: ("columns", "balanced"),
    CODE: ("number", "addon", "lines", "says", "proof", "tall", "narrowed", "white"),
    LINE: ("weight", "runs", "dashes", "gap", "ends"),
    TYPE: ("role", "family", "style", "size", "leading", "tracking", "case", "side"),
    LINES: ("second.", "even", "even.", "stands", "lies", "bend", "mirrored", "calm"),
    LETTERS: (
        "hyphens", "figures", "ligatures", "fractions", "shift", "underline", "underline.", "strike", "hanging",
        "word.", "letters.", "fallback",
    ),
    INK: ("ink", "tint"),
    LIGHT: ("look", "shadow", "shadow.", "glow", "glow.", "outline.", "fill"),
    SURFACE: ("fade", "fade.", "feather", "inner", "inner.", "raised", "raised.", "grain"),
    GROUND: ("ground", "ground."),
    SHAPE: ("shape", "corner", "corner.", "hole", "points", "depth", "places", "slice", "edge."),
    TREATMENT: ("treatment.",),
    MIXES: ("opacity", "blend"),
    ROUND_IT: ("wrap", "wrap."),
    AGAIN: ("row",),
    CALLED: ("name", "locked", "set"),
}  # fmt: skip
# What stands elsewhere in blocks of a kind, by its name and the property's key.
_ELSEWHERE = {
    ("HoldsBarcode", "size"): CODE,
    ("HoldsBarcode", "side"): CODE,
    ("HoldsRule", "stands"): LINE,
}
ORDER = (
    PLACE, INSIDE, FOLD, AIMS, STORY, CODE, LINE, TYPE, LINES, LETTERS, INK, LIGHT, SURFACE, GROUND, SHAPE, TREATMENT,
    CUT, MIXES, CAPTION, PRINTS, ROUND_IT, AGAIN, CALLED,
)  # fmt: skip


def heading_of(block: Block, key: str) -> str:
    """The heading under which the property of that key stands. LookupError where it has none, which a test holds."""
    return _ELSEWHERE.get((type(block.holds).__name__, key)) or _stands(key)[0]


def ranked(key: str) -> int:
    """Where a property stands among those under its heading."""
    return _stands(key)[1]


@cache
def _stands(key: str) -> tuple[str, int]:
    """The heading of a property, and its place among those under it."""
    for heading, keys in KEYS.items():
        for place, each in enumerate(keys):
            if _fits(key, each):
                return heading, place
    raise LookupError(key)


def _fits(key: str, each: str) -> bool:
    return key == each or (each.endswith(".") and key.startswith(each))


@kept(64)
def at_rest(block: Block) -> Block:
    """The block as if nothing had been set of it but what it cannot be without."""
    kind = type(block.holds)
    needed = {each.name: getattr(block.holds, each.name) for each in fields(kind) if each.required}
    return Block(id=block.id, place=block.place, holds=kind(**needed))


def rests_at(of: Property[Block], block: Block) -> str | None:
    """What a property is typed as where nothing was set of it; None where it is so, or rests nowhere."""
    rest = at_rest(block)
    if of.key.startswith(PART) or not of.applies(rest):  # a part is there or it is not: it has no rest
        return None
    typed = of.typed(rest)
    return None if typed == of.typed(block) else typed
