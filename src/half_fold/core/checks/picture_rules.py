"""Rules about pictures: resolution, and whether their files are what they were."""

from collections.abc import Iterator
from functools import lru_cache, partial
from pathlib import Path

from msgspec.structs import replace

from half_fold.core.brief.allowances import ink_limit, picture_ppi
from half_fold.core.checks.context import Context
from half_fold.core.checks.finding import ACCIDENT, REFUSED, SOFT, Finding, Fix
from half_fold.core.measure.length import figure
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour.colour import profile_for, profile_name
from half_fold.core.pictures.cutting.masks import read_mask
from half_fold.core.pictures.library.bring import digest_of, picture_file, record_of
from half_fold.core.pictures.library.facts import facts_of, most_ink, read_facts
from half_fold.core.pictures.library.fit import REFUSED_BELOW, SOFT_BELOW, cropped_away, effective_ppi, placed
from half_fold.core.plan.spreads import spread_of
from half_fold.core.publication.records import Block, HoldsDisplay, HoldsPicture, Picture, Publication
from half_fold.core.publication.surgery import cover_blocks, picture_of, swap
from half_fold.core.publication.used import with_inks
from half_fold.core.spread.edits.edits import set_holds
from half_fold.core.spread.setting.captions import captions_of, give_caption
from half_fold.core.spread.setting.forms import is_plain
from half_fold.core.spread.where.frames import block_box

LINE_ART_PPI = 1200.0
LARGE_MEGAPIXELS = 4.0
SEEN_CHANGE = 3.0  # of colour, where dark parts lie beside each other
LEAST_CUT = 0.01  # of a drawing: what is less is not seen
INK_TOLERANCE = 3.0  # per cent: what packing a picture as JPEG may add


def low_resolution(context: Context) -> Iterator[Finding]:
    """Too few pixels for the printed size: soft under two thirds of what is good, refused under half."""
    good, says = picture_ppi(context.publication)
    for number, block, box in context.blocks:
        if not isinstance(block.holds, HoldsPicture):
            continue
        picture = picture_of(context.publication, block.holds.picture)
        ppi = effective_ppi(picture, placed(picture, block.holds, box))
        if ppi >= good * SOFT_BELOW or _is_line_art(context, picture):
            continue
        refused = ppi < good * REFUSED_BELOW
        message = f"“{picture.file}” prints at {figure(ppi, 0)} ppi"
        share = figure(100 * ppi / (good * SOFT_BELOW), 0)
        why = (
            f"{figure(good, 0)} ppi is {says} and {figure(good * SOFT_BELOW, 0)} just does; "
            f"at {share} % of its present size it would, "
            "or take a larger picture. More pixels made from few add nothing."
        )
        consequence = REFUSED if refused else SOFT
        yield Finding("low resolution", consequence, message, why, refused, number, block.id, box)


def cropped_drawings(context: Context) -> Iterator[Finding]:
    """A drawing that its block cuts into, which a logo never wants; unless it was drawn closer."""
    for number, block, _ in context.blocks:
        holds = block.holds
        if not isinstance(holds, HoldsPicture) or holds.closer > 1 or holds.repeated or not is_plain(holds.form):
            continue
        picture, box = picture_of(context.publication, holds.picture), block_box(context.publication, number, block)
        cut = cropped_away(placed(picture, holds, box), box, holds.turn) if picture.art and holds.scale == "fill" else 0
        if cut > LEAST_CUT:
            message = f"{figure(100 * cut, 0)} % of the drawing “{picture.file}” is cut off"
            why = "It fills its block, whose proportion is another; inside it, all of it is seen."
            whole = Fix("Fit it inside", partial(set_holds, block=block.id, holds=replace(holds, scale="fit")))
            yield Finding("cropped drawing", ACCIDENT, message, why, False, number, block.id, box, whole)


def _is_line_art(context: Context, picture: Picture) -> bool:
    facts = facts_of(context.pictures, picture) if context.pictures is not None else None
    return facts is not None and facts.is_line_art


def _laid(context: Context) -> Iterator[tuple[int, Block, Rect, Picture, float]]:
    """(page, block, its box, picture, effective ppi) of every picture block."""
    for number, block, box in context.blocks:
        if isinstance(block.holds, HoldsPicture):
            picture = picture_of(context.publication, block.holds.picture)
            yield number, block, box, picture, effective_ppi(picture, placed(picture, block.holds, box))


def coarse_line_art(context: Context) -> Iterator[Finding]:
    """Line art of one bit with so few dots that its edges would show as steps."""
    for number, block, box, picture, ppi in _laid(context):
        if ppi < LINE_ART_PPI * SOFT_BELOW and _is_line_art(context, picture):
            message = f"“{picture.file}” is line art at {figure(ppi, 0)} ppi"
            why = f"{figure(LINE_ART_PPI, 0)} ppi is good for it and {figure(LINE_ART_PPI * SOFT_BELOW, 0)} just does."
            yield Finding("coarse line art", SOFT, message, why, False, number, block.id, box)


def _each_once(context: Context) -> Iterator[tuple[int, Block, Rect, Picture]]:
    told: set[str] = set()
    for number, block, box, picture, _ in _laid(context):
        if picture.id not in told:
            context.go_on()
            told.add(picture.id)
            yield number, block, box, picture


def inks_of_another(context: Context) -> Iterator[Finding]:
    """A picture that brings inks meant for another printing condition, until it is said what to do with them."""
    if context.pictures is None:
        return
    profile = profile_for(context.publication, context.publication.brief.text_paper)
    for number, block, box, picture in _each_once(context):
        facts = facts_of(context.pictures, picture) if not picture.inks else None
        if facts is not None and facts.mode == "CMYK" and facts.profile and facts.profile != profile:
            message = f"“{picture.file}” has inks for “{facts.profile_name}”"
            why = (
                f"The job is for “{profile_name(profile)}”. Kept, they print as other colours; converted, black alone "
                "becomes several inks. Say which in the picture's rows."
            )
            fix = Fix("Convert them", partial(with_inks, file=picture.file, inks="converted"))
            yield Finding("inks of another profile", ACCIDENT, message, why, False, number, block.id, box, fix)


def picture_over_limit(context: Context) -> Iterator[Finding]:
    """A picture whose darkest parts lay more ink than the paper takes, or are seen to change where they are held to it.

    Judged on a reduced copy. What is converted by the press is held to the limit there; inks of its own are kept.
    """
    if context.pictures is None:
        return
    profile = profile_for(context.publication, context.publication.brief.text_paper)
    limit, says = ink_limit(context.publication)
    for number, block, box, picture in _each_once(context):
        laid = most_ink(context.pictures, picture, profile, limit)
        if laid is None:
            continue
        change = figure(laid.change, 1)
        if laid.total > limit + INK_TOLERANCE:
            message = f"“{picture.file}” lays up to {figure(laid.total, 0)} % of ink"
            why = (
                f"The limit of {says} is {limit} %; more will not dry, and sets off on the next sheet. "
                f"Held to it, its darkest parts change by {change} (CIE 1976)."
            )
            fix = Fix("Hold its inks to the limit", partial(with_inks, file=picture.file, inks="held"))
            facts = facts_of(context.pictures, picture)
            if facts is not None and facts.mode == "CMYK" and facts.profile and picture.inks != "converted":
                fix = Fix("Convert its inks", partial(with_inks, file=picture.file, inks="converted"))
            yield Finding("too much ink", REFUSED, message, why, False, number, block.id, box, fix)
        elif laid.change >= SEEN_CHANGE:
            message = f"“{picture.file}” is held to {limit} % of ink, and its darkest parts change by {change}"
            why = f"The limit of {says} is {limit} %; from {SEEN_CHANGE:g} on (CIE 1976) a change may be seen."
            yield Finding("held to the ink limit", SOFT, message, why, False, number, block.id, box)


def asked_of_pictures(context: Context) -> Iterator[Finding]:
    """A laid picture that has no caption, or no credit, where the type sheet asks for one of every picture."""
    asked = [role.name for role in context.publication.roles if role.asked and role.name in ("caption", "credit")]
    said = {
        (number, name)
        for number, block, _ in context.blocks
        if isinstance(block.holds, HoldsDisplay)
        for name in ("captions", "credits")
        if any(f"{{{name}}}" in paragraph.text for paragraph in block.holds.paragraphs)
    }
    for number, block, box, picture in _each_once(context) if asked else ():
        if picture.art:
            continue
        own = captions_of(context.publication, block.id)
        for name in asked:
            if not getattr(picture, name):
                message = f"“{picture.file}” has no {name}"
                why = f"The type sheet asks for a {name} of every picture; say it in the picture's rows."
                yield Finding(f"no {name}", ACCIDENT, message, why, False, number, block.id, box)
            elif not own and not _is_told(context, name, number, said):
                message = f"The {name} of “{picture.file}” is not laid"
                fix = Fix("Lay its caption", partial(_captioned, block=block.id))
                why = f"The type sheet asks for a {name} of every picture, and nothing here says it."
                yield Finding(f"no {name}", ACCIDENT, message, why, False, number, block.id, box, fix)


def _captioned(publication: Publication, block: str) -> Publication:
    return give_caption(publication, block)[0]


def _is_told(context: Context, name: str, number: int, said: set[tuple[int, str]]) -> bool:
    """Whether words that gather it stand on the spread, or for credits anywhere."""
    if name == "credit":
        return any(each == "credits" for _, each in said)
    on = spread_of(context.publication, number).numbers
    return any((other, "captions") in said for other in on)


@lru_cache(maxsize=512)
def _digest(path: Path, _changed: int, _size: int) -> str:
    return digest_of(path)


def changed_picture(context: Context) -> Iterator[Finding]:
    """A picture file that has gone, or is no longer the one that was brought in."""
    if context.pictures is None:
        return
    used: dict[str, tuple[int, str, Rect | None, str]] = {
        block.holds.picture: (number, block.id, box, "")
        for number, block, box in context.blocks
        if isinstance(block.holds, HoldsPicture)
    }
    for block in cover_blocks(context.publication):
        if isinstance(block.holds, HoldsPicture):
            used.setdefault(block.holds.picture, (0, "", None, "cover"))
    for picture in context.publication.pictures:
        if picture.id not in used:
            continue
        number, name, box, place = used[picture.id]
        try:
            path = picture_file(context.pictures, picture)
            state = path.stat()
            digest = _digest(path, state.st_mtime_ns, state.st_size)
            read_facts(context.pictures, picture)
            if picture.mask:
                read_mask(context.pictures, picture)
        except (Problem, OSError) as problem:
            why = f"Without it the press cannot be made. {problem}"
            yield Finding(
                "missing picture",
                REFUSED,
                f"“{picture.file}” is missing or cannot be read",
                why,
                True,
                number,
                name,
                box,
                None,
                "",
                place,
            )
            continue
        if digest != picture.digest:
            why = "The file is not the one that was brought in; look at it where it stands, then take it as it is."
            now = _record(path, state.st_mtime_ns, state.st_size)
            fix = Fix("Take it as it is now", partial(_take, picture=picture.id, now=now)) if now else None
            yield Finding(
                "changed picture",
                REFUSED,
                f"“{picture.file}” has changed",
                why,
                False,
                number,
                name,
                box,
                fix,
                "",
                place,
            )


@lru_cache(32)
def _record(path: Path, _changed: int, _size: int) -> Picture | None:
    try:
        return record_of(path)
    except (Problem, OSError):
        return None


def _take(publication: Publication, picture: str, now: Picture) -> Publication:
    """The picture with the size and the outline of its file as that is now."""
    known = picture_of(publication, picture)
    kept = replace(now, id=known.id, file=known.file, inks=known.inks)
    if known.mask:
        kept = replace(kept, mask=known.mask, has_alpha=True, outline=known.outline, tones="")
    return replace(publication, pictures=swap(publication.pictures, kept))
