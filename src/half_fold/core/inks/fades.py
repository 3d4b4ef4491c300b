"""Fades as they are typed: ``straw at 0; white at 60, 40 % opaque; black 20 % at 100``."""

import re

from msgspec.structs import replace

from half_fold.core.inks.naming import new_paint_name, require_unused
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Fade, FadeStop, Publication
from half_fold.core.publication.references import PAINT
from half_fold.core.publication.renaming import name_anew
from half_fold.core.publication.surgery import by_name, swap_named

LEAST, MOST = 2, 6
_STOP = re.compile(
    r"(?P<ink>.+?)(?:\s+(?P<tint>\d+(?:\.\d+)?)\s*%)?(?:\s+at\s+(?P<at>\d+(?:\.\d+)?)\s*%?)?"
    r"(?:\s*,\s*(?P<opacity>\d+(?:\.\d+)?)\s*%\s*opaque)?"
)


_SHARE_ALONE = re.compile(r"(?P<ink>.+?)(?P<at>\s+at\s+\d+(?:\.\d+)?\s*%?)?\s*,\s*(?P<share>\d+(?:\.\d+)?)\s*%?")


def format_stops(fade: Fade) -> str:
    """The inks of a fade as they would be typed."""
    return "; ".join(_said(stop) for stop in fade.stops)


def _said(stop: FadeStop) -> str:
    tint = f" {stop.tint:g} %" if stop.tint < 100 else ""
    opacity = f", {stop.opacity:g} % opaque" if stop.opacity < 100 else ""
    return f"{stop.ink}{tint} at {stop.at:g}{opacity}"


def parse_stops(publication: Publication, text: str) -> tuple[FadeStop, ...]:
    """The inks of a fade from what was typed; where no places are, they are spread evenly. Problem says how."""
    parts = [part.strip() for part in text.split(";") if part.strip()]
    for part in parts:
        if not any(part.startswith(ink.name) for ink in publication.inks if "," in ink.name):
            _require_said(part)
    if not LEAST <= len(parts) <= MOST:
        raise Problem(f"A fade runs over {LEAST} to {MOST} inks, parted by “;”: straw at 0; white at 100, 0 % opaque.")
    stops = [_stop(publication, part, 100 * at / (len(parts) - 1)) for at, part in enumerate(parts)]
    return tuple(sorted(stops, key=lambda stop: stop.at))


def _require_said(text: str) -> None:
    """Problem where a share stands alone, which may be a tint or how opaque it is."""
    found = _SHARE_ALONE.fullmatch(text)
    if found is not None:
        ink, at, share = found["ink"], found["at"] or "", found["share"]
        raise Problem(
            f"“{text}” does not say what is {share} %: {ink} {share} %{at} is a tint of it, "
            f"{ink}{at}, {share} % opaque lets what lies behind be seen."
        )


def _stop(publication: Publication, text: str, at: float) -> FadeStop:
    found = _STOP.fullmatch(text)
    assert found is not None  # anything at all is an ink's name
    ink = by_name(publication.inks, found["ink"].strip(), "ink").name
    place, tint, opacity = (
        float(found[name]) if found[name] else usual
        for name, usual in (("at", at), ("tint", 100.0), ("opacity", 100.0))
    )
    if max(place, tint, opacity) > 100:
        raise Problem(f"“{text}” cannot be: tints, places and opacities are from 0 to 100.")
    return FadeStop(ink=ink, at=place, tint=tint, opacity=opacity)


def state_fade(publication: Publication, name: str, text: str) -> Publication:
    """A fade with those inks; one that is not there is added."""
    stops = parse_stops(publication, text)
    found = next((fade for fade in publication.fades if fade.name == name), None)
    if found is not None:
        return replace(publication, fades=swap_named(publication.fades, replace(found, stops=stops)))
    made = Fade(name=new_paint_name(publication, name), stops=stops)
    return replace(publication, fades=(*publication.fades, made))


def rename_fade(publication: Publication, old: str, new: str) -> Publication:
    """A fade under another name, wherever it is named."""
    if " ".join(new.split()) == old:
        return publication
    made = replace(by_name(publication.fades, old, "fade"), name=new_paint_name(publication, new))
    fades = tuple(made if fade.name == old else fade for fade in publication.fades)
    return name_anew(replace(publication, fades=fades), (PAINT,), old, made.name)


def remove_fade(publication: Publication, name: str) -> Publication:
    """Without that fade. Problem where something is filled with it."""
    by_name(publication.fades, name, "fade")
    require_unused(publication, (PAINT,), name, "fill that with something else")
    return replace(publication, fades=tuple(fade for fade in publication.fades if fade.name != name))
