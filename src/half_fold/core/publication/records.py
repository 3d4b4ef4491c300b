"""The document: one immutable record. An edit makes the next one; nothing is ever changed in place."""

from typing import Annotated, Literal, get_args

from msgspec import Meta

from half_fold.core.measure.length import Length, length
from half_fold.core.publication.places import Place, Record, Stop


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
    category: Literal["", "book", "cover", "bond", "index", "tag", "newsprint", "bristol"] = ""
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
    picture_ppi: int = 0
    overprint: str = ""
    overprint_to: str = ""
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


# Of pixels, how many go to the inch.
Unit = Annotated[str, Meta(pattern=r"^(mm|cm|um|in|pt|pica|q|px@[0-9]{1,4}(\.[0-9]{1,3})?)$")]


class Brief(Record, frozen=True, kw_only=True):
    """What is made and what the printer asks for. Pages are counted in the running order, not here.

    ``spine`` is what the printer gave, and wins over what is worked out. ``boards`` to ``back`` are a case's; ``core``
    and ``cored_ends`` those of lay-flat boards; ``measured`` lets dummies speak before the mill's figure;
    ``right_bound`` copies are read from right to left; ``press_date`` is YYYY-MM-DD.
    """

    width: Length
    height: Length
    binding: Literal[
        "saddle", "single", "perfect", "burst", "sewn", "case", "coil", "boards", "sheet", "flat", "alone", "screen"
    ]
    text_paper: str
    cover_paper: str
    bleed: Length
    safe: Length
    fold_loss: Length | None = None
    spine_school: Literal["block", "covers", "covers+glue"] = "covers"
    spine_rounding: Literal["0.1mm", "0.5mm", "1/64in", "none"] = "0.1mm"
    unit: Unit = "mm"
    flap: Length | None = None
    spine: Length | None = None
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


PencilEdge = Literal["head", "foot", "fold", "outside"]


class Pencil(Record, frozen=True, kw_only=True):
    """A line that is pencilled on a page, so far ``at`` from an edge of it, and again ``every`` so much from there.

    Its ``number`` is what stops know it by.
    """

    number: int
    edge: PencilEdge
    at: Length
    every: Length | None = None


class Grid(Record, frozen=True, kw_only=True):
    """Margins, columns and rows of fields; the gap between rows is in empty lines, so fields stay on the baseline.

    ``columns_over`` lays a second count of columns over the first, where it is not 0. ``guides`` divide the trimmed
    page.
    """

    head: Length
    foot: Length
    inside: Length
    outside: Length
    columns: int
    rows: int
    gutter: Length
    row_gap: int = 1
    columns_over: int = 0
    guides: tuple[Literal["halves", "thirds", "quarters"], ...] = ()
    pencil: tuple[Pencil, ...] = ()


class Furniture(Record, frozen=True, kw_only=True):
    """What repeats on the pages of a master, outside the text area.

    It stands at the ``head`` or the ``foot``, ``lines`` baseline steps from the text area, on one side of it or in the
    centre; pieces of one line and side follow one another from there. Words name what they pick up: {folio},
    {section}, {chapter}, {story}, {title}, {issue}, {season}, {date}. A rule runs over the ``text``, the ``page`` or
    to the ``outside``. A picture is ``width`` wide and keeps its proportion; a frame runs round the page, ``width``
    inside the trim. No ``ink`` is black alone.
    """

    id: str
    kind: Literal["words", "rule", "picture", "frame"] = "words"
    pages: Literal["both", "left", "right"] = "both"
    at: Literal["head", "foot"] = "foot"
    side: Literal["outside", "centre", "inside"] = "outside"
    lines: float = 2.0
    words: str = ""
    role: str = "running foot"
    weight: Length = length("0.5pt")
    over: Literal["text", "page", "outside"] = "text"
    ink: str = ""
    picture: str = ""
    width: Length = length("12mm")


class Master(Record, frozen=True, kw_only=True):
    """A left and a right page that repeat: the grid, and the furniture round the text.

    One ``based_on`` another carries its furniture under its own, and stands on its grid where it ``takes_grid``.
    ``between`` is what lies between the two pages: nothing inside, the spine on the flat of a cover.
    """

    name: str
    grid: Grid
    based_on: str = ""
    takes_grid: bool = False
    between: Length | None = None
    furniture: tuple[Furniture, ...] = ()
    text_columns: int = 3


class Ink(Record, frozen=True, kw_only=True):
    """An ink of the job's ink list: percentages of cyan, magenta, yellow and black.

    A ``spot`` is printed from a plate of its own, and its shares stand in for it elsewhere. ``screen`` (#rrggbb) is
    what it was asked for as, where that was a colour of a screen: its shares are as near to it as print comes.
    """

    name: str
    cyan: float
    magenta: float
    yellow: float
    black: float
    spot: bool = False
    screen: str = ""


class FadeStop(Record, frozen=True, kw_only=True):
    """An ink with its tint at a place of a fade (per cent of the way), and how opaque it is there."""

    ink: str
    at: float
    tint: float = 100.0
    opacity: float = 100.0


class Fade(Record, frozen=True, kw_only=True):
    """A run from ink to ink, named as an ink is wherever an area is filled.

    It runs ``straight`` across what it fills, turned clockwise by ``angle`` degrees from left to right, or ``outward``
    from its middle.
    """

    name: str
    stops: tuple[FadeStop, ...]
    way: Literal["straight", "outward"] = "straight"
    angle: float = 0.0


class Shadow(Record, frozen=True, kw_only=True):
    """What a thing takes of the light: so far from it, so soft at its edge; ``angle`` is where it falls, if not as all.

    An angle of 0 falls to the right, of 90 down. No ``ink`` is black alone.
    """

    distance: Length = length("1mm")
    blur: Length = length("1mm")
    ink: str = ""
    opacity: float = 40.0
    angle: float | None = None


class Glow(Record, frozen=True, kw_only=True):
    """Light round a thing, so far out. No ``ink`` is bare paper."""

    reach: Length = length("2mm")
    ink: str = ""
    opacity: float = 75.0


Range = Literal["reds", "oranges", "yellows", "greens", "blues", "purples"]


class Hue(Record, frozen=True, kw_only=True):
    """The hues of a range turned by so many degrees."""

    range: Range
    by: float


PicturePoint = tuple[float, float]  # a point of a picture, as shares of its width and height


class Slope(Record, tag="slope", frozen=True, kw_only=True):
    """A part of a picture: nothing of it before ``start``, all after ``end``, and more and more between."""

    start: PicturePoint
    end: PicturePoint


class Oval(Record, tag="oval", frozen=True, kw_only=True):
    """A part of a picture: inside an ellipse, whose half axes are shares of its sides; ``soft`` per cent of the way in.

    It is all but that where ``outside`` is set.
    """

    middle: PicturePoint
    half: PicturePoint
    soft: float = 50.0
    outside: bool = False


class Drawn(Record, tag="drawn", frozen=True, kw_only=True):
    """A part of a picture: inside an outline through points; ``soft`` in thousandths of the longer side."""

    points: Annotated[tuple[PicturePoint, ...], Meta(min_length=3)]
    soft: float = 10.0
    outside: bool = False


class Brushed(Record, tag="brushed", frozen=True, kw_only=True):
    """A part of a picture: where strokes of a brush went, in a file among the job's masks."""

    file: str
    outside: bool = False


class Coloured(Record, tag="coloured", frozen=True, kw_only=True):
    """A part of a picture: where it has nearly a ``colour`` (``#rrggbb``), no farther off than ``reach`` in L*a*b*."""

    colour: Annotated[str, Meta(pattern="^#[0-9a-f]{6}$")]
    reach: float = 20.0
    outside: bool = False


Region = Slope | Oval | Drawn | Brushed | Coloured


class Area(Record, frozen=True, kw_only=True):
    """A treatment of one part of a picture, upon that of the whole."""

    where: Region
    treatment: "Treatment"


class Patch(Record, frozen=True, kw_only=True):
    """What a stray thing was painted away with: a file among the job's masks, and where it lies as shares."""

    file: str
    left: float
    top: float
    right: float
    bottom: float


class Upright(Record, frozen=True, kw_only=True):
    """Two lines of a picture, each from a point to a point, that are made upright."""

    first: tuple[PicturePoint, PicturePoint]
    second: tuple[PicturePoint, PicturePoint]


class Treatment(Record, frozen=True, kw_only=True):
    """How a picture is developed; nothing of it is done to its file.

    ``exposure`` is in stops; ``contrast``, ``warmth``, ``tint`` (from green to magenta), ``saturation`` and
    ``vibrance`` go from -100 to 100; ``black`` and ``white`` are per cent of the way to white. Curves go through
    places, per cent from and to. A ``grey`` weighs red, green and blue, but for the range that is ``kept``; ``toned``
    it is printed in inks, from its blacks to its whites. ``faded`` is per cent of the way to paper, ``blur``
    thousandths of the longer side, ``sharpen`` per cent at the printed size. ``patches`` mend it before all else;
    what is to be ``upright`` in it is. ``areas`` are parts treated by themselves, and only what lies in ``seen`` is
    shown.
    """

    exposure: float = 0.0
    contrast: float = 0.0
    black: float = 0.0
    white: float = 100.0
    warmth: float = 0.0
    tint: float = 0.0
    saturation: float = 0.0
    vibrance: float = 0.0
    hues: tuple[Hue, ...] = ()
    curve: tuple[tuple[float, float], ...] = ()
    curve_red: tuple[tuple[float, float], ...] = ()
    curve_green: tuple[tuple[float, float], ...] = ()
    curve_blue: tuple[tuple[float, float], ...] = ()
    grey: bool = False
    weights: tuple[float, float, float] = (30.0, 59.0, 11.0)
    kept: Literal["", "reds", "oranges", "yellows", "greens", "blues", "purples"] = ""
    toned_dark: str = ""
    toned_middle: str = ""
    toned_light: str = ""
    faded: float = 0.0
    blur: float = 0.0
    sharpen: float = 0.0
    patches: tuple[Patch, ...] = ()
    upright: Upright | None = None
    areas: tuple[Area, ...] = ()
    seen: Region | None = None


class Look(Record, frozen=True, kw_only=True):
    """A treatment that is kept: of words by their role, or of all that a block prints.

    ``outline`` is a stroke outside of letters and shapes, ``fill`` an ink or a fade in place of their own, ``picture``
    one that is seen through letters as through windows. In words all
    lengths are those at the role's own size, and grow with it. No ``outline_ink`` is black alone. Pictures are treated
    by its ``treatment`` where they have none of their own.
    """

    name: str
    fill: str = ""
    picture: str = ""
    outline: Length | None = None
    outline_ink: str = ""
    shadow: Shadow | None = None
    glow: Glow | None = None
    treatment: Treatment | None = None


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
    capitals: bool = False
    small_caps: bool = False
    old_figures: bool = False
    tabular: bool = False
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


OutputForm = Literal["pages", "spreads", "sheets"]
OUTPUT_FORMS: tuple[OutputForm, OutputForm, OutputForm] = get_args(OutputForm)


class Output(Record, frozen=True, kw_only=True):
    """What the job is made into: a ``part`` by its key, or pages, in a ``form``, with the printer's ``marks`` or not.

    One ``to_read`` is for a screen, not a press. Pictures are no finer than ``ppi``, if it is not 0.
    """

    name: str
    part: str = "pages"
    form: OutputForm = "pages"
    marks: bool = False
    to_read: bool = False
    ppi: int = 0


class Goods(Record, frozen=True, kw_only=True):
    """A table of goods, from a ``file``: its rows go by the words in the first of its ``columns``."""

    columns: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    file: str = ""


class Symbol(Record, frozen=True, kw_only=True):
    """A drawing set as a ``letter`` of the private use area; its ``data`` are thousandths of the em, y upwards."""

    name: str
    letter: str
    data: str


class Run(Record, frozen=True, kw_only=True):
    """A stretch of text in one style within a paragraph; no ``ink`` is the role's.

    What makes an exception of it: a ``face`` (``Family/Style``) of its own, a ``size`` in per cent of the role's, and
    ``tracking`` (1/1000 em) beside the role's.
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


class ArtStop(Record, frozen=True, kw_only=True):
    """A colour (#rrggbb) at a place of a gradient in vector art, 0 to 1, and how opaque it is."""

    at: float
    colour: str
    opacity: float = 1.0


class ArtGradient(Record, frozen=True, kw_only=True):
    """A gradient in vector art: ``matrix`` brings the line from 0 to 1, or the circle of radius 1, to where it lies."""

    way: Literal["linear", "radial"]
    matrix: tuple[float, float, float, float, float, float]
    stops: Annotated[tuple[ArtStop, ...], Meta(min_length=1)]


class Art(Record, frozen=True, kw_only=True):
    """A filled shape of vector art: ``data`` are operators and places in the picture's own units, M, L, C and Z.

    It is filled with a ``colour`` (#rrggbb) or a gradient.
    """

    data: str
    colour: str = ""
    gradient: ArtGradient | None = None
    opacity: float = 1.0


Worth = Literal["", "opens", "carries", "fills", "left out"]


class Point(Record, frozen=True, kw_only=True):
    """A named point of a picture, as shares of its width and height."""

    name: str
    across: float
    down: float


class Picture(Record, frozen=True, kw_only=True):
    """A picture that was copied into the job; size in pixels.

    ``outline`` is that of a cut-out: where its bands from head to foot begin and end, as shares of the width. ``inks``
    is what was said of how it prints: in ``black`` alone, a grey in all ``four``, its own inks ``kept`` or
    ``converted``, or ``held`` to the paper's limit. Vector ``art`` is printed as outlines, back to front, whatever its
    size; ``left_out`` is what of its file was not understood. ``tones`` is how light its parts are, a letter each. A
    cut-out shares its file with the picture it was cut out of, and has a ``mask``. ``worth`` is what a picture desk
    says of it, ``caption`` and ``credit`` what its own file said, or was typed since. Areas to ``keep_clear`` (left,
    top, right and bottom as shares) are not to be cut or covered; ``points`` of it have names.
    """

    id: str
    file: str
    width: int
    height: int
    digest: str
    has_alpha: bool = False
    inks: Literal["", "black", "four", "kept", "converted", "held"] = ""
    outline: tuple[tuple[float, float], ...] = ()
    art: tuple[Art, ...] = ()
    left_out: str = ""
    tones: str = ""
    mask: str = ""
    worth: Worth = ""
    caption: str = ""
    credit: str = ""
    keep_clear: tuple[tuple[float, float, float, float], ...] = ()
    points: tuple[Point, ...] = ()


Corner = Literal["head left", "head right", "foot right", "foot left"]


class Form(Record, frozen=True, kw_only=True):
    """The outline of a panel or a picture in its block.

    ``corner`` is how large the corners of a rectangle are, each ``corners`` way, at the places ``only`` names or all.
    A ring leaves ``hole`` per cent of its width open; a burst has so many ``points``, ``depth`` per cent of its radius
    deep; a banner's ends are cut ``depth`` per cent of its height deep; a flash lies across one corner, ``depth`` per
    cent of its shorter side wide. A polygon has its ``places`` as shares of the block's width and height. All are
    sliced along a line from ``slice`` (two such places), of which what lies to its left is kept.
    """

    kind: Literal["rectangle", "ellipse", "circle", "ring", "burst", "banner", "flash", "polygon"] = "rectangle"
    corner: Length | None = None
    corners: Literal["round", "slanted", "cut", "hollow"] = "round"
    only: tuple[Corner, ...] = ()
    hole: float = 60.0
    points: int = 16
    depth: float = 20.0
    places: tuple[tuple[float, float], ...] = ()
    slice: tuple[tuple[float, float], ...] = ()


RECTANGLE = Form()


class Edge(Record, frozen=True, kw_only=True):
    """A stroke along an outline, all of it inside, outside, or half to either side; whole, in dashes or in dots.

    No ``ink`` is black alone. About so much paper as ``gap`` lies between dashes or dots, shared out along the outline.
    """

    weight: Length = length("1pt")
    ink: str = ""
    tint: float = 100.0
    dashes: Literal["none", "dashed", "dotted"] = "none"
    gap: Length | None = None
    side: Literal["inside", "centred", "outside"] = "inside"


class Aim(Record, frozen=True, kw_only=True):
    """A point of a picture, by its name, that is to lie on a stop of its page, where an ``edge`` of a block would."""

    point: str
    edge: Literal["left", "top", "right", "bottom"]
    stop: Stop


class HoldsPicture(Record, tag="picture", frozen=True, kw_only=True):
    """A picture that fills its block, or fits inside it; the focus (0 to 1) stays in view.

    It is drawn so many times ``closer`` than that, turned by ``turn`` degrees clockwise, and ``flipped`` as in a mirror
    before that. It may be ``repeated`` to both sides by its own mirror images. Vector art is all in ``ink``, if one is
    named. Across the fold it may be ``parted``, so that the binding swallows nothing of it. ``aims`` bring points of it
    to stops. On the front of a cover it may be the publication's drawn name, its ``masthead``.
    """

    picture: str
    scale: Literal["fill", "fit"] = "fill"
    focus_x: float = 0.5
    focus_y: float = 0.5
    closer: float = 1.0
    turn: float = 0.0
    flipped: bool = False
    repeated: bool = False
    parted: bool = False
    aims: tuple[Aim, ...] = ()
    treatment: Treatment | None = None
    ink: str = ""
    form: Form = RECTANGLE
    edge: Edge | None = None
    masthead: bool = False


class Ground(Record, frozen=True, kw_only=True):
    """What words stand on: an area of ``ink`` ("" for none), in its form, with its edge.

    It fills their block, or ``hugs`` what they print, so far off as the block's inset.
    """

    ink: str = ""
    tint: float = 100.0
    form: Form = RECTANGLE
    edge: Edge | None = None
    hugs: bool = False


class HoldsStory(Record, tag="story", frozen=True, kw_only=True):
    """A length of a story's thread; blocks of one thread are read in the order of pages and ``turn``.

    Where the story ends in a ``balanced`` block, its columns are made as even as lines allow.
    """

    story: str
    columns: int = 1
    turn: int = 0
    balanced: bool = False


class HoldsDisplay(Record, tag="display", frozen=True, kw_only=True):
    """A few words set for this block alone, flush to ``side`` ("" leaves that to the role).

    ``even`` makes a stack of them: each paragraph one line that fills the measure by its size, by letters made wider or
    narrower, or by its tracking. They lie
    ``straight``, along an arc of ``bend`` degrees or a wave, or letter under letter; on their ``ground``, if any.
    Lines in another role than the first are ``second`` per cent of its size, where that is not 0. Words that keep
    ``calm`` move to a calmer place when another picture comes to lie under them.
    """

    paragraphs: tuple[Paragraph, ...]
    second: float = 0.0
    calm: bool = False
    stands: Literal["head", "middle", "foot"] = "head"
    size: Length | None = None
    side: Literal["", "left", "centre", "right"] = ""
    even: bool = False
    even_by: Literal["size", "width", "tracking", "both"] = "size"
    ink: str = ""
    ground: Ground | None = None
    lies: Literal["straight", "arched up", "arched down", "wave", "letter under letter"] = "straight"
    bend: float = 90.0


class HoldsBarcode(Record, tag="barcode", frozen=True, kw_only=True):
    """An EAN-13 with its add-on of 2 or 5 digits, at ``size`` per cent, at the foot of its block on ``side``.

    ``paragraphs`` (price, issue, date) stand above it. Its bars are ``tall`` per cent of the standard's own and each is
    ``narrowed`` by thousandths of a millimetre, for a press that thickens them. They are in ``ink`` (no name is black
    alone), on a white panel of their own where it is ``white``.
    """

    number: str
    addon: str = ""
    size: float = 100.0
    side: Literal["left", "right"] = "left"
    paragraphs: tuple[Paragraph, ...] = ()
    tall: float = 100.0
    narrowed: float = 0.0
    ink: str = ""
    white: bool = True


class HoldsCode(Record, tag="code", frozen=True, kw_only=True):
    """A QR code that ``says`` an address or words, as large as its block allows, with its quiet zone.

    ``proof`` is how much of it may be lost and it is still read: 7, 15, 25 or 30 per cent. It is in ``ink`` (no name is
    black alone), on a white panel of its own where it is ``white``.
    """

    says: str = ""
    proof: Literal["low", "medium", "high", "highest"] = "medium"
    ink: str = ""
    white: bool = True


class HoldsPanel(Record, tag="panel", frozen=True, kw_only=True):
    """An area of ``ink`` or a fade ("" for none) in its form, and its edge."""

    ink: str = "black"
    tint: float = 100.0
    form: Form = RECTANGLE
    edge: Edge | None = None


class HoldsRule(Record, tag="rule", frozen=True, kw_only=True):
    """A straight line in its block, from side to side or from corner to corner; no ``ink`` is black alone.

    One that runs ``across`` stands at the head, in the middle or at the foot of its block; one that runs ``down`` at
    the left, in the middle or at the right.
    """

    weight: Length = length("1pt")
    ink: str = ""
    tint: float = 100.0
    runs: Literal["across", "down", "falling", "rising"] = "across"
    stands: Literal["first", "middle", "last"] = "middle"
    dashes: Literal["none", "dashed", "dotted"] = "none"
    gap: Length | None = None
    is_round: bool = False


class HoldsNothing(Record, tag="placeholder", frozen=True, kw_only=True):
    """A place kept free until it is decided what goes there."""


Holds = HoldsPicture | HoldsStory | HoldsDisplay | HoldsPanel | HoldsRule | HoldsBarcode | HoldsCode | HoldsNothing


class Wrap(Record, frozen=True, kw_only=True):
    """How text of stories keeps off a block: round its box, an ellipse in it, or the outline of its cut-out.

    ``side`` is where text may run beside it; ``offset`` is kept clear all round.
    """

    shape: Literal["box", "ellipse", "outline"] = "box"
    side: Literal["both", "left", "right", "larger"] = "larger"
    offset: Length = length("3mm")


Blend = Literal["normal", "multiply", "screen", "darken", "lighten", "overlay", "soft-light"]


Side = Literal["", "under", "over", "left", "right"]


class Block(Record, tag="block", frozen=True, kw_only=True):
    """What sits on a page, in its ``place``; ``name`` is what the user calls it, if anything.

    All of it is seen through to what lies behind where its ``opacity`` is below 100 (per cent), and mixes with that
    by its ``blend``. One that is ``locked`` keeps what it is and where.
    It is turned about its middle by ``angle`` degrees clockwise, with all it holds. Things of one ``link`` are alike,
    but for where they lie and the properties that a block ``differs`` in. Words may be the caption ``of`` a picture's
    block, and keep to a side ``beside`` it. They are filled in from a ``row`` of the job's goods.
    """

    id: str
    place: Place
    holds: Holds
    name: str = ""
    inset: Length | None = None
    wrap: Wrap | None = None
    opacity: float = 100.0
    blend: Blend = "normal"
    locked: bool = False
    angle: float = 0.0
    look: str = ""
    link: str = ""
    differs: tuple[str, ...] = ()
    of: str = ""
    beside: Side = ""
    row: str = ""


Keeps = Literal["", "even across", "even down", "centred", "centred across", "centred down"]


class Group(Record, tag="group", frozen=True, kw_only=True):
    """Things that are moved, hidden and turned as one; each still lies where its own place says.

    Opacity and blend are those of all its ``members`` together. It is turned about the middle of what they reach. It
    ``keeps`` the gaps between its members even, or the others centred in the one at the back.
    """

    id: str
    members: tuple["Thing", ...]
    name: str = ""
    opacity: float = 100.0
    blend: Blend = "normal"
    locked: bool = False
    angle: float = 0.0
    link: str = ""
    keeps: Keeps = ""


Thing = Block | Group


def blocks_of(things: tuple[Thing, ...]) -> tuple[Block, ...]:
    """The blocks among things and in their groups, from back to front; the same tuple where there is no group."""
    if all(isinstance(thing, Block) for thing in things):
        return things  # type: ignore[return-value]  # which mypy does not see from all()
    return tuple(
        block for thing in things for block in ((thing,) if isinstance(thing, Block) else blocks_of(thing.members))
    )


class Page(Record, frozen=True, kw_only=True):
    """A page of the running order: its master and its things from back to front.

    A block that crosses the fold belongs to the page it starts on. Spreads are pairs of pages in order. ``state``
    is what was said of it; ``advert`` is how much of it is sold. A page whose ``master`` is "" has none; ``grid`` is
    its own instead of the master's, and furniture whose id is in ``without`` does not stand on it; where a picture
    covers it all, ``furniture`` is left off, unless it is set ``over``. One that is ``standing`` is the same in every
    number.
    """

    id: str
    master: str
    things: tuple[Thing, ...] = ()
    runs: str = ""
    grid: Grid | None = None
    without: tuple[str, ...] = ()
    furniture: Literal["", "over", "off"] = ""
    state: Literal["", "copy in", "proofed", "passed"] = ""
    advert: Literal["", "spread", "page", "half", "third", "quarter"] = ""
    standing: bool = False

    @property
    def blocks(self) -> tuple[Block, ...]:
        """Its blocks from back to front, those of groups among them."""
        return blocks_of(self.things)


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


class SpinePiece(Record, frozen=True, kw_only=True):
    """Words, or a picture such as a publisher's mark, on the spine; no ``ink`` is that of the spine's words.

    It ``stands`` where the spine begins to be read, in its middle, or at its end, at ``size`` per cent of the spine's.
    """

    words: str = ""
    picture: str = ""
    ink: str = ""
    stands: Literal["start", "middle", "end"] = "start"
    size: float = 100.0


class Cover(Record, frozen=True, kw_only=True):
    """The cover as a flat: an ink over all of it, and blocks on its four pages from back to front.

    ``front`` and ``back`` are seen from outside; the inside covers may be blank. ``spine`` is what the spine
    says, sized to its clearance unless ``spine_size`` is set, from head to foot unless it ``reads_up``; its ``pieces``
    stand in place of that where there are any. A panel may have an ink or a fade of its own. A ``row_picture`` runs
    over the spines of ``row_of`` copies that stand side by side, of which this is number ``row_at``. A job may have
    several covers, each with a ``name``.
    """

    name: str = ""
    back_ink: str = ""
    front_ink: str = ""
    spine_ground: str = ""
    flap_ink: str = ""
    joint_ink: str = ""
    turn_in_ink: str = ""
    pieces: tuple[SpinePiece, ...] = ()
    row_picture: str = ""
    row_of: int = 3
    row_at: int = 1
    back_flap: tuple[Thing, ...] = ()
    front_flap: tuple[Thing, ...] = ()

    ink: str = "straw"
    tint: float = 100.0
    grid: Grid = COVER_GRID
    back: tuple[Thing, ...] = ()
    front: tuple[Thing, ...] = ()
    inside_front: tuple[Thing, ...] = ()
    inside_back: tuple[Thing, ...] = ()
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
    cut from its stub) and ``perforations`` are measured on the recto from its left edge. ``parts`` are those of the
    recto, ``verso`` those of the other face; under them lie blocks, ``front`` on the recto and ``back`` on the verso.
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
    verso: tuple[CardPart, ...] = ()
    front: tuple[Thing, ...] = ()
    back: tuple[Thing, ...] = ()


class Schedule(Record, frozen=True, kw_only=True):
    """Working days back from the press date for each step, and days that are not worked (YYYY-MM-DD)."""

    files: int = 3
    passed: int = 2
    proofs: int = 3
    cover: int = 2
    copy: int = 15
    holidays: tuple[str, ...] = ()


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
    cover_of: Literal["", "magazine", "book", "catalogue", "photo-book"] = ""
    spelled: bool = False
