"""A finding: its place, how grave it is, why, and the fix where one can be computed."""

from collections.abc import Callable

from msgspec import Struct

from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Publication

TRIMMED = "would be trimmed off"
FOLD = "would vanish in the fold"
SOFT = "would print soft"
UNREAD = "could not be read"
REFUSED = "would be refused"
ACCIDENT = "looks like an accident"
ASKED = "is as was asked"
CONSEQUENCES = (REFUSED, TRIMMED, FOLD, UNREAD, SOFT, ACCIDENT, ASKED)


class Fix(Struct, frozen=True):
    """An edit that mends it, in the words of the button; undo takes it back."""

    words: str
    edit: Callable[[Publication], Publication]


class Finding(Struct, frozen=True):
    """``stops_press`` findings must be mended; ``page`` is a page number (0 for the whole job).

    On a cover ``place`` names the cover page, and ``page`` counts the pages of that ``side``.
    """

    rule: str
    consequence: str
    message: str
    why: str
    stops_press: bool = False
    page: int = 0
    block: str = ""
    rect: Rect | None = None
    fix: Fix | None = None
    side: str = ""
    place: str = ""

    @property
    def severity(self) -> str:
        if self.stops_press:
            return "stops the press"
        return "note" if self.consequence == ASKED else "caution"

    @property
    def where(self) -> str:
        return self.place or (f"page {self.page}" if self.page else "whole job")


def would_stop(findings: list[Finding]) -> list[Finding]:
    """Those of the findings that must be mended first."""
    return [finding for finding in findings if finding.stops_press]


def to_look_at(findings: list[Finding]) -> list[Finding]:
    """Those that someone should look at: neither must they be mended, nor are they only what was asked."""
    return [finding for finding in findings if finding.severity == "caution"]


def summary(findings: list[Finding]) -> str:
    """The findings in a few words."""
    stop = len(would_stop(findings))
    if stop:
        return f"{stop} would stop the press"
    count = len(to_look_at(findings))
    return f"{count} to look at" if count else "nothing found"
