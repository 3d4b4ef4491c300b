"""Quotation marks by language, and straight ones turned into them."""

from collections.abc import Sequence

from msgspec.structs import replace

from half_fold.core.publication.records import Paragraph, Run, Story

APOSTROPHE = "’"
# Outer and inner marks by language, common practice; a thin space stands inside French ones.
QUOTES: dict[str, tuple[str, str, str, str]] = {
    "en": ("“", "”", "‘", "’"),
    "de": ("„", "“", "‚", "‘"),
    "nl": ("‘", "’", "“", "”"),
    "fr": ("«\u202f", "\u202f»", "“", "”"),
    "it": ("«", "»", "“", "”"),
    "es": ("«", "»", "“", "”"),
    "pt": ("«", "»", "“", "”"),
    "pl": ("„", "”", "«", "»"),
    "cs": ("„", "“", "‚", "‘"),
    "da": ("»", "«", "›", "‹"),
    "nb": ("«", "»", "‘", "’"),
    "sv": ("”", "”", "’", "’"),
    "fi": ("”", "”", "’", "’"),
    "ru": ("«", "»", "„", "“"),
    "he": ("”", "”", "’", "’"),
}
_OPENS_AFTER = " \t\n\u2002\u2003\u00a0(\u2014\u2013[{/"


def quotes_of(language: str) -> tuple[str, str, str, str]:
    """Outer opening and closing, inner opening and closing mark of a language."""
    return QUOTES.get(language) or QUOTES.get(language.split("_")[0]) or QUOTES["en"]


def curled(runs: Sequence[Run], language: str) -> tuple[Run, ...]:
    """The runs with straight marks turned: double ones into the outer pair, single ones into apostrophes or the inner.

    In a language whose outer marks are single, what was typed double is outer still.
    """
    outer_open, outer_close, inner_open, inner_close = quotes_of(language)
    out, before = [], " "
    single_open = False
    for run in runs:
        letters = []
        for index, letter in enumerate(run.text):
            after = run.text[index + 1 : index + 2]
            opens = before in _OPENS_AFTER or before in (outer_open[-1], inner_open[-1])
            if letter == '"':
                letter = outer_open if opens else outer_close
            elif letter == "'":
                if opens and after.strip() and not after.isdigit():
                    letter, single_open = inner_open, True
                elif single_open and not after.isalpha():
                    letter, single_open = inner_close, False
                else:
                    letter = APOSTROPHE
            letters.append(letter)
            before = letter[-1]
        out.append(replace(run, text="".join(letters)))
    return tuple(out)


def requoted(runs: Sequence[Run], old: str, new: str) -> tuple[Run, ...]:
    """The runs with the marks of one language in place of another's; an apostrophe stays one."""
    inside, pairs = False, dict(zip(quotes_of(old), quotes_of(new), strict=True))
    _, outer_close, inner_open, inner_close = quotes_of(old)
    if pairs == {mark: mark for mark in pairs}:
        return tuple(runs)
    out = []
    for run in runs:
        letters = []
        for index, letter in enumerate(run.text):
            between = index and run.text[index - 1].isalpha() and run.text[index + 1 : index + 2].isalpha()
            if letter == inner_open:
                inside = True
            if letter == inner_close and letter not in (outer_close, inner_open):
                if between or not inside:
                    letters.append(letter)
                    continue
                inside = False
            letters.append(pairs.get(letter, letter))
        out.append(replace(run, text="".join(letters)))
    return tuple(out)


def told_in(story: Story, language: str) -> Story:
    """The whole story in a language, with its quotation marks; paragraphs in one of their own stay in that."""
    own = tuple(
        p if p.language else replace(p, runs=requoted(p.runs, story.language, language)) for p in story.paragraphs
    )
    return replace(story, language=language, paragraphs=own)


def in_language(paragraph: Paragraph, language: str, story: str) -> Paragraph:
    """The paragraph in a language of its own ("" for the story's), its quotation marks those of that language."""
    old, new = paragraph.language or story, language or story
    return replace(paragraph, language=language, runs=requoted(paragraph.runs, old, new))
