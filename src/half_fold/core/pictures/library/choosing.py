"""A job's pictures in the order and the choice in which they are looked at."""

from collections.abc import Callable, Collection, Mapping, Sequence
from typing import Literal, get_args

import numpy as np
from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.library.stacks import stacks
from half_fold.core.pictures.library.told import Told
from half_fold.core.publication.records import Picture, Publication, Worth

Order = Literal["arrival", "time", "name", "light", "likeness", "sharpness"]
Show = Literal[
    "all", "unused", "upright", "wide", "one of each", "alike", "opens", "carries", "fills", "left out", "too small"
]
ORDERS: tuple[Order, ...] = get_args(Order)
SHOWS: tuple[Show, ...] = get_args(Show)
WORTHS: tuple[Worth, ...] = get_args(Worth)
_NOTHING = Told()


def chosen(
    pictures: Sequence[Picture],
    told: Mapping[str, Told],
    used: Collection[str],
    order: Order = "arrival",
    show: Show = "all",
    search: str = "",
    too_small: Callable[[Picture], bool] = lambda _: False,
) -> list[Picture]:
    """The pictures that are asked for, in that order; ``told`` is what is known of each by its content.

    ``search`` is looked for, word by word, in names and in what their files say. What is *left out* is shown only where
    that is asked for, or all. Of near duplicates *one of each* shows the sharpest; *alike* shows all that have any,
    stack by stack, the sharpest first.
    """
    words = search.lower().split()
    found = [
        picture
        for picture in pictures
        if _is_shown(picture, used, show, too_small)
        and all(word in f"{picture.file.lower()} {told.get(picture.digest, _NOTHING).words}" for word in words)
    ]
    ordered = _ordered(found, told, order)
    if show == "one of each":
        return [stack[0] for stack in stacks(ordered, told)]
    if show == "alike":
        return [picture for stack in stacks(ordered, told) if len(stack) > 1 for picture in stack]
    return ordered


def _is_shown(picture: Picture, used: Collection[str], show: Show, too_small: Callable[[Picture], bool]) -> bool:
    if show in WORTHS:
        return picture.worth == show
    ways: dict[str, Callable[[], bool]] = {
        "unused": lambda: picture.id not in used and picture.worth != "left out",
        "upright": lambda: picture.height > picture.width,
        "wide": lambda: picture.width > picture.height,
        "too small": lambda: too_small(picture),
        "one of each": lambda: picture.worth != "left out",
        "alike": lambda: picture.worth != "left out",
    }
    return ways.get(show, lambda: True)()


def _ordered(found: list[Picture], told: Mapping[str, Told], order: Order) -> list[Picture]:
    def known(picture: Picture) -> Told:
        return told.get(picture.digest, _NOTHING)

    if order == "likeness":
        return _by_likeness(found, told)
    keys: dict[str, Callable[[Picture], tuple[object, ...]]] = {
        "time": lambda picture: (not known(picture).taken, known(picture).taken, picture.file),
        "name": lambda picture: (picture.file.lower(),),
        "light": lambda picture: (known(picture).light,),
        "sharpness": lambda picture: (-known(picture).sharp,),
    }
    return sorted(found, key=keys[order]) if order in keys else found


def _by_likeness(found: list[Picture], told: Mapping[str, Told]) -> list[Picture]:
    """Each followed by the one that is most like it of those that are left; those not known yet at the end."""
    known = [picture for picture in found if told.get(picture.digest, _NOTHING).parts]
    unknown = [picture for picture in found if not told.get(picture.digest, _NOTHING).parts]
    if not known:
        return unknown
    parts = np.array([told[picture.digest].parts for picture in known])
    way, left = [0], set(range(1, len(known)))
    while left:
        rest = sorted(left)
        nearest = rest[int(np.linalg.norm(parts[rest] - parts[way[-1]], axis=1).argmin())]
        way.append(nearest)
        left.remove(nearest)
    return [*(known[at] for at in way), *unknown]


def value_pictures(publication: Publication, picture: str, worth: str) -> Publication:
    """A picture that opens, carries, fills or is left out. Problem where it is none of these."""
    if worth not in WORTHS:
        raise Problem(f"A picture {', '.join(w for w in WORTHS[1:3])}, fills or is left out; “{worth}” is not known.")
    pictures = tuple(replace(p, worth=worth) if p.id == picture else p for p in publication.pictures)
    return replace(publication, pictures=pictures) if pictures != publication.pictures else publication
