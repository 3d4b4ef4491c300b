"""What can be set of the light of a block: its shadow, its glow and the lines round it, over those of its look."""

from functools import partial
from typing import Any

from msgspec.structs import replace

from half_fold.core.inks.properties import LOOK, MOST_CONTOURS
from half_fold.core.measure.length import Length, format_length
from half_fold.core.publication.property import NO, YES, Property, named
from half_fold.core.publication.records import (
    Block,
    Contour,
    Glow,
    HoldsBarcode,
    HoldsCode,
    HoldsDisplay,
    HoldsNothing,
    HoldsPanel,
    HoldsPicture,
    Look,
    Publication,
    Raised,
    Shadow,
)
from half_fold.core.spread.setting.looks import falls, worn_by

AS_ITS_LOOK = "as its look, if it has one"
SHADOW, GLOW, CONTOURS, FILL, FADE = "shadow", "glow", "contours", "fill", "fade"
INNER, FEATHER, RAISED, GRAIN = "inner", "feather", "raised", "grain"
# By the key of a look's property: the key of a block's, and the part of a look that it sets.
_KEYS: dict[str, tuple[str, str]] = {
    "shadow": ("shadow", SHADOW),
    "shadow.kind": ("shadow.kind", SHADOW),
    "shadow.across": ("shadow.across", SHADOW),
    "shadow.down": ("shadow.down", SHADOW),
    "shadow.blur": ("shadow.soft", SHADOW),
    "shadow.opacity": ("shadow.opacity", SHADOW),
    "shadow.ink": ("shadow.ink", SHADOW),
    "glow": ("glow", GLOW),
    "glow.reach": ("glow.soft", GLOW),
    "glow.opacity": ("glow.opacity", GLOW),
    "glow.ink": ("glow.ink", GLOW),
    "outline": ("outline.weight", CONTOURS),
    "outline.ink": ("outline.ink", CONTOURS),
    "outline.side": ("outline.side", CONTOURS),
    **{
        f"outline.{number}.{field}": (f"outline.{number}.{field}", CONTOURS)
        for number in range(2, MOST_CONTOURS + 1)
        for field in ("weight", "ink", "side")
    },
    "fill": ("fill", FILL),
    "fade": ("fade", FADE),
    "fade.way": ("fade.way", FADE),
    "fade.line": ("fade.line", FADE),
    "inner": ("inner", INNER),
    "inner.reach": ("inner.soft", INNER),
    "inner.opacity": ("inner.opacity", INNER),
    "inner.ink": ("inner.ink", INNER),
    "feather": ("feather", FEATHER),
    "raised": ("raised", RAISED),
    "raised.width": ("raised.width", RAISED),
    "raised.opacity": ("raised.opacity", RAISED),
    "grain": ("grain", GRAIN),
}
# The same of what is lit by itself, by the key of a look's property.
AS_IN_BLOCKS: dict[str, str] = {key: own for key, (own, _) in _KEYS.items()}
_BARE = Look(name="")
_BEGUN = {
    SHADOW: Look(name="", shadow=Shadow()),
    GLOW: Look(name="", glow=Glow()),
    CONTOURS: Look(name="", contours=(Contour(),)),
    **dict.fromkeys((FILL, FADE, FEATHER, GRAIN), _BARE),
    INNER: Look(name="", inner=Glow()),
    RAISED: Look(name="", raised=Raised()),
}
_SWITCHED = (SHADOW, GLOW, INNER, RAISED)
_NOTHING = ("", (), None)  # what a part of a look is where it says nothing
FADES = HoldsDisplay | HoldsPanel | HoldsPicture  # over which a fade may be drawn
_UNLIT = HoldsNothing | HoldsBarcode | HoldsCode


class LightProperty(Property[Block], frozen=True):
    """A property of one ``part`` of a block's light. What is set first of it begins with what its look has."""

    part: str = ""

    def set(self, publication: Publication, thing: Block, typed: str) -> Block:
        """The block with the value that was typed. Problem where that cannot be."""
        own, worn = thing.light or _BARE, worn_by(publication, thing)
        if typed.strip() and worn is not None and getattr(own, self.part) in _NOTHING:
            thing = replace(thing, light=replace(own, **{self.part: getattr(worn, self.part)}))
        return super().set(publication, thing, typed)


def with_light(block: Block, light: Look) -> Block:
    """The block in that light; none where it says nothing."""
    return replace(block, light=None if light == _BARE else light)


def _switch(part: str) -> tuple[Any, Any]:
    """How it is read and written whether there is a shadow or a glow: one of no opacity is none, whatever the look."""

    def read(block: Block) -> bool | None:
        own = getattr(block.light or _BARE, part)
        return None if own is None else own.opacity > 0

    def write(block: Block, on: bool | None) -> Block:
        own = getattr(block.light or _BARE, part)
        begun = getattr(_BEGUN[part], part)
        if on is None:
            made = None
        elif on:
            made = own if own is not None and own.opacity > 0 else begun
        else:
            made = replace(own or begun, opacity=0.0)
        return with_light(block, replace(block.light or _BARE, **{part: made}))

    return read, write


def _parsed(of: Property[Look], publication: Publication, block: Block, typed: str) -> Any:
    """A value as it is read of a look."""
    return of.value(publication, block.light or _BARE, typed)


def _of(of: Property[Look], key: str, part: str) -> LightProperty:
    """A property of a look as one of a block's own light: nothing gives the look's back."""

    def read(block: Block) -> Any:
        own = block.light or _BARE
        return None if getattr(own, part) in _NOTHING else of.read(own)

    def write(block: Block, value: Any) -> Block:
        own = block.light or _BARE
        is_given_back = value in _NOTHING
        if is_given_back and getattr(own, part) in _NOTHING:
            return block
        return with_light(block, of.write(own, of.read(_BEGUN[part]) if is_given_back and not of.none else value))

    def applies(block: Block) -> bool:
        if isinstance(block.holds, _UNLIT) or (part == FILL and not isinstance(block.holds, HoldsDisplay)):
            return False
        if part == FADE and not isinstance(block.holds, FADES):
            return False
        if part == FADE and key != FADE and (block.light is None or block.light.fade is None):
            return False
        number = key.split(".")[1] if key.startswith("outline.") else ""
        there = len((block.light or _BARE).contours)
        return not number.isdigit() or int(number) <= there + key.endswith(".weight")

    assert not callable(of.choices)
    reader, writer = _switch(part) if key == part and part in _SWITCHED else (read, write)
    return LightProperty(
        key, of.label, of.kind, reader, writer, of.least, of.most, of.unit, of.choices,
        none=AS_ITS_LOOK, note=of.note, also=of.also, applies=applies, part=part,
        parse=None if of.parse is None else partial(_parsed, of),
    )  # fmt: skip


LIGHT: tuple[Property[Block], ...] = tuple(_of(named(LOOK, key), *own) for key, own in _KEYS.items())

# What is dragged over, in millimetres, or points where a property counts in them.
SPANS = {
    "shadow.across": (-10.0, 10.0),
    "shadow.down": (-10.0, 10.0),
    "shadow.soft": (0.0, 10.0),
    "shadow.opacity": (0.0, 100.0),
    "glow.soft": (0.0, 15.0),
    "glow.opacity": (0.0, 100.0),
    "outline.weight": (0.0, 12.0),
    "inner.soft": (0.0, 15.0),
    "inner.opacity": (0.0, 100.0),
    "feather": (0.0, 20.0),
    "raised.width": (0.0, 5.0),
    "raised.opacity": (0.0, 100.0),
    "grain": (0.0, 100.0),
}
_OF_BLOCK = {own: (key, part) for key, (own, part) in _KEYS.items()}


def lit_in(publication: Publication, block: Block, key: str) -> tuple[str, float | None]:
    """A value of a block's light as it is read, its own or its look's, and as a number to be dragged, in its unit.

    ``""`` where there is nothing of the kind, or of a key that is no light's.
    """
    known, look = _OF_BLOCK.get(key), worn_by(publication, block)
    if known is None or look is None or getattr(look, known[1]) in _NOTHING:
        return "", None
    of = named(LOOK, known[0])
    if known[1] == CONTOURS and not of.applies(look):
        return "", None
    if key in ("shadow.across", "shadow.down") and look.shadow is not None:
        far = falls(publication, look.shadow)[key == "shadow.down"]
        return format_length(far, publication.brief.unit), far
    value = of.read(look)
    number = value.pt if isinstance(value, Length) else float(value) if isinstance(value, int | float) else None
    if key == known[1] and known[1] in _SWITCHED:
        return (YES if getattr(look, known[1]).opacity > 0 else NO), None
    return of.shown(publication, look), number


def is_lit(publication: Publication, block: Block, key: str) -> bool:
    """Whether a row of that key says anything: of a shadow or a glow that is there, of a line round it or the next."""
    known, look = _OF_BLOCK.get(key), worn_by(publication, block)
    if known is None or key in (*_SWITCHED, "outline.weight", "fill", "fade", "feather", "grain"):
        return True
    if look is None:
        return False
    held = getattr(look, known[1])
    if known[1] == CONTOURS:
        return named(LOOK, known[0]).applies(look)
    return held is not None and (known[1] not in _SWITCHED or held.opacity > 0)
