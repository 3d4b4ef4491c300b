"""What can be set of several blocks at once: what they all have, its value where they agree, and one edit for all."""

from collections import Counter
from collections.abc import Sequence

from msgspec import Struct

from half_fold.core.publication.property import Property
from half_fold.core.publication.records import Block, Publication
from half_fold.core.publication.surgery import block_named, with_thing_anywhere
from half_fold.core.spread.settable.properties import block_properties
from half_fold.core.spread.settable.type_properties import shown_in

SEVERAL = "several"
MOST_SAID = 3  # values that are told one by one
_OF_ONE = ("name", "aims", "picture", "number", "addon", "lines", "says", "row")  # which is not said of many at once


class Common(Struct, frozen=True):
    """A property of several blocks, of the first of them: its value where they agree, else which there are."""

    of: Property[Block]
    block: Block
    value: str
    values: str = ""

    @property
    def agreed(self) -> bool:
        """Whether all have one value."""
        return not self.values


def common(publication: Publication, blocks: Sequence[Block]) -> list[Common]:
    """The properties that all of the blocks have, in the order of the first's."""
    tables = [{each.key: each for each in block_properties(block)} for block in blocks]
    out = []
    for of in tables[0].values() if tables else ():
        same = [table[of.key] for table in tables if of.key in table and table[of.key].kind == of.kind]
        if of.key in _OF_ONE or len(same) < len(blocks):
            continue
        found = Counter(
            shown_in(publication, block, of.key)[0] or each.shown(publication, block)
            for each, block in zip(same, blocks, strict=True)
        )
        said = ", ".join(f"{value or 'none'} {count}" for value, count in found.most_common(MOST_SAID))
        more = f" and {len(found) - MOST_SAID} more" if len(found) > MOST_SAID else ""
        is_one = len(found) == 1
        out.append(Common(of, blocks[0], next(iter(found)) if is_one else SEVERAL, "" if is_one else said + more))
    return out


def property_of(block: Block, key: str) -> Property[Block] | None:
    """The property of that key, where it applies to the block."""
    return next((each for each in block_properties(block) if each.key == key), None)


def with_property(publication: Publication, name: str, of: Property[Block], text: str) -> Publication:
    """The job with a property of a block as typed; the same where it is so already. Problem where it cannot be."""
    block = block_named(publication, name)
    if text.strip() == of.typed(block):
        return publication
    return with_thing_anywhere(publication, of.set(publication, block, text))


def set_of_all(publication: Publication, names: Sequence[str], key: str, typed: str) -> Publication:
    """That property of all of the blocks as typed. Problem where it cannot be so of one of them."""
    for name in names:
        of = property_of(block_named(publication, name), key)
        if of is not None:
            publication = with_property(publication, name, of, typed)
    return publication
