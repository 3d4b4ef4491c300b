"""How a paragraph opens: its first words in a manner of their own, its first letters as a drop cap."""

from msgspec.structs import replace

from half_fold.core.publication.records import Paragraph, Run
from half_fold.core.typesetting.lines.roles import Style

OPENING_QUOTES = "\"'“‘„«‹"


def initials(text: str, letters: int) -> str:
    """The letters that drop, with a quotation mark that opens them."""
    quotes = len(text) - len(text.lstrip(OPENING_QUOTES))
    return text[: quotes + letters]


def opening_of(paragraph: Paragraph, style: Style) -> tuple[Run, ...]:
    """The paragraph's runs as they are set: without what drops, the opening words in their manner."""
    runs = list(paragraph.runs)
    if style.drop_lines > 1:
        runs = _without(runs, len(initials(paragraph.text, style.drop_letters)))
    words = style.opening_words
    out: list[Run] = []
    for run in runs:
        if words <= 0:
            out.append(run)
            continue
        cut = _after_words(run.text, words)
        words -= len(run.text[:cut].split())
        out += [_in_manner(replace(run, text=run.text[:cut]), style.opening), replace(run, text=run.text[cut:])]
    return tuple(run for run in out if run.text)


def _without(runs: list[Run], letters: int) -> list[Run]:
    out = []
    for run in runs:
        out.append(replace(run, text=run.text[letters:]))
        letters = max(0, letters - len(run.text))
    return [run for run in out if run.text]


def _after_words(text: str, words: int) -> int:
    """Where the first ``words`` words of a text end."""
    at = 0
    for word in text.split()[:words]:
        at = text.index(word, at) + len(word)
    return at if words <= len(text.split()) else len(text)


def _in_manner(run: Run, manner: str) -> Run:
    if manner == "bold":
        return replace(run, bold=True)
    return replace(run, italic=True) if manner == "italic" else replace(run, small_caps=True)
