"""Words that keep calm, moved to the nearest place where they read well once another picture lies under them."""

from collections.abc import Iterable
from pathlib import Path

from half_fold.core.cover.legibility import GOOD
from half_fold.core.cover.reading import read, sheet_with
from half_fold.core.cover.remedies import places
from half_fold.core.publication.records import Publication
from half_fold.core.publication.surgery import is_free
from half_fold.core.spread.calm_words import disturbed
from half_fold.core.spread.compose import Setter


def kept_calm(before: Publication, after: Publication, folder: Path, setter: Setter) -> Publication:
    """The job after an edit, its words that keep calm where they read well; pictures lie in ``folder``.

    Words that still read well stay, and so do those that are locked or have no calm place: the checks say so.
    """
    return moved_to_calm(after, disturbed(before, after), folder, setter)


def moved_to_calm(publication: Publication, words: Iterable[str], folder: Path, setter: Setter) -> Publication:
    """The job with words that do not read well moved by fields to the nearest place where they do."""
    for block in words:
        sheet = sheet_with(publication, folder, block, setter)
        if read(sheet).score(block) >= GOOD or not is_free(sheet.publication, block):
            continue
        for way in places(sheet, block, 1):
            publication = sheet.changed(way.publication).job
    return publication
