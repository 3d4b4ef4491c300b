"""Edits of the ink list: add, state, rename, replace by another, remove."""

import re
from collections.abc import Iterator, Sequence

from msgspec.structs import replace

from half_fold.core.inks.naming import ink_places, new_paint_name, require_unused
from half_fold.core.inks.screen import colour_seen, near_in_print, screen_colour
from half_fold.core.measure.number import number_between
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Ink, Publication
from half_fold.core.publication.references import INK, PAINT
from half_fold.core.publication.renaming import name_anew
from half_fold.core.publication.surgery import by_name, swap_named
from half_fold.core.publication.validity import RESERVED

SHARES = ("cyan", "magenta", "yellow", "black")
SPOT = "spot"
_FIGURE = r"(\d+(?:[.,]\d+)?)"
_SEEN = re.compile(rf"hue\s*{_FIGURE}[\s,;]+strength\s*{_FIGURE}[\s,;]+light\s*{_FIGURE}", re.IGNORECASE)


def said(ink: Ink) -> str:
    """How an ink is stated, as it would be typed: ``0 62 80 10``, ``spot 0 62 80 10`` or ``#a04f2c``."""
    shares = " ".join(f"{getattr(ink, share):g}" for share in SHARES)
    return ink.screen or (f"{SPOT} {shares}" if ink.spot else shares)


def parse_ink(publication: Publication, name: str, text: str) -> Ink:
    """An ink of that name from what was typed. Problem says how one is stated."""
    words = text.strip()
    is_spot = words.lower().startswith(SPOT)
    if (seen := _SEEN.fullmatch(words)) is not None:
        hue, strength, light = (float(each.replace(",", ".")) for each in seen.groups())
        if light > 100:
            raise Problem(f"“{text}” cannot be: light is from 0, black, to 100, white.")
        return near_in_print(publication, name, colour_seen(hue, strength, light))
    colour = screen_colour(words)
    if colour is not None:
        return replace(near_in_print(publication, name, colour), screen=colour)
    figures = re.split(r"[\s/;]+", words[len(SPOT) :].strip() if is_spot else words)
    figures = [figure.strip("CMYKcmyk%,") for figure in figures if figure.strip("CMYKcmyk%,")]
    if len(figures) != 4:
        raise Problem(
            f"“{text}” is no ink; give shares of cyan, magenta, yellow and black (0 62 80 10), with “spot” before them "
            "for a plate of its own, a screen colour (#a04f2c), or hue 45 strength 60 light 50."
        )
    pairs = zip(SHARES, figures, strict=True)
    c, m, y, k = (number_between(figure, 0, 100, f"share of {share}") for share, figure in pairs)
    return _sound(Ink(name=name, spot=is_spot, cyan=c, magenta=m, yellow=y, black=k))


def _sound(ink: Ink) -> Ink:
    if ink.spot and ink.name.lower() in RESERVED:
        raise Problem(
            f"A spot cannot be called “{ink.name}”, which is a plate of its own already; give it another name."
        )
    return ink


def add_ink(publication: Publication, name: str, text: str) -> Publication:
    """One more ink, as stated. Problem where that cannot be."""
    return with_new_inks(publication, [parse_ink(publication, new_paint_name(publication, name), text)])


def with_new_inks(publication: Publication, inks: Sequence[Ink]) -> Publication:
    """The list with more inks."""
    return replace(publication, inks=(*publication.inks, *inks))


def state_ink(publication: Publication, name: str, text: str) -> Publication:
    """An ink stated anew: all that uses it is recoloured, its tints too. One that is not there is added."""
    if not any(ink.name == name for ink in publication.inks):
        return add_ink(publication, name, text)
    return replace(publication, inks=swap_named(publication.inks, parse_ink(publication, name, text)))


def set_ink(publication: Publication, name: str, field: str, value: object) -> Publication:
    """One value of an ink; where its shares change it is no longer what a screen shows."""
    found = by_name(publication.inks, name, "ink")
    more: dict[str, object] = {"screen": ""} if field in SHARES else {}
    return replace(publication, inks=swap_named(publication.inks, _sound(replace(found, **{field: value}, **more))))


def rename_ink(publication: Publication, old: str, new: str) -> Publication:
    """An ink under another name, wherever it is named. Problem where that is taken."""
    found = by_name(publication.inks, old, "ink")
    new = " ".join(new.split())
    if new == old:
        return publication
    made = _sound(replace(found, name=new_paint_name(publication, new)))
    inks = tuple(made if each is found else each for each in publication.inks)
    return name_anew(replace(publication, inks=inks), (INK, PAINT), old, new)


def replace_ink(publication: Publication, old: str, new: str) -> Publication:
    """Another ink of the list wherever one is used; that one stays in the list."""
    by_name(publication.inks, old, "ink")
    by_name(publication.inks, new, "ink")
    return name_anew(publication, (INK, PAINT), old, new)


def uses_of_ink(publication: Publication, name: str) -> Iterator[str]:
    """Every place that names an ink, in words."""
    return ink_places(publication, (INK, PAINT), name)


def remove_ink(publication: Publication, name: str) -> Publication:
    """The list without an ink. Problem says where it is used."""
    by_name(publication.inks, name, "ink")
    require_unused(publication, (INK, PAINT), name, "put another ink in its place")
    if len(publication.inks) == 1:
        raise Problem(f"“{name}” is the only ink there is; add another before it goes.")
    return replace(publication, inks=tuple(ink for ink in publication.inks if ink.name != name))
