"""Sets of things by their paths."""

from collections.abc import Iterator
from functools import partial

from half_fold.core.paths.setting import Setting, setting_of
from half_fold.core.publication.records import Publication
from half_fold.core.spread.edits.sets import SETS, rename_set, set_of_set


def set_settings(publication: Publication) -> Iterator[Setting]:
    """What can be set of every set, its name among it."""
    for each in publication.sets:
        for of in SETS:
            take = partial(set_of_set, publication, each.name, of.key)
            yield setting_of(f"set.{each.name}", of, publication, each, take)
        yield Setting(f"set.{each.name}.name", "Called", each.name, partial(rename_set, publication, each.name))
