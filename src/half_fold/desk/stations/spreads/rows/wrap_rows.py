"""The rows of how text keeps off a block."""

from half_fold.core.publication.records import Block
from half_fold.core.spread.settable.properties import block_properties
from half_fold.desk.kit.property_rows import block_row
from half_fold.desk.kit.rows import RowSection
from half_fold.desk.workpiece import Workpiece


def wrap_section(session: Workpiece, block: Block) -> list[RowSection]:
    """How text of stories runs past a block; a block of a story has no such rows itself."""
    wraps = [each for each in block_properties(block) if each.key.startswith("wrap")]
    if not wraps or not session.takes_stories:
        return []
    return [RowSection("Text round it", "", [block_row(session, block, each) for each in wraps])]
