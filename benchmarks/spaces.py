"""How even word spaces are: mean squared deviation from the face's own space, total fit against first fit.

Printed too: hyphens, and ladders of more than two in a row. First fit takes every word, or part of one, that still fits
at the natural space, as a typewriter does; both break the same strip of the same words.
"""

import numpy as np

from benchmarks.setting import MEASURE, text
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Run
from half_fold.core.publication.surgery import role_named
from half_fold.core.typesetting.lines.pieces import tokenise
from half_fold.core.typesetting.lines.roles import style_of
from half_fold.core.typesetting.lines.strip import Strip, lay_out
from half_fold.core.typesetting.lines.tokens import TokenTable
from half_fold.core.typesetting.lines.total_fit import Task, break_lines

NARROW = 130.0


def first_fit(strip: Strip, paragraph: int, measure: float) -> list[int]:
    """The break at which each line ends when every line takes what fits."""
    begin, last = int(strip.first[paragraph]), int(strip.last[paragraph])
    out = []
    while begin < last:
        fits = np.flatnonzero(strip.ends[begin + 1 : last + 1] - strip.starts[begin] <= measure + 1e-9)
        begin = begin + 1 + (int(fits[-1]) if len(fits) else 0)
        out.append(begin)
    return out


def _deviations(strip: Strip, paragraph: int, ends: list[int], measure: float) -> list[float]:
    starts = [int(strip.first[paragraph]), *ends[:-1]]
    out = []
    for start_at, end in list(zip(starts, ends, strict=True))[:-1]:
        spaces = strip.spaces(start_at, end)
        if spaces > 0:
            out.append(((measure - strip.width(start_at, end)) / spaces) ** 2)
    return out


def _ladders(strip: Strip, ends: list[int]) -> int:
    kinds = "".join("-" if strip.kind[end] == 1 else " " for end in ends)
    return sum(len(row) > 2 for row in kinds.split(" "))


def run() -> None:
    style = style_of(role_named(start("book", "Bench"), "body"), "en_GB")
    table = TokenTable(style.setting)
    tokens = [tokenise((Run(text=words),), table) for words in text()]
    strip = lay_out(table, tokens, [style.indent] * len(tokens))
    for points in (MEASURE, NARROW):
        measure = points / style.size
        ours = break_lines(strip, [Task(p, (measure,)) for p in range(len(tokens))], style.manner)
        theirs = [first_fit(strip, p, measure) for p in range(len(tokens))]
        figures = []
        for every in (ours, theirs):
            spread = np.concatenate([_deviations(strip, p, ends, measure) for p, ends in enumerate(every)])
            hyphens = sum(int((strip.kind[ends] == 1).sum()) for ends in every)
            figures.append((float(spread.mean()), hyphens, sum(_ladders(strip, ends) for ends in every)))
        (own, hyphens, ladders), (other, their_hyphens, their_ladders) = figures
        even = f"deviation {own:.4f} against first fit {other:.4f}, ratio {own / other:.2f} (bar: 0.75)"
        marks = f"hyphens {hyphens} against {their_hyphens}, ladders over two {ladders} against {their_ladders}"
        print(f"spaces     at {points:.0f} pt: {even}; {marks}", flush=True)
