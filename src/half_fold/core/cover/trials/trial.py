"""The trials of a cover by name: what each shows, pixel by pixel, and what can be said of it in figures."""

import io
from collections.abc import Callable, Sequence
from pathlib import Path

import numpy as np
from msgspec import Struct
from PIL import Image

from half_fold.core.brief.bindings import binding_named
from half_fold.core.cover.flat import IN_VIEW
from half_fold.core.cover.trials import eye
from half_fold.core.cover.trials.bound import bound_copy
from half_fold.core.cover.trials.lines import seen_lines
from half_fold.core.cover.trials.places import (
    AROUND,
    GAP,
    SMALL,
    Canvas,
    list_on_screen,
    rack,
    resample,
    shelf,
    stand_beside,
)
from half_fold.core.cover.trials.seen import Pixels, Seen, seen_cover, seen_spread
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import counted, figure
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Publication
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.atomic import write_whole
from half_fold.core.store.files import require_output

Figure = tuple[str, str, str]  # a name, a value, and how it comes about
MOST_LINES = 5  # that are named
_LEAST_PIXELS = 6.0  # of an x, from which on it is a letter on a screen


class Trial(Struct, frozen=True):
    """A way to look at a cover: ``make`` draws it, so many pixels wide and high; ``says`` are its figures."""

    name: str
    label: str
    words: str
    make: Callable[[Seen, int, int], Pixels]
    says: Callable[[Seen], Sequence[Figure]]


class Tried(Struct, frozen=True, eq=False):
    """What a trial shows, and its figures."""

    trial: Trial
    pixels: Pixels
    figures: tuple[Figure, ...]


def tried(publication: Publication, folder: Path, setter: Setter, name: str, wide: int, high: int) -> Tried:
    """A trial of a job's cover. Problem where there is no cover, no such trial, or it has nothing to show."""
    trial = trial_named(name)
    seen = seen_cover(publication, folder, setter)
    if trial.name == "open":
        pages = seen_spread(publication, folder, setter, _middle(publication))
        pixels = bound_copy(seen, "open", wide, high, pages)
    else:
        pixels = trial.make(seen, wide, high)
    return Tried(trial, pixels, tuple(trial.says(seen)))


def keep_trial(
    publication: Publication, folder: Path, setter: Setter, name: str, out: Path, wide: int, high: int
) -> Tried:
    """Write a trial as a PNG. Problem where it has nothing to show, or the file cannot be written."""
    if out.is_dir():
        raise Problem(f"“{out}” is a folder; name the PNG to write in it.")
    require_output(out, (b"\x89PNG",))  # before anything is drawn for nothing
    made = tried(publication, folder, setter, name, wide, high)
    content = io.BytesIO()
    Image.fromarray(made.pixels).save(content, "PNG")
    write_whole(out, content.getvalue())
    return made


def trial_named(name: str) -> Trial:
    """Problem where there is none of that name."""
    found = next((trial for trial in TRIALS if trial.name == name), None)
    if found is None:
        raise Problem(f"There is no trial “{name}”; there are {', '.join(trial.name for trial in TRIALS)}.")
    return found


def _middle(publication: Publication) -> int:
    """The first page of the fullest spread by the middle."""
    count = len(publication.pages)
    filled = [n for n in range(2, count, 2) if publication.pages[n - 1].things]
    return min(filled, key=lambda n: abs(n - count / 2), default=min(2, count))


# What is shown ------------------------------------------------------------------------------------


def _afar(away: float) -> Callable[[Seen, int, int], Pixels]:
    """What is left of it, and how large it looks from there to one who has the screen before them."""

    def make(seen: Seen, wide: int, high: int) -> Pixels:
        left = eye.from_afar(seen.front, seen.scale, away)
        made = stand_beside([left, np.full_like(left, AROUND)], wide, high)
        if away <= eye.ARM_MM:
            return stand_beside([left], wide, high)
        share = eye.ARM_MM / away
        tall = round((high - 2 * GAP) * share)
        small = resample(seen.front, round(tall * seen.size[0] / seen.size[1]), tall)
        canvas = Canvas(made)
        canvas.put(small, round(wide * 0.75) - small.shape[1] // 2, (high - tall) // 2)
        return canvas.pixels

    return make


def _bound(how: str) -> Callable[[Seen, int, int], Pixels]:
    def make(seen: Seen, wide: int, high: int) -> Pixels:
        if how == "jacket" and seen.flat.what != "jacket":
            raise Problem("This copy has no jacket; choose a paper for one at Brief.")
        if seen.flat.back is None:
            raise Problem("A front for the screen has no copy to be seen; the other trials show it.")
        return bound_copy(seen, how, wide, high, (None, None))

    return make


def _copies(seen: Seen, wide: int, high: int) -> Pixels:
    names = list(eye.WITHOUT)
    return stand_beside([seen.front, *(eye.without_cones(seen.front, name) for name in names)], wide, high)


# What is said -------------------------------------------------------------------------------------


def _named(lines: Sequence[eye.SeenLine]) -> str:
    said = list(dict.fromkeys(f"“{line.words}”" for line in lines))
    more = f" and {len(said) - MOST_LINES} more" if len(said) > MOST_LINES else ""
    return ", ".join(said[:MOST_LINES]) + more or "none"


def _of_rack(seen: Seen) -> list[Figure]:
    shown = seen.flat.front.height * IN_VIEW
    lines = [line for line in seen_lines(seen) if line.bottom <= shown]
    how = f"{100 * IN_VIEW:.0f} % of {figure(seen.size[1], 0)} mm"
    return [("In view", f"{figure(shown / MM, 1)} mm", how), ("Lines in view", str(len(lines)), _named(lines))]


def _of_list(seen: Seen) -> list[Figure]:
    out = []
    for across in SMALL:
        share = across / seen.size[0]
        kept = [line for line in seen_lines(seen) if line.height * share >= _LEAST_PIXELS]
        how = f"an x of {_LEAST_PIXELS:g} pixels or more: {_named(kept)}"
        out.append((f"At {across} pixels", f"{len(kept)} of {counted(len(seen_lines(seen)), 'line')}", how))
    return out


def _of_afar(away: float) -> Callable[[Seen], Sequence[Figure]]:
    def says(seen: Seen) -> list[Figure]:
        least = eye.least_letter(away)
        every = seen_lines(seen)
        known = [line for line in every if line.height >= least]
        lost = [line for line in every if line.height < least]
        metres = figure(away / 1000, 1)
        return [
            ("Smallest letter", f"{figure(least, 2)} mm", f"{metres} m × tan {eye.LETTER_MINUTES:g}′, for usual eyes"),
            ("Made out", f"{len(known)} of {counted(len(every), 'line')}", _named(known)),
            ("Lost", str(len(lost)), _named(lost)),
        ]

    return says


def _of_shelf(seen: Seen) -> list[Figure]:
    spine = seen.flat.spine
    out = [("Spine", f"{figure(seen.thick, 1)} mm", "as it stands")]
    if spine is None:
        return out
    heights = [
        eye.x_height(mark.face) * mark.size / MM for mark in eye.turned_runs(seen.marks, spine.left, spine.right)
    ]
    if heights:
        far = figure(eye.farthest(min(heights)) / 1000, 1)
        out.append(("Read from", f"{far} m", f"an x of {figure(min(heights), 2)} mm ÷ tan {eye.LETTER_MINUTES:g}′"))
    return out


def _of_copy(seen: Seen) -> list[Figure]:
    wide, high = (figure(each, 1) for each in seen.size)
    bound = binding_named(seen.publication.brief.binding).label
    return [("Copy", f"{wide} × {high} × {figure(seen.thick, 1)} mm", f"{bound}; the true proportions, in perspective")]


def _of_grey(seen: Seen) -> list[Figure]:
    grey = eye.in_grey(seen.front)[..., 0]
    low, high = (int(each) for each in np.percentile(grey, (5, 95)))
    return [("Greys", f"{low} to {high} of 255", "nine tenths of the front lie between")]


def _of_eyes(seen: Seen) -> list[Figure]:
    light = eye.linear(seen.front)
    out = []
    for name, way in eye.WITHOUT.items():
        off = float(np.mean(np.abs(light @ way.T - light)) * 100)
        out.append((name.capitalize(), f"{figure(off, 1)} %", "of light, that colours then differ by, in the mean"))
    return out


def _of_colour(seen: Seen) -> list[Figure]:
    off = float(np.mean(np.abs(seen.front.astype(int) - seen.on_screen.astype(int))))
    return [("Differs by", f"{figure(off / 2.55, 1)} %", "in the mean, between screen and paper")]


_COLOURS = "left on a screen, right as it prints on its paper"
_AFAR = "left what is left of it, right as large as it looks from there"
TRIALS: tuple[Trial, ...] = (
    Trial("rack", "On a rack", "among made-up neighbours, of which each shows its top quarter", rack, _of_rack),
    Trial("list", "In a list", "160 and 96 pixels wide, pixel for pixel", list_on_screen, _of_list),
    Trial("arm", "At arm’s length", "0.6 m away", _afar(eye.ARM_MM), _of_afar(eye.ARM_MM)),
    Trial("shop", "Across a shop", f"3 m away: {_AFAR}", _afar(eye.SHOP_MM), _of_afar(eye.SHOP_MM)),
    Trial(
        "print", "In print", _COLOURS, lambda seen, w, h: stand_beside([seen.on_screen, seen.front], w, h), _of_colour
    ),
    Trial(
        "grey",
        "In grey",
        "its lightness alone",
        lambda seen, w, h: stand_beside([eye.in_grey(seen.front)], w, h),
        _of_grey,
    ),
    Trial("eyes", "To other eyes", "as it is, and without red, green or blue cones", _copies, _of_eyes),
    Trial("shelf", "On a shelf", "spine out, among others of several thicknesses", shelf, _of_shelf),
    Trial("standing", "Standing", "the bound copy, lit", _bound("standing"), _of_copy),
    Trial("lying", "Lying", "the bound copy on a table", _bound("lying"), _of_copy),
    Trial("open", "Open", "at a spread by the middle", _bound("open"), _of_copy),
    Trial("jacket", "Its jacket half off", "and the case under it in plain cloth", _bound("jacket"), _of_copy),
)
