"""What a claim begins with, and claims in words: ``panel over 1-2 x 3-4``, ``story "Frost" over 1-6 x 5-8``."""

import re
from collections.abc import Callable

from msgspec import Struct

from half_fold.core.measure.length import counted
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.spreads import on_right, spread_of
from half_fold.core.publication.kinds import NO_NUMBER
from half_fold.core.publication.records import (
    Holds,
    HoldsBarcode,
    HoldsCode,
    HoldsDisplay,
    HoldsNothing,
    HoldsPanel,
    HoldsPicture,
    HoldsRule,
    HoldsStory,
    Paragraph,
    Publication,
    Run,
)
from half_fold.core.publication.surgery import picture_of
from half_fold.core.publication.used import usual_ink
from half_fold.core.spread.codes.barcode import SMALLEST
from half_fold.core.spread.codes.code import as_said
from half_fold.core.spread.edits.edits import claim
from half_fold.core.spread.setting.goods import typed_number
from half_fold.core.spread.where.frames import page_frame_of

_CLAIM = re.compile(
    r"(?P<what>[a-z]+)(?P<name>\s+.*?)?\s+over\s+"
    r"(?P<columns>\d+(\s*-\s*\d+)?)\s*[x×]\s*(?P<rows>\d+(\s*-\s*\d+)?)"
)
HOW = "such as: panel over 1-2 x 3-4, words The frost over 1-6 x 1, picture pear.jpg over 1-3 x 1-8"


def display_words(role: str, words: str) -> HoldsDisplay:
    """Words that stand by themselves, to begin with."""
    return HoldsDisplay(paragraphs=(Paragraph(role=role, runs=(Run(text=words),)),))


def next_of_story(publication: Publication, story: str, fields: int) -> HoldsStory:
    """The next length of a story's thread, in columns of about two fields each."""
    turn = sum(
        isinstance(block.holds, HoldsStory) and block.holds.story == story
        for page in publication.pages
        for block in page.blocks
    )
    return HoldsStory(story=story, columns=max(1, fields // 2), turn=turn)


def held_picture(publication: Publication, name: str) -> HoldsPicture:
    """A picture in its block to begin with: it fills it; a drawing, or one with a transparent ground, fits inside."""
    picture = picture_of(publication, name)
    return HoldsPicture(picture=name, scale="fit" if picture.art or picture.has_alpha else "fill")


def panel(publication: Publication) -> HoldsPanel:
    """A panel in the ink that panels usually have."""
    return HoldsPanel(ink=usual_ink(publication, "straw"))


def barcode(number: str = "") -> HoldsBarcode:
    """A barcode of a number or of a column of goods ({ean}), or one that waits for it. Problem where it is neither."""
    return HoldsBarcode(number=typed_number(number) if number else NO_NUMBER, size=SMALLEST)


def claim_by_words(publication: Publication, number: int, text: str) -> Publication:
    """The document with a new block on page ``number``, as a claim in words says; its fields are counted from 1.

    Columns are counted from the left of the page; those beyond it are the facing page's. Problem where it is not
    understood, or names what is not there.
    """
    found = _CLAIM.fullmatch(text.strip())
    if found is None or all(found["what"] != each.word for each in BEGINS.values()):
        raise Problem(f"“{text}” is no claim; say what goes over which fields, {HOW}.")
    columns, rows = _from_to(found["columns"]), _from_to(found["rows"])
    spread = spread_of(publication, number)
    frames = [page_frame_of(publication, number)]
    if not on_right(publication, number) and spread.right is not None:
        frames.append(page_frame_of(publication, spread.right))
    across, down = [span for frame in frames for span in frame.columns], frames[0].rows
    if not (1 <= columns[0] <= columns[1] <= len(across) and 1 <= rows[0] <= rows[1] <= len(down)):
        there = f"{counted(len(across), 'column')} and {counted(len(down), 'row')} of fields"
        raise Problem(f"Page {number} has {there}; “{text}” goes beyond.")
    holds = _begun(publication, found["what"], (found["name"] or "").strip(' "“”'), columns[1] - columns[0] + 1)
    start = _middle(across[columns[0] - 1]), _middle(down[rows[0] - 1])
    end = _middle(across[columns[1] - 1]), _middle(down[rows[1] - 1])
    return claim(publication, start, end, spread.numbers, holds)[0]


class Begins(Struct, frozen=True):
    """How a kind of content begins: the word of a claim, the letter and the words of the chooser, and what there is.

    What there is follows from the job, the name that was given and how many fields wide it is; of pictures and stories
    the chooser asks for which.
    """

    word: str
    letter: str
    chosen: str
    begin: Callable[[Publication, str, int], Holds]


BEGINS: dict[type, Begins] = {
    HoldsPicture: Begins("picture", "P", "Picture", lambda job, name, _: held_picture(job, _picture(job, name))),
    HoldsStory: Begins("story", "S", "Story", lambda job, name, fields: next_of_story(job, _story(job, name), fields)),
    HoldsDisplay: Begins(
        "words", "W", "Words, set large", lambda _, name, __: display_words("headline", name or "Words")
    ),
    HoldsPanel: Begins("panel", "I", "Ink panel", lambda job, _, __: panel(job)),
    HoldsRule: Begins("rule", "R", "Rule", lambda *_: HoldsRule()),
    HoldsBarcode: Begins("barcode", "B", "Barcode", lambda _, name, __: barcode(name)),
    HoldsCode: Begins(
        "code", "Q", "Code that phones read", lambda _, name, __: HoldsCode(says=as_said(name) if name else "")
    ),
    HoldsNothing: Begins("free", "K", "Keep it free", lambda *_: HoldsNothing()),
}


def _begun(publication: Publication, what: str, name: str, fields: int) -> Holds:
    begins = next(each for each in BEGINS.values() if each.word == what)
    return begins.begin(publication, name, fields)


def _picture(publication: Publication, name: str) -> str:
    for picture in publication.pictures:
        if name in (picture.id, picture.file):
            return picture.id
    raise Problem(f"There is no picture “{name}” in this job; bring it in first, or give its file's name.")


def _story(publication: Publication, name: str) -> str:
    for story in publication.stories:
        if name in (story.id, story.title):
            return story.id
    raise Problem(f"There is no story “{name}” in this job; bring it in first, or give its title.")


def _from_to(text: str) -> tuple[int, int]:
    first, _, last = text.partition("-")
    return int(first), int(last or first)


def _middle(span: tuple[float, float]) -> float:
    return (span[0] + span[1]) / 2
