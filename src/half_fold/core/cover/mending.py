"""All that can be done for words of a block: their ground or place, and, where they are the name, what hides them."""

from collections.abc import Callable
from pathlib import Path

from half_fold.core.cover.masthead import masthead_block
from half_fold.core.cover.surfaces import surface_with
from half_fold.core.cover.uncovering import uncovered
from half_fold.core.legibility.reading import Surface
from half_fold.core.legibility.remedies import Remedy, remedies
from half_fold.core.publication.records import Publication
from half_fold.core.spread.setting.compose import Setter


def ways_to_read(sheet: Surface, block: str, go_on: Callable[[], bool] = lambda: True) -> list[Remedy]:
    """What makes the words of a block readable, the mildest first; nothing where they are."""
    found = remedies(sheet, block, go_on)
    return [*found, *uncovered(sheet, go_on)] if block == masthead_block(sheet) else found


def ways_to_read_of(job: Publication, folder: Path, block: str, setter: Setter) -> tuple[Surface, list[Remedy]]:
    """The same of a block wherever it lies, and the sheet it lies on. Problem where it lies on none."""
    sheet = surface_with(job, folder, block, setter)
    return sheet, ways_to_read(sheet, block)
