"""Arrangements of pictures on a spread of 12 by 4 fields, against NumPy taking a matrix of 400 by 400 apart (SVD)."""

import time

import numpy as np

from benchmarks.book import made_up
from half_fold.core.arrange.finding import arranged
from half_fold.core.arrange.fitness import Item
from half_fold.core.compiled.compiling import load
from half_fold.core.plan.settings import set_values

RUNS = 7


def run() -> None:
    load()
    job, told = made_up(40, 1)
    job = set_values(job, ["binding=perfect"])
    costs = np.random.default_rng(1).random((400, 400))
    for count in (3, 6, 12):
        items = [Item(picture, float(turn)) for turn, picture in enumerate(job.pictures[:count])]
        ours, theirs = [], []
        for _ in range(RUNS):
            began = time.perf_counter()
            found = arranged(job, (2, 3), items)
            ours.append(time.perf_counter() - began)
            began = time.perf_counter()
            np.linalg.svd(costs)
            theirs.append(time.perf_counter() - began)
        one, other = sorted(ours)[RUNS // 2], sorted(theirs)[RUNS // 2]
        print(
            f"arranging {count:2} pictures: {len(found)} arrangements in {one * 1000:.0f} ms, {one / other:.0f} x NumPy"
        )
    assert told
