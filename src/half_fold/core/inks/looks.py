"""Edits of looks: add, rename, remove."""

from msgspec.structs import replace

from half_fold.core.inks.naming import new_name, require_unused
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Contour, Glow, Look, Publication, Shadow
from half_fold.core.publication.references import LOOK
from half_fold.core.publication.renaming import name_anew
from half_fold.core.publication.surgery import by_name

# What a look may begin with, each by a word.
BEGINNINGS: dict[str, Look] = {
    "shadow": Look(name="", shadow=Shadow()),
    "glow": Look(name="", glow=Glow()),
    "outline": Look(name="", contours=(Contour(),)),
}


def _new_name(publication: Publication, name: str) -> str:
    return new_name(name, {look.name for look in publication.looks}, "a look")


def add_look(publication: Publication, name: str, beginning: str = "shadow") -> Publication:
    """One more look, which begins with a shadow, a glow or an outline."""
    if beginning not in BEGINNINGS:
        raise Problem(f"A look cannot begin with “{beginning}”; it may with {', '.join(BEGINNINGS)}.")
    made = replace(BEGINNINGS[beginning], name=_new_name(publication, name))
    return replace(publication, looks=(*publication.looks, made))


def rename_look(publication: Publication, old: str, new: str) -> Publication:
    """A look under another name, wherever it is named."""
    if " ".join(new.split()) == old:
        return publication
    made = replace(by_name(publication.looks, old, "look"), name=_new_name(publication, new))
    looks = tuple(made if look.name == old else look for look in publication.looks)
    return name_anew(replace(publication, looks=looks), (LOOK,), old, made.name)


def remove_look(publication: Publication, name: str) -> Publication:
    """Without that look. Problem where something is in it."""
    by_name(publication.looks, name, "look")
    require_unused(publication, (LOOK,), name, "give that another look")
    return replace(publication, looks=tuple(look for look in publication.looks if look.name != name))
