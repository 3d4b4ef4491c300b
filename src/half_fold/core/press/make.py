"""Making the press PDF: complete, or not there at all."""

from collections.abc import Callable, Sequence
from contextlib import closing
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

import pikepdf
from pikepdf import Array, Dictionary, Name, Stream

from half_fold.core.brief.allowances import GOOD_PPI, ink_limit, overprint, picture_ppi
from half_fold.core.compiled.compiling import load
from half_fold.core.drawing.tone import Spot
from half_fold.core.measure.kept import Keeper
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour.colour import profile_for
from half_fold.core.pictures.colour.treat import parse_drawn_key
from half_fold.core.press.parts import PAGES, SHEETS_FORM, part_named
from half_fold.core.press.pdf.content import (
    BLEND_NAMES,
    KNOCK_OUT,
    MASKED,
    MULTIPLIED,
    OVERPRINT,
    Resources,
    is_mask,
    parse_state_name,
)
from half_fold.core.press.pdf.halves import draw_all
from half_fold.core.press.pdf.images import embedded, made_images
from half_fold.core.press.pdf.leaves import DrawnForm, DrawnPage, DrawnVeil
from half_fold.core.press.pdf.paints import pattern, resource_name, spot_name, spot_space
from half_fold.core.press.pdf.seen import PicturePart
from half_fold.core.press.pdf.standard import intended, state_standard
from half_fold.core.press.progress import Progress
from half_fold.core.press.proving.prints import prints_of
from half_fold.core.press.proving.prove import Proved, prove
from half_fold.core.press.sheets import Sheet, cut_to_trim
from half_fold.core.publication.records import Publication
from half_fold.core.publication.surgery import picture_of
from half_fold.core.publication.used import used_pictures
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.atomic import whole_file
from half_fold.core.store.files import require_output

if TYPE_CHECKING:
    from half_fold.core.press.proving.prove import Proved

READ_PPI = 120.0  # of pictures in a copy to read, which a screen of today shows enlarged by a half
MOST_PAINTS = 20_000  # of a kind in one file
_IMAGE = Name.XObject, Name.Image
PDF_BEGINS = (b"%PDF",)


class Steps:
    """Tells how far the work is: sheets drawn, pictures converted, and the file read back at the end."""

    def __init__(self, progress: Progress | None, sheets: int, pictures: int) -> None:
        self._progress, self._sheets = progress, sheets
        self._done, self._count = 0, sheets + pictures + 1

    def expect_pictures(self, count: int) -> None:
        """So many pictures are to be converted: what was expected before was only what may be."""
        self._count = self._sheets + count + 1

    def done(self, words: str) -> None:
        """One step more; ``words`` say what comes now."""
        self._done += 1
        self.now(words)

    def now(self, words: str) -> None:
        """Say what is being done."""
        if self._progress is not None:
            self._progress(self._done, self._count, words)


def press(
    publication: Publication,
    pictures: Path,
    out: Path,
    part: str = "pages",
    form: str = "pages",
    marks: bool = False,
    profile: bytes | None = None,
    progress: Progress | None = None,
    setter: Setter | None = None,
    ppi: float | None = None,
    to_read: bool = False,
) -> Proved:
    """Write the PDF to ``out`` and give what was read back out of it.

    Pictures are no finer than ``ppi`` (0: any); unless it is given, than the printer asks for, or is good. A copy
    ``to_read`` is cut to the trim, has no marks, pictures as fine as a screen shows, and inks as the paper shows them.

    ``pictures`` is the job's pictures folder; ``progress`` is told (steps done, steps in all, what is being
    done) and may raise to cancel. A ``setter`` that has set the job already spares setting it again. Raises
    Problem where a picture is missing, the file cannot be written, or does not hold what was set.
    """
    require_output(out, PDF_BEGINS)
    load()
    chosen = part_named(publication, part)
    if ppi is None:
        ppi = READ_PPI if to_read else picture_ppi(publication)[0]
    makers = chosen.makers(setter or Setter(), form)
    if to_read:
        makers = [partial(_cut, make) for make in makers]
    title = " ".join(filter(None, (publication.title, publication.issue, "" if part == PAGES else chosen.label)))
    steps = Steps(progress, len(makers), len(used_pictures(publication)))
    with whole_file(out) as temporary, pikepdf.new() as pdf:
        writer = Writer(pdf, publication, pictures, chosen.paper, marks, profile, ppi, to_read)
        with closing(draw_all(makers, writer.resources, marks)) as pages:
            for page in pages:
                writer.add(page)
                steps.done(page.label)
        brief = publication.brief
        paged = chosen.has_pages and form != SHEETS_FORM
        return writer.save(temporary, title, (brief.width.pt, brief.height.pt) if paged else None, steps)


def _cut(make: Callable[[], Sheet]) -> Sheet:
    return cut_to_trim(make())


class Writer:
    """Adds sheets to a file, and at the end the fonts and pictures they used.

    The file is for ``paper``, by its profile unless one is given; pictures of a sheet for another go by that one's.
    """

    def __init__(
        self,
        pdf: pikepdf.Pdf,
        publication: Publication,
        pictures: Path,
        paper: str,
        marks: bool,
        profile: bytes | None = None,
        ppi: float = GOOD_PPI,
        to_read: bool = False,
    ) -> None:
        self.pdf, self.publication, self.folder, self.marks = pdf, publication, pictures, marks
        self.profile = profile or profile_for(publication, paper)
        self._given = profile
        self._paper = paper
        self._intended = intended(pdf, self.profile)
        self._shown_by = self._intended if to_read else None
        sizes = {picture.id: (picture.width, picture.height) for picture in publication.pictures}
        self.resources = Resources(sizes=sizes, ppi=ppi, black=overprint(publication)[0])
        self.pages: list[tuple[pikepdf.Object, DrawnPage]] = []
        self._boxes: dict[tuple[Rect, Rect], Array] = {}

    def add(self, drawn: DrawnPage) -> None:
        """One more page."""
        page = Dictionary(
            Type=Name.Page,
            Parent=self.pdf.Root.Pages,
            MediaBox=self._box(drawn.media, drawn.media),
            BleedBox=self._box(drawn.bleed, drawn.media),
            TrimBox=self._box(drawn.trim, drawn.media),
            Contents=self.pdf.make_indirect(Stream(self.pdf, drawn.packed, Filter=Name.FlateDecode)),
        )
        self.pages.append((self.pdf.make_indirect(page), drawn))

    def _printed_by(self, drawn: DrawnPage) -> tuple[bytes, float]:
        """What the pictures of a page are converted by, and the ink that its paper takes."""
        own = self._given is None and drawn.paper
        profile = profile_for(self.publication, drawn.paper) if own else self.profile
        return profile, float(ink_limit(self.publication, drawn.paper or self._paper)[0])

    def _box(self, rect: Rect, media: Rect) -> Array:
        if (rect, media) not in self._boxes:
            self._boxes[rect, media] = _box(rect, media)
        return self._boxes[rect, media]

    def save(
        self, file: Path, title: str, trim: tuple[float, float] | None = None, steps: Steps | None = None
    ) -> Proved:
        """Write the file by the standard, and prove it; Unproved where it does not hold what was drawn.

        ``trim`` is that of one page (points), where the file has pages.
        """
        steps = steps or Steps(None, 0, 0)
        self._finish(steps)
        if self.publication.brief.right_bound:
            self.pdf.Root.ViewerPreferences = Dictionary(Direction=Name.R2L)
        state_standard(self.pdf, title, self.profile, self._intended, self._shown_by is None)
        meant = prints_of(self.pdf)
        packed = pikepdf.ObjectStreamMode.generate
        with file.open("wb") as stream:  # a path may be made of octets that are no text
            self.pdf.save(stream, force_version="1.6", object_stream_mode=packed, fix_metadata_version=False)
        steps.now("reading the file back")
        named = {resource_name("F", key): use for key, use in self.resources.fonts.items()}
        proved = prove(file, [drawn for _, drawn in self.pages], named, trim, meant)
        steps.done("proved")
        return proved

    def _finish(self, steps: Steps) -> None:
        """Give the pages their fonts and pictures, and the file its pages."""
        fonts = {key: use.embed(self.pdf) for key, use in self.resources.fonts.items()}
        wanted = dict.fromkeys((part, *self._printed_by(drawn)) for _, drawn in self.pages for part in drawn.pictures)
        steps.expect_pictures(len(wanted))
        images: dict[tuple[PicturePart, bytes, float], pikepdf.Object] = {}
        asked = [(picture_of(self.publication, parse_drawn_key(use[0].picture)[0]), *use) for use in wanted]
        for index, (use, made) in enumerate(zip(wanted, made_images(self.folder, asked), strict=True), 1):
            images[use] = embedded(self.pdf, made)
            steps.done(f"picture {index} of {len(wanted)}")
        shared = _Shared(self.pdf, self._shown_by)
        for page, drawn in self.pages:
            by = self._printed_by(drawn)
            page.Resources = shared.resources(
                {f"/{resource_name('F', key)}": fonts[key] for key in drawn.fonts},
                {f"/{resource_name('P', part.key)}": images[part, *by] for part in drawn.pictures},
                drawn,
            )
            if drawn.pictures or drawn.forms or drawn.veils or drawn.spots:
                page.Group = shared.group
        self.pdf.Root.Pages.Kids = Array([page for page, _ in self.pages])
        self.pdf.Root.Pages.Count = len(self.pages)


class _Shared:
    """The resources of pages; those that use the same fonts and pictures share one object.

    Where a profile is given, what reads the file shows inks by it, and not by a guess (ISO 32000, 8.6.5.6).
    """

    def __init__(self, pdf: pikepdf.Pdf, shown_by: pikepdf.Object | None = None) -> None:
        self._pdf = pdf
        self._shown = {} if shown_by is None else {"/DefaultCMYK": Array([Name.ICCBased, shown_by])}
        self._made: dict[tuple[object, ...], pikepdf.Object] = {}
        self._spots: Keeper[pikepdf.Object] = Keeper(MOST_PAINTS)
        self._patterns: Keeper[pikepdf.Object] = Keeper(MOST_PAINTS)
        self._veils: Keeper[pikepdf.Object] = Keeper(MOST_PAINTS)
        # What is see-through mixes in the inks of the press.
        self.group = pdf.make_indirect(
            Dictionary(Type=Name.Group, S=Name.Transparency, CS=Name.DeviceCMYK, I=True, K=False)
        )
        self._always = {
            "/ExtGState": Dictionary(
                {
                    f"/{OVERPRINT}": Dictionary(Type=Name.ExtGState, OP=True, op=True, OPM=1),
                    f"/{KNOCK_OUT}": Dictionary(Type=Name.ExtGState, OP=False, op=False, OPM=1),
                }
            )
        }

    def resources(
        self, fonts: dict[str, pikepdf.Object], images: dict[str, pikepdf.Object], drawn: DrawnPage
    ) -> pikepdf.Object:
        """What a page names; one that has groups has them by itself, and they name the same as it does."""
        if drawn.forms or drawn.veils:
            used = self._pdf.make_indirect(self._used(fonts, images, drawn))
            used.ExtGState = Dictionary({**dict(used.ExtGState.items()), **_states(drawn.states)})
            forms = {form.name: self._form(form, drawn, used) for form in drawn.forms}
            masks = {name: _masked(forms[name.removeprefix(MASKED)]) for name in drawn.states if is_mask(name)}
            used.ExtGState = Dictionary(
                dict(used.ExtGState.items()) | {f"/{name}": mask for name, mask in masks.items()}
            )
            used.XObject = Dictionary({**dict(used.get("/XObject", {}).items()), **_named(forms)})
            return used
        paints = *(spot.name for spot in drawn.spots), *(shade.name for shade in drawn.shadings)
        key = (*fonts, *images, *(image.objgen for image in images.values()), *paints, *(v.name for v in drawn.veils))
        if key not in self._made:
            self._made[key] = self._pdf.make_indirect(self._used(fonts, images, drawn))
        return self._made[key]

    def _used(
        self, fonts: dict[str, pikepdf.Object], images: dict[str, pikepdf.Object], drawn: DrawnPage
    ) -> Dictionary:
        used = Dictionary(self._always)
        veils = {veil.name: self._veils.of((veil.name,), partial(self._veil, veil)) for veil in drawn.veils}
        spots = {spot_name(spot): self._spot(spot) for spot in drawn.spots}
        shades = {
            shade.name: self._patterns.of((shade.name,), partial(pattern, self._pdf, shade)) for shade in drawn.shadings
        }
        for name, named in (
            ("Font", fonts),
            ("XObject", images | _named(veils)),
            ("ColorSpace", self._shown | _named(spots)),
        ):
            if named:
                used[f"/{name}"] = Dictionary(named)
        if shades:
            used.Pattern = Dictionary(_named(shades))
        return used

    def _spot(self, spot: Spot) -> pikepdf.Object:
        """The one colour space of a spot: renderers part plates by its name, and files by its object."""
        return self._spots.of((spot,), lambda: self._pdf.make_indirect(spot_space(spot)))

    def _veil(self, veil: DrawnVeil) -> pikepdf.Object:
        """A single pixel of its tone, seen through a mask of its cover (ISO 32000, 11.6.5.3)."""
        tone = veil.tone
        shares = (tone.s,) if tone.spot is not None else (tone.c, tone.m, tone.y, tone.k)
        image = Stream(self._pdf, bytes(round(255 * share) for share in shares))
        image.Type, image.Subtype, image.Width, image.Height, image.BitsPerComponent = *_IMAGE, 1, 1, 8
        image.ColorSpace = Name.DeviceCMYK if tone.spot is None else self._spot(tone.spot)
        mask = Stream(self._pdf, veil.packed, Filter=Name.FlateDecode)
        mask.Type, mask.Subtype, mask.Width, mask.Height, mask.BitsPerComponent = *_IMAGE, veil.wide, veil.high, 8
        mask.ColorSpace = Name.DeviceGray
        image.SMask = self._pdf.make_indirect(mask)
        return self._pdf.make_indirect(image)

    def _form(self, form: DrawnForm, drawn: DrawnPage, used: pikepdf.Object) -> pikepdf.Object:
        """A group as a form that is mixed by itself in the inks of the press (ISO 32000, 11.6.6)."""
        wide, high = drawn.media.width, drawn.media.height
        beyond = wide + high  # what is turned comes from as far away at most
        box = Array([round(edge, 4) for edge in (-beyond, -beyond, wide + beyond, high + beyond)])
        stream = Stream(self._pdf, form.packed, Filter=Name.FlateDecode, BBox=box, Group=self.group, Resources=used)
        stream.Type, stream.Subtype = Name.XObject, Name.Form
        return self._pdf.make_indirect(stream)


def _states(names: Sequence[str]) -> dict[str, Dictionary]:
    """The states in which groups are laid, by what their names say: an opacity in thousandths, and a blend."""
    out = {f"/{MULTIPLIED}": Dictionary(Type=Name.ExtGState, BM=Name.Multiply, OP=False, op=False)}
    for name in names:
        if is_mask(name):
            continue
        opacity, blend = parse_state_name(name)
        mode = Name(f"/{BLEND_NAMES[blend]}")
        out[f"/{name}"] = Dictionary(
            Type=Name.ExtGState, ca=opacity, CA=opacity, BM=mode, OP=False, op=False, AIS=False
        )
    return out


def _box(rect: Rect, media: Rect) -> Array:
    """A rectangle as a page box; at 4 decimals of a point it is true to less than a micrometre."""
    corners = (rect.left - media.left, media.bottom - rect.bottom, rect.right - media.left, media.bottom - rect.top)
    return Array([round(value, 4) for value in corners])


def _named(objects: dict[str, pikepdf.Object]) -> dict[str, pikepdf.Object]:
    return {f"/{name}": made for name, made in objects.items()}


def _masked(form: pikepdf.Object) -> Dictionary:
    """The state in which what is drawn is seen as far as a form is light, and not at all beyond it (11.6.5.2)."""
    mask = Dictionary(Type=Name.Mask, S=Name.Luminosity, G=form, BC=Array([0, 0, 0, 1]))
    return Dictionary(Type=Name.ExtGState, SMask=mask)
