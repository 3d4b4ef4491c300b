"""What a story is called that nobody has named: its first words."""

import textwrap
from collections.abc import Sequence

from msgspec.structs import replace

from half_fold.core.publication.records import Paragraph, Publication
from half_fold.core.publication.surgery import story_of, with_story

UNTITLED, WORDS, LETTERS = "New story", 5, 120  # letters: some scripts write no spaces between words


def title_from(paragraphs: Sequence[Paragraph]) -> str:
    """The first words of the first paragraph that has some."""
    opening = next((paragraph.text for paragraph in paragraphs if paragraph.text.strip()), "")
    return cut_title(" ".join(opening.split()[:WORDS])) or UNTITLED


def cut_title(title: str) -> str:
    """A title no longer than lists can show: a heading of a whole sentence or more ends after a word, with dots."""
    if len(title) <= LETTERS:
        return title
    return textwrap.shorten(title, LETTERS, placeholder="…") if " " in title[:LETTERS] else title[: LETTERS - 1] + "…"


def with_text(publication: Publication, story: str, paragraphs: tuple[Paragraph, ...]) -> Publication:
    """The story with other paragraphs; one that is called by its first words is called by the new ones."""
    record = story_of(publication, story)
    is_named = record.title not in (UNTITLED, title_from(record.paragraphs))
    title = record.title if is_named else title_from(paragraphs)
    return with_story(publication, replace(record, paragraphs=paragraphs, title=title))
