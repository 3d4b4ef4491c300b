"""The frame of the front: a stroke round it, so far inside its trim."""

from half_fold.core.apart.covers import front_page
from half_fold.core.apart.sides import edit_side, side_of
from half_fold.core.publication.records import Publication
from half_fold.core.spread.where.borders import format_frame, set_frame

LABEL = "Frame of the front"


def front_frame(publication: Publication) -> str:
    """How far inside the trim it stands, as it would be typed; nothing where there is none."""
    return format_frame(side_of(publication, "outside"), front_page(publication))


def set_front_frame(publication: Publication, text: str) -> Publication:
    """The front with a frame so far inside its trim; typing nothing takes it away. Problem as for pages."""
    return edit_side(publication, "outside", lambda side: set_frame(side, front_page(publication), text))
