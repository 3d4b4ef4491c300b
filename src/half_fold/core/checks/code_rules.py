"""Rules about codes that are read by machines: what they say, how fine they are, and how they stand off their ground.

Contrast by ISO/IEC 15416: the difference of reflectance between the lightest ground and the darkest bar is 0.4 or more
(grade 2), and bars throw back no more than half of what the ground does. Scanners look at 660 nm, where magenta and
yellow are as bare paper; phones look at light as eyes do.
"""

from collections.abc import Iterator
from functools import partial
from pathlib import Path

import numpy as np
import numpy.typing as npt
from msgspec.structs import replace
from msgspec.structs import replace as replaced

from half_fold.core.brief.allowances import overprint
from half_fold.core.checks.context import Context
from half_fold.core.checks.finding import REFUSED, UNREAD, Finding, Fix
from half_fold.core.drawing.changes import within
from half_fold.core.drawing.marks import DisplayList, Mark, MarkGroup, Shape
from half_fold.core.drawing.planes import Layer, on_paper
from half_fold.core.drawing.tone import WHITE, Tone
from half_fold.core.inks.tones import ink
from half_fold.core.legibility.grounds import PPI, sources_of
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import figure
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.colour.colour import profile_for
from half_fold.core.pictures.library.bring import picture_file
from half_fold.core.pictures.library.codes_in import CodeIn, code_in
from half_fold.core.pictures.library.fit import effective_ppi, placed
from half_fold.core.publication.records import Block, HoldsBarcode, HoldsCode, HoldsPicture, Picture, Publication
from half_fold.core.publication.surgery import block_named, picture_of
from half_fold.core.spread.codes.barcode import LARGEST, SMALLEST, X_MM, ground
from half_fold.core.spread.codes.code import LEAST_MODULE_MM, QUIET, code_area, code_modules, module_mm
from half_fold.core.spread.edits import edits
from half_fold.core.spread.setting.goods import from_row
from half_fold.core.spread.where.frames import block_box

LEAST_PIXELS = 4.0  # to the narrowest bar, so that an edge is off by an eighth of it at the most
LEAST_CONTRAST, MOST_BARS = 0.4, 0.5
_DARKEST = 5  # per cent of the ground: a grain of it is passed over


def codes_read(context: Context) -> Iterator[Finding]:
    """A code that says nothing yet, or whose modules are too fine for a phone."""
    for number, block, box in context.blocks:
        holds = from_row(context.publication, block).holds
        if not isinstance(holds, HoldsCode):
            continue
        if not holds.says.strip():
            why = "Type the address that it is to lead to; whoever holds a phone to it gets nothing now."
            yield Finding("code", REFUSED, "The code says nothing yet", why, True, number, block.id, box)
            continue
        size = module_mm(context.publication, holds, block_box(context.publication, number, block))
        if size < LEAST_MODULE_MM - 0.005:
            count = len(code_modules(holds.says, holds.proof)) + 2 * QUIET
            message = f"The modules of the code are {context.said(size * MM)}"
            least, whole = context.said(LEAST_MODULE_MM * MM), context.said(count * LEAST_MODULE_MM * MM)
            why = (
                f"Phones read {least} from a hand's length: give it {whole}, a shorter address, "
                "or less proof against loss."
            )
            yield Finding("code", UNREAD, message, why, False, number, block.id, box, _less_proof(block.id, holds))


def _less_proof(block: str, holds: HoldsCode) -> Fix | None:
    lower = {"highest": "high", "high": "medium", "medium": "low"}.get(holds.proof)
    if lower is None or len(code_modules(holds.says, lower)) == len(code_modules(holds.says, holds.proof)):
        return None
    return Fix(f"Let its proof against loss be {lower}", partial(_with, block=block, proof=lower))


def _with(publication: Publication, block: str, **fields: object) -> Publication:
    holds = block_named(publication, block).holds
    return edits.set_holds(publication, block, replace(holds, **fields))


def barcode_pictures(context: Context) -> Iterator[Finding]:
    """A barcode that came as a picture, printed smaller or larger than the standard has it, or from too few pixels."""
    if context.pictures is None:
        return
    for number, block, box in context.blocks:
        if not isinstance(block.holds, HoldsPicture):
            continue
        context.go_on()
        picture = picture_of(context.publication, block.holds.picture)
        found = _code_in(context.pictures, picture)
        if found is None or not found.module:
            continue
        ppi = effective_ppi(picture, placed(picture, block.holds, block_box(context.publication, number, block)))
        size = 100 * found.module / ppi * 25.4 / X_MM
        what = f"“{picture.file}” is the barcode {found.digits}"
        if not SMALLEST - 0.5 <= size <= LARGEST + 0.5:
            message = f"{what}, printed at {figure(size, 0)} %"
            why = f"The standard has it from {SMALLEST:g} to {LARGEST:g} %; scanners fail on others."
            yield Finding("barcode", UNREAD, message, why, size < SMALLEST, number, block.id, box)
        elif found.module < LEAST_PIXELS:
            message = f"{what}, its narrowest bars {figure(found.module, 1)} pixels wide"
            why = f"From fewer than {LEAST_PIXELS:g} they print in uneven widths. Laid as a barcode its bars are exact."
            yield Finding("barcode", UNREAD, message, why, False, number, block.id, box)


def _code_in(folder: Path, picture: Picture) -> CodeIn | None:
    if picture.art or picture.mask:
        return None
    try:
        return code_in(picture_file(folder, picture), picture.digest)
    except (Problem, OSError):
        return None


def codes_stand_off(context: Context) -> Iterator[Finding]:
    """Bars and modules in an ink, or on a ground, that scanners and phones do not part."""
    for number, block, box in context.blocks:
        holds = block.holds
        if not isinstance(holds, HoldsBarcode | HoldsCode):
            continue
        is_red = isinstance(holds, HoldsBarcode)
        bars = thrown_back(ink(context.publication, holds.ink), is_red)
        light = 1.0 if holds.white else _ground(context, number, block, is_red)
        if light is None or (light - bars >= LEAST_CONTRAST and bars <= MOST_BARS * light):
            continue
        what, reader = ("barcode", "Scanners, which see by red light,") if is_red else ("code", "Phones")
        shares = f"{figure(100 * light, 0)} % of the light, its bars {figure(100 * bars, 0)} %"
        message = f"The {what}'s ground throws back {shares}"
        why = (
            f"{reader} need {100 * LEAST_CONTRAST:.0f} % between the two, and bars that throw back half of the ground "
            "or less; magenta and yellow are as bare paper to a scanner."
        )
        dark = thrown_back(ink(context.publication, ""), is_red)
        on_white = 1.0 - bars >= LEAST_CONTRAST and bars <= MOST_BARS
        fix = Fix("Give it a white panel", partial(_with, block=block.id, white=True))
        if holds.white or not on_white:
            is_enough = light - dark >= LEAST_CONTRAST
            words = "Print it in black" if is_enough else "Print it in black on a white panel"
            fix = Fix(words, partial(_with, block=block.id, ink="", white=holds.white or not is_enough))
        yield Finding(what, UNREAD, message, why, False, number, block.id, box, fix)


def thrown_back(tone: Tone, is_red: bool) -> float:
    """The share of light that a tone throws back against its paper: of red light, or as eyes weigh it."""
    return float(_reflected(np.array(tone.process), is_red))


def _reflected(inks: npt.NDArray[np.floating], is_red: bool) -> npt.NDArray[np.floating]:
    """The same of any number of tones, their four shares along the last axis."""
    c, m, y, k = np.moveaxis(inks, -1, 0)
    light = 1 - 0.95 * c
    if not is_red:
        light = 0.2126 * light + 0.7152 * (1 - 0.85 * m) + 0.0722 * (1 - 0.9 * y)
    return np.asarray(light * (1 - 0.97 * k))


def _ground(context: Context, number: int, block: Block, is_red: bool) -> float | None:
    """What the darkest of the ground under a code throws back; None where pictures are not to be looked at."""
    if context.pictures is None:
        return None
    upright = block_box(context.publication, number, block)
    holds = from_row(context.publication, block).holds
    if isinstance(holds, HoldsBarcode):
        area = ground(context.setter.composer, context.publication, holds, upright)
    else:
        assert isinstance(holds, HoldsCode)
        area = code_area(context.publication, holds, upright)[0]
    marks = next(marks for spread, marks in context.lists if number in spread.numbers)
    profile = profile_for(context.publication, context.publication.brief.text_paper)
    sources = sources_of(context.pictures, context.publication.pictures, profile)
    layer = Layer(area, PPI / 72, sources, black=overprint(context.publication)[0])
    first: tuple[Mark, ...] = (Shape(area, context.ground if context.ground is not None else WHITE),)
    inks = on_paper(layer.lay((*first, *within(DisplayList(area, _behind(marks, block.id)), area).marks)))
    return float(np.percentile(_reflected(inks[..., :4], is_red), _DARKEST))


def _behind(marks: tuple[Mark, ...], block: str) -> tuple[Mark, ...]:
    """What is drawn before a block's own marks."""
    out: list[Mark] = []
    for mark in marks:
        if mark.origin.block == block:
            break
        if isinstance(mark, MarkGroup) and any(_holds(each, block) for each in mark.marks):
            out.append(replaced(mark, marks=_behind(mark.marks, block)))
            break
        out.append(mark)
    return tuple(out)


def _holds(mark: Mark, block: str) -> bool:
    return mark.origin.block == block or (
        isinstance(mark, MarkGroup) and any(_holds(each, block) for each in mark.marks)
    )
