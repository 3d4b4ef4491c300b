"""Why an arrangement stands where it stands: its name, and its cost as a worked number that unfolds to its parts."""

from half_fold.core.arrange.arrangement import Arrangement
from half_fold.core.arrange.finding import UPON
from half_fold.core.arrange.manner import PARTS
from half_fold.core.measure.length import counted, figure
from half_fold.core.measure.worked import Worked, given, total

LEAST_SAID = 0.005


def arrangement_name(arrangement: Arrangement) -> str:
    """What it is in a few words: one large over the fold, four beside it; to the bleed."""
    room, sizes = arrangement.room, _sizes(arrangement)
    pictures = [n for n, item in enumerate(arrangement.items) if item.text is None]
    sizes, count = [sizes[n] for n in pictures], len(pictures)
    if not pictures:
        return "words alone"
    largest = max(sizes)
    over = [at for at, n in enumerate(pictures) if room.over_fold[arrangement.rects[n]]]
    if arrangement.ground >= 0:
        words = f"{counted(count - 1, 'picture')} upon one"
    elif count == 1:
        words = "one over the fold" if over else "one"
    elif max(sizes) < 1.15 * min(sizes):
        words = f"{count} alike"
    elif sorted(sizes)[-2] < largest / 1.5:
        words = "one large over the fold" if sizes.index(largest) in over else "one large"
        words += f", {count - 1} small"
    else:
        words = f"{count} of several sizes"
    forms = {int(room.rects[arrangement.rects[n]][4]) for n in pictures}
    words += " and words" if count < len(arrangement.items) else ""
    return f"{words}, {'in the margins' if forms == {0} else 'to the bleed' if forms == {1} else 'partly to the bleed'}"


def _sizes(arrangement: Arrangement) -> list[float]:
    return [float(each) for each in arrangement.room.areas[list(arrangement.rects)]]


def worked_cost(arrangement: Arrangement) -> Worked:
    """What it loses in all, a perfect one being 0; unfolds to its parts, and those of single pictures to each."""
    parts = [_part(arrangement, name) for name in PARTS if arrangement.parts.get(name, 0.0) >= LEAST_SAID] + _leans(
        arrangement
    )
    if not parts:
        return given(0.0, "", "Loses", how="nothing")
    return total(parts).named("Loses", "arrange.loses")


def _leans(arrangement: Arrangement) -> list[Worked]:
    lean = arrangement.parts.get("bleed", 0.0)
    return [given(lean, "", "Bleed", how="not as the manner leans")] if lean >= LEAST_SAID else []


def _part(arrangement: Arrangement, name: str) -> Worked:
    label, asks = PARTS[name]
    value = arrangement.parts[name]
    return Worked(value, "", label, _how(arrangement, name) or asks, (), f"arrange.{name}")


def _how(arrangement: Arrangement, name: str) -> str:
    """The reason in words: which pictures lose how much of themselves, how sharp they print, and so on."""
    fitness, rects = arrangement.fitness, arrangement.rects
    files = [item.called for item in arrangement.items]
    each = [(n, rect) for n, rect in enumerate(rects) if arrangement.items[n].text is None]
    if arrangement.ground >= 0:
        each = [(n, rect) for n, rect in each if n == arrangement.ground]
    if name == "crop" and len(fitness.cut) == len(files):
        worst = sorted(((float(fitness.cut[n, rect]), files[n]) for n, rect in each), reverse=True)
        return ", ".join(f"{file} loses {figure(100 * cut, 0)} %" for cut, file in worst[:3] if cut > LEAST_SAID)
    if name == "sharp" and len(fitness.ppi) == len(files):
        worst = sorted((float(fitness.ppi[n, rect]), files[n]) for n, rect in each)
        return ", ".join(f"{file} at {figure(ppi, 0)} ppi" for ppi, file in worst[:3])
    if name == "size":
        return _sizes_said(arrangement)
    if name == "fold":
        over = [files[n] for n, rect in enumerate(rects) if arrangement.room.over_fold[rect]]
        return f"{', '.join(over)} over the fold" if over else ""
    if name == "white":
        if arrangement.ground >= 0:
            return f"what lies upon a picture is not for every day: {UPON}"
        cells = arrangement.owners()
        return f"{figure(100 * float((cells < 0).mean()), 0)} % of the fields are free"
    return ""


def _sizes_said(arrangement: Arrangement) -> str:
    """How large those are, of what their worth asks for, that are farthest from it."""
    if len(arrangement.fitness.target) != len(arrangement.items):
        return ""
    shares = [
        (size / float(target), item.called)
        for size, target, item in zip(_sizes(arrangement), arrangement.fitness.target, arrangement.items, strict=True)
        if item.text is None
    ]
    farthest = sorted(shares, key=lambda each: -abs(each[0] - 1))[:3]
    return ", ".join(f"{file} {figure(100 * share, 0)} % of what it is worth" for share, file in farthest)
