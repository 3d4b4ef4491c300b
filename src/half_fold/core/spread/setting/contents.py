"""Contents: a story that lists the others and their chapters, whose folios follow the pages."""

import re
from collections.abc import Iterator, Sequence
from typing import NamedTuple

from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.plan.sections import folio_of
from half_fold.core.publication.records import Paragraph, Publication, Run, Story
from half_fold.core.publication.surgery import fresh_id, role_named, with_story
from half_fold.core.spread.setting.goods import name_as_asked
from half_fold.core.spread.setting.threads import Threads, thread
from half_fold.core.spread.where.chapters import chapters_of
from half_fold.core.typesetting.texts.finding import replaced
from half_fold.core.typesetting.texts.reading import TAB

ROLES = ("contents", "entry", "body")  # the first of them that the job has
HEADLINE = "headline"
_FOLIO = re.compile(r"\b(?:\d+|[ivxlcdm]+)\b", re.IGNORECASE)
TITLES = {
    "ar": "المحتويات", "cs": "Obsah", "cy": "Cynnwys", "da": "Indhold", "de": "Inhalt", "el": "Περιεχόμενα",
    "en": "Contents", "es": "Índice", "fi": "Sisällys", "fr": "Sommaire", "he": "תוכן העניינים", "hu": "Tartalom",
    "it": "Indice", "nl": "Inhoud", "no": "Innhold", "pl": "Spis treści", "pt": "Índice", "ro": "Cuprins",
    "ru": "Содержание", "sv": "Innehåll", "tr": "İçindekiler", "uk": "Зміст", "vi": "Mục lục",
}  # fmt: skip


class Heading(NamedTuple):
    """What is listed, and the number of the page it begins on."""

    words: str
    page: int


class Listed(NamedTuple):
    """A line of the contents: which paragraph, what it lists, the folio it says, and where that stands in its text."""

    paragraph: int
    heading: Heading
    said: str
    start: int


def headings(publication: Publication, threads: Threads) -> list[Heading]:
    """The stories that lie on pages, or the chapters of those that have some, in the order of their pages."""
    found: list[Heading] = []
    for story in publication.stories:
        places = thread(publication, story.id)
        if story.lists or not places:
            continue
        chapters = chapters_of(threads.flow(publication, story.id))
        begun = [Heading(" ".join(words.split()), page) for page, words in chapters]
        found += begun or [Heading(" ".join(story.title.split()), places[0][0])]
    return sorted((each for each in found if each.words), key=lambda heading: heading.page)


def entries_of(publication: Publication, story: Story, found: Sequence[Heading]) -> Iterator[Listed]:
    """The lines of a story that name one of the headings and say a folio; of two alike each in turn."""
    waiting: dict[str, list[Heading]] = {}
    for heading in reversed(found):
        waiting.setdefault(name_as_asked(heading.words), []).append(heading)
    for index, paragraph in enumerate(story.paragraphs):
        parts = paragraph.text.split(TAB)
        at = next((n for n, part in enumerate(parts) if waiting.get(name_as_asked(part))), None)
        if at is None or len(parts) < 2:
            continue
        heading = waiting[name_as_asked(parts[at])].pop()
        says = len(parts) - 1 if at < len(parts) - 1 else 0
        said = list(_FOLIO.finditer(parts[says]))
        if said and folio_of(publication, heading.page):
            start = sum(len(part) + 1 for part in parts[:says]) + said[-1].start()
            yield Listed(index, heading, said[-1].group(), start)


def is_stale(publication: Publication, line: Listed) -> bool:
    """Whether a line says another folio than that of the page."""
    return line.said != folio_of(publication, line.heading.page)


def follow_contents(publication: Publication, threads: Threads) -> Publication:
    """The job with the folios of its contents as the pages are; the same where they are so."""
    lists = [story for story in publication.stories if story.lists]
    found = headings(publication, threads) if lists else []
    for story in lists:
        paragraphs = list(story.paragraphs)
        for line in entries_of(publication, story, found):
            if is_stale(publication, line):
                paragraph, folio = paragraphs[line.paragraph], folio_of(publication, line.heading.page)
                paragraphs[line.paragraph] = replaced(paragraph, line.start, line.start + len(line.said), folio)
        if any(new is not old for new, old in zip(paragraphs, story.paragraphs, strict=True)):
            publication = with_story(publication, replace(story, paragraphs=tuple(paragraphs)))
    return publication


def with_contents(publication: Publication, threads: Threads) -> tuple[Publication, str]:
    """The job with its contents, and the id of that story: made, or with what it lacked put in and its folios right.

    Problem where nothing lies on pages that could be listed.
    """
    found = headings(publication, threads)
    if not found:
        raise Problem("There is nothing to list yet; lay stories on pages first.")
    story = next((story for story in publication.stories if story.lists), None)
    if story is None:
        story = _begun(publication)
        publication = replace(publication, stories=(*publication.stories, story))
    paragraphs = list(story.paragraphs)
    named = [name_as_asked(part) for paragraph in paragraphs for part in paragraph.text.split(TAB)]
    for heading in found:
        if name_as_asked(heading.words) in named:
            named.remove(name_as_asked(heading.words))
        else:
            at = _place_for(publication, replace(story, paragraphs=tuple(paragraphs)), found, heading)
            paragraphs.insert(at, _line(publication, heading))
    publication = with_story(publication, replace(story, paragraphs=tuple(paragraphs)))
    return follow_contents(publication, threads), story.id


def _begun(publication: Publication) -> Story:
    """The story of contents with nothing but its headline."""
    language = publication.language
    title = TITLES.get(language.partition("_")[0], TITLES["en"])
    paragraphs = (Paragraph(role=_role(publication, HEADLINE), runs=(Run(text=title),)),)
    name = fresh_id("story", (story.id for story in publication.stories))
    return Story(id=name, title=title, paragraphs=paragraphs, language=language, lists=True)


def _place_for(publication: Publication, story: Story, found: Sequence[Heading], heading: Heading) -> int:
    """Behind the last line that lists what begins before it; else before the first line there is, or at the end."""
    lines = list(entries_of(publication, story, found))
    before = [line.paragraph for line in lines if line.heading.page <= heading.page]
    if before:
        return before[-1] + 1
    return lines[0].paragraph if lines else len(story.paragraphs)


def _line(publication: Publication, heading: Heading) -> Paragraph:
    """A folio before its words where the role has a tab for them to begin at; at the right end else."""
    name = next(role for role in ROLES if _role(publication, role) == role)
    role, folio = role_named(publication, name), folio_of(publication, heading.page) or str(heading.page)
    words = heading.words
    text = f"{folio}{TAB}{words}" if role.tab is not None else f"{TAB}{words}{TAB}{folio}"
    return Paragraph(role=name, runs=(Run(text=text),))


def _role(publication: Publication, name: str) -> str:
    return name if any(role.name == name for role in publication.roles) else "body"
