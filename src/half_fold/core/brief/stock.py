"""What a stock's typed figures come to: grammage, volume and caliper, each marked as typed or derived.

Caliper (µm) = grammage (g/m2) x specific volume (cm3/g). Pages to the inch count both sides of a leaf. US basis
weights are pounds of 500 basic sheets: g/m2 = pounds x 1406.139 / (the basic sheet in square inches).
"""

from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import figure
from half_fold.core.measure.worked import Worked, given
from half_fold.core.publication.records import Paper

INCH_UM = 25_400.0
BASIC_SHEETS = {
    "book": (25.0, 38.0),
    "cover": (20.0, 26.0),
    "bond": (17.0, 22.0),
    "index": (25.5, 30.5),
    "tag": (24.0, 36.0),
    "newsprint": (24.0, 36.0),
    "bristol": (22.5, 28.5),
}
# Where a basis weight stands alone its thickness is taken from what is typical of its category.
TYPICAL_VOLUMES = {
    "book": 1.25,
    "cover": 1.2,
    "bond": 1.3,
    "index": 1.2,
    "tag": 1.25,
    "newsprint": 1.5,
    "bristol": 1.25,
}
GSM_PER_POUND_SQUARE_INCH = 1406.139


def per_pound(category: str) -> float:
    """Grams per square metre of one pound of that category."""
    width, height = BASIC_SHEETS[category]
    return GSM_PER_POUND_SQUARE_INCH / (width * height)


def grammage(paper: Paper) -> Worked | None:
    """Grams per square metre; None where nothing that was typed gives it."""
    if paper.grammage:
        return given(paper.grammage, "g/m²", "Grammage", how="typed")
    if paper.pounds:
        value = paper.pounds * per_pound(paper.category)
        sheet = " × ".join(figure(side, 1) for side in BASIC_SHEETS[paper.category])
        how = f"derived: {paper.pounds:g} lb {paper.category} × 1406.139 ÷ ({sheet})"
        return Worked(value, "g/m²", "Grammage", how)
    if paper.volume and _thickness(paper):
        value = _thickness(paper) / paper.volume
        return Worked(value, "g/m²", "Grammage", f"derived: {figure(_thickness(paper), 1)} µm ÷ {paper.volume:g} cm³/g")
    return None


def volume(paper: Paper) -> Worked | None:
    """Cubic centimetres a gram; None where nothing that was typed gives it."""
    if paper.volume:
        return given(paper.volume, "cm³/g", "Volume", how="typed")
    weight = grammage(paper)
    if weight is None:
        return None
    if _thickness(paper):
        how = f"derived: {figure(_thickness(paper), 1)} µm ÷ {weight.text}"
        return Worked(_thickness(paper) / weight.value, "cm³/g", "Volume", how)
    how = f"typical of {paper.category} papers; measure a dummy or ask the mill"
    return Worked(TYPICAL_VOLUMES[paper.category], "cm³/g", "Volume", how)


def caliper(paper: Paper) -> Worked:
    """The thickness of one leaf in micrometres by what the mill says."""
    if paper.caliper:
        return given(paper.caliper, "µm", "Caliper", how=f"{paper.name}: {paper.caliper:g} µm as typed")
    if paper.ppi:
        how = f"{paper.name}: 2 ÷ {paper.ppi:g} pages to the inch"
        return Worked(_thickness(paper), "µm", "Caliper", how)
    weight, bulk = grammage(paper), volume(paper)
    assert weight is not None and bulk is not None
    typical = "" if paper.volume else f", {bulk.how}"
    how = f"{paper.name}: {weight.text} × {bulk.text}{typical}"
    return Worked(weight.value * bulk.value, "µm", "Caliper", how)


def _thickness(paper: Paper) -> float:
    """Micrometres where a thickness was typed in one way or another, else 0."""
    return paper.caliper or (2 * INCH_UM / paper.ppi if paper.ppi else 0.0)


def mils(typed: str) -> float | None:
    """Micrometres of a caliper typed as the trade's points (``12pt`` is 0.012 inch), else None."""
    text = typed.strip().lower()
    if not text.endswith("pt"):
        return None
    try:
        return float(text.removesuffix("pt")) * INCH_UM / 1000
    except ValueError:
        return None


def micrometres(points: float) -> float:
    """Points as micrometres."""
    return points / MM * 1000
