"""Acts of a designer's hand, each chosen by a seed: what it does to a document, or the Problem it raises."""

import random
from collections.abc import Callable, Sequence
from typing import cast

from half_fold.core.grid.edits import set_grid
from half_fold.core.grid.stops import AXES, EDGES, Edge
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Axis
from half_fold.core.paths.all import set_path, settings
from half_fold.core.publication.records import Group, Publication
from half_fold.core.publication.surgery import page_of_thing, thing_named
from half_fold.core.publication.things import every_thing
from half_fold.core.spread.edits import grouping
from half_fold.core.spread.edits.aligning import AGAINST, align_things, make_same_size, spread_evenly
from half_fold.core.spread.edits.alike import make_look_like
from half_fold.core.spread.edits.edits import move
from half_fold.core.spread.edits.linked import link, set_differences, unlink
from half_fold.core.spread.edits.repeating import parse_repeat, repeat_on_pages, repeat_things
from half_fold.core.spread.edits.taking import copy_things, paste_things, swap_holds
from half_fold.core.spread.settable.properties import KEEPS
from half_fold.core.spread.where import reaching

Act = Callable[[random.Random, Publication], Publication]
PAGES = range(2, 10)
MOST_THINGS = 60
CLAIMS = ("panel", "rule", "free", "words The frost")
TYPED = ("12mm", "3", "40", "yes", "no", "russet", "none", "", "inside", "-4mm", "1/2in", "Pears", "90")


def _things(job: Publication) -> list[str]:
    """The ids of the things on the pages that are worked on, groups and their members among them."""
    return [thing.id for number in PAGES for thing in every_thing(job.pages[number - 1].things)]


def _some(rng: random.Random, job: Publication) -> list[str]:
    """A few things of one page."""
    page = job.pages[rng.choice(PAGES) - 1]
    names = [thing.id for thing in every_thing(page.things)]
    if not names:
        raise Problem("There is nothing there.")
    return rng.sample(names, min(len(names), rng.randint(1, 4)))


def _one(rng: random.Random, job: Publication) -> str:
    names = _things(job)
    if not names:
        raise Problem("There is nothing there.")
    return rng.choice(names)


def claim(rng: random.Random, job: Publication) -> Publication:
    if len(_things(job)) > MOST_THINGS:
        return grouping.delete_things(job, _some(rng, job))
    first, top = rng.randint(1, 5), rng.randint(1, 7)
    over = f"{first}-{rng.randint(first, 6)} x {top}-{rng.randint(top, 8)}"
    return set_path(job, f"page.{rng.choice(PAGES)}.claim", f"{rng.choice(CLAIMS)} over {over}")


def reach(rng: random.Random, job: Publication) -> Publication:
    return reaching.reach(job, _one(rng, job), cast(Edge, rng.choice(EDGES)), rng.random() < 0.6)


def step(rng: random.Random, job: Publication) -> Publication:
    return move(job, _one(rng, job), rng.randint(-2, 2), rng.randint(-2, 2))


def nudge(rng: random.Random, job: Publication) -> Publication:
    return grouping.shift_things(job, _some(rng, job), rng.uniform(-40, 40), rng.uniform(-40, 40))


def float_off(rng: random.Random, job: Publication) -> Publication:
    return reaching.let_float(job, _one(rng, job), rng.random() < 0.6)


def measure(rng: random.Random, job: Publication) -> Publication:
    name = rng.choice(("width", "height", "across", "down"))
    return reaching.set_measure(job, _one(rng, job), name, f"{rng.randint(-10, 120)}mm")


def group(rng: random.Random, job: Publication) -> Publication:
    return grouping.group(job, _some(rng, job))[0]


def ungroup(rng: random.Random, job: Publication) -> Publication:
    return grouping.ungroup(job, _one(rng, job))[0]


def keep(rng: random.Random, job: Publication) -> Publication:
    name = _one(rng, job)
    if not isinstance(thing_named(job, name), Group):
        raise Problem("That is no group.")
    return set_path(job, f"group.{name}.keeps", rng.choice(KEEPS)[0])


def stack(rng: random.Random, job: Publication) -> Publication:
    return grouping.restack(job, _some(rng, job), rng.choice(("front", "back", "forward", "backward")))


def double(rng: random.Random, job: Publication) -> Publication:
    return grouping.double_things(job, _some(rng, job))[0] if len(_things(job)) < MOST_THINGS else job


def delete(rng: random.Random, job: Publication) -> Publication:
    return grouping.delete_things(job, _some(rng, job))


def line_up(rng: random.Random, job: Publication) -> Publication:
    names, axis = _some(rng, job), cast(Axis, rng.choice(tuple(AXES)))
    if rng.random() < 0.3:
        return spread_evenly(job, names, axis, rng.choice((None, 8.0)))
    if rng.random() < 0.2:
        return make_same_size(job, names, axis)
    return align_things(job, names, axis, rng.choice(("first", "middle", "last")), rng.choice(AGAINST))


def tie(rng: random.Random, job: Publication) -> Publication:
    if rng.random() < 0.3:
        return unlink(job, _one(rng, job))
    if rng.random() < 0.2:
        return set_differences(job, _one(rng, job), rng.choice(("ink", "words, ink", "")))
    return link(job, _some(rng, job))


def again(rng: random.Random, job: Publication) -> Publication:
    if len(_things(job)) > MOST_THINGS:
        return grouping.delete_things(job, _some(rng, job))
    if rng.random() < 0.5:
        repeat = parse_repeat(rng.choice(("2 x 1, 5mm", "1 x 3, linked", "2 x 2")), "mm")
        return repeat_things(job, _some(rng, job), repeat)[0]
    return repeat_on_pages(job, _some(rng, job), f"{rng.choice(PAGES)}{rng.choice(('', ', linked'))}")[0]


def carry(rng: random.Random, job: Publication) -> Publication:
    if len(_things(job)) > MOST_THINGS:
        return grouping.delete_things(job, _some(rng, job))
    held = copy_things(job, tuple(_some(rng, job)))
    return paste_things(job, rng.choice(PAGES), held, mirror=rng.random() < 0.5)[0]


def alike(rng: random.Random, job: Publication) -> Publication:
    names = _some(rng, job)
    if rng.random() < 0.5 or len(names) < 2:
        return make_look_like(job, names)
    return swap_holds(job, names[0], names[1])


def named(rng: random.Random, job: Publication) -> Publication:
    return grouping.name_thing(job, _one(rng, job), rng.choice(("", "Puff", "  A  name ")))


def typed(rng: random.Random, job: Publication) -> Publication:
    name = _one(rng, job)
    kind = "group" if isinstance(page_of_thing(job, name)[2], Group) else "block"
    known: Sequence[str] = [each.path for each in settings(job, f"{kind}.{name}.")]
    return set_path(job, rng.choice(known), rng.choice(TYPED))


def pencil(rng: random.Random, job: Publication) -> Publication:
    text = rng.choice(("none", "head 40mm", "fold 12mm every 30mm, foot 9mm", "outside 7mm, head 40mm"))
    return set_grid(job, job.masters[0].name, "pencil", text)


ACTS: tuple[Act, ...] = (
    claim, claim, claim, reach, reach, step, nudge, nudge, float_off, measure, group, group, ungroup, keep, keep,
    stack, double, delete, line_up, line_up, tie, tie, again, carry, alike, named, typed, typed, typed, pencil,
)  # fmt: skip
