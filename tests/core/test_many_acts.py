"""Five thousand acts of the hand: each is one step back, and what is left opens, draws and undoes to its beginning."""

import random

from half_fold.core.measure.problem import Problem
from half_fold.core.plan.spreads import spread_of
from half_fold.core.plan.starters import start
from half_fold.core.publication.history import History
from half_fold.core.publication.records import Publication
from half_fold.core.publication.validity import require_whole
from half_fold.core.spread.edits.keeping import settle
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.codec import decode, encode
from tests.acts import ACTS, PAGES

MANY, TOGETHER = 1_200, 250


def _run(rng: random.Random, history: History) -> list[Publication]:
    """So many acts done, with the document as it was before each that changed anything."""
    before = []
    for _ in range(TOGETHER):
        now = history.now
        try:
            made = settle(now, rng.choice(ACTS)(rng, now))
            require_whole(made)
        except Problem as problem:
            assert str(problem).endswith((".", "?")), "one plain sentence"
            continue
        if made is not now:
            before.append(now)
            history.edit(made, "an act")
    return before


def test_many_acts_leave_a_job_that_opens_draws_and_undoes() -> None:
    rng, setter = random.Random(14), Setter()
    first = start("magazine", "Many")
    history, done = History(first, most=10**12), 0
    for _ in range(MANY // TOGETHER):
        begun = history.now
        before = _run(rng, history)
        done += len(before)
        after = history.now
        assert decode(encode(after), "many.halffold") == after
        for number in PAGES:
            setter.spread(after, spread_of(after, number))
        for known in reversed(before):
            assert history.undo() is known, "one act, one step back"
        assert history.now is begun
        for _ in before:
            history.redo()
        assert history.now is after
    assert done > MANY / 3, "most acts did something"
    for _ in range(done):
        history.undo()
    assert history.now is first
