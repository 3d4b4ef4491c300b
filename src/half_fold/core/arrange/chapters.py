"""From a heap of pictures to chapters: the best of near duplicates by their time, parted where time or place leaps."""

from collections.abc import Collection, Mapping, Sequence
from datetime import datetime
from itertools import pairwise

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from half_fold.core.arrange.fitness import RATINGS
from half_fold.core.pictures.library.stacks import stacks
from half_fold.core.pictures.library.told import Told
from half_fold.core.publication.records import Picture

LEAP_H, NIGHT_H = 3.0, 6.0  # hours: between two pictures, from which on a chapter may end, and surely does
LEAST = 4  # pictures of a chapter
SHARP = 0.85  # of the sharpest of a stack: as good as that
ROW_S = 1200.0  # seconds: frames of one view are taken within them
MONTHS = (
    "January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November",
    "December",
)  # fmt: skip
Reals = npt.NDArray[np.float64]


class Chapter(Struct, frozen=True):
    """Pictures that belong together, in order; ``breaks`` is how much of a break (0 to 1) lies after each."""

    title: str
    pictures: tuple[Picture, ...]
    breaks: tuple[float, ...]


class Sequenced(Struct, frozen=True):
    """Chapters, and the pictures that are left out with the reason."""

    chapters: tuple[Chapter, ...]
    left_out: tuple[tuple[Picture, str], ...]


def sequence(
    pictures: Sequence[Picture], told: Mapping[str, Told], used: Collection[str] = (), least_side: float = 0.0
) -> Sequenced:
    """Pictures in chapters; left out are those that are said to be, lie somewhere already, or have a sharper twin.

    ``least_side`` is how many pixels the longer side has to have at least to print as the smallest there are.
    """
    out: list[tuple[Picture, str]] = []
    kept: list[Picture] = []
    for picture in pictures:
        reason = _left_out(picture, used, least_side)
        if reason:
            out.append((picture, reason))
        else:
            kept.append(picture)
    chosen = []
    for stack in stacks(kept, told):
        best = _best(stack, told)
        chosen.append(best)
        for each in stack:
            if each is not best and _is_of_one_row(each, best, told):
                out.append((each, f"nearly the same as {best.file}"))
            elif each is not best:
                chosen.append(each)
    chosen.sort(key=kept.index)
    ordered = _in_order(chosen, told)
    return Sequenced(_chapters(ordered, told), tuple(out))


def _best(stack: Sequence[Picture], told: Mapping[str, Told]) -> Picture:
    """What is worth most; of those the one of most pixels that is sharp, the sharpest where they have as many."""
    sharpest = max(told.get(picture.digest, Told()).sharp for picture in stack)
    sharp = [p for p in stack if told.get(p.digest, Told()).sharp >= SHARP * sharpest]
    worth = max(RATINGS[picture.worth] for picture in stack)
    chosen = [picture for picture in sharp if RATINGS[picture.worth] == worth]
    chosen = chosen or [picture for picture in stack if RATINGS[picture.worth] == worth]
    return max(chosen, key=lambda picture: (picture.width * picture.height, -stack.index(picture)))


def _is_of_one_row(one: Picture, other: Picture, told: Mapping[str, Told]) -> bool:
    """Whether two that look alike were taken one after the other: at another hour it is another picture."""
    times = [_time(told.get(each.digest, Told()).taken) for each in (one, other)]
    return times[0] is None or times[1] is None or abs((times[0] - times[1]).total_seconds()) <= ROW_S


def _left_out(picture: Picture, used: Collection[str], least_side: float) -> str:
    if picture.worth == "left out":
        return "said to be left out"
    if picture.id in used:
        return "laid already"
    if picture.art or picture.mask:
        return "no photograph"
    if max(picture.width, picture.height) < least_side:
        return "too few pixels even for the smallest place"
    return ""


def _in_order(pictures: Sequence[Picture], told: Mapping[str, Told]) -> list[Picture]:
    """By the time they were taken; one whose time is not known stays behind the one that came before it."""
    times, last = [], ""
    for turn, picture in enumerate(pictures):
        last = told.get(picture.digest, Told()).taken or last
        times.append((last, turn))
    return [pictures[turn] for _, turn in sorted(times)]


def _chapters(pictures: Sequence[Picture], told: Mapping[str, Told]) -> tuple[Chapter, ...]:
    if not pictures:
        return ()
    hours, unlike = _hours(pictures, told), _unlike(pictures, told)
    breaks = np.clip(np.maximum(hours / LEAP_H, 0), 0, 1) * 0.6 + unlike * 0.4
    ends, start = [], 0
    for at in range(len(pictures) - 1):
        far = hours[at] >= NIGHT_H or (hours[at] >= LEAP_H and unlike[at] > 0.5)
        if (far or _moved(pictures, told, at)) and at + 1 - start >= LEAST and len(pictures) - at - 1 >= LEAST:
            ends.append(at + 1)
            start = at + 1
    ends = [0, *ends, len(pictures)]
    runs = [(a, b) for a, b in pairwise(ends)]
    titles = _titles([pictures[a:b] for a, b in runs], told)
    return tuple(
        Chapter(title, tuple(pictures[a:b]), (*map(float, breaks[a : b - 1]), 1.0))
        for title, (a, b) in zip(titles, runs, strict=True)
    )


def _hours(pictures: Sequence[Picture], told: Mapping[str, Told]) -> Reals:
    """Between each picture and the next, as far as both times are known; else none."""
    times = [_time(told.get(picture.digest, Told()).taken) for picture in pictures]
    return np.array(
        [(b - a).total_seconds() / 3600 if a is not None and b is not None else 0.0 for a, b in pairwise(times)]
    )


def _time(text: str) -> datetime | None:
    try:
        return datetime.fromisoformat(text) if text else None
    except ValueError:
        return None


def _unlike(pictures: Sequence[Picture], told: Mapping[str, Told]) -> Reals:
    """How unlike each is to the next, from 0 to 1, by what their parts show."""
    found = []
    for one, other in pairwise(pictures):
        a, b = told.get(one.digest, Told()).parts, told.get(other.digest, Told()).parts
        off = np.linalg.norm(np.array(a) - np.array(b)) / np.sqrt(len(a) / 3) if a and b else 30.0
        found.append(min(float(off) / 60, 1.0))
    return np.array(found)


def _moved(pictures: Sequence[Picture], told: Mapping[str, Told], at: int) -> bool:
    """Whether the next picture says that it was taken at another place."""
    here, there = (told.get(picture.digest, Told()).place for picture in pictures[at : at + 2])
    return bool(here and there and here != there)


def _titles(runs: Sequence[Sequence[Picture]], told: Mapping[str, Told]) -> list[str]:
    """The place where all of a chapter say one, else its day; numbered where two would be called alike."""
    titles = [_title([told.get(picture.digest, Told()) for picture in run]) for run in runs]
    named = [title or f"{number}" for number, title in enumerate(titles, 1)]
    return [
        f"{title}, {named[: at + 1].count(title)}" if named.count(title) > 1 else title
        for at, title in enumerate(named)
    ]


def _title(known: Sequence[Told]) -> str:
    places = {each.place for each in known if each.place}
    if len(places) == 1:
        return places.pop()
    days = [when for each in known if (when := _time(each.taken)) is not None]
    return f"{days[0].day} {MONTHS[days[0].month - 1]}" if days else ""
