"""What a cover of its kind needs, as a list that ticks itself: each part with where it was found, or that it lacks."""

import re
from collections.abc import Callable, Iterator

from msgspec import Struct

from half_fold.core.apart.covers import cover_sides
from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.properties import job_kind
from half_fold.core.brief.spine import spine
from half_fold.core.brief.wrap import has_cover
from half_fold.core.measure.worked import Worked
from half_fold.core.publication.kinds import NO_NUMBER, text_of
from half_fold.core.publication.records import (
    Block,
    HoldsBarcode,
    HoldsDisplay,
    HoldsPicture,
    Publication,
)
from half_fold.core.publication.things import every_thing
from half_fold.core.spread.where.filled import fill_words

BLURB_WORDS = 30  # from which on words on the back or a flap tell what is inside
SIDES = {
    "front": "front", "back": "back", "front_flap": "front flap", "back_flap": "back flap",
    "inside_front": "inside front", "inside_back": "inside back",
}  # fmt: skip
_QUOTED = re.compile(r"^\s*[“„«‘\"']")
_SPINE = "spine"


class CoverPart(Struct, frozen=True):
    """A part by name, and ``where`` it was found: '' where it is lacking. ``how`` says by what it is known."""

    name: str
    where: str
    how: str

    @property
    def is_there(self) -> bool:
        return bool(self.where)


class _Words(Struct, frozen=True):
    """What a block or the spine says, filled in, and where."""

    where: str
    said: str
    block: Block | None = None


def cover_parts(publication: Publication) -> list[CoverPart]:
    """The parts that a cover of this kind of job needs; none for a self-cover job."""
    if not has_cover(publication):
        return []
    said = list(_said(publication))
    every = list(_blocks(publication))
    spoken = _Spoken(publication, said)
    kind = job_kind(publication)
    has_back = binding_named(publication.brief.binding).cover != "front"
    dated = spoken.where(publication.date) or spoken.where(publication.season)
    out = [CoverPart("Title", spoken.where(publication.title), "the job's title, in words")]
    if kind in ("book", "photo-book"):
        out.append(CoverPart("Author", spoken.where(publication.author), "the author that Brief names, in words"))
    if kind == "book" and has_back:
        out += [
            CoverPart("Publisher", spoken.where(publication.publisher) or _mark(publication), "named, or a mark"),
            CoverPart("Blurb", _first(said, _is_blurb), f"{BLURB_WORDS} words or more on the back or a flap"),
            CoverPart("Quotations", _first(said, _is_quoted), "words in quotation marks on the back or a flap"),
            CoverPart("Price", spoken.where(publication.price), "the price that Brief names, in words"),
        ]
    if kind == "magazine":
        out += [
            CoverPart("Issue", spoken.where(publication.issue), "the issue that Brief names, in words"),
            CoverPart("Date or season", dated, "as Brief names it"),
            CoverPart(
                "Price", spoken.where(publication.price) or _price(said), "the price, in words or over the barcode"
            ),
            CoverPart("Cover lines", _cover_lines(every), "words on the front beside the title"),
        ]
    if kind == "catalogue":
        out.append(CoverPart("Date or season", dated, "as Brief names it"))
    out.append(CoverPart("Picture", _first_block(every, lambda b: isinstance(b.holds, HoldsPicture)), "on the front"))
    if kind in ("magazine", "book", "catalogue"):
        out.append(CoverPart("Award or puff", _first_block(every, _is_puff), "a round or a burst with words"))
    if kind in ("magazine", "book") and has_back:
        out.append(CoverPart("Code", _code(publication, every), "a barcode with its number, or the printer's place"))
    if spine(publication) is not None:
        words = next((each.where for each in said if each.where == _SPINE), "")
        out.append(CoverPart("Words on the spine", words, "where it is thick enough for them"))
    return out


def parts_number(publication: Publication) -> Worked | None:
    """How many parts are there, of how many; unfolds to each."""
    parts = cover_parts(publication)
    if not parts:
        return None
    there = sum(part.is_there for part in parts)
    lacking = ", ".join(part.name.lower() for part in parts if not part.is_there)
    told = tuple(
        Worked(float(part.is_there), "", part.name, f"{part.where or 'lacking'}: {part.how}") for part in parts
    )
    unsaid = binding_named(publication.brief.binding).elsewhere and not publication.cover_of
    hint = "; say in the brief what it is the cover of" if unsaid else ""
    how = f"of {len(parts)} that such a cover has; lacking: {lacking}" if lacking else f"of {len(parts)}; nothing lacks"
    return Worked(float(there), "", "Parts", how + hint, told)


def _blocks(publication: Publication) -> Iterator[tuple[str, Block]]:
    shown = ("front", "back", *(("front_flap", "back_flap") if "flaps" in cover_sides(publication) else ()))
    for side in (*shown, "inside_front", "inside_back"):
        for thing in every_thing(getattr(publication.cover, side)):
            if isinstance(thing, Block):
                yield SIDES[side], thing


def _said(publication: Publication) -> Iterator[_Words]:
    for where, block in _blocks(publication):
        paragraphs = text_of(publication, block.holds)
        if paragraphs:
            words = " ".join(paragraph.text for paragraph in paragraphs)
            yield _Words(where, fill_words(publication, words), block)
    cover = publication.cover
    lines = [piece.words for piece in cover.pieces] if cover.pieces else [cover.spine]
    words = " ".join(fill_words(publication, line) for line in lines).strip()
    if words:
        yield _Words(_SPINE, words)


class _Spoken(Struct, frozen=True):
    publication: Publication
    said: list[_Words]

    def where(self, wanted: str) -> str:
        """Where words say that; '' where none do, or there is nothing to say."""
        plain = _plain(wanted)
        return next((each.where for each in self.said if plain and plain in _plain(each.said)), "")


def _plain(words: str) -> str:
    return " ".join(words.casefold().split())


def _first(said: list[_Words], is_it: Callable[[_Words], bool]) -> str:
    return next((each.where for each in said if is_it(each)), "")


def _first_block(every: list[tuple[str, Block]], is_it: Callable[[Block], bool]) -> str:
    return next((where for where, block in every if where == "front" and is_it(block)), "")


def _is_blurb(words: _Words) -> bool:
    return words.where in ("back", "front flap", "back flap") and len(words.said.split()) >= BLURB_WORDS


def _is_quoted(words: _Words) -> bool:
    return words.where in ("back", "front flap", "back flap", "front") and bool(_QUOTED.match(words.said))


def _is_puff(block: Block) -> bool:
    ground = block.holds.ground if isinstance(block.holds, HoldsDisplay) else None
    return ground is not None and ground.form.kind in ("ellipse", "circle", "burst", "ring", "banner", "flash")


def _price(said: list[_Words]) -> str:
    """Words over a barcode, beside the issue."""
    return next((each.where for each in said if each.block and isinstance(each.block.holds, HoldsBarcode)
                 and len(each.said.split()) > 1), "")  # fmt: skip


def _cover_lines(every: list[tuple[str, Block]]) -> str:
    words = [b for where, b in every if where == "front" and isinstance(b.holds, HoldsDisplay)]
    return "front" if len(words) > 1 else ""


def _mark(publication: Publication) -> str:
    return _SPINE if any(piece.picture for piece in publication.cover.pieces) else ""


def _code(publication: Publication, every: list[tuple[str, Block]]) -> str:
    own = next((w for w, b in every if isinstance(b.holds, HoldsBarcode) and b.holds.number != NO_NUMBER), "")
    sheet = publication.printer
    return own or ("the printer's place" if sheet is not None and sheet.barcode else "")
