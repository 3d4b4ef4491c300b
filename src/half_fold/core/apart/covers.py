"""The sides of the cover, and its flaps: what each is called, which fields of the cover lie on it, and where."""

from half_fold.core.apart.pair import LEFT, RIGHT, SPREAD
from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.wrap import cover_panels, has_cover
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.spreads import Spread
from half_fold.core.publication.records import Publication
from half_fold.core.publication.surgery import COVER_SIDES

PAGES = {
    ("outside", LEFT): "back cover",
    ("outside", RIGHT): "front cover",
    ("inside", LEFT): "inside front cover",
    ("inside", RIGHT): "inside back cover",
    ("flaps", LEFT): "back flap",
    ("flaps", RIGHT): "front flap",
}
FIELDS: dict[str, tuple[str, str]] = {
    "outside": ("back", "front"),
    "inside": ("inside_front", "inside_back"),
    "flaps": ("back_flap", "front_flap"),
}


def cover_fields(publication: Publication, side: str) -> tuple[str, str]:
    """The cover's fields that lie left and right on a side of it; a copy bound at the right mirrors them."""
    left, right = FIELDS[side]
    return (right, left) if publication.brief.right_bound else (left, right)


def cover_page_name(publication: Publication, side: str, number: int) -> str:
    """What a page of a side of the cover is called: ``front cover``."""
    return PAGES[side, LEFT + RIGHT - number if publication.brief.right_bound else number]


def front_page(publication: Publication) -> int:
    """The page of the outside that is the front."""
    return LEFT if publication.brief.right_bound else RIGHT


def cover_sides(publication: Publication) -> tuple[str, ...]:
    """The sides of a job's cover: outside, inside, and the flaps where any fold in; none of a job that is its own."""
    if not has_cover(publication):
        return ()
    panels = cover_panels(publication)
    flaps = ("flaps",) if panels.flap or panels.front_flap else ()
    inside = ("inside",) if panels.has_back else ()
    return ("outside", *inside, *flaps)


def left_over(publication: Publication) -> list[tuple[str, int]]:
    """Parts that the cover has not got, as it is bound now, and how many things each still holds."""
    shown = {
        cover_fields(publication, side)[number - LEFT]
        for side in cover_sides(publication)
        for number in cover_spread(publication, side).numbers
    }
    held = ((field, len(getattr(publication.cover, field))) for field in COVER_SIDES)
    return [(called_field(field), count) for field, count in held if count and field not in shown]


def cover_place(publication: Publication, field: str) -> tuple[str, int]:
    """The side, and the page of it, that a field of the cover is. Problem where this cover has none."""
    for side in cover_sides(publication):
        if field in cover_fields(publication, side):
            number = LEFT + cover_fields(publication, side).index(field)
            if number in cover_spread(publication, side).numbers:
                return side, number
    raise Problem(f"This job has no {called_field(field)}; bind it so that there is one, or name another part.")


def called_field(field: str) -> str:
    """What a field of the cover is called."""
    return f"{field.replace('_', ' ')}{'' if field.endswith('flap') else ' cover'}"


def cover_spread(publication: Publication, side: str = "outside") -> Spread:
    """The pages of a side of the cover as a spread: both, or the front alone."""
    if side == "flaps":
        has_both = bool(cover_panels(publication).flap)
    else:
        has_both = binding_named(publication.brief.binding).cover != "front"
    if has_both:
        return SPREAD
    return Spread(LEFT, None) if publication.brief.right_bound else Spread(None, RIGHT)


def require_cover(publication: Publication) -> None:
    """Problem for a self-cover job."""
    if not has_cover(publication):
        raise Problem("This job is its own cover; set paper.cover to a paper to give it one.")
