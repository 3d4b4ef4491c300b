"""What a text that comes in becomes: paragraphs with roles by a table, and a note of all that was made plain."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field

from msgspec.structs import replace

from half_fold.core.publication.records import Paragraph, Publication, Run, TextRole
from half_fold.core.typesetting.texts.quotes import curled

HEADING = "heading {}"
DEFAULT_ROLES: dict[str, str] = {
    "title": "headline",
    "subtitle": "standfirst",
    HEADING.format(1): "headline",
    **{HEADING.format(level): "crosshead" for level in range(2, 7)},
    "body": "body",
    "list": "list",
    "quote": "quote",
    "entry": "entry",
}
LINE, TAB = "\n", "\t"


def role_table(publication: Publication) -> dict[str, str]:
    """What every kind of paragraph becomes in this job: the usual, and over it what the user said."""
    return {**DEFAULT_ROLES, **{each.found.lower(): each.role for each in publication.text_roles}}


def say_role(publication: Publication, found: str, role: str) -> Publication:
    """The job's table with that kind of paragraph becoming ``role`` ("" takes the entry out)."""
    found = found.strip().lower()
    rest = tuple(each for each in publication.text_roles if each.found != found)
    return replace(publication, text_roles=(*rest, TextRole(found=found, role=role)) if role else rest)


@dataclass
class Reading:
    """The paragraphs read, and a sentence for each thing that was left out or made plain."""

    table: Mapping[str, str] = field(default_factory=lambda: DEFAULT_ROLES)
    language: str = ""
    paragraphs: list[Paragraph] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)

    @property
    def title(self) -> str:
        """The first headline, or the first words."""
        for paragraph in self.paragraphs:
            if paragraph.role == self.table.get("title", "headline"):
                return paragraph.text
        return " ".join(self.paragraphs[0].text.split()[:6]) if self.paragraphs else ""

    def note(self, sentence: str) -> None:
        """Report something once."""
        if sentence not in self.notes:
            self.notes.append(sentence)

    def role(self, found: str, otherwise: str = "body") -> str:
        """The role of a kind of paragraph; of one that the table does not know, that of ``otherwise``, with a note."""
        known = self.table.get(found.lower())
        if known is None:
            known = self.table[otherwise]
            self.note(f"The style “{found}” was taken as {otherwise}; the table of text roles can say otherwise.")
        return known

    def add(self, found: str, runs: Iterable[Run], bullet: str = "") -> None:
        """A paragraph of that kind, unless there are no words in it."""
        made = [replace(run, text=run.text.replace(LINE, " ")) for run in runs if run.text]
        if not "".join(run.text for run in made).strip():
            return
        if bullet:
            made = [Run(text=bullet), *made]
        self.paragraphs.append(Paragraph(role=self.role(found), runs=self._curled(joined(made))))

    def _curled(self, runs: tuple[Run, ...]) -> tuple[Run, ...]:
        if not self.language or not any(sign in run.text for run in runs for sign in "\"'"):
            return runs
        self.note("Straight quotation marks were turned into those of the job's language.")
        return curled(runs, self.language)


def joined(runs: Iterable[Run]) -> tuple[Run, ...]:
    """Runs of the same style that follow one another as one."""
    out: list[Run] = []
    for run in runs:
        if out and replace(out[-1], text="") == replace(run, text=""):
            out[-1] = replace(run, text=out[-1].text + run.text)
        elif run.text:
            out.append(run)
    return tuple(out)
