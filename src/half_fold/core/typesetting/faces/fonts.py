"""The user's own fonts: read from the system, copied into the job where their licence lets them be embedded."""

import hashlib
import os
import shutil
from collections.abc import Iterator
from functools import lru_cache
from pathlib import Path

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Font, Publication
from half_fold.core.store.atomic import whole_file
from half_fold.core.store.files import name_of_copy, octets_of, own_file, own_folder_of, require_file
from half_fold.core.typesetting.faces.faces import face_file, join_face, ships

SUFFIXES = (".ttf", ".otf")
LARGEST_FONT = 100_000_000  # octets
RESTRICTED, NO_SUBSETTING, BITMAP_ONLY = 0x0002, 0x0100, 0x0200
FALLBACK = "EB Garamond/Regular"
FOLDER = "fonts"
SYMBOLS = "Symbols"  # the family of the font that is made of a job's own symbols


class Found(Struct, frozen=True):
    """A font file, and the names it gives itself."""

    family: str
    style: str
    file: Path


def font_folders() -> list[Path]:
    """Where this system keeps fonts, the user's own folders first."""
    home = Path.home()
    data = Path(os.environ.get("XDG_DATA_HOME", home / ".local/share"))
    return [data / "fonts", home / ".fonts", Path("/usr/local/share/fonts"), Path("/usr/share/fonts")]


def system_fonts() -> Iterator[Found]:
    """Every font file of the system that can be read, one by one."""
    for folder in font_folders():
        for file in sorted(folder.rglob("*")) if folder.is_dir() else ():
            if file.suffix.lower() in SUFFIXES:
                try:
                    yield read_font(file)
                except Problem:
                    continue


def read_font(file: Path) -> Found:
    """The names of a font file. Problem where it is none."""
    from fontTools.ttLib import TTFont

    require_file(file, "font")
    try:
        with TTFont(file, lazy=True) as font:
            names = font["name"]
            family = names.getDebugName(16) or names.getDebugName(1)
            style = names.getDebugName(17) or names.getDebugName(2) or "Regular"
    except Exception as error:  # the library raises what it likes on what is no font
        raise Problem(f"“{file.name}” is no font that can be read; give a .ttf or .otf file.") from error
    if not family:
        raise Problem(f"“{file.name}” does not say what family it is of; it cannot be used.")
    return Found(family, " ".join(style.split()), file)


def embedding_fault(file: Path) -> str:
    """Why a font may not be embedded in a PDF, or '': by the licence bits of its OS/2 table (fsType)."""
    from fontTools.ttLib import TTFont

    try:
        with TTFont(file, lazy=True) as font:
            bits = font["OS/2"].fsType if "OS/2" in font else 0
            variable = "fvar" in font
    except Exception:  # the library raises what it likes on what is no font
        return "it is damaged"
    if bits & 0x000F == RESTRICTED:
        return "its licence bits forbid embedding it; ask its maker for a licence that allows it"
    if bits & BITMAP_ONLY:
        return "its licence bits let only its bitmaps be embedded"
    if bits & NO_SUBSETTING:
        return "its licence bits forbid embedding a part of it, which is what a press PDF does"
    if variable:
        return "it is a variable font, whose printed form is not settled; give a font of one style"
    return ""


def bring_font(publication: Publication, folder: Path, file: Path) -> tuple[Publication, Font]:
    """Copy a font into the job's ``folder`` and make it known. Problem says why one is refused."""
    found = read_font(file)
    if fault := embedding_fault(file) or shaping_fault(file):
        raise Problem(f"“{found.family} {found.style}” cannot be used: {fault}.")
    digest = hashlib.sha256(octets_of(file, "font", LARGEST_FONT)).hexdigest()[:24]
    for known in publication.fonts:
        if known.digest == digest:
            return publication, known
    if ships(found.family):
        raise Problem(f"“{found.family}” ships with Half Fold already; choose it by name.")
    kept = own_folder_of(folder, FOLDER)
    try:
        name = f"{digest[:6]}-{name_of_copy(file.name)}"
        with whole_file(kept / name) as temporary:
            shutil.copyfile(file, temporary)
    except OSError as error:
        raise Problem(f"“{kept}” cannot be written to; check the job folder.") from error
    font = Font(family=found.family, style=found.style, file=name, digest=digest)
    join_face(font.family, font.style, kept / name)
    return replace(publication, fonts=(*publication.fonts, font)), font


def join_fonts(publication: Publication, folder: Path) -> None:
    """Make a job's own fonts known to the setter; one that is missing is set in the text face until it is back."""
    for font in publication.fonts:
        join_face(font.family, font.style, _usable(folder, font) or face_file(FALLBACK))


def missing_fonts(publication: Publication, folder: Path) -> list[Font]:
    """The fonts of a job whose files have gone, or cannot be used."""
    return [font for font in publication.fonts if _usable(folder, font) is None]


def _usable(folder: Path, font: Font) -> Path | None:
    """The file of a job's font, where it lies in the job and can be set with, embedded and cut down for a press PDF."""
    try:
        file = own_file(folder / FOLDER, font.file, "font")
        state = file.stat()
        return None if _fault(file, state.st_mtime_ns, state.st_size) else file
    except (Problem, OSError):
        return None


@lru_cache(256)
def _fault(file: Path, _changed: int, _size: int) -> str:
    """Why a font file cannot be used, or ''."""
    return embedding_fault(file) or shaping_fault(file)


def shaping_fault(file: Path) -> str:
    """Why a font cannot be set with, or cut down to some of its glyphs as a press PDF needs it; or ''."""
    from half_fold.core.typesetting.faces.faces import Face

    try:
        drawn = Face.of_file("", file)
        shaped = drawn.shape("Hamburgefons 123")
        drawn.advances()
        program = Face.of_octets("", drawn.subset(shaped.glyphs))
        drawn.table("head"), drawn.table("post")
        same = all(program.ink_of(gid) == drawn.ink_of(gid) for gid in shaped.glyphs)
    except Exception:  # what the font's tables are damaged into, no library says in one way
        same = False
    return "" if same else "it is damaged, or cannot be cut down to what a page needs"
