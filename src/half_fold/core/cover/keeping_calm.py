"""Words that keep calm, moved to the nearest place where they read well once another picture lies under them."""

from collections.abc import Iterable
from pathlib import Path

from half_fold.core.cover.surfaces import surface_with
from half_fold.core.legibility.reading import read_surface
from half_fold.core.legibility.remedies import places
from half_fold.core.legibility.verdicts import GOOD
from half_fold.core.publication.records import Publication
from half_fold.core.publication.surgery import is_free
from half_fold.core.spread.setting.compose import Setter


def move_to_calm(publication: Publication, words: Iterable[str], folder: Path, setter: Setter) -> Publication:
    """The job with words that do not read well moved by fields to the nearest place where they do.

    Words that still read well stay, and so do those that are locked or have no calm place: the checks say so. Pictures
    lie in ``folder``.
    """
    for block in words:
        sheet = surface_with(publication, folder, block, setter)
        if read_surface(sheet).score(block) >= GOOD or not is_free(sheet.publication, block):
            continue
        for way in places(sheet, block, 1):
            publication = sheet.changed(way.publication).job
    return publication
