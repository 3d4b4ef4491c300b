"""How a picture in its block is developed: by its own treatment, or by that of its look, with inks as colours."""

from msgspec.structs import replace

from half_fold.core.inks.tones import ink
from half_fold.core.pictures.colour.colour import ink_on_screen
from half_fold.core.pictures.colour.treat import drawn_key
from half_fold.core.publication.records import Area, Block, HoldsPicture, Publication, Treatment
from half_fold.core.publication.surgery import with_thing_anywhere
from half_fold.core.spread.setting.looks import look_named

TONED = ("toned_dark", "toned_middle", "toned_light")


def own_treatment(block: Block) -> Treatment | None:
    """The treatment that a picture block has of its own."""
    return block.holds.treatment if isinstance(block.holds, HoldsPicture) else None


def with_treatment(block: Block, treatment: Treatment | None) -> Block:
    """A picture block with a treatment of its own, or with none."""
    assert isinstance(block.holds, HoldsPicture)
    return replace(block, holds=replace(block.holds, treatment=treatment))


def treat_anew(publication: Publication, block: Block, treatment: Treatment) -> Publication:
    """The publication with a picture block treated so; a treatment that does nothing is none of its own."""
    return with_thing_anywhere(publication, with_treatment(block, None if treatment == Treatment() else treatment))


def stated_treatment(publication: Publication, block: Block) -> Treatment | None:
    """The treatment that a picture block has of its own, or else by its look, as that names its inks."""
    if not isinstance(block.holds, HoldsPicture):
        return None
    look = look_named(publication, block.look) if block.holds.treatment is None and block.look else None
    return look.treatment if look is not None else own_treatment(block)


def treatment_of(publication: Publication, block: Block) -> Treatment | None:
    """The treatment of a picture block, each ink it is toned in as the colour it has on the screen."""
    own = stated_treatment(publication, block)
    if own is None:
        return None
    own = own if not any(map(_is_toned, own.areas)) else replace(own, areas=tuple(map(_untoned, own.areas)))
    named = {field: name for field in TONED if (name := getattr(own, field))}
    return replace(own, **{field: _colour(publication, name) for field, name in named.items()}) if named else own


def _is_toned(area: Area) -> bool:
    return any(getattr(area.treatment, field) for field in TONED)


def _untoned(area: Area) -> Area:
    """An area without inks: it is toned as the whole is."""
    return replace(area, treatment=replace(area.treatment, **dict.fromkeys(TONED, "")))


def _colour(publication: Publication, name: str) -> str:
    red, green, blue = ink_on_screen(ink(publication, name))
    return f"#{red:02x}{green:02x}{blue:02x}"


def key_of_block(publication: Publication, block: Block) -> str:
    """What tells what is drawn of a picture block."""
    assert isinstance(block.holds, HoldsPicture)
    return drawn_key(block.holds.picture, treatment_of(publication, block))
