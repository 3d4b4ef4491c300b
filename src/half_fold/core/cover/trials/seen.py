"""A cover, and a spread, in the light: sRGB pixels of what is printed, on the paper that it is printed on."""

from pathlib import Path

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from half_fold.core.apart.flat import Flat
from half_fold.core.brief.bindings import binding_named
from half_fold.core.cover.flat import CoverSetter, cover_flat, cover_paper
from half_fold.core.drawing.changes import within
from half_fold.core.drawing.marks import DisplayList
from half_fold.core.drawing.planes import Layer, Sources, on_paper
from half_fold.core.legibility.grounds import ink_picture, sources_of
from half_fold.core.measure.entry import MM
from half_fold.core.measure.kept import Keeper
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour.colour import as_it_lies, inks_to_screen, profile_for
from half_fold.core.plan.sections import paper_of_page
from half_fold.core.plan.spreads import spread_of
from half_fold.core.publication.records import Publication
from half_fold.core.spread.setting.compose import Setter

Pixels = npt.NDArray[np.uint8]
PPI = 100.0
LONGER = 1600  # pixels, of a picture: a front has 1,200 at its PPI
_FINER = 2
_KEPT, _OCTETS = 8, 60_000_000
_flats: Keeper[tuple[Pixels, Pixels]] = Keeper(_KEPT, _OCTETS, lambda both: 2 * both[0].nbytes)


class Seen(Struct, frozen=True, eq=False):
    """A cover as it looks: ``front``, and ``back`` and ``spine`` where there are any, in ``scale`` pixels to the mm.

    ``on_screen`` is the front in the colours that were asked for, ``marks`` what is drawn of all of it.
    """

    publication: Publication
    flat: Flat
    marks: DisplayList
    front: Pixels
    back: Pixels | None
    spine: Pixels | None
    on_screen: Pixels
    scale: float = PPI / 25.4

    @property
    def size(self) -> tuple[float, float]:
        """Width and height of the front in millimetres."""
        return self.flat.front.width / MM, self.flat.front.height / MM

    @property
    def thick(self) -> float:
        """The spine's width in millimetres; nothing where there is none."""
        return self.flat.spine.width / MM if self.flat.spine is not None else 0.0


def seen_cover(publication: Publication, folder: Path, setter: Setter) -> Seen:
    """The outside of a cover as it looks. Problem for a self-cover job."""
    flat = cover_flat(publication)
    marks = CoverSetter(setter).marks(publication)
    profile = profile_for(publication, cover_paper(publication))
    sources = sources_of(folder, publication.pictures, profile, LONGER)

    def make() -> tuple[Pixels, Pixels]:
        inks = _inks_of(marks, flat.trim, sources)
        bare = plain_pixels(inks)
        return bare if binding_named(publication.brief.binding).on_screen else in_light(inks, profile), bare

    lit, bare = _flats.of((publication, str(folder)), make)

    def part(rect: Rect | None, pixels: Pixels = lit) -> Pixels | None:
        return None if rect is None else _cut(pixels, rect, flat.trim)

    front, on_screen = part(flat.front), part(flat.front, bare)
    assert front is not None and on_screen is not None
    return Seen(publication, flat, marks, front, part(flat.back), part(flat.spine), on_screen)


def seen_spread(
    publication: Publication, folder: Path, setter: Setter, page: int
) -> tuple[Pixels | None, Pixels | None]:
    """The left and the right page of a spread as they look; None for the one there is not."""
    spread = spread_of(publication, page)
    marks = setter.spread(publication, spread)
    profile = profile_for(publication, paper_of_page(publication, page))
    wide, high = publication.brief.width.pt, publication.brief.height.pt
    whole = Rect(-wide, 0, wide, high)
    lit = in_light(_inks_of(marks, whole, sources_of(folder, publication.pictures, profile)), profile)
    halves = _cut(lit, Rect(-wide, 0, 0, high), whole), _cut(lit, Rect(0, 0, wide, high), whole)
    return (halves[0] if spread.left else None, halves[1] if spread.right else None)


def draw_in_light(marks: DisplayList, scale: float, sources: Sources, profile: bytes) -> Pixels:
    """A display list in the light, at ``scale`` pixels to the point."""
    layer = Layer(marks.area, scale, sources, finer=_FINER, black=marks.black)
    return in_light(on_paper(layer.lay(marks.marks)), profile)


def _inks_of(marks: DisplayList, area: Rect, sources: Sources) -> npt.NDArray[np.float32]:
    layer = Layer(area, PPI / 72, sources, finer=_FINER, black=marks.black)
    return on_paper(layer.lay(within(marks, area).marks))


def in_light(inks: npt.NDArray[np.float32], profile: bytes) -> Pixels:
    """Inks (high, wide, 4 and more) as they look on their paper."""
    return np.asarray(as_it_lies(ink_picture(inks), profile))


def plain_pixels(inks: npt.NDArray[np.float32]) -> Pixels:
    """Inks as the bench shows them, on white."""
    return np.asarray(inks_to_screen(ink_picture(inks)))


def _cut(pixels: Pixels, rect: Rect, area: Rect) -> Pixels:
    scale = PPI / 72
    left, top = round((rect.left - area.left) * scale), round((rect.top - area.top) * scale)
    right, bottom = round((rect.right - area.left) * scale), round((rect.bottom - area.top) * scale)
    return pixels[max(0, top) : max(bottom, top + 1), max(0, left) : max(right, left + 1)]
