"""What can be set of a piece of furniture."""

from half_fold.core.publication.fields import field_of
from half_fold.core.publication.property import Choices, Property
from half_fold.core.publication.records import Furniture

BLACK = "black alone"
OVER: Choices = (("text", "the text area"), ("page", "the whole page"), ("outside", "out to the trim"))
PAGES: Choices = (("both", "left and right"), ("left", "left pages"), ("right", "right pages"))
AT: Choices = (("head", "head"), ("foot", "foot"))
SIDES: Choices = (("outside", "outside"), ("centre", "centre"), ("inside", "inside"))
PICKED_UP = "{folio} {section} {chapter} {story} {title} {issue} {season} {date} are filled in"
LEAST_PT, LEAST_MM, MOST_LINES = 0.01, 0.01, 40.0


def _is(*kinds: str) -> dict[str, object]:
    return {"applies": lambda piece: piece.kind in kinds}


_STANDING = _is("words", "rule", "picture")
FURNITURE: tuple[Property[Furniture], ...] = (
    field_of(Furniture, "words", "Words", "text", note=PICKED_UP, **_is("words")),
    field_of(Furniture, "role", "Role", "role", also=("style",), **_is("words")),
    field_of(Furniture, "weight", "Weight", "length", least=LEAST_PT, **_is("rule", "frame")),
    field_of(Furniture, "over", "Runs over", "choice", choices=OVER, **_is("rule")),
    field_of(Furniture, "width", "Inside the trim", "length", least=LEAST_MM, note="by", **_is("frame")),
    field_of(Furniture, "width", "Width", "length", least=LEAST_MM, note="keeps its proportion", **_is("picture")),
    field_of(Furniture, "ink", "Ink", "ink", none=BLACK, also=("colour",), **_is("rule", "frame")),
    field_of(Furniture, "picture", "Which", "picture", **_is("picture")),
    field_of(Furniture, "at", "Stands at", "choice", choices=AT, **_STANDING),
    field_of(Furniture, "side", "Side", "choice", choices=SIDES, **_STANDING),
    field_of(
        Furniture, "lines", "From the text", "number", least=0.0, most=MOST_LINES, note="in lines", **_STANDING
    ),
    field_of(Furniture, "pages", "On", "choice", choices=PAGES),
)  # fmt: skip


def furniture_properties(piece: Furniture) -> list[Property[Furniture]]:
    """What can be set of a piece as it is, in the order in which it is shown."""
    return [each for each in FURNITURE if each.applies(piece)]
