"""The publication: all that a job is."""

from typing import Literal, get_args

from half_fold.core.measure.length import Length
from half_fold.core.publication.places import Record
from half_fold.core.publication.records.blocks import Page
from half_fold.core.publication.records.briefs import Brief, Dummy, Paper, PrinterSheet, Schedule
from half_fold.core.publication.records.covers import Cover, Insert
from half_fold.core.publication.records.grids import Master
from half_fold.core.publication.records.inks import Fade, Ink, Look
from half_fold.core.publication.records.pictures import Picture
from half_fold.core.publication.records.texts import Font, Role, Story, Symbol, TextRole


class Section(Record, frozen=True, kw_only=True):
    """A run of pages under a name, from page ``first`` (an id) to the next section.

    It ``starts`` on a recto, or on the next page whichever that is; ``offset`` is what its first folio counts
    from (0 goes on from the page before). ``paper`` is its own, or "" for the text paper.
    """

    name: str
    first: str
    starts: Literal["next", "recto"] = "next"
    folios: Literal["arabic", "roman", "hidden"] = "arabic"
    offset: int = 0
    paper: str = ""


OutputForm = Literal["pages", "spreads", "sheets"]
OUTPUT_FORMS: tuple[OutputForm, OutputForm, OutputForm] = get_args(OutputForm)


class Output(Record, frozen=True, kw_only=True):
    """What the job is made into: a ``part`` by its key, or pages, in a ``form``, with the printer's ``marks`` or not.

    One ``to_read`` is for a screen, not a press. Pictures are no finer than ``ppi``, if it is not 0. It is made
    ``without`` the things of some sets.
    """

    name: str
    part: str = "pages"
    form: OutputForm = "pages"
    marks: bool = False
    to_read: bool = False
    ppi: int = 0
    without: tuple[str, ...] = ()


class ThingSet(Record, frozen=True, kw_only=True):
    """A name for things wherever they lie. Those of a ``hidden`` one are out of sight while others are worked on.

    They print as ever, unless an output is made without them; those of a ``locked`` one keep what they are and where.
    """

    name: str
    hidden: bool = False
    locked: bool = False


class Goods(Record, frozen=True, kw_only=True):
    """A table of goods, from a ``file``: its rows go by the words in the first of its ``columns``."""

    columns: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    file: str = ""


class Manner(Record, frozen=True, kw_only=True):
    """How pictures are arranged: what counts, per cent of what it counts usually, 0 for not at all.

    A ``variety`` below 0 looks for what is like the spreads beside it. ``room`` is per cent of the pages that pictures
    take in all; ``bleed`` leans to the margins (-100) or out to the bleed (100). With a ``frame`` nothing bleeds: what
    would keeps so far inside the trim, the same all round once it is trimmed.
    """

    crop: float = 100.0
    fold: float = 100.0
    sharp: float = 100.0
    size: float = 100.0
    looks: float = 100.0
    rank: float = 100.0
    order: float = 100.0
    edges: float = 100.0
    balance: float = 100.0
    white: float = 100.0
    contrast: float = 100.0
    variety: float = 100.0
    room: float = 80.0
    bleed: float = 0.0
    frame: Length | None = None


class Publication(Record, frozen=True, kw_only=True):
    """The whole job. ``light`` is where shadows fall: degrees clockwise from the right.

    ``covers`` are the versions of its cover that are not the one in use; ``cover_of`` is what a cover by itself is of.
    Where it is ``spelled``, words that no dictionary knows are findings.
    """

    title: str
    kind: str
    brief: Brief
    papers: tuple[Paper, ...]
    masters: tuple[Master, ...]
    roles: tuple[Role, ...]
    inks: tuple[Ink, ...]
    pages: tuple[Page, ...]
    issue: str = ""
    season: str = ""
    language: str = "en_GB"
    stories: tuple[Story, ...] = ()
    pictures: tuple[Picture, ...] = ()
    unplaced: tuple[Page, ...] = ()
    sections: tuple[Section, ...] = ()
    inserts: tuple[Insert, ...] = ()
    schedule: Schedule = Schedule()
    dummies: tuple[Dummy, ...] = ()
    printer: PrinterSheet | None = None
    fonts: tuple[Font, ...] = ()
    text_roles: tuple[TextRole, ...] = ()
    goods: Goods | None = None
    date: str = ""
    cover: Cover = Cover()
    fades: tuple[Fade, ...] = ()
    looks: tuple[Look, ...] = ()
    light: float = 45.0
    manner: Manner = Manner()
    covers: tuple[Cover, ...] = ()
    author: str = ""
    publisher: str = ""
    price: str = ""
    slogan: str = ""
    symbols: tuple[Symbol, ...] = ()
    outputs: tuple[Output, ...] = ()
    sets: tuple[ThingSet, ...] = ()
    cover_of: Literal["", "magazine", "book", "catalogue", "photo-book"] = ""
    spelled: bool = False
