"""What the printer asks for, and the trim: lengths as they were typed, as worked numbers."""

import re

from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.papers import find_paper
from half_fold.core.drawing.overprint import OVERPRINTED, USUAL, USUAL_SIZE, Overprint
from half_fold.core.measure.length import length
from half_fold.core.measure.worked import Worked, given, given_length
from half_fold.core.publication.records import Publication

INK_LIMITS = {True: 300, False: 280}  # per cent, common practice on coated and uncoated paper
GOOD_PPI = 300.0  # what a screen of 150 lines to the inch prints
_PPI = re.compile(r"@\s*([\d.]+)\s*ppi")
PRINTER_WINS = "Press figures are defaults; the printer's own sheet wins."


def trim_width(publication: Publication) -> Worked:
    return given_length(publication.brief.width, "Trim width", key="trim.width", edits="trim.width")


def trim_height(publication: Publication) -> Worked:
    return given_length(publication.brief.height, "Trim height", key="trim.height", edits="trim.height")


def bleed(publication: Publication) -> Worked:
    return given_length(publication.brief.bleed, "Bleed", key="bleed", edits="bleed")


def safe_zone(publication: Publication) -> Worked:
    return given_length(publication.brief.safe, "Safe zone", key="safe", edits="safe")


def fold_loss(publication: Publication) -> Worked:
    """Millimetres of each page lost in the fold: the binding's figure unless the brief has its own."""
    own = publication.brief.fold_loss
    if own is not None:
        return given_length(own, "Lost in the fold", key="fold.loss", edits="fold-loss")
    binding = binding_named(publication.brief.binding)
    usual = f"usual for {binding.label.lower()}"
    typed = f"{binding.fold_loss_mm:g}mm"
    name, key = "Lost in the fold", "fold.loss"
    return given(binding.fold_loss_mm, "mm", name, key=key, edits="fold-loss", typed=typed, how=usual)


def pixels(publication: Publication) -> tuple[int, int, float]:
    """Width and height of a page or front in pixels, and how many of them go to the inch, as the trim was typed."""
    brief = publication.brief
    found = _PPI.search(brief.width.typed) or _PPI.search(brief.height.typed)
    ppi = float(found[1]) if found else GOOD_PPI
    return round(brief.width.pt / 72 * ppi), round(brief.height.pt / 72 * ppi), ppi


def picture_ppi(publication: Publication) -> tuple[float, str]:
    """The pixels to the inch that pictures are printed well at, and who says so."""
    sheet = publication.printer
    if sheet is not None and sheet.picture_ppi:
        return float(sheet.picture_ppi), f"asked for by {sheet.name}"
    return GOOD_PPI, "good on coated paper"


def overprint(publication: Publication) -> tuple[Overprint, str]:
    """What of black alone overprints, and who says so."""
    sheet = publication.printer
    if sheet is None or not (sheet.overprint or sheet.overprint_to):
        return USUAL, "usual; the printer’s own sheet wins"
    up_to = length(sheet.overprint_to, "pt").pt if sheet.overprint_to else USUAL_SIZE
    which = next((each for each in OVERPRINTED if each == sheet.overprint), USUAL.of)
    return Overprint(which, up_to), f"asked for by {sheet.name}"


def ink_limit(publication: Publication, paper: str = "") -> tuple[int, str]:
    """The most ink (per cent, all inks together) that a paper takes, that of the text by itself; and who says so."""
    sheet = publication.printer
    if sheet is not None and sheet.ink_limit:
        return sheet.ink_limit, sheet.name
    return INK_LIMITS[
        find_paper(publication, paper or publication.brief.text_paper).coated
    ], "this kind of paper, commonly"
