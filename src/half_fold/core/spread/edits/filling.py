"""A story filled with filler copy: by so many words, or to the foot of its blocks."""

from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Paragraph, Publication, Story
from half_fold.core.publication.surgery import story_of, with_story
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.typesetting.flow.filler import filler_paragraphs

MOST_WORDS = 100_000
BODY = "body"


def fill_with(publication: Publication, story: str, words: int) -> Publication:
    """The story with so many words of filler copy after its own. Problem where that is no count."""
    if not 1 <= words <= MOST_WORDS:
        raise Problem(f"Give from 1 to {MOST_WORDS:,} words of filler copy.")
    old = story_of(publication, story)
    role = BODY if any(each.name == BODY for each in publication.roles) else publication.roles[0].name
    made = filler_paragraphs(old.language, words, role, len(old.paragraphs) + 1)
    kept = _without_bare_end(old)
    return with_story(publication, replace(old, paragraphs=(*kept, *made)))


def _without_bare_end(story: Story) -> tuple[Paragraph, ...]:
    """Its paragraphs but for an empty last one."""
    paragraphs = story.paragraphs
    return paragraphs[:-1] if paragraphs and not paragraphs[-1].text.strip() else paragraphs


def fill_to_the_foot(publication: Publication, setter: Setter, story: str) -> Publication:
    """The story with as many words of filler copy as its blocks hold. Problem where there is no room for any."""
    flow = setter.threads.flow(publication, story)
    if not flow.columns:
        raise Problem("The story has no block to fill yet; put it on a page first, or give a number of words.")
    if flow.over_lines or flow.room < 1:
        raise Problem("The story fills its blocks already; there is no room for filler copy.")

    def fits(words: int) -> bool:
        return not setter.threads.flow(fill_with(publication, story, words), story).over_lines

    if not fits(1):
        raise Problem("The story fills its blocks already; there is no room for filler copy.")
    low, high = 1, 2
    while high < MOST_WORDS and fits(high):
        low, high = high, high * 2
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (middle, high) if fits(middle) else (low, middle)
    return fill_with(publication, story, low)
