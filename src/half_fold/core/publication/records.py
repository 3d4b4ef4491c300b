"""The document: one immutable record. An edit makes the next one; nothing is ever changed in place."""

from typing import Literal

import msgspec

from half_fold.core.measure.length import Length, length


class Record(msgspec.Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The base of every record in the file."""


class Paper(Record, frozen=True, kw_only=True):
    """A stock. What was typed of it is above nothing, the rest is derived.

    ``grammage`` in g/m2, ``volume`` in cm3/g, ``caliper`` in micrometres, ``ppi`` in pages to the inch, ``pounds``
    the US basis weight of its ``category``.
    """

    name: str
    grammage: float = 0.0
    volume: float = 0.0
    caliper: float = 0.0
    ppi: float = 0.0
    pounds: float = 0.0
    category: str = ""
    kind: str = "text"
    coated: bool = True


class Dummy(Record, frozen=True, kw_only=True):
    """A bound dummy that was measured: its block without the cover."""

    paper: str
    pages: int
    measured: Length
    date: str = ""
    note: str = ""


class PrinterSheet(Record, frozen=True, kw_only=True):
    """What a printer asks for. Lengths as typed; a zero or an empty text asks for nothing."""

    name: str
    unit: str = "mm"
    bleed: str = ""
    safe: str = ""
    spine_school: str = ""
    spine_rounding: str = ""
    spine_text_from: str = ""
    spine_text_pages: int = 0
    multiple: int = 0
    ink_limit: int = 0
    profile: str = ""
    marks: bool = True
    barcode: str = ""
    standard: str = "PDF/X-4"
    note: str = ""


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


class Brief(Record, frozen=True, kw_only=True):
    """What is made and what the printer asks for. Pages are counted in the running order, not here.

    ``boards`` to ``back`` are a case's; ``core`` and ``cored_ends`` those of lay-flat boards; ``measured`` lets
    dummies speak before the mill's figure; ``right_bound`` copies are read from right to left; ``press_date`` is
    YYYY-MM-DD.
    """

    width: Length
    height: Length
    binding: str
    text_paper: str
    cover_paper: str
    bleed: Length
    safe: Length
    fold_loss: Length | None = None
    spine_school: str = "covers"
    spine_rounding: str = "0.1mm"
    unit: str = "mm"
    flap: Length | None = None
    gatefold: bool = False
    boards: Length = length("2.5mm")
    back: Literal["flat", "round 60", "round 90", "round 120"] = "flat"
    endpapers: str = "none"
    jacket: str = "none"
    signature: int = 16
    swell: float = 1.0
    core: Length = length("0.5mm")
    cored_ends: bool = False
    folds_round: bool = False
    measured: bool = True
    right_bound: bool = False
    quantity: int = 0
    press_date: str = ""


class Grid(Record, frozen=True, kw_only=True):
    """Margins, columns and rows of fields; the gap between rows is in empty lines, so fields stay on the baseline."""

    head: Length
    foot: Length
    inside: Length
    outside: Length
    columns: int
    rows: int
    gutter: Length
    row_gap: int = 1


class Master(Record, frozen=True, kw_only=True):
    """A left and a right page that repeat: the grid and the furniture at the outer edge under the text.

    ``between`` is what lies between the two pages: nothing inside, the spine on the flat of a cover.
    """

    name: str
    grid: Grid
    between: Length | None = None
    folio: bool = True
    foot_left: str = ""
    foot_right: str = ""
    text_columns: int = 3


class Ink(Record, frozen=True, kw_only=True):
    """A process ink of the job's ink list: percentages of cyan, magenta, yellow and black."""

    name: str
    cyan: float
    magenta: float
    yellow: float
    black: float


class Role(Record, frozen=True, kw_only=True):
    """How a paragraph of one kind is set. Text after a tab begins at ``tab``, and so do its turned lines."""

    name: str
    label: str
    family: str
    style: str
    size: Length
    leading: Length
    align: Literal["justified", "left", "right", "centre"] = "justified"
    ink: str = "black"
    tint: float = 100.0
    hyphenate: bool = True
    indent: Length
    tab: Length | None = None
    before: int = 0
    small_caps: bool = False
    old_figures: bool = False


class Run(Record, frozen=True, kw_only=True):
    """A stretch of text in one style within a paragraph."""

    text: str
    bold: bool = False
    italic: bool = False


class Paragraph(Record, frozen=True, kw_only=True):
    """Runs under a role of the type sheet."""

    role: str
    runs: tuple[Run, ...]

    @property
    def text(self) -> str:
        return "".join(run.text for run in self.runs)


class Story(Record, frozen=True, kw_only=True):
    """A text that runs through any number of blocks."""

    id: str
    title: str
    paragraphs: tuple[Paragraph, ...]
    language: str = "en_GB"


class Picture(Record, frozen=True, kw_only=True):
    """A picture that was copied into the job; size in pixels."""

    id: str
    file: str
    width: int
    height: int
    digest: str
    has_alpha: bool = False


class Stop(Record, frozen=True, kw_only=True):
    """Where an edge sits: an address, not a coordinate.

    ``field`` lines are counted from 0 at the left or the head, and remember the ``count`` they were set
    against; ``facing`` means the other page of the spread; ``off`` moves the edge outwards from its stop.
    """

    kind: Literal["bleed", "trim", "margin", "field", "fold"]
    index: int = 0
    count: int = 0
    facing: bool = False
    off: Length | None = None


class HoldsPicture(Record, tag="picture", frozen=True, kw_only=True):
    """A picture that fills its block, or fits inside it; the focus (0 to 1) stays in view."""

    picture: str
    scale: Literal["fill", "fit"] = "fill"
    focus_x: float = 0.5
    focus_y: float = 0.5


class HoldsStory(Record, tag="story", frozen=True, kw_only=True):
    """A length of a story's thread; blocks of one thread are read in the order of pages and ``turn``."""

    story: str
    columns: int = 1
    turn: int = 0


class HoldsDisplay(Record, tag="display", frozen=True, kw_only=True):
    """A few words set for this block alone, flush to ``side`` ("" leaves that to the role).

    ``even`` makes a stack of them: each paragraph one line, at the size at which it fills the measure.
    """

    paragraphs: tuple[Paragraph, ...]
    stands: Literal["head", "middle", "foot"] = "head"
    size: Length | None = None
    side: Literal["", "left", "centre", "right"] = ""
    even: bool = False
    ink: str = ""


class HoldsBarcode(Record, tag="barcode", frozen=True, kw_only=True):
    """An EAN-13 with its add-on of 2 or 5 digits, at ``size`` per cent, at the foot of its block on ``side``.

    ``paragraphs`` (price, issue, date) stand above it.
    """

    number: str
    addon: str = ""
    size: float = 100.0
    side: Literal["left", "right"] = "left"
    paragraphs: tuple[Paragraph, ...] = ()


class HoldsPanel(Record, tag="panel", frozen=True, kw_only=True):
    """An area of ink, with a stroke if its weight is set."""

    ink: str = "black"
    tint: float = 100.0
    stroke: Length | None = None


class HoldsNothing(Record, tag="placeholder", frozen=True, kw_only=True):
    """A place kept free until it is decided what goes there."""


Holds = HoldsPicture | HoldsStory | HoldsDisplay | HoldsPanel | HoldsBarcode | HoldsNothing


class Block(Record, frozen=True, kw_only=True):
    """What sits on a page, held by its four edges."""

    id: str
    left: Stop
    top: Stop
    right: Stop
    bottom: Stop
    holds: Holds
    inset: Length | None = None


class Page(Record, frozen=True, kw_only=True):
    """A page of the running order: its master and its blocks from back to front.

    A block that crosses the fold belongs to the page it starts on. Spreads are pairs of pages in order. ``state``
    is what was said of it; ``advert`` is how much of it is sold.
    """

    id: str
    master: str
    blocks: tuple[Block, ...] = ()
    runs: str = ""
    state: Literal["", "copy in", "proofed", "passed"] = ""
    advert: Literal["", "spread", "page", "half", "third", "quarter"] = ""


COVER_MARGIN = length("10mm")
COVER_GRID = Grid(
    head=COVER_MARGIN,
    foot=COVER_MARGIN,
    inside=COVER_MARGIN,
    outside=COVER_MARGIN,
    columns=6,
    rows=12,
    gutter=length("4mm"),
    row_gap=0,
)


class Cover(Record, frozen=True, kw_only=True):
    """The cover as a flat: an ink over all of it, and blocks on its four pages from back to front.

    ``front`` and ``back`` are seen from outside; the inside covers may be blank. ``spine`` is what the spine
    says, sized to its clearance unless ``spine_size`` is set, from head to foot unless it ``reads_up``.
    """

    ink: str = "straw"
    tint: float = 100.0
    grid: Grid = COVER_GRID
    back: tuple[Block, ...] = ()
    front: tuple[Block, ...] = ()
    inside_front: tuple[Block, ...] = ()
    inside_back: tuple[Block, ...] = ()
    spine: str = "{title}\u2003{issue}\u2003{season}"
    spine_ink: str = "black"
    spine_size: Length | None = None
    reads_up: bool = False


class CardPart(Record, frozen=True, kw_only=True):
    """A part of a reply card, from its head down: lines to write on, boxes to tick, words, or a reserved panel."""

    kind: Literal["words", "lines", "ticks", "reply-paid"]
    text: str = ""
    count: int = 1


class Insert(Record, frozen=True, kw_only=True):
    """What is bound or tipped in after page ``after`` (an id), between two leaves of the text.

    ``width`` and ``height`` are the card's own, ``up`` how many stand to the page's height. ``cut`` (where the card is
    cut from its stub) and ``perforations`` are measured on the recto from its left edge.
    """

    id: str
    name: str
    kind: Literal["card", "tip-in", "gatefold"]
    after: str
    paper: str
    width: Length
    height: Length
    up: int = 1
    stub: Length = length("75mm")
    cut: Length = length("10mm")
    perforations: tuple[Length, ...] = ()
    counts: bool = False
    parts: tuple[CardPart, ...] = ()


class Schedule(Record, frozen=True, kw_only=True):
    """Working days back from the press date for each step, and days that are not worked (YYYY-MM-DD)."""

    files: int = 3
    passed: int = 2
    proofs: int = 3
    cover: int = 2
    copy: int = 15
    holidays: tuple[str, ...] = ()


class Publication(Record, frozen=True, kw_only=True):
    """The whole job."""

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
    cover: Cover = Cover()
