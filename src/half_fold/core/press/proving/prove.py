"""The press proves its own file: it is opened as a stranger would open it, and held against what was composed."""

import re
from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import contextmanager, nullcontext
from itertools import zip_longest
from pathlib import Path
from zlib import crc32

import msgspec
import numpy as np
import pikepdf
import uharfbuzz as hb
from msgspec import Struct

from half_fold.core.drawing.tone import EVERY_PLATE
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import counted
from half_fold.core.pictures.library.bring import digest_of
from half_fold.core.press.pdf.composed import PICTURE, Composed, Drawn, Unproved
from half_fold.core.press.pdf.content import BLEND_NAMES, MASKED, is_mask, parse_state_name
from half_fold.core.press.pdf.fonts import FontUse
from half_fold.core.press.pdf.halves import LONG, Second, may_part
from half_fold.core.press.pdf.leaves import DrawnPage
from half_fold.core.press.proving.prints import Prints, prints_of
from half_fold.core.press.proving.prove_paints import hold_paints
from half_fold.core.press.proving.read_back import ContentReader, ReadFont, ReadFonts, ReadPage, Unreadable

NEAR = 0.01 * MM
LIKE = 0.0002  # figures that are written to four decimals
HELD, FOUND = b"held", b"found "  # what a second process says
_MAPPED = re.compile(rb"<([0-9A-Fa-f]{4})>\s*<([0-9A-Fa-f]+)>")
_JPEG_SIZE = re.compile(rb"\xff[\xc0-\xc2]\x00.\x08(..)(..)(.)", re.DOTALL)


class Proved(Struct, frozen=True):
    """What was read back out of a file, and found to be what was composed.

    ``prints`` are those of all its objects, ``octets`` the checksum of the file itself.
    """

    pages: int
    words: int
    pictures: int
    spots: tuple[str, ...] = ()
    prints: Prints | None = None
    octets: str = ""

    @property
    def sentence(self) -> str:
        """``48 pages, 9,412 words, 31 pictures``, and the plates of spots where there are some."""
        told = format_proof(self.pages, self.words, self.pictures, self.prints is not None)
        if not self.spots:
            return told
        return f"{told}, and {counted(len(self.spots), 'plate')} beside the four: {', '.join(self.spots)}"

    @property
    def record(self) -> dict[str, object]:
        """What is kept of it, so that the file is known again."""
        kept = {"octets": self.octets, "prints": msgspec.to_builtins(self.prints)} if self.prints is not None else {}
        return {"pages": self.pages, "proved": self.sentence, **kept}


def format_proof(pages: int, words: int, pictures: int, is_held: bool) -> str:
    """What was counted, in words; and that every object was held, where it was."""
    told = f"{counted(pages, 'page')}, {counted(words, 'word')}, {counted(pictures, 'picture')}"
    return f"{told}, every object as it was written" if is_held else told


def prove(
    file: Path,
    drawn: Sequence[DrawnPage],
    fonts: Mapping[str, FontUse],
    trim: tuple[float, float] | None = None,
    prints: Prints | None = None,
) -> Proved:
    """Open a press file and hold all of it against the pages it was ``drawn`` from; Unproved says what differs.

    ``fonts`` are the faces of the file by their names in it; ``trim`` is the brief's, of one page, where that is what
    the file has. ``prints`` are those of what was to be written. The second half of a long file is held by a second
    process.
    """
    if trim is not None:
        for made in drawn:
            _hold_to_brief(made, *trim)
    middle = len(drawn) // 2 if len(drawn) >= LONG and may_part() else len(drawn)
    with _second(lambda: _told(file, drawn, fonts, middle)) if middle < len(drawn) else nullcontext() as second:
        _hold(file, drawn, fonts, 0, middle)
        _hold_prints(file, drawn, prints)
        told = second.told() if second is not None else b""
    if told.startswith(FOUND):
        where, _, what = told.removeprefix(FOUND).decode().partition("\n")
        raise Unproved(where, what)
    if told != HELD and middle < len(drawn):
        _hold(file, drawn, fonts, middle, len(drawn))
    pages = [told for made in drawn for told in (made.composed, *(form.composed for form in made.forms))]
    spots = sorted({spot.name for made in drawn for spot in made.spots} - {EVERY_PLATE.name})
    words, laid = sum(each.words for each in pages), sum(each.pictures for each in pages)
    return Proved(len(drawn), words, laid, tuple(spots), prints, digest_of(file) if prints is not None else "")


def _hold_prints(file: Path, drawn: Sequence[DrawnPage], prints: Prints | None) -> None:
    """Every object of the file says what was to be written, and nothing is there beside."""
    if prints is None:
        return
    with file.open("rb") as stream, pikepdf.open(stream) as pdf:
        found = prints_of(pdf)
    difference = prints.difference(found)
    if difference:
        pages = zip(prints.pages, found.pages, strict=False)
        at = next((n for n, (one, other) in enumerate(pages) if one != other), None)
        if at is not None:
            raise Unproved(drawn[at].label, "what lies in the file for it is not what was written")
        raise Unproved("the file", f"what was written is not what lies in it: {difference}")


@contextmanager
def _second(work: Callable[[], bytes]) -> Iterator[Second | None]:
    """A second process at that work, ended at the end; None where the machine has no room for one."""
    try:
        second = Second(work)
    except OSError:
        yield None
        return
    try:
        yield second
    finally:
        second.end()


def _told(file: Path, drawn: Sequence[DrawnPage], fonts: Mapping[str, FontUse], first: int) -> bytes:
    """What a second process says of the pages from ``first`` on."""
    try:
        _hold(file, drawn, fonts, first, len(drawn))
    except Unproved as unproved:
        return FOUND + f"{unproved.where}\n{unproved.what}".encode()
    return HELD


def _hold(file: Path, drawn: Sequence[DrawnPage], fonts: Mapping[str, FontUse], first: int, end: int) -> None:
    """Hold the pages from ``first`` up to ``end`` against what they were drawn from."""
    try:
        with file.open("rb") as stream, pikepdf.open(stream) as pdf:
            if len(pdf.pages) != len(drawn):
                raise Unproved("the file", f"it has {len(pdf.pages)} pages, not {len(drawn)}")
            if "/OutputIntents" not in pdf.Root:
                raise Unproved("the file", "it does not say what it is printed on")
            reader = _Reader(fonts)
            kids = list(pdf.Root.Pages.Kids)
            for page, made in zip(kids[first:end], drawn[first:end], strict=True):
                reader.hold(page, made)
    except pikepdf.PdfError as error:
        raise Unproved("the file", f"it cannot be opened: {error}") from error


class _Reader:
    """Reads page after page of one file; what they share is read once."""

    def __init__(self, fonts: Mapping[str, FontUse]) -> None:
        self._fonts, self._reader = fonts, ContentReader()
        self._read: dict[tuple[int, int], ReadFonts] = {}
        self._seen: set[tuple[int, int]] = set()

    def hold(self, page: pikepdf.Object, made: DrawnPage) -> None:
        """Hold one page against what it was drawn from."""
        where, told = made.label, made.composed
        _hold_boxes(page, made)
        content = page.Contents.read_bytes()
        if crc32(content) != told.digest:
            raise Unproved(where, "its content was changed on the way into the file")
        try:
            found = self._reader.read(content, self._fonts_of(page.Resources, where))
        except Unreadable as error:
            raise Unproved(where, str(error)) from error
        hold_page(found, told, where)
        self._hold_pictures(page.Resources, told.drawn, where)
        if made.forms or made.states:
            self._hold_forms(page.Resources, made)
        hold_paints(page.Resources, made)

    def _hold_forms(self, resources: pikepdf.Object, made: DrawnPage) -> None:
        """The groups of a page: each in its form as it was composed, laid in a state that does what its name says."""
        where = made.label
        for name in made.states:
            state = resources.ExtGState.get(f"/{name}")
            if is_mask(name):
                _hold_mask(state, resources, name, where)
                continue
            opacity, blend = parse_state_name(name)
            if state is None or not _are_near([float(state.ca), float(state.CA)], [opacity] * 2, LIKE):
                raise Unproved(where, f"the state {name} is not in the file")
            if str(state.BM) != f"/{BLEND_NAMES[blend]}":
                raise Unproved(where, f"the state {name} blends by {state.BM}")
        for form in made.forms:
            stream = resources.XObject.get(f"/{form.name}")
            if stream is None or stream.get("/Group") is None:
                raise Unproved(where, f"the group {form.name} is not in the file")
            content = stream.read_bytes()
            if crc32(content) != form.composed.digest:
                raise Unproved(where, f"the group {form.name} was changed on the way into the file")
            try:
                found = self._reader.read(content, self._fonts_of(stream.Resources, where))
            except Unreadable as error:
                raise Unproved(where, f"in a group {error}") from error
            hold_page(found, form.composed, where)
            self._hold_pictures(stream.Resources, form.composed.drawn, where)

    def _fonts_of(self, resources: pikepdf.Object, where: str) -> ReadFonts:
        key = resources.objgen
        if key not in self._read:
            named = resources.get("/Font", {})
            self._read[key] = ReadFonts({name[1:]: self._font(name[1:], font, where) for name, font in named.items()})
        return self._read[key]

    def _font(self, name: str, font: pikepdf.Object, where: str) -> ReadFont:
        descendant = font.DescendantFonts[0]
        read = ReadFont(_widths(descendant.W), _texts(font.ToUnicode.read_bytes()))
        if font.objgen not in self._seen:
            self._seen.add(font.objgen)
            _hold_program(descendant.FontDescriptor, self._fonts[name], where)
        return read

    def _hold_pictures(self, resources: pikepdf.Object, drawn: Sequence[Drawn], where: str) -> None:
        """Every picture that is laid is in the file, as large as it says."""
        for name in {kind.split()[1] for kind, _ in drawn if kind.startswith(PICTURE)}:
            image = resources.get("/XObject", {}).get(f"/{name}")
            if image is None:
                raise Unproved(where, f"the picture {name} is not in the file")
            if image.objgen not in self._seen:
                self._seen.add(image.objgen)
                _hold_picture(image, where)


def _hold_mask(state: pikepdf.Object | None, resources: pikepdf.Object, name: str, where: str) -> None:
    """The state masks by the light of the form that its name says."""
    form = resources.XObject.get(f"/{name.removeprefix(MASKED)}")
    mask = state.get("/SMask") if state is not None else None
    if (
        not isinstance(mask, pikepdf.Dictionary)
        or form is None
        or mask.G.objgen != form.objgen
        or pikepdf.Name.Luminosity != mask.S
    ):
        raise Unproved(where, f"the mask {name} is not in the file")


def _hold_boxes(page: pikepdf.Object, made: DrawnPage) -> None:
    """The page's boxes are those of its sheet, one inside the other."""
    media, stated = made.media, {}
    for name, rect in (("MediaBox", media), ("BleedBox", made.bleed), ("TrimBox", made.trim)):
        asked = rect.left - media.left, media.bottom - rect.bottom, rect.right - media.left, media.bottom - rect.top
        stated[name] = [float(value) for value in page[f"/{name}"]]
        if not _are_near(stated[name], asked, NEAR):
            raise Unproved(made.label, f"its {name} is {stated[name]}, not {[round(value, 3) for value in asked]}")
    for inner, outer in (("TrimBox", "BleedBox"), ("BleedBox", "MediaBox")):
        inside = [one - other for one, other in zip(stated[inner], stated[outer], strict=True)]
        if min(inside[:2]) < -NEAR or max(inside[2:]) > NEAR:
            raise Unproved(made.label, f"its {inner} lies outside its {outer}")


def _hold_to_brief(made: DrawnPage, width: float, height: float) -> None:
    """A page is as large as the brief says, or a spread of two such."""
    across = made.trim.width / width
    if abs(made.trim.height - height) > NEAR or abs(across - round(across)) * width > NEAR or round(across) > 2:
        raise Unproved(made.label, f"its trim is {made.trim.width / MM:.2f} × {made.trim.height / MM:.2f} mm")


def hold_page(found: ReadPage, told: Composed, where: str) -> None:
    """Hold what a reader finds on a page against what it was composed of; Unproved says what differs first."""
    _hold_text(found.text, told.text.replace("\n", ""), where)
    gids, places = np.frombuffer(told.gids, np.uint16), np.frombuffer(told.places).reshape(2, -1)
    if not np.array_equal(found.gids, gids):
        raise Unproved(where, f"it shows {len(found.gids)} glyphs that differ from the {len(gids)} that were set")
    off = np.abs(found.places - places).max(initial=0.0)
    if not off <= NEAR:
        raise Unproved(where, f"a glyph stands {off / MM:.3f} mm from its place")
    for (count, ink), (wanted, asked) in zip_longest(found.inks, told.inks, fillvalue=(0, [-1.0] * 4)):
        if count != wanted or not _are_near(ink, asked, LIKE):
            raise Unproved(where, f"words are printed in the ink {ink}, not in {asked}")
    for (kind, figures), (sort, figured) in zip_longest(found.drawn, told.drawn, fillvalue=("nothing", [])):
        if kind != sort or not _are_near(figures, figured, LIKE):
            raise Unproved(where, f"it has {kind} {figures} where there was {sort} {figured}")


def _are_near(some: Sequence[float], others: Sequence[float], least: float) -> bool:
    return len(some) == len(others) and all(abs(one - other) <= least for one, other in zip(some, others, strict=True))


def _hold_text(found: str, told: str, where: str) -> None:
    if found == told:
        return
    at = next((i for i, (one, other) in enumerate(zip(found, told, strict=False)) if one != other), len(found))
    at = min(at, len(told))
    begin = max(0, at - 12)
    raise Unproved(where, f"“{told[begin : at + 12]}” was set and “{found[begin : at + 12]}” can be read")


def _widths(stated: pikepdf.Object) -> np.ndarray:
    """Widths by glyph id, from the W array of a font (ISO 32000, 9.7.4.3)."""
    runs, at = [], 0
    parts = list(stated)
    while at < len(parts):
        first, second = int(parts[at]), parts[at + 1]
        if isinstance(second, pikepdf.Array):
            runs.append((first, [float(width) for width in second]))
            at += 2
        else:
            runs.append((first, [float(parts[at + 2])] * (int(second) - first + 1)))
            at += 3
    out = np.zeros(max(first + len(widths) for first, widths in runs) if runs else 0)
    for first, widths in runs:
        out[first : first + len(widths)] = widths
    return out


def _texts(stated: bytes) -> dict[int, str]:
    """What glyphs stand for, from a ToUnicode map of single codes."""
    body = re.findall(rb"beginbfchar(.*?)endbfchar", stated, re.DOTALL)
    pairs = (pair for part in body for pair in _MAPPED.findall(part))
    return {int(code, 16): bytes.fromhex(text.decode()).decode("utf-16-be") for code, text in pairs}


def _hold_program(descriptor: pikepdf.Object, use: FontUse, where: str) -> None:
    """The font program in the file draws every glyph that is used as the face itself does."""
    stream = descriptor.get("/FontFile2") or descriptor.get("/FontFile3")
    if stream is None:
        raise Unproved(where, f"the font {descriptor.FontName} is not in the file")
    program = hb.Font(hb.Face(hb.Blob(stream.read_bytes())))
    for gid in use.texts:
        box = program.get_glyph_extents(gid)
        drawn = (box.x_bearing, -box.y_bearing, box.x_bearing + box.width, -box.y_bearing - box.height) if box else ()
        if tuple(round(value * use.face.upem) for value in use.face.ink_of(gid)) != (drawn or (0, 0, 0, 0)):
            raise Unproved(where, f"glyph {gid} of {descriptor.FontName} is not drawn in the file")


def _hold_picture(image: pikepdf.Object, where: str) -> None:
    """A picture's stream is as large as the file says of it."""
    wide, high, octets = int(image.Width), int(image.Height), image.read_raw_bytes()
    if image.get("/Filter") == pikepdf.Name.DCTDecode:
        found = _JPEG_SIZE.search(octets)
        size = found and (int.from_bytes(found[2], "big"), int.from_bytes(found[1], "big"))
        if size != (wide, high) or not octets.endswith(b"\xff\xd9"):
            raise Unproved(where, f"a picture of {wide} × {high} pixels is not whole")
    elif len(image.read_bytes()) != -(-wide * _bits(image) // 8) * high:
        raise Unproved(where, f"a picture of {wide} × {high} pixels is not whole")


def _bits(image: pikepdf.Object) -> int:
    """Bits of one pixel."""
    inks = 4 if image.ColorSpace == pikepdf.Name.DeviceCMYK else 1
    return int(image.BitsPerComponent) * inks
