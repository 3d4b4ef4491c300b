"""Inks of the job's ink list as colours of the display list."""

from half_fold.core.drawing.tone import Tone
from half_fold.core.measure.kept import kept
from half_fold.core.publication.records import Ink, Publication, Role
from half_fold.core.publication.surgery import by_name


def ink(publication: Publication, name: str, tint: float = 100.0) -> Tone:
    """The ink of that name at ``tint`` per cent. Problem where the list lacks it."""
    return _colour(publication.inks, name, tint)


@kept(400)
def _colour(inks: tuple[Ink, ...], name: str, tint: float) -> Tone:
    found = by_name(inks, name, "ink")
    colour = Tone(found.cyan / 100, found.magenta / 100, found.yellow / 100, found.black / 100)
    return colour if tint >= 100 else colour.tinted(tint / 100)


def ink_of_role(publication: Publication, role: Role, instead: str = "") -> Tone:
    """The role's ink and tint, or the ink ``instead`` of it."""
    return ink(publication, instead) if instead else ink(publication, role.ink, role.tint)
