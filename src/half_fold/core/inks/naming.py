"""Names of inks, fades and looks: new ones that are not taken, and things that go only where nothing names them."""

from collections.abc import Collection, Iterator, Sequence

from half_fold.core.measure.length import counted
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.property import paint_choices
from half_fold.core.publication.records import Publication
from half_fold.core.publication.references import references


def new_name(name: str, taken: Collection[str], what: str) -> str:
    """A name as it is kept. Problem where it is none, or taken; ``what`` says of what kind it is."""
    name = " ".join(name.split())
    if not name:
        raise Problem(f"{what.capitalize()} needs a name; type one.")
    if name in taken:
        raise Problem(f"There is {what} “{name}” already; give another name.")
    return name


def new_paint_name(publication: Publication, name: str) -> str:
    """A name that neither an ink nor a fade has. Problem where it is none, or taken."""
    return new_name(name, paint_choices(publication), "an ink or a fade")


def ink_places(publication: Publication, kinds: Collection[str], name: str) -> Iterator[str]:
    """Every place that names something of those kinds, in words."""
    return (each.where for each in references(publication) if each.kind in kinds and each.name == name)


def used_by(places: Sequence[str]) -> str:
    """Those places in a few words."""
    different = list(dict.fromkeys(places))
    more = f" and {counted(len(different) - 3, 'other place')}" if len(different) > 3 else ""
    return ", ".join(different[:3]) + more


def require_unused(publication: Publication, kinds: Collection[str], name: str, instead: str) -> None:
    """Problem where something names it: what, and what to do ``instead``."""
    places = list(ink_places(publication, kinds, name))
    if places:
        raise Problem(f"“{name}” is used by {used_by(places)}; {instead} first.")
