"""What a text that comes in becomes: paragraphs with roles by a table, and a note of all that was made plain."""

import re
from collections.abc import Iterable, Mapping

from msgspec import Struct, field
from msgspec.structs import replace

from half_fold.core.measure.length import counted
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Paragraph, Publication, Run, TextRole
from half_fold.core.publication.surgery import role_named
from half_fold.core.typesetting.texts.quotes import curled

HEADING = "heading {}"
FIRST = "first paragraph"  # of the text under a headline, a standfirst between them or not
DEFAULT_ROLES: dict[str, str] = {
    "title": "headline",
    "subtitle": "standfirst",
    HEADING.format(1): "headline",
    **{HEADING.format(level): "crosshead" for level in range(2, 7)},
    "body": "body",
    FIRST: "body",
    "list": "list",
    **{f"list {level}": "list" for level in range(2, 10)},
    "quote": "quote",
    "entry": "entry",
    "note": "note",
    "break": "break",
}
OPENS = ("title", HEADING.format(1))
LINE, TAB = "\n", "\t"
BREAK = "\u2028"  # a line that was ended within its paragraph
LEVEL = "\u2003"  # before an item of a list, once for each list it lies in beyond the first
BULLET = "•"
STARS = "* * *"  # what stands for a line drawn between paragraphs
LONGEST_WORD = 1000
_BREAK = re.compile(r"[*•·#~⁂❦❧—–-](\s?[*•·#~⁂❦❧—–-]){0,8}")  # words that only part what is before from what follows
_TOO_LONG, _IN_PARTS = re.compile(rf"\S{{{LONGEST_WORD + 1},}}"), re.compile(rf"\S{{1,{LONGEST_WORD}}}")
QUOTES = ("quote", "quotes", "quotation", "quotations", "intense quote", "block text", "block quotation")
MOST_PARAGRAPHS = 60_000  # of one story


def role_table(publication: Publication) -> dict[str, str]:
    """What every kind of paragraph becomes in this job: the usual, and over it what the user said.

    What would become a role that the job has not got becomes body.
    """
    known = {role.name for role in publication.roles}
    usual = {found: role if role in known else "body" for found, role in DEFAULT_ROLES.items()}
    return {**usual, **{each.found.lower(): each.role for each in publication.text_roles}}


def set_text_role(publication: Publication, found: str, role: str) -> Publication:
    """The job's table with that kind of paragraph becoming ``role`` (what it is usually, or "", takes the entry out).

    Problem where there is no such role.
    """
    found = found.strip().lower()
    role = "" if role == DEFAULT_ROLES.get(found) else role_named(publication, role).name if role else ""
    rest = tuple(each for each in publication.text_roles if each.found != found)
    return replace(publication, text_roles=(*rest, TextRole(found=found, role=role)) if role else rest)


class _Met(Struct):
    """How often something was met, and under which heading first."""

    count: int
    place: str


class Reading(Struct):
    """The paragraphs read, and a sentence for each thing that was left out or made plain."""

    table: Mapping[str, str] = field(default_factory=lambda: DEFAULT_ROLES)
    language: str = ""
    paragraphs: list[Paragraph] = field(default_factory=list)
    _notes: list[str] = field(default_factory=list)
    _met: dict[tuple[str, str], _Met] = field(default_factory=dict)
    _later: list[tuple[str, tuple[Run, ...]]] = field(default_factory=list)
    _heading: str = ""
    _opens: bool = False  # a headline stands before what comes next

    @property
    def title(self) -> str:
        """The first headline, or the first words."""
        for paragraph in self.paragraphs:
            if paragraph.role == self.table.get("title", "headline"):
                return paragraph.text
        return " ".join(self.paragraphs[0].text.split()[:6]) if self.paragraphs else ""

    @property
    def notes(self) -> list[str]:
        """What there is to say of it, with counts and places."""
        told = []
        for (thing, became), met in self._met.items():
            where = f", the first in “{met.place}”," if met.count > 1 else f" in “{met.place}”"
            told.append(f"{_counted(met.count, thing)}{where} {became if met.count == 1 else _of_several(became)}.")
        return [*self._notes, *told]

    def note(self, sentence: str) -> None:
        """Report something once."""
        if sentence not in self._notes:
            self._notes.append(sentence)

    def met(self, thing: str, became: str, count: int = 1) -> None:
        """Something that has no place in a story was met: it is counted, and said with what became of it.

        ``became`` is said of one, and begins with its verb.
        """
        if count:
            place = self._heading or " ".join(self.title.split()[:6]) or "the beginning"
            self._met.setdefault((thing, became), _Met(0, place)).count += count

    def later(self, found: str, runs: Iterable[Run]) -> None:
        """A paragraph that is to stand behind all others, such as a note."""
        self._later.append((found, join_paragraphs(runs)))

    def finish(self) -> "Reading":
        """Set what was to stand at the end; gives itself."""
        waiting, self._later = self._later, []
        for found, runs in waiting:
            self.add(found, runs)
        return self

    def role(self, found: str, otherwise: str = "body") -> str:
        """The role of a kind of paragraph; of one that the table does not know, that of ``otherwise``, with a note."""
        known = self.table.get(found.lower())
        if known is None:
            known = self.table[otherwise]
            self.note(f"The style “{found}” was taken as {otherwise}; the table of text roles can say otherwise.")
        return known

    def add(self, found: str, runs: Iterable[Run], bullet: str = "") -> None:
        """A paragraph of that kind, unless there are no words in it.

        Where lines are ended in it each is a paragraph, but in headings, where they follow one another.
        """
        lines = _lines([replace(run, text=self._parted(run.text.replace(LINE, " "))) for run in runs if run.text])
        is_heading = found.startswith("heading") or found in ("title", "subtitle")
        if len(lines) > 1 and is_heading:
            self.met("line break", "became a space", len(lines) - 1)
            lines = [[run for at, line in enumerate(lines) for run in ([Run(text=" ")] if at else []) + line]]
        elif len(lines) > 1:
            self.met("line break", "became a new paragraph", len(lines) - 1)
        if len(self.paragraphs) > MOST_PARAGRAPHS:
            raise Problem(f"It has more than {MOST_PARAGRAPHS:,} paragraphs, too many for one story; split it.")
        for at, line in enumerate(lines):
            line = line if found == "entry" else trimmed(line)
            made = [Run(text=bullet), *line] if bullet and not at else line
            if found == "body" and _BREAK.fullmatch("".join(run.text for run in made).strip()):
                found = "break"
            kind = FIRST if found == "body" and self._opens else found
            self._opens = found in OPENS or (found == "subtitle" and self._opens)
            self.paragraphs.append(Paragraph(role=self.role(kind), runs=self._curled(join_paragraphs(made))))
            if is_heading:
                self._heading = self.paragraphs[-1].text

    def _parted(self, text: str) -> str:
        """A text in which no word is longer than can be set: what is longer is no word, and is cut into some."""
        if len(text) <= LONGEST_WORD or not _TOO_LONG.search(text):
            return text
        too_long = len(_TOO_LONG.findall(text))
        self.met(f"word of more than {LONGEST_WORD:,} letters", "was cut into shorter ones", too_long)
        return _TOO_LONG.sub(lambda word: " ".join(_IN_PARTS.findall(word[0])), text)

    def _curled(self, runs: tuple[Run, ...]) -> tuple[Run, ...]:
        if not self.language or not any(sign in run.text for run in runs for sign in "\"'"):
            return runs
        self.note("Straight quotation marks were turned into those of the job's language.")
        return curled(runs, self.language)


def join_paragraphs(runs: Iterable[Run]) -> tuple[Run, ...]:
    """Runs of the same style that follow one another as one."""
    out: list[Run] = []
    for run in runs:
        if out and replace(out[-1], text="") == replace(run, text=""):
            out[-1] = replace(run, text=out[-1].text + run.text)
        elif run.text:
            out.append(run)
    return tuple(out)


def _lines(runs: Iterable[Run]) -> list[list[Run]]:
    """Runs cut where their lines end; without lines that have no words."""
    lines: list[list[Run]] = [[]]
    for run in runs:
        for at, text in enumerate(run.text.split(BREAK)):
            if at:
                lines.append([])
            if text:
                lines[-1].append(replace(run, text=text))
    return [line for line in lines if "".join(run.text for run in line).strip()]


def _counted(count: int, thing: str) -> str:
    """A count with its noun, which is the first word of a thing that is told in several."""
    for between in (" of ", " within ", " drawn ", " (", " beside "):
        noun, found, rest = thing.partition(between)
        if found:
            return f"{counted(count, noun)}{found}{rest}"
    return counted(count, thing)


def _of_several(became: str) -> str:
    """What is said of one thing, said of several: ``was left out`` becomes ``were left out``."""
    return re.sub(r"^was\b", "were", became).replace("its cells", "their cells")


def on_one_line(runs: Iterable[Run]) -> list[Run]:
    """Runs for a cell of a table, which neither tabs nor breaks may part."""
    return [replace(run, text=re.sub(rf"[{TAB}{BREAK}]+", " ", run.text)) for run in runs]


def trimmed(runs: Iterable[Run]) -> list[Run]:
    """Runs without white space before the first word."""
    out: list[Run] = []
    for run in runs:
        text = run.text if out else run.text.lstrip()
        if text:
            out.append(replace(run, text=text))
    return out


def note_mark(number: str) -> Run:
    """The mark of a note within its text."""
    return Run(text=number, rise="superior")
