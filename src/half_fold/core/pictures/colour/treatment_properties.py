"""What can be set of a treatment: of a picture in its block, or of a look that is kept."""

from collections.abc import Callable
from typing import Any, TypeVar

from msgspec.structs import replace

from half_fold.core.pictures.colour.colours import RANGES, format_hues, format_weights, parse_hues, parse_weights
from half_fold.core.pictures.colour.curves import format_curve, parse_curve
from half_fold.core.pictures.colour.region_words import (
    format_patches,
    format_region,
    format_treated_areas,
    format_upright,
    parse_patches,
    parse_region,
    parse_upright,
    parser_of_treated_areas,
)
from half_fold.core.publication.fields import field_of
from half_fold.core.publication.property import Kind, Property
from half_fold.core.publication.records import Treatment

T = TypeVar("T")
_RANGES = tuple((each, each) for each in RANGES)


def _of(name: str, label: str, kind: Kind, **more: Any) -> Property[Treatment]:
    return field_of(Treatment, name, label, kind, **more)


def _told(
    name: str, label: str, said: Callable[[Any], str], read: Callable[[str], Any], **more: Any
) -> Property[Treatment]:
    """A field that is typed in words of its own."""
    return Property(
        name,
        label,
        "text",
        lambda treatment: said(getattr(treatment, name)),
        lambda treatment, text: replace(treatment, **{name: read(text)}),
        **more,
    )


def _grey(treatment: Treatment) -> bool:
    return treatment.grey


_CURVE = {"none": "straight", "note": "per cent from and to, such as 25 20, 75 82"}
STEPS: tuple[Property[Treatment], ...] = (
    _of("exposure", "Exposure", "number", note="in stops, the half or twice of the light", also=("brighter", "darker")),
    _of("contrast", "Contrast", "number", note="to 100 either way", also=("punch", "flatter")),
    _of("black", "Black from", "share", note="what is so dark already is black", also=("black point", "shadows")),
    _of("white", "White from", "share", note="what is so light already is white", also=("white point", "highlights")),
    _of("warmth", "Warmth", "number", note="cooler below nothing, to 100 either way",
        also=("white balance", "temperature")),
    _of("tint", "Cast", "number", note="greener below nothing, more magenta above", also=("tint", "white balance")),
    _of("saturation", "Saturation", "number", note="of all colours, to 100 either way", also=("colour", "duller")),
    _of("vibrance", "Quiet colours", "number", note="strengthens the quiet ones", also=("vibrance", "livelier")),
    _told("hues", "Hues", format_hues, parse_hues, none="as they are", note="such as greens 12, blues -8",
          also=("hue", "colour of a range")),
    _told("curve", "Curve", format_curve, parse_curve, also=("tone curve", "gradation"), **_CURVE),
    _told("curve_red", "Curve of red", format_curve, parse_curve, **_CURVE),
    _told("curve_green", "Curve of green", format_curve, parse_curve, **_CURVE),
    _told("curve_blue", "Curve of blue", format_curve, parse_curve, **_CURVE),
    _of("grey", "Without colour", "flag", also=("black and white", "monochrome")),
    _told("weights", "Grey weighs", format_weights, parse_weights, none="as the eye does", applies=_grey,
          note="red, green and blue, such as 40 50 10", also=("channel mixer",)),
    _of("kept", "But for the", "choice", choices=_RANGES, none="none", applies=_grey, note="which keep their colour",
        also=("one colour kept",)),
    _of("toned_dark", "Toned, dark", "ink", none="not toned", note="a grey printed in inks: its blacks",
        also=("duotone", "tritone", "sepia")),
    _of("toned_middle", "Toned, middle", "ink", none="none", note="half way to white", also=("duotone", "tritone")),
    _of("toned_light", "Toned, light", "ink", none="bare paper", note="its whites", also=("tritone",)),
    _of("faded", "Faded to paper", "share", also=("lighter", "wash out")),
    _of("blur", "Blurred", "number", note="thousandths of its longer side", also=("soft", "out of focus")),
    _of("sharpen", "Sharpened", "number", note="per cent, at its printed size and at the press alone", also=("crisp",)),
)  # fmt: skip
IN_AREAS = tuple(step for step in STEPS if step.key != "sharpen" and step.kind != "ink")
# What is done to parts of it, and to where they lie.
TREATMENT: tuple[Property[Treatment], ...] = (
    *STEPS,
    _told("areas", "In parts", format_treated_areas(IN_AREAS), parser_of_treated_areas(IN_AREAS), none="none",
          note="a region, a colon, and what is done there; parts are parted by |",
          also=("mask", "local", "dodge", "burn")),
    _told("seen", "Seen", format_region, lambda text: parse_region(text) if text else None, none="all of it",
          note="the region that is shown; it melts away from there", also=("mask", "fade out", "vignette", "melt")),
    _told("upright", "Upright", format_upright, parse_upright, none="as it is",
          note="two lines that stand upright, such as 20 90 to 30 10; 80 90 to 70 10",
          also=("perspective", "keystone")),
    _told("patches", "Mended", format_patches, parse_patches, none="nothing",
          note="stray things painted away on the easel", also=("patches",)),
)  # fmt: skip


def nested_property(
    of: Property[Treatment],
    prefix: str,
    read: Callable[[T], Treatment | None],
    write: Callable[[T, Treatment | None], T],
    applies: Callable[[T], bool],
) -> Property[T]:
    """A property of the treatment that a thing may have; one that does nothing is none."""
    neutral = Treatment()
    assert not callable(of.choices)

    def put(thing: T, value: Any) -> T:
        made = of.write(read(thing) or neutral, value)
        return write(thing, None if made == neutral else made)

    return Property(
        f"{prefix}{of.key}",
        of.label,
        of.kind,
        lambda thing: of.read(read(thing) or neutral),
        put,
        of.least,
        of.most,
        of.unit,
        of.choices,
        of.none,
        of.note,
        of.also,
        lambda thing: applies(thing) and of.applies(read(thing) or neutral),
    )
