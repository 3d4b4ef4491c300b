"""The brief, the papers it names, and what the printer’s sheet asks for."""

from typing import Annotated, Literal

from msgspec import Meta

from half_fold.core.measure.length import Length, length
from half_fold.core.publication.places import Record


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


class Schedule(Record, frozen=True, kw_only=True):
    """Working days back from the press date for each step, and days that are not worked (YYYY-MM-DD)."""

    files: int = 3
    passed: int = 2
    proofs: int = 3
    cover: int = 2
    copy: int = 15
    holidays: tuple[str, ...] = ()
