"""What words by themselves state of their type, made what their role says, or a role of its own."""

from collections.abc import Iterator
from typing import Any

from msgspec.structs import replace

from half_fold.core.measure.length import of_points
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Block, HoldsDisplay, Publication
from half_fold.core.publication.surgery import block_named, by_name, role_named, with_role, with_thing_anywhere
from half_fold.core.typesetting.lines.roles import leading_of
from half_fold.core.typesetting.sheet.sheet import add_role, next_label, require_face_of, stating


def stated_of(block: Block) -> dict[str, Any]:
    """What a block of words says of its type beside its roles, by the field of a role that says the same."""
    holds = block.holds
    if not isinstance(holds, HoldsDisplay):
        return {}
    own = holds.own
    said: dict[str, Any] = {} if own is None else {field: getattr(own, field) for field in own.own}
    if holds.size is not None:
        said["size"] = holds.size
    if holds.ink:
        said |= {"ink": holds.ink, "tint": said.get("tint", 100.0)}
    if holds.side:
        said["align"] = holds.side
    return said


def _without(block: Block) -> Block:
    """The block with nothing of its type stated."""
    assert isinstance(block.holds, HoldsDisplay)
    return replace(block, holds=replace(block.holds, own=None, size=None, ink="", side=""))


def _told(publication: Publication, name: str) -> tuple[Block, HoldsDisplay, dict[str, Any]]:
    """A block of words, what it holds and what it states. Problem where that is nothing."""
    block = block_named(publication, name)
    said = stated_of(block)
    if not said or not isinstance(block.holds, HoldsDisplay):
        raise Problem("There is nothing here that its role does not say; set its family, size or leading first.")
    return block, block.holds, said


def _roles_of(holds: HoldsDisplay) -> Iterator[str]:
    """The roles that what a block states is said of: of second lines in a ratio the first's alone."""
    every = dict.fromkeys(paragraph.role for paragraph in holds.paragraphs)
    yield from list(every)[:1] if holds.second else every


def _at_size(publication: Publication, role: str, said: dict[str, Any]) -> dict[str, Any]:
    """What is stated, with the leading that goes with a size where only that is: it has grown with it."""
    complete = role_named(publication, role)
    if "size" not in said or "leading" in said or complete.ratio:
        return said
    return {**said, "leading": of_points(round(leading_of(complete, said["size"].pt), 2))}


def make_the_role(publication: Publication, block: str) -> Publication:
    """What the block states is what its roles say from now on, everywhere. Problem where it states nothing."""
    found, holds, said = _told(publication, block)
    for name in _roles_of(holds):
        role = by_name(publication.roles, name, "role")
        publication = with_role(publication, stating(role, **_at_size(publication, name, said)))
        require_face_of(publication, name)
    return with_thing_anywhere(publication, _without(found))


def make_a_role(publication: Publication, block: str, label: str = "") -> Publication:
    """A new role that says what the block states, for its words; called after the one they have, where not otherwise.

    Problem where it states nothing, or where there is a role of that name.
    """
    found, holds, said = _told(publication, block)
    first = holds.paragraphs[0].role
    said = _at_size(publication, first, said)
    publication, made = add_role(publication, label or next_label(publication, first), first)
    publication = with_role(publication, stating(by_name(publication.roles, made, "role"), **said))
    words = tuple(replace(each, role=made) if each.role == first else each for each in holds.paragraphs)
    plain = _without(found)
    return with_thing_anywhere(publication, replace(plain, holds=replace(plain.holds, paragraphs=words)))
