"""Cards, tip-ins and gatefolds bound into a job: of each both faces lie beside one another, as they are printed."""

from half_fold.core.apart.pair import LEFT
from half_fold.core.brief.bulk import leaf_width
from half_fold.core.brief.wrap import Panels
from half_fold.core.publication.records import Insert, Publication

CARD = "card "  # how the name of what a card's faces are as a side begins; its insert's id follows
FACES = ("front", "back")  # an insert's fields
BETWEEN = 12.0  # millimetres between the two faces


def cards_of(publication: Publication) -> tuple[str, ...]:
    """The bound-in cards, tip-ins and gatefolds of a job, each as a side."""
    return tuple(map(card_side, publication.inserts))


def card_side(card: Insert) -> str:
    """What the faces of a card are called as a side."""
    return f"{CARD}{card.id}"


def is_of_card(side: str) -> bool:
    """Whether a side is what a card's faces are, be the card still there or not."""
    return side.startswith(CARD)


def card_of(publication: Publication, side: str) -> Insert | None:
    """The card whose faces a side is; None for a side of the cover, and where there is no such card any more."""
    return next((insert for insert in publication.inserts if side == card_side(insert)), None)


def face_name(card: Insert, number: int) -> str:
    """What a face of a card is called."""
    return f"{card.name}, {'front' if number == LEFT else 'back'}"


def card_panels(publication: Publication, card: Insert) -> Panels:
    """Both faces of a card as panels."""
    wide, bleed = leaf_width(publication, card), publication.brief.bleed.mm
    return Panels("card", wide, card.height.mm, BETWEEN, 0.0, 0.0, bleed)
