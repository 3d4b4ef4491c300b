"""The manner pictures are arranged in: its table, what nudges it, and what a designer's choices would make of it."""

from collections.abc import Mapping, Sequence

from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.property import Property, named
from half_fold.core.publication.ranges import MOST_WEIGHT
from half_fold.core.publication.records import Manner, Publication

# Each part of what an arrangement costs: its words, and what it asks for.
PARTS: dict[str, tuple[str, str]] = {
    "crop": ("Crop", "little of a picture is cut off, and more than half of it hardly ever"),
    "fold": ("Fold", "a picture over the fold is large, and its focus is well away from it"),
    "sharp": ("Resolution", "no picture is larger than its pixels allow"),
    "size": ("Size", "each is about as large as what it is worth asks for"),
    "looks": ("Looking in", "who looks to a side looks into the spread"),
    "rank": ("Rank", "what is worth more is larger; equals, but for the largest, are alike"),
    "order": ("Order", "they are read in the order they were taken or chosen"),
    "edges": (
        "Edges",
        "few lines on which edges lie, none a field from the next; a side of a page bleeds, or does not",
    ),
    "balance": ("Balance", "their weight lies about the middle of the pages"),
    "white": ("White", "white lies together at the edge, a twentieth to a third of the fields"),
    "contrast": ("Contrast", "one is clearly the largest, or all are alike"),
    "variety": ("Variety", "it is no pattern of the spreads beside it; below 0 it is"),
}
MEANS = {
    "room": ("Room", "what pictures take of the pages in all"),
    "bleed": ("Bleed", "from the margins (-100) out to the bleed (100)"),
}
LEAST = {"variety": -float(MOST_WEIGHT), "room": 10.0, "bleed": -100.0}
MOST = {"room": 100.0, "bleed": 100.0}


def _property(key: str, label: str, note: str) -> Property[Manner]:
    return Property(
        key=key,
        label=label,
        kind="share",
        read=lambda manner: getattr(manner, key),
        write=lambda manner, value: replace(manner, **{key: value}),
        least=LEAST.get(key, 0.0),
        most=MOST.get(key, float(MOST_WEIGHT)),
        note=note,
    )


_FRAME: Property[Manner] = Property(
    key="frame",
    label="Frame",
    kind="length",
    read=lambda manner: manner.frame,
    write=lambda manner, value: replace(manner, frame=value),
    least=0.5,
    most=60.0,
    none="none",
    note="white round what would bleed, the same all round once it is trimmed",
)
MANNER = (*(_property(key, label, note) for key, (label, note) in (PARTS | MEANS).items()), _FRAME)

# What a designer says on seeing arrangements, and what of the manner that moves, by how much.
NUDGES: dict[str, dict[str, float]] = {
    "larger": {"room": 10, "white": -25},
    "quieter": {"room": -10, "edges": 50, "contrast": -25},
    "to the bleed": {"bleed": 50},
    "in the margins": {"bleed": -50},
    "one first": {"contrast": 100},
    "more like the last": {"variety": -150},
    "another pattern": {"variety": 100},
}


def set_manner(publication: Publication, key: str, typed: str) -> Publication:
    """The job with another figure in its manner. Problem where it cannot be."""
    return replace(publication, manner=named(MANNER, key).set(publication, publication.manner, typed))


def nudged(manner: Manner, words: str) -> Manner:
    """A manner moved as was said: larger, quieter, to the bleed. Problem where that is none of the NUDGES."""
    if words not in NUDGES:
        raise Problem(f"“{words}” is no way to go on; say {', '.join(list(NUDGES)[:-1])} or {list(NUDGES)[-1]}.")
    for key, by in NUDGES[words].items():
        low, high = LEAST.get(key, 0.0), MOST.get(key, float(MOST_WEIGHT))
        manner = replace(manner, **{key: min(max(getattr(manner, key) + by, low), high)})
    return manner


SEEN = 3  # choices, from which on they say something
STEP = 25.0  # per cent: how far a part moves that was always given up or always kept

Choice = tuple[Mapping[str, float], Sequence[Mapping[str, float]]]  # parts of what was taken, and of what was not


def suggested(manner: Manner, choices: Sequence[Choice]) -> Manner:
    """The manner that what was taken, and what was passed over that the judge liked better, speaks for.

    A part that costs more in what is taken than in what is not counts less than the manner says, and the other way
    round: by how often. Nothing follows from fewer choices than SEEN.
    """
    if len(choices) < SEEN:
        return manner
    for key in PARTS:
        told = [_says(taken.get(key, 0.0), [each.get(key, 0.0) for each in others]) for taken, others in choices]
        by = STEP * sum(told) / len(told)
        if abs(by) >= STEP / 2:
            low = LEAST.get(key, 0.0)
            value = min(max(round(getattr(manner, key) + by), low), float(MOST_WEIGHT))
            manner = replace(manner, **{key: value})
    return manner


def _says(taken: float, others: Sequence[float]) -> float:
    """1 where it was kept low against most others, -1 where it was given up against most."""
    if not others:
        return 0.0
    better = sum(taken < other - 0.02 for other in others) - sum(taken > other + 0.02 for other in others)
    return better / len(others)


def manner_changes(before: Manner, after: Manner) -> str:
    """What is other in a manner, in words: Order 100 to 75 %."""
    every = PARTS | MEANS
    return ", ".join(
        f"{label} {getattr(before, key):g} to {getattr(after, key):g} %"
        for key, (label, _) in every.items()
        if getattr(before, key) != getattr(after, key)
    )
