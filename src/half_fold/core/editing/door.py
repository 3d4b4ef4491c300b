"""An edit with all that follows from it: the window and every command go through here, and nothing else saves a job."""

from collections.abc import Callable
from pathlib import Path

from half_fold.core.publication.records import Publication
from half_fold.core.publication.validity import require_whole
from half_fold.core.spread.edits.calm_words import disturbed
from half_fold.core.spread.edits.keeping import settle
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.contents import follow_contents

Edit = Callable[[Publication], Publication]


def apply_edit(before: Publication, edit: Edit, pictures: Path, setter: Setter) -> Publication:
    """The job after an edit: linked things have followed, groups and captions keep what they keep, words keep calm,
    contents have the folios of their pages. The same record where nothing is otherwise.

    ``pictures`` is the folder that they lie in, ``setter`` has the job set. Problem where the edit cannot be, or what
    comes of it is not whole.
    """
    after = edit(before)
    if after is before:
        return before
    after = _calmed(before, settle(before, after), pictures)
    after = follow_contents(after, setter.threads)
    if after is not before:
        require_whole(after, before)
    return after


def _calmed(before: Publication, after: Publication, pictures: Path) -> Publication:
    """With the words that keep calm moved where other pictures have come to lie under them."""
    words = disturbed(before, after)
    if not words:
        return after
    from half_fold.core.cover.keeping_calm import move_to_calm  # with all that judges words

    return move_to_calm(after, words, pictures, Setter())  # of its own: what is tried is not kept
