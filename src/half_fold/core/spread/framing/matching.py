"""Pictures of a set brought to one of them, or to their own middle; and a treatment kept as a look."""

from collections.abc import Callable, Mapping, Sequence
from typing import Literal

from msgspec.structs import replace
from PIL import Image

from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.colour.tonal import SOLVED, Tones, away, brought_to, middle_tone, tonal_figures
from half_fold.core.pictures.colour.treat import only_tones, treated
from half_fold.core.publication.records import Block, HoldsPicture, Look, Publication, Treatment
from half_fold.core.publication.surgery import block_named, require_free, with_thing_anywhere
from half_fold.core.spread.setting.developed import own_treatment, stated_treatment, treatment_of, with_treatment

To = Literal["the last chosen", "their middle"]
Images = Mapping[str, Image.Image]  # reduced copies in sRGB, by the id of the block that shows them
Wanted = Callable[[], bool]


def go_on_always() -> bool:
    """Still wanted."""
    return True


def pictures_among(publication: Publication, names: Sequence[str]) -> list[Block]:
    """The blocks of those ids that hold photographs, in that order."""
    art = {picture.id for picture in publication.pictures if picture.art}
    found = []
    for name in names:
        try:
            block = block_named(publication, name)
        except Problem:
            continue
        if isinstance(block.holds, HoldsPicture) and block.holds.picture not in art:
            found.append(block)
    return found


def farthest_off(publication: Publication, images: Images, names: Sequence[str]) -> list[tuple[str, float]]:
    """(block, how far it is from the middle of the set in L*a*b*), the farthest first."""
    found = {name: _now(publication, images, name) for name in names}
    middle = middle_tone(list(found.values()))
    return sorted(((name, away(each, middle)) for name, each in found.items()), key=lambda pair: -pair[1])


def _now(publication: Publication, images: Images, name: str) -> Tones:
    return tonal_figures(treated(images[name], treatment_of(publication, block_named(publication, name))))


def solved(
    publication: Publication,
    images: Images,
    names: Sequence[str],
    to: To,
    strength: float,
    wanted: Wanted = go_on_always,
) -> dict[str, Treatment]:
    """The treatment of each block that brings it so far (0 to 1) to the last of them, or to the middle of all.

    Problem where there are fewer than two.
    """
    if len(names) < 2:
        raise Problem("One picture alone has nothing to be brought to; choose others as well.")
    found = {name: _now(publication, images, name) for name in names}
    target = found[names[-1]] if to == "the last chosen" else middle_tone(list(found.values()))
    made = {}
    for name in names if to == "their middle" else names[:-1]:
        if not wanted():
            break
        block = block_named(publication, name)
        found_by = brought_to(images[name], target, treatment_of(publication, block), strength)
        stated = stated_treatment(publication, block) or Treatment()
        made[name] = replace(stated, **{step: getattr(found_by, step) for step in SOLVED})
    return made


def develop_pictures(publication: Publication, treatments: Mapping[str, Treatment]) -> Publication:
    """The blocks with those treatments. Problem where one is locked."""
    for name, treatment in treatments.items():
        require_free(publication, name)
        block = block_named(publication, name)
        publication = with_thing_anywhere(publication, with_treatment(block, treatment))
    return publication


def develop_as_it_came(publication: Publication, name: str) -> Publication:
    """A picture without a treatment of its own. Problem where it is locked."""
    require_free(publication, name)
    return with_thing_anywhere(publication, with_treatment(block_named(publication, name), None))


def keep_as_look(publication: Publication, name: str, called: str) -> Publication:
    """The treatment of a picture as a look, which the block then has; other pictures may be given it.

    What is done to parts of this picture, and to mend it, is no look.

    Problem where it has none, or there is a look of that name.
    """
    block = block_named(publication, name)
    own = own_treatment(block)
    if own is None:
        raise Problem("This picture is as it came; treat it first.")
    word = " ".join(called.split())
    if not word or any(look.name == word for look in publication.looks):
        raise Problem("Give the look a name that no other has.")
    require_free(publication, name)
    base = next((look for look in publication.looks if look.name == block.look), None)
    kept = only_tones(own)
    made = replace(base, name=word, treatment=kept) if base is not None else Look(name=word, treatment=kept)
    publication = replace(publication, looks=(*publication.looks, made))
    left = None if kept == own else own  # what is of this picture alone stays with it
    return with_thing_anywhere(publication, replace(with_treatment(block, left), look=word))
