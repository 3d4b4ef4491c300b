"""What a story is called that nobody has named: its first words."""

from collections.abc import Sequence

from msgspec.structs import replace

from half_fold.core.publication.records import Paragraph, Publication
from half_fold.core.publication.surgery import story_of, with_story

UNTITLED, WORDS = "New story", 5


def title_from(paragraphs: Sequence[Paragraph]) -> str:
    """The first words of the first paragraph that has some."""
    opening = next((paragraph.text for paragraph in paragraphs if paragraph.text.strip()), "")
    return " ".join(opening.split()[:WORDS]) or UNTITLED


def with_text(publication: Publication, story: str, paragraphs: tuple[Paragraph, ...]) -> Publication:
    """The story with other paragraphs; one that is called by its first words is called by the new ones."""
    record = story_of(publication, story)
    is_named = record.title not in (UNTITLED, title_from(record.paragraphs))
    title = record.title if is_named else title_from(paragraphs)
    return with_story(publication, replace(record, paragraphs=paragraphs, title=title))
