"""The type sheet, and stories of paragraphs of runs."""

from typing import Literal

from half_fold.core.measure.length import Length, length
from half_fold.core.publication.places import Record
from half_fold.core.publication.records.inks import Look


class Role(Record, frozen=True, kw_only=True):
    """How a paragraph of one kind is set.

    A role ``based_on`` another states only what it names in ``own``; all else is the other's. ``left`` is indented
    but for nothing, ``indent`` the first line only. Text after a tab begins at ``tab``, and so do its turned lines;
    ``leader`` fills the way to what stands at the right end. ``tracking`` is in thousandths of an em; ``before`` and
    ``after`` are empty lines; ``letter_give`` is how far letters may be spaced or drawn in, per cent of the em;
    ``word_least`` and ``word_most`` are per cent of the face's own space. One that ``begins`` a column, a page or a
    recto moves on to the next, and keeps its empty lines ``before`` at the head of it. The first ``opening_words``
    are set in the ``opening`` manner. A drop cap of ``drop_letters`` stands ``drop_lines`` deep. ``fallback`` names
    families for letters that the face has not got, by script: ``Hebrew: Frank Ruhl Libre``. A caption or a credit
    that is ``asked`` is one that every laid picture has to have.

    A ``ratio`` other than 0 is the leading in parts of the size, in place of ``leading``. No ``figures`` are the face's
    own. Letters are raised by their ``shift``; ``underline`` and ``strike`` are weights of rules, the first so far
    under the baseline, or as far as suits the size.

    A block of words may state values over the roles of its lines in a role without a name, whose ``own`` names them.
    """

    name: str
    label: str
    based_on: str = ""
    own: tuple[str, ...] = ()
    family: str = "EB Garamond"
    style: str = "Regular"
    fallback: str = ""
    size: Length = length("10pt")
    leading: Length = length("13pt")
    ratio: float = 0.0
    align: Literal["justified", "left", "right", "centre"] = "justified"
    ink: str = "black"
    tint: float = 100.0
    hyphenate: bool = True
    hyphens_in_row: int = 2
    indent: Length = length("0pt")
    left: Length = length("0pt")
    right: Length = length("0pt")
    tab: Length | None = None
    leader: str = ""
    before: int = 0
    after: int = 0
    tracking: float = 0.0
    case: Literal["as typed", "capitals", "small capitals", "titles"] = "as typed"
    figures: Literal["", "lining", "old style", "tabular", "tabular old style"] = ""
    shift: Length = length("0pt")
    underline: Length | None = None
    underline_off: Length | None = None
    strike: Length | None = None
    ligatures: bool = True
    fractions: bool = False
    word_least: float = 80.0
    word_most: float = 133.0
    letter_give: float = 0.0
    hanging: bool = False
    keep_next: bool = False
    keep_together: bool = False
    begins: Literal["anywhere", "column", "page", "recto"] = "anywhere"
    asked: bool = False
    rule_above: Length | None = None
    rule_below: Length | None = None
    drop_lines: int = 0
    drop_letters: int = 1
    opening: Literal["small caps", "bold", "italic"] = "small caps"
    opening_words: int = 0
    look: str = ""


class TextRole(Record, frozen=True, kw_only=True):
    """What a kind of paragraph in a text that comes in becomes: ``found`` is a style's name or heading 1, list ..."""

    found: str
    role: str


class Font(Record, frozen=True, kw_only=True):
    """A face that was copied into the job's ``fonts`` folder."""

    family: str
    style: str
    file: str
    digest: str


class Symbol(Record, frozen=True, kw_only=True):
    """A drawing set as a ``letter`` of the private use area; its ``data`` are thousandths of the em, y upwards."""

    name: str
    letter: str
    data: str


class Run(Record, frozen=True, kw_only=True):
    """A stretch of text in one style within a paragraph; no ``ink`` is the role's.

    What makes an exception of it: a ``face`` (``Family/Style``) of its own, a ``size`` in per cent of the role's,
    ``tracking`` (1/1000 em) beside the role's, and ``light``, a look without a name.
    """

    text: str
    bold: bool = False
    italic: bool = False
    small_caps: bool = False
    rise: Literal["", "superior", "inferior"] = ""
    ink: str = ""
    face: str = ""
    size: float = 100.0
    tracking: float = 0.0
    light: Look | None = None


class Paragraph(Record, frozen=True, kw_only=True):
    """Runs under a role of the type sheet.

    ``looseness`` asks for so many lines more or fewer than are best, ``tracking`` adds to the role's; a ``language``
    of its own is hyphenated and quoted as such. ``filler`` is the checksum of the filler copy it was made as.
    """

    role: str
    runs: tuple[Run, ...]
    looseness: int = 0
    tracking: float = 0.0
    language: str = ""
    filler: str = ""

    @property
    def text(self) -> str:
        return "".join(run.text for run in self.runs)


class Story(Record, frozen=True, kw_only=True):
    """A text that runs through any number of blocks; one that ``lists`` the others has folios that follow the pages."""

    id: str
    title: str
    paragraphs: tuple[Paragraph, ...]
    language: str = "en_GB"
    lists: bool = False
