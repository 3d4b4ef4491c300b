"""Remedies in the letters themselves: a heavier weight, a soft shadow round them, an outline.

Each is as mild as it may be, and is done for real and read again, as the others are.
"""

from collections.abc import Iterator

from msgspec.structs import replace

from half_fold.core.inks.tones import ink
from half_fold.core.legibility.reading import Read, Surface, read_surface
from half_fold.core.legibility.verdicts import SOLVED, light_of, stem_of
from half_fold.core.measure.length import figure, length
from half_fold.core.publication.records import (
    Contour,
    Glow,
    HoldsDisplay,
    Look,
    Paragraph,
    Publication,
)
from half_fold.core.publication.surgery import block_named, role_in, with_thing_anywhere
from half_fold.core.typesetting.faces.faces import families

BLURS = (0.12, 0.18, 0.25, 0.35, 0.5)  # ems: how far a shadow goes out
WEIGHTS = (0.03, 0.07, 0.12)  # ems: of an outline
DENSE = 90.0  # per cent, of a shadow
Made = tuple[str, float, Publication]


def heavier(sheet: Surface, now: Read, block: str) -> Iterator[Made]:
    """The heaviest style of the words' own family, where it has a heavier one."""
    publication = sheet.publication
    held = block_named(publication, block)
    if not isinstance(held.holds, HoldsDisplay):
        return
    paragraphs = tuple(_heavier(publication, held.holds, paragraph) for paragraph in held.holds.paragraphs)
    if paragraphs == held.holds.paragraphs:
        return
    made = with_thing_anywhere(publication, replace(held, holds=replace(held.holds, paragraphs=paragraphs)))
    face = next(run.face for paragraph in paragraphs for run in paragraph.runs)
    score = read_surface(sheet.changed(made)).score(block)
    if score > now.score(block) + 0.05:
        yield f"In {face.replace('/', ' ')}", score, made


def _heavier(publication: Publication, holds: HoldsDisplay, paragraph: Paragraph) -> Paragraph:
    role = role_in(publication, holds, paragraph.role)
    return replace(
        paragraph,
        runs=tuple(replace(run, face=_heaviest(run.face or f"{role.family}/{role.style}")) for run in paragraph.runs),
    )


def _heaviest(face: str) -> str:
    """The face of the same family and slope with the thickest stems."""
    family, _, style = face.partition("/")
    slanted = "Italic" in style
    styles = [name for name in families().get(family, {}) if ("Italic" in name) == slanted]
    return max((f"{family}/{name}" for name in styles), key=stem_of, default=face)


def shaded(sheet: Surface, now: Read, block: str) -> Iterator[Made]:
    """A soft light or shade all round the letters, in the ink that is farthest from theirs."""
    yield from _looks(sheet, now, block, "shade", BLURS)


def outlined(sheet: Surface, now: Read, block: str) -> Iterator[Made]:
    """A line round the letters, in the ink that is farthest from theirs."""
    yield from _looks(sheet, now, block, "line", WEIGHTS)


def _looks(sheet: Surface, now: Read, block: str, what: str, ems: tuple[float, ...]) -> Iterator[Made]:
    """The first of ever stronger ones that solves it; else the strongest."""
    publication = sheet.publication
    held = block_named(publication, block)
    if held.look or held.light is not None or not now.of(block):
        return
    words = now.of(block)
    name, size = _farthest(sheet, now, block), max(word.size for word in words)
    last: Made | None = None
    for em in ems:
        weight = round(em * size, 1)
        made = with_thing_anywhere(publication, replace(held, light=_look(what, name, weight)))
        score = read_surface(sheet.changed(made)).score(block)
        said = "A soft" if what == "shade" else "A"
        last = f"{said} {what} of {figure(weight, 1)} pt round them, in {name}", score, made
        if score >= SOLVED:
            break
    if last is not None:
        yield last


def _look(what: str, name: str, weight: float) -> Look:
    size = length(f"{weight:g}pt")
    if what == "shade":
        return Look(name="", glow=Glow(reach=size, ink=name, opacity=DENSE))
    return Look(name="", contours=(Contour(weight=size, ink=name),))


def _farthest(sheet: Surface, now: Read, block: str) -> str:
    """The ink of the list whose lightness is farthest from the words' own."""
    worst = min(now.of(block), key=lambda word: word.score)
    names = [each.name for each in sheet.publication.inks]
    return max(names, key=lambda name: abs(light_of(ink(sheet.publication, name), sheet.profile) - worst.ink))
