"""Taking the fixes that findings offer."""

from collections.abc import Iterable
from contextlib import suppress

from half_fold.core.checks.finding import Finding
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Publication
from half_fold.core.spread.edits.keeping import settle

ALL = "all"


def fix_findings(publication: Publication, found: Iterable[Finding], words: str) -> Publication:
    """The job with every fix of those findings taken that is worded so (or ``all``), as an edit of the window is.

    Problem where none is worded so; a fix that can no longer be, after those before it, is passed over.
    """
    offered = [finding.fix for finding in found if finding.fix is not None]
    chosen = [fix for fix in offered if words == ALL or fix.words.casefold() == words.casefold()]
    if not chosen:
        kinds = ", ".join(f"“{each}”" for each in dict.fromkeys(fix.words for fix in offered))
        there = f"there are {kinds}" if kinds else "there is no fix to take"
        raise Problem(f"Nothing found offers “{words}”; {there}.")
    for fix in chosen:
        with suppress(Problem):
            publication = settle(publication, fix.edit(publication))
    return publication
