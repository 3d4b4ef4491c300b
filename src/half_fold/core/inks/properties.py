"""What can be set of inks, fades and looks."""

from collections.abc import Callable
from functools import partial
from typing import Any

from msgspec.structs import replace

from half_fold.core.inks.edits import SHARES
from half_fold.core.measure.length import Length
from half_fold.core.pictures.colour.treatment_properties import STEPS, nested_property
from half_fold.core.publication.fields import field_of
from half_fold.core.publication.places import Record
from half_fold.core.publication.property import Kind, Property
from half_fold.core.publication.ranges import RANGES
from half_fold.core.publication.records import Contour, Fade, Glow, Ink, Look, Shadow, Treatment
from half_fold.core.publication.validity import RESERVED

_BLACK = "black alone"
MOST_CONTOURS = 9
_ALONG = (("outside", "outside"), ("centred", "half to either side"), ("inside", "inside"))
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


def _has(part: str) -> Callable[[Look], bool]:
    return lambda look: getattr(look, part) is not None


def _switch(part: str, owner: type[Record], label: str, note: str) -> Property[Look]:
    """Whether a look has a shadow or a glow."""

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
    *map(_of_pictures, STEPS),
)
