"""What can be set of the type of a block of words: all that a role states, of these words alone."""

from typing import Any

from msgspec.structs import replace

from half_fold.core.publication.property import Choices, Property, named
from half_fold.core.publication.records import Block, HoldsDisplay, Publication, Role
from half_fold.core.publication.surgery import role_in, role_named
from half_fold.core.typesetting.faces.faces import require_face
from half_fold.core.typesetting.sheet.role_properties import AS_THE_ROLE, ROLE, in_its_family, stated_with

# By the key of a role's property the key of a block's; size, ink and the side they are flush to are a block's anyway.
_KEYS = {
    "family": "family",
    "style": "style",
    "leading": "leading",
    "tracking": "tracking",
    "case": "case",
    "hyphenate": "hyphens",
    "figures": "figures",
    "ligatures": "ligatures",
    "fractions": "fractions",
    "shift": "shift",
    "underline": "underline",
    "underline_off": "underline.distance",
    "strike": "strike",
    "tint": "tint",
    "hanging": "hanging",
    "word_least": "word.least",
    "word_most": "word.most",
    "letter_give": "letters.give",
    "fallback": "fallback",
}
_BARE = Role(name="", label="")


def _holds(block: Block) -> HoldsDisplay:
    assert isinstance(block.holds, HoldsDisplay)
    return block.holds


def first_role(publication: Publication, block: Block) -> Role:
    """The role of a block's first words, with what the block states over it."""
    holds = _holds(block)
    name = holds.paragraphs[0].role if holds.paragraphs else publication.roles[0].name
    return role_in(publication, holds, name)


def without_stated(block: Block, fields: tuple[str, ...]) -> Block:
    """The block with those values as its roles say; one that states nothing has no type of its own."""
    holds = _holds(block)
    if holds.own is None:
        return block
    left = tuple(each for each in holds.own.own if each not in fields)
    own = replace(_BARE, own=left, **{each: getattr(holds.own, each) for each in left}) if left else None
    return replace(block, holds=replace(holds, own=own))


def _complete(publication: Publication, block: Block) -> Block:
    """A block that states a family or a style states both: one of them alone would hang on what its roles say next."""
    own = _holds(block).own
    if own is None or not {"family", "style"} & set(own.own):
        return block
    now = in_its_family(publication, first_role(publication, block))
    require_face(now.family, now.style)
    both = replace(own, family=now.family, style=now.style, own=tuple(dict.fromkeys((*own.own, "family", "style"))))
    return replace(block, holds=replace(block.holds, own=both))


def _of(of: Property[Role], key: str) -> Property[Block]:
    """A property of a role as one of a block: nothing gives the role's back."""
    fields = stated_with(of.key)

    def read(block: Block) -> Any:
        own = _holds(block).own
        return of.read(own) if own is not None and of.key in own.own else None

    def write(block: Block, value: Any) -> Block:
        if value in (None, ""):
            return without_stated(block, fields)
        holds = _holds(block)
        own = of.write(holds.own or _BARE, value)
        own = replace(own, own=tuple(dict.fromkeys((*own.own, *fields))))
        return replace(block, holds=replace(holds, own=own))

    def choices(publication: Publication, block: Block) -> Choices:
        there = of.choices_in(publication, first_role(publication, block))
        return [each for each in there if each[0]]

    def parse(publication: Publication, block: Block, text: str) -> Any:
        """As it is read of a role: among the choices that the words' own family has."""
        return of.value(publication, first_role(publication, block), text)

    return Property(
        key,
        of.label,
        of.kind,
        read,
        write,
        of.least,
        of.most,
        of.unit,
        choices if of.kind in ("choice", "flag") else (),
        none=AS_THE_ROLE,
        note=of.note,
        also=of.also,
        applies=lambda block: isinstance(block.holds, HoldsDisplay),
        settle=_complete,
        parse=parse,
    )


TYPE: tuple[Property[Block], ...] = tuple(_of(named(ROLE, key), own) for key, own in _KEYS.items())
FIELDS: dict[str, str] = {own: key for key, own in _KEYS.items()}

# What a block says of its type in a field of its own, and the role's property that says the same.
_BESIDE = {"size": "size", "ink": "ink", "side": "align"}


def shown_in(publication: Publication, block: Block, key: str) -> tuple[str, str]:
    """A value of a block's type as it is read, its own or its role's; and the role's, where the block has its own.

    Of a key that is no type's, nothing twice.
    """
    of_role = FIELDS.get(key) or _BESIDE.get(key)
    if of_role is None or not isinstance(block.holds, HoldsDisplay):
        return "", ""
    of, role = named(ROLE, of_role), role_named(publication, first_role(publication, block).name)
    own = block.holds.own
    is_own = bool(getattr(block.holds, key)) if key in _BESIDE else own is not None and of.key in own.own
    said = of.shown(publication, role)
    if key in _BESIDE:
        return ("", said) if is_own else (said, "")
    return of.shown(publication, first_role(publication, block)), said if is_own else ""
