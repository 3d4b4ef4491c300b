"""Inserts: bound-in cards, tip-ins and gatefolds; their cuts given once on the recto and mirrored for the verso.

A card starts on a recto and ends on a verso, so it goes in after an even page. Postal sizes vary: the figures here are
common ones, and a reply-paid panel only reserves its place.
"""

from collections.abc import Callable
from itertools import pairwise
from typing import Any, Literal

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.brief.bulk import leaf_width
from half_fold.core.brief.papers import find_paper, paper_of, with_paper
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import Length, format_length, format_size, length, of_unit
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.measure.worked import Worked, given_length
from half_fold.core.publication.fields import field_of
from half_fold.core.publication.property import Kind, Property, named
from half_fold.core.publication.records import CardPart, Insert, Publication
from half_fold.core.publication.surgery import fresh_id, page_numbers, swap

LEAST_POSTED_MM = (90.0, 140.0)
LEAST_STUB_MM = 75.0
MOST_UP = 4  # cards to the height
GATEFOLD_SHORT_MM = 3.0
REPLY_PAID = "Reply-paid panels are regulated: the place is kept clear. Take the artwork from your postal operator."
POSTED = "The smallest posted card is commonly 90 × 140 mm; it varies, so ask your postal operator."


class CardFace(Struct, frozen=True):
    """One face of a leaf in millimetres from its own left edge: its cut, its perforations, its fold; none is ink.

    ``lines`` are those of them that a leaf of its kind has: a tip-in has none.
    """

    name: str
    cut: float
    perforations: tuple[float, ...]
    fold: float | None
    lines: tuple[float, ...]


def faces(publication: Publication, insert: Insert) -> tuple[CardFace, CardFace]:
    """Recto and verso. What lies x from the recto's left edge lies width - x from the verso's.

    A gatefold is bound at the side of the spine, and folds where its page ends.
    """
    width, fold = leaf_width(publication, insert), None
    if insert.kind == "gatefold":
        fold = insert.width.mm if publication.brief.right_bound else publication.brief.width.mm
    cut, perforations = insert.cut.mm, [p.mm for p in insert.perforations]
    recto = _face("recto", insert.kind, cut, perforations, fold)
    mirrored = [width - x for x in perforations]
    return recto, _face("verso", insert.kind, width - cut, mirrored, None if fold is None else width - fold)


def _face(name: str, kind: str, cut: float, perforations: list[float], fold: float | None) -> CardFace:
    rising = tuple(sorted(perforations))
    lines = (cut, *rising) if kind == "card" else () if fold is None else (fold,)
    return CardFace(name, cut, rising, fold, lines)


def backs_up(publication: Publication, insert: Insert) -> bool:
    """Whether the verso's lines, seen through the paper, lie on the recto's."""
    recto, verso = faces(publication, insert)
    through = sorted(insert.width.mm - x for x in (verso.cut, *verso.perforations))
    return all(abs(a - b) < 1e-9 for a, b in zip(sorted((recto.cut, *recto.perforations)), through, strict=True))


def cut_numbers(publication: Publication) -> list[Worked]:
    """The cut on both faces of the first card; none where there is no card."""
    card = next((insert for insert in publication.inserts if insert.kind == "card"), None)
    if card is None:
        return []
    width, cut = (
        given_length(card.width, "Card width"),
        given_length(card.cut, "Cut on the recto", key="insert.cut.recto"),
    )
    return [cut, (width - cut).named("Cut on the verso", "insert.cut.verso")]


def faults(publication: Publication, insert: Insert) -> list[str]:
    """What is wrong with an insert, each in a sentence."""
    brief = publication.brief
    number = page_numbers(publication).get(insert.after)
    found = []
    if number is None:
        found.append("It stands after a page that is no longer in the order; say after which page it goes.")
    elif number % 2 and insert.kind != "tip-in":
        found.append(f"After page {number} it would start on a verso; a card starts on a recto, after an even page.")
    if insert.kind == "gatefold":
        most = brief.width.mm - GATEFOLD_SHORT_MM
        if insert.width.mm > most + 1e-9:
            wide, least = format_length(insert.width.pt, brief.unit), format_length(most * MM, brief.unit)
            found.append(f"Its folded leaf is {wide}; it must be {least} or less to fold in.")
        return found
    if insert.width.mm > brief.width.mm + 1e-9 or insert.up * insert.height.mm > brief.height.mm + 1e-9:
        found.append("It is larger than the page it is bound with; give it a smaller size.")
    low, high = sorted((insert.width.mm - insert.cut.mm, insert.height.mm))
    if insert.kind == "card" and (low < LEAST_POSTED_MM[0] - 1e-9 or high < LEAST_POSTED_MM[1] - 1e-9):
        size = format_size(low * MM, high * MM, brief.unit)
        found.append(f"Cut off it is {size}, too small for the post. {POSTED}")
    if insert.kind == "card" and brief.binding == "saddle" and insert.stub.mm < LEAST_STUB_MM:
        least = format_length(LEAST_STUB_MM * MM, brief.unit)
        found.append(f"Stitched in it needs a stub of {least} or more in the other half of the copy.")
    if not 0 < insert.cut.mm < insert.width.mm:
        found.append("Its cut does not cross the card; measure it from the recto's left edge.")
    return found


# Edits ------------------------------------------------------------------------------------------------


def add_insert(publication: Publication, after: int, kind: str, own: str = "") -> Publication:
    """A new insert after that page, in a usual size, of a new id or its ``own``.

    Problem where there is no such page or kind.
    """
    if not 1 <= after <= len(publication.pages):
        raise Problem(f"There is no page {after}; this job has {len(publication.pages)}.")
    brief = publication.brief
    name = own or fresh_id("insert", (i.id for i in publication.inserts))
    page = publication.pages[after - 1].id
    paper = brief.cover_paper if brief.cover_paper != "none" else brief.text_paper
    plain = Insert(
        id=name, name="Tip-in", kind="tip-in", after=page, paper=paper, width=brief.width, height=brief.height
    )
    if kind not in _NEW:
        raise Problem(f"There is no insert “{kind}”; there are {', '.join(_NEW)}.")
    made = _NEW[kind](publication, plain)
    return replace(publication, inserts=(*publication.inserts, made))


def _new_card(publication: Publication, plain: Insert) -> Insert:
    brief = publication.brief
    up = 3 if brief.height.mm / 3 >= LEAST_POSTED_MM[0] else 2
    return replace(
        plain,
        name="Reply card",
        kind="card",
        width=of_unit(min(brief.width.mm, 160.0) * MM, brief.unit),
        height=of_unit(brief.height.pt / up, brief.unit),
        up=up,
        stub=of_unit(plain.stub.pt, brief.unit),
        cut=of_unit(12 * MM, brief.unit),
        parts=(
            CardPart(kind="words", text=f"Yes, send me {publication.title}"),
            CardPart(kind="ticks", text="for a year; for two years", count=2),
            CardPart(kind="lines", text="name; street; town", count=3),
        ),
        verso=(
            CardPart(kind="reply-paid"),
            CardPart(kind="words", text=publication.title),
            CardPart(kind="lines", text="street; town", count=2),
        ),
    )


def _new_gatefold(publication: Publication, plain: Insert) -> Insert:
    width = of_unit(publication.brief.width.pt - GATEFOLD_SHORT_MM * MM, publication.brief.unit)
    return replace(plain, name="Gatefold", kind="gatefold", width=width)


_NEW: dict[str, Callable[[Publication, Insert], Insert]] = {
    "card": _new_card,
    "tip-in": lambda _publication, plain: plain,
    "gatefold": _new_gatefold,
}


def drop_insert(publication: Publication, insert: str) -> Publication:
    return replace(publication, inserts=tuple(i for i in publication.inserts if i.id != insert))


def change_insert(publication: Publication, insert: str, field: str, text: str) -> Publication:
    """One value of an insert as typed. Problem where it cannot be."""
    old = next((i for i in publication.inserts if i.id == insert), None)
    if old is None:
        raise Problem("That insert is no longer there; it may have been undone.")
    if field == "after":
        return replace(publication, inserts=swap(publication.inserts, _moved(publication, old, text.strip())))
    new = named(INSERT, field).set(publication, old, text)
    publication = with_paper(publication, find_paper(publication, new.paper))
    return replace(publication, inserts=swap(publication.inserts, new))


KINDS = ("words", "lines", "ticks", "reply-paid")


def parse_parts(text: str) -> tuple[CardPart, ...]:
    """Parts as typed, one to ``/``: ``words: ...``, ``lines: name; town``, ``ticks: one; two``, ``reply-paid``."""
    found = []
    for part in (p.strip() for p in text.split("/")):
        if not part:
            continue
        kind, _, words = part.partition(":")
        if kind.strip() not in KINDS:
            raise Problem(f"“{kind.strip()}” is no part of a card; there are {', '.join(KINDS)}.")
        entries = [word.strip() for word in words.split(";") if word.strip()]
        found.append(CardPart(kind=kind.strip(), text="; ".join(entries), count=max(1, len(entries))))  # type: ignore[arg-type]
    return tuple(found)


def format_parts(parts: tuple[CardPart, ...]) -> str:
    """The parts of a face as they are typed."""
    return " / ".join(f"{part.kind}: {part.text}" if part.text else part.kind for part in parts)


# What can be set of one ---------------------------------------------------------------------------------


def _moved(publication: Publication, insert: Insert, text: str) -> Insert:
    if not text.isdigit() or not 1 <= int(text) <= len(publication.pages):
        raise Problem(f"There is no page “{text}”; give one from 1 to {len(publication.pages)}.")
    return replace(insert, after=publication.pages[int(text) - 1].id)


def _lines(publication: Publication, _: Insert, text: str) -> tuple[Length, ...]:
    return tuple(length(part, publication.brief.unit) for part in text.split(";") if part.strip())


def _of_card(name: str, label: str, kind: Kind, **more: Any) -> Property[Insert]:
    return field_of(Insert, name, label, kind, applies=lambda insert: insert.kind == "card", **more)


def _of_face(name: Literal["parts", "verso"], label: str, note: str) -> Property[Insert]:
    whole = _of_card(name, label, "text", note=note, parse=lambda _, __, text: parse_parts(text))
    return replace(whole, read=lambda insert: format_parts(getattr(insert, name)))


INSERT: tuple[Property[Insert], ...] = (
    field_of(Insert, "name", "Name", "text"),
    paper_of(Insert),
    field_of(Insert, "width", "Width", "length"),
    field_of(Insert, "height", "Height", "length"),
    Property(
        "counts", "Folios", "choice", lambda insert: "count" if insert.counts else "skip",
        lambda insert, value: replace(insert, counts=value == "count"),
        choices=(("skip", "skip it"), ("count", "count it")),
    ),
    _of_card("up", "To the height", "count", most=MOST_UP),
    _of_card("stub", "Stub", "length", note="in the other half when stitched: 75 mm or more"),
    _of_card("cut", "Cut, recto", "length", note="from the recto's left edge"),
    replace(
        _of_card("perforations", "Perforations", "text", none="none", note="on the recto, parted by ;", parse=_lines),
        read=lambda insert: "; ".join(each.typed for each in insert.perforations),
        write=lambda insert, value: replace(insert, perforations=value or ()),
    ),
    _of_face("parts", "On the recto", "parted by /: words: … / lines: name; town / ticks: yes; no / reply-paid"),
    _of_face("verso", "On its back", "as on the recto"),
)  # fmt: skip


# The card's own layout --------------------------------------------------------------------------------


class PlacedPart(Struct, frozen=True):
    """A part with its place on its face, in points from the card's upper left corner; lines at ``baselines``."""

    part: CardPart
    rect: Rect
    baselines: tuple[float, ...] = ()


MARGIN_MM, LINE_MM, TICK_MM = 6.0, 9.0, 6.0
REPLY_PANEL_MM = (60.0, 34.0)


def strip(insert: Insert, verso: bool = False) -> tuple[float, float]:
    """The widest strip of the card that no cut or perforation runs through: its left and right on that face, in mm."""
    width = insert.width.mm
    lines = sorted({insert.cut.mm, *(p.mm for p in insert.perforations if insert.cut.mm < p.mm < width), width})
    left, right = max(pairwise(lines), key=lambda pair: pair[1] - pair[0], default=(0.0, width))
    return (width - right, width - left) if verso else (left, right)


def place_parts(insert: Insert, verso: bool = False) -> list[PlacedPart]:
    """The parts of a face down its widest strip: lines share what height is left, so that they space themselves."""
    parts = insert.verso if verso else insert.parts
    edge, other = strip(insert, verso)
    left, right = (edge + MARGIN_MM) * MM, (other - MARGIN_MM) * MM
    top, bottom = MARGIN_MM * MM, (insert.height.mm - MARGIN_MM) * MM
    fixed = {"words": LINE_MM, "ticks": TICK_MM, "reply-paid": REPLY_PANEL_MM[1]}
    needs = [fixed[p.kind] * (p.count if p.kind == "ticks" else 1) * MM if p.kind != "lines" else 0.0 for p in parts]
    lines = sum(part.count for part in parts if part.kind == "lines")
    each = max(0.0, (bottom - top - sum(needs)) / lines) if lines else 0.0
    each = min(each, 1.4 * LINE_MM * MM)
    out, y = [], top
    for part, need in zip(parts, needs, strict=True):
        tall = each * part.count if part.kind == "lines" else need
        step = tall / part.count
        marks = tuple(y + step * (i + 1) - 0.2 * step for i in range(part.count))
        wide = left + REPLY_PANEL_MM[0] * MM if part.kind == "reply-paid" else right
        out.append(PlacedPart(part, Rect(left, y, min(right, wide), y + tall), marks))
        y += tall
    return out


def lines_too_close(insert: Insert) -> bool:
    """Whether the lines left to write on stand less than 6 mm apart."""
    both = (*place_parts(insert), *place_parts(insert, verso=True))
    gaps = [p.rect.height / p.part.count for p in both if p.part.kind == "lines"]
    return any(gap < 6 * MM for gap in gaps)
