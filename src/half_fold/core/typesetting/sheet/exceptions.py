"""Exceptions: words set otherwise than their role says are counted, and a paragraph of them makes a role."""

from collections import Counter
from collections.abc import Iterator

from msgspec.structs import replace

from half_fold.core.measure.length import counted, length
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.kinds import blocks_of_words
from half_fold.core.publication.records import Paragraph, Publication, Run
from half_fold.core.publication.surgery import role_named, story_of, with_story
from half_fold.core.typesetting.sheet.sheet import add_role, next_label, stating

Apart = tuple[str, float, float, str]  # face, size (per cent), tracking and ink beside those of the role


def apart(run: Run) -> Apart:
    """How a run is set otherwise than its role says."""
    return run.face, run.size, run.tracking, run.ink


AS_THE_ROLE: Apart = ("", 100.0, 0.0, "")


def _paragraphs(publication: Publication) -> Iterator[Paragraph]:
    for story in publication.stories:
        yield from story.paragraphs
    for _, words in blocks_of_words(publication):
        yield from words


def exceptions_of(publication: Publication, role: str) -> Counter[Apart]:
    """How many words of a role are set otherwise, by how."""
    found: Counter[Apart] = Counter()
    for paragraph in _paragraphs(publication):
        if paragraph.role == role:
            for run in paragraph.runs:
                if apart(run) != AS_THE_ROLE and run.text.strip():
                    found[apart(run)] += len(run.text.split())
    return found


def format_exceptions(publication: Publication, role: str) -> str:
    """``3 words in 2 ways: 120 %; straw``; "" where there are none."""
    found = exceptions_of(publication, role)
    if not found:
        return ""
    ways = "; ".join(_said(each) for each, _ in found.most_common(4))
    return f"{counted(sum(found.values()), 'word')} in {counted(len(found), 'way')}: {ways}"


def _said(way: Apart) -> str:
    face, size, tracking, ink = way
    told = [
        face.replace("/", " "),
        f"{size:g} %" if size != 100 else "",
        f"{tracking:+g}/1000 em" if tracking else "",
        ink,
    ]
    return ", ".join(word for word in told if word)


def makes_a_role(paragraph: Paragraph) -> bool:
    """Whether all words of a paragraph are set in one way that is not its role's."""
    ways = {apart(run) for run in paragraph.runs if run.text.strip()}
    return len(ways) == 1 and ways != {AS_THE_ROLE}


def with_role_of(publication: Publication, story: str, at: int) -> Publication:
    """A story's paragraph in a new role that is set as its words are. Problem where they are not all set one way."""
    old = story_of(publication, story)
    paragraph = old.paragraphs[at]
    if not makes_a_role(paragraph):
        raise Problem("The words of that paragraph are not all set one way; make them alike first.")
    made, name = _new_role(publication, paragraph)
    runs = tuple(replace(run, face="", size=100.0, tracking=0.0, ink="") for run in paragraph.runs)
    changed = replace(paragraph, role=name, runs=runs)
    paragraphs = (*old.paragraphs[:at], changed, *old.paragraphs[at + 1 :])
    return with_story(made, replace(old, paragraphs=paragraphs))


def _new_role(publication: Publication, paragraph: Paragraph) -> tuple[Publication, str]:
    base = role_named(publication, paragraph.role)
    face, size, tracking, ink = next(apart(run) for run in paragraph.runs if run.text.strip())
    made, name = add_role(publication, next_label(publication, paragraph.role), paragraph.role)
    stated: dict[str, object] = {}
    if face:
        stated["family"], _, stated["style"] = face.partition("/")
    if size != 100:
        stated["size"] = length(f"{base.size.pt * size / 100:.4g}pt")
    if tracking:
        stated["tracking"] = base.tracking + tracking
    if ink:
        stated["ink"] = ink
    roles = tuple(stating(role, **stated) if role.name == name else role for role in made.roles)
    return replace(made, roles=roles), name
