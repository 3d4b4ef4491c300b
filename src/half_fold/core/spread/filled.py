"""Words that are filled in from the job: {title}, {issue} and {season}."""

from collections import OrderedDict

from msgspec.structs import replace

from half_fold.core.publication.records import Paragraph, Publication

_KEPT = 400
_filled: OrderedDict[tuple[int, str, str, str], tuple[Paragraph, Paragraph]] = OrderedDict()


def filled_words(publication: Publication, words: str) -> str:
    """``words`` with the job's own in place of their names."""
    for name in ("title", "issue", "season"):
        words = words.replace(f"{{{name}}}", getattr(publication, name))
    return words


def filled(publication: Publication, paragraph: Paragraph) -> Paragraph:
    """The paragraph filled in: the same record each time, and itself where there is nothing to fill."""
    if "{" not in paragraph.text:
        return paragraph
    key = (id(paragraph), publication.title, publication.issue, publication.season)
    found = _filled.get(key)
    if found is None:
        runs = tuple(replace(run, text=filled_words(publication, run.text)) for run in paragraph.runs)
        found = _filled[key] = (paragraph, replace(paragraph, runs=runs))
        while len(_filled) > _KEPT:
            _filled.popitem(last=False)
    return found[1]
