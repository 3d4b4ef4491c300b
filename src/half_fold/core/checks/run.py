"""All rules, in one place; a new rule is one function and one line here. Those of spreads serve the cover too."""

from collections.abc import Callable, Iterable, Iterator
from functools import partial
from pathlib import Path

from msgspec.structs import replace

from half_fold.core.apart.sides import Side, edit_side, page_name, side_of, sides_of
from half_fold.core.checks import (
    clear_rules,
    code_rules,
    cover_rules,
    crease_rules,
    eye_rules,
    goods_rules,
    ink_rules,
    job_rules,
    layer_rules,
    letter_rules,
    picture_rules,
    place_rules,
    reading_rules,
    scene_rules,
    text_rules,
)
from half_fold.core.checks.context import Context
from half_fold.core.checks.finding import CONSEQUENCES, Finding, Fix
from half_fold.core.cover.flat import side_flat
from half_fold.core.drawing.tone import WHITE, Tone
from half_fold.core.inks.tones import fill_of
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Publication
from half_fold.core.spread.setting.compose import Setter

SPREAD_RULES = (
    picture_rules.low_resolution,
    picture_rules.coarse_line_art,
    picture_rules.cropped_drawings,
    picture_rules.inks_of_another,
    picture_rules.picture_over_limit,
    place_rules.on_no_part,
    place_rules.nearly_bleeds,
    place_rules.text_beyond_safe,
    place_rules.barcode_place,
    place_rules.barcode_digits,
    code_rules.codes_read,
    code_rules.codes_stand_off,
    code_rules.barcode_pictures,
    place_rules.grounds_at_the_trim,
    place_rules.thin_strokes,
    layer_rules.words_on_words,
    layer_rules.hidden,
    layer_rules.words_in_their_ground,
    ink_rules.spots_mixed_away,
    eye_rules.nearly_in_line,
    eye_rules.nearly_even,
    eye_rules.left_to_fill_in,
    eye_rules.kept_free,
    eye_rules.floating_cut,
    eye_rules.banding,
    clear_rules.clear_of_cuts,
    clear_rules.clear_of_the_fold,
    clear_rules.clear_of_words,
    scene_rules.seams,
    text_rules.overset_display,
    text_rules.too_wide_words,
    text_rules.misspelled_words,
    text_rules.overset_story,
    text_rules.stale_contents,
    text_rules.too_wide,
    text_rules.text_at_fold,
    letter_rules.missing_glyph,
    text_rules.small_type_in_inks,
)
RULES = (
    job_rules.unbindable_count,
    job_rules.bound_against_reading,
    place_rules.no_bleed,
    job_rules.unplaced_pages,
    job_rules.sections_on_recto,
    job_rules.inserts_that_fit,
    job_rules.printer_demands,
    job_rules.too_much_ink,
    picture_rules.changed_picture,
    picture_rules.asked_of_pictures,
    *SPREAD_RULES,
    text_rules.tinted_small_text,
    text_rules.furniture_in_text,
    letter_rules.missing_font,
    letter_rules.stood_in,
    text_rules.filler_copy,
    goods_rules.goods_gone,
    goods_rules.goods_left_out,
    eye_rules.face_used_once,
    eye_rules.folios_lost,
    cover_rules.left_over_things,
    cover_rules.set_against_its_side,
    cover_rules.spine_text_fits,
    cover_rules.spine_letters,
    cover_rules.card_letters,
    cover_rules.masthead_in_view,
    cover_rules.masthead_is_largest,
    cover_rules.masthead_hidden,
    cover_rules.barcode_kept_clear,
    crease_rules.words_on_a_crease,
    reading_rules.words_unread,
)


def check(
    publication: Publication,
    setter: Setter,
    pictures: Path | None,
    still_wanted: Callable[[], bool] = lambda: True,
) -> list[Finding]:
    """Everything the rules find: by consequence, what stops the press first, then by page.

    GivenUp as soon as it is not ``still_wanted``.
    """
    context = Context(publication, setter, pictures, still_wanted=still_wanted)
    found = [finding for rule in RULES for finding in _by(rule, context)]
    found += [finding for side in sides_of(publication) for finding in _on_side(context, side)]
    return sorted(found, key=lambda f: (CONSEQUENCES.index(f.consequence), not f.stops_press, f.page, f.side))


def _by(rule: Callable[[Context], Iterable[Finding]], context: Context) -> Iterable[Finding]:
    context.go_on()
    return rule(context)


def _on_side(context: Context, side: Side) -> Iterator[Finding]:
    """What the rules of spreads find on one side of the cover; each fix becomes an edit of the job."""
    cover = context.publication.cover
    ground: Tone | None = WHITE
    outside = cover.front_ink, cover.back_ink, cover.joint_ink, cover.turn_in_ink
    own_inks = outside if side == "outside" else (cover.flap_ink,)
    if side in ("outside", "flaps"):
        paint = fill_of(context.publication, cover.ink, cover.tint, Rect(0, 0, 1, 1)).paint
        ground = paint if isinstance(paint, Tone) and not any(own_inks) else None
    flat = side_flat(context.publication, side)
    sheet, own_job = flat.trim.grown(flat.bleed), side_of(context.publication, side)
    own = replace(context, publication=own_job, ground=ground, is_side=True, sheet=sheet)
    for rule in SPREAD_RULES:
        for finding in _by(rule, own):
            fix = finding.fix and Fix(finding.fix.words, partial(edit_side, side=side, edit=finding.fix.edit))
            yield replace(finding, side=side, place=page_name(context.publication, side, finding.page), fix=fix)
