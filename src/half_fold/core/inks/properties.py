"""What can be set of inks, fades and looks."""

import re
from collections.abc import Callable
from functools import partial
from typing import Any

from msgspec.structs import replace

from half_fold.core.inks.edits import SHARES
from half_fold.core.inks.fades import format_stops, parse_stops
from half_fold.core.measure.length import Length, length
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.colour.treatment_properties import STEPS, nested_property
from half_fold.core.publication.fields import field_of
from half_fold.core.publication.places import Record
from half_fold.core.publication.property import Kind, Property
from half_fold.core.publication.ranges import RANGES
from half_fold.core.publication.records import Contour, Fade, Glow, Ink, Look, Publication, Raised, Shadow, Treatment
from half_fold.core.publication.validity import RESERVED

_BLACK = "black alone"
_FADE = Fade(name="", stops=())
MOST_CONTOURS = 9
_ALONG = (("outside", "outside"), ("centred", "half to either side"), ("inside", "inside"))
_FALLS = (("behind", "behind it"), ("long", "all the way from it"), ("floor", "on a floor"))
FAR = length("12mm")  # that a shadow falls which reaches all the way from its thing
_WAYS = (("straight", "straight across"), ("outward", "outward from the middle"))


def _share(name: str) -> Property[Ink]:
    def write(ink: Ink, value: float) -> Ink:
        return replace(ink, **{name: value, "screen": ""})

    return Property(name, name.capitalize(), "share", lambda ink: getattr(ink, name), write, 0.0, 100.0)


INK: tuple[Property[Ink], ...] = (
    *map(_share, SHARES),
    field_of(
        Ink, "spot", "A spot", "flag", note="printed from a plate of its own", also=("separation", "special"),
        applies=lambda ink: ink.name.lower() not in RESERVED,
    ),
)  # fmt: skip
FADE: tuple[Property[Fade], ...] = (
    field_of(Fade, "way", "Runs", "choice", choices=_WAYS, also=("linear", "radial")),
    field_of(
        Fade, "angle", "Turned", "number", unit="°", note="0 from left to right, 90 from head to foot",
        applies=lambda fade: fade.way == "straight",
    ),
)  # fmt: skip


def _part(owner: type[Record], part: str, name: str, label: str, kind: Kind, **more: Any) -> Property[Look]:
    """A field of a look's shadow or glow, where it has one."""
    least, most = RANGES[owner].get(name, (0.0, 0.0))

    def write(look: Look, value: Any) -> Look:
        return replace(look, **{part: replace(getattr(look, part) or owner(), **{name: value})})

    def read(look: Look) -> Any:
        return getattr(getattr(look, part) or owner(), name)

    told: dict[str, Any] = {"least": least, "most": most, "applies": _has(part), **more}
    return Property(f"{part}.{name}", label, kind, read, write, **told)


def _fall(look: Look, kind: Any) -> Look:
    """A shadow of another kind; one that reaches all the way from its thing falls far enough to be seen."""
    shadow = look.shadow or Shadow()
    is_told = shadow.across is not None or shadow.down is not None or shadow.distance != Shadow().distance
    far = shadow.distance if is_told or kind == "behind" else FAR
    return replace(look, shadow=replace(shadow, kind=kind, distance=far))


def _stops(look: Look) -> str:
    return "" if look.fade is None else format_stops(look.fade)


def _with_stops(look: Look, stops: Any) -> Look:
    return replace(look, fade=replace(look.fade or _FADE, stops=stops) if stops else None)


def _its_fade(look: Look) -> Fade:
    assert look.fade is not None  # what is set of a fade applies where there is one
    return look.fade


def _line_said(look: Look) -> str:
    if look.fade is None or look.fade.line is None:
        return ""
    return ", ".join(" ".join(f"{100 * each:g}" for each in place) for place in look.fade.line)


def _with_line(look: Look, typed: str) -> Look:
    fade = _its_fade(look)
    if not typed.strip():
        return replace(look, fade=replace(fade, line=None))
    figures = [each.replace("%", "") for each in re.split(r"[\s,;]+", typed.strip()) if each.strip("%")]
    try:
        x, y, to_x, to_y = (float(each) / 100 for each in figures)
    except ValueError:
        raise Problem(
            f"“{typed}” is no line; give where it begins and where it ends, in per cent of the box: 0 0, 100 100."
        ) from None
    return replace(look, fade=replace(fade, line=((x, y), (to_x, to_y))))


def _read_stops(publication: Publication, _: Look, typed: str) -> Any:
    return parse_stops(publication, typed) if typed.strip() else ()


def _has(part: str) -> Callable[[Look], bool]:
    return lambda look: getattr(look, part) is not None


def _switch(part: str, owner: type[Record], label: str, note: str) -> Property[Look]:
    """Whether a look has something of a kind."""

    def write(look: Look, on: bool) -> Look:
        return replace(look, **{part: (getattr(look, part) or owner()) if on else None})

    return Property(part, label, "flag", _has(part), write, note=note)


def _contours(number: int) -> list[Property[Look]]:
    """What can be set of the outline of that number, counted from 1, where it is there or is the next to be added."""
    at, prefix = number - 1, "outline." if number == 1 else f"outline.{number}."
    called = "Outline" if number == 1 else f"Outline {number}"

    def weigh(look: Look, weight: Length | None) -> Look:
        """One without weight goes, and those that lie round it move in."""
        there = list(look.contours)
        if weight is None or not weight.pt:
            del there[at : at + 1]
        else:
            there[at : at + 1] = [replace(there[at], weight=weight) if at < len(there) else Contour(weight=weight)]
        return replace(look, contours=tuple(there))

    def one(look: Look) -> Contour:
        return look.contours[at] if at < len(look.contours) else Contour()

    def part(field: str, label: str, kind: Kind, **more: Any) -> Property[Look]:
        def write(look: Look, value: Any) -> Look:
            made = replace(one(look), **{field: value})
            return replace(look, contours=(*look.contours[:at], made, *look.contours[at + 1 :]))

        return Property(
            f"{prefix}{field}", label, kind, lambda look: getattr(one(look), field), write,
            applies=lambda look: at < len(look.contours), **more,
        )  # fmt: skip

    return [
        Property(
            "outline" if number == 1 else f"{prefix}weight",
            called,
            "length",
            lambda look: look.contours[at].weight if at < len(look.contours) else None,
            weigh,
            0.0,
            200.0,
            "pt",
            none="none",
            note="along letters and shapes; counters stay open" if number == 1 else "round the one before it",
            also=("stroke", "border", "line round it"),
            applies=lambda look: at <= len(look.contours),
        ),
        part("ink", f"{called}'s ink", "paint", none=_BLACK),
        part("side", f"{called} lies", "choice", choices=_ALONG),
    ]


def _of_pictures(of: Property[Treatment]) -> Property[Look]:
    """A field of how pictures in this look are treated."""

    def write(look: Look, treatment: Treatment | None) -> Look:
        return replace(look, treatment=treatment)

    return nested_property(of, "treatment.", lambda look: look.treatment, write, lambda _: True)


_shadow, _glow = partial(_part, Shadow, "shadow"), partial(_part, Glow, "glow")
_inner, _raised = partial(_part, Glow, "inner"), partial(_part, Raised, "raised")
LOOK: tuple[Property[Look], ...] = (
    field_of(
        Look,
        "fill",
        "Filled with",
        "paint",
        none="their own ink",
        note="an ink or a fade, in words",
        also=("gradient",),
    ),
    field_of(
        Look,
        "picture",
        "Picture in them",
        "picture",
        none="none",
        note="a picture, in words without ink",
        also=("photo", "image", "filled"),
    ),
    *(each for number in range(1, MOST_CONTOURS + 1) for each in _contours(number)),
    _switch("shadow", Shadow, "Shadow", "black alone darkens what lies behind"),
    Property(
        "shadow.kind",
        "Shadow lies",
        "choice",
        lambda look: (look.shadow or Shadow()).kind,
        _fall,
        choices=_FALLS,
        also=("long shadow", "cast shadow", "floor"),
        applies=_has("shadow"),
    ),
    _shadow("distance", "Shadow falls", "length", note="so far off"),
    _shadow("across", "Shadow across", "length", none="by how far it falls", note="to the right"),
    _shadow("down", "Shadow down", "length", none="by how far it falls"),
    _shadow("blur", "Shadow's edge", "length", note="so soft; 0 is sharp"),
    _shadow("ink", "Shadow's ink", "ink", none=_BLACK),
    _shadow("opacity", "Shadow's opacity", "share"),
    _shadow("angle", "Shadow's way", "number", unit="°", none="as the job's light", note="0 to the right, 90 down"),
    _switch("glow", Glow, "Glow", "light round it"),
    _glow("reach", "Glow reaches", "length"),
    _glow("ink", "Glow's ink", "ink", none="bare paper"),
    _glow("opacity", "Glow's opacity", "share"),
    Property(
        "fade",
        "Fade",
        "text",
        _stops,
        _with_stops,
        none="none",
        also=("gradient", "ramp"),
        parse=_read_stops,
        note="its inks and where: straw at 0; straw at 100, 0 % opaque",
    ),
    Property(
        "fade.way",
        "Fade runs",
        "choice",
        lambda look: (look.fade or _FADE).way,
        lambda look, way: replace(look, fade=replace(_its_fade(look), way=way)),
        choices=_WAYS,
        applies=_has("fade"),
        also=("linear", "radial"),
    ),
    Property(
        "fade.line",
        "Fade lies",
        "text",
        _line_said,
        _with_line,
        none="across all of it",
        note="from where to where, in per cent of the box",
        applies=_has("fade"),
    ),
    _switch("inner", Glow, "Glow inside", "light along the inside of its edge"),
    _inner("reach", "It reaches in", "length"),
    _inner("ink", "Glow inside's ink", "ink", none="bare paper"),
    _inner("opacity", "Glow inside's opacity", "share"),
    field_of(
        Look,
        "feather",
        "Soft edge",
        "length",
        none="sharp",
        note="so far in",
        also=("feather", "blurred edge"),
    ),
    _switch("raised", Raised, "Raised edge", "as if it caught the light"),
    _raised("width", "Raised edge's width", "length"),
    _raised("opacity", "Raised edge's opacity", "share"),
    field_of(Look, "grain", "Grain", "share", none="none", also=("noise", "texture", "speckle")),
    *map(_of_pictures, STEPS),
)
