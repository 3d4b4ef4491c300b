"""The keeper: what follows from the same records is made once, and what is long unused goes first."""

import gc
import sys
import weakref
from pathlib import Path
from threading import Event, Thread

from hypothesis import given
from hypothesis import strategies as st
from msgspec import Struct
from PIL import Image

from half_fold.core.measure.kept import Keeper, kept, kept_by
from half_fold.core.pictures.library.on_screen import at_hand, copy_of


class _Record(Struct, frozen=True, weakref=True):
    name: str


def test_arguments_count_by_name_and_by_place_alike() -> None:
    made: list[tuple[object, ...]] = []

    @kept(8)
    def work(record: _Record, side: str = "left", deep: int = 0) -> int:
        made.append((record, side, deep))
        return len(made)

    record = _Record("a")
    assert work(record, "left", 2) == work(record, deep=2) == work(record, deep=2, side="left") == 1
    assert work(record, deep=3) == 2 and work(record, side="right", deep=2) == 3
    assert work(_Record("a"), "left", 2) == 4, "a record is known by its identity"


def test_words_count_by_value_and_none_is_a_value() -> None:
    calls = []

    @kept(8)
    def work(word: str) -> None:
        calls.append(word)

    for _ in range(3):
        work("".join(["sea", "son"]))
    assert calls == ["season"]


@given(st.lists(st.integers(0, 9), max_size=60), st.integers(1, 5))
def test_the_least_recently_asked_for_goes_first(asked: list[int], most: int) -> None:
    keeper: Keeper[int] = Keeper(most)
    recent: list[int] = []
    for each in asked:
        was_kept = each in recent[-most:]
        made = []
        assert keeper.of((each,), lambda each=each, made=made: made.append(1) or each) == each
        assert bool(made) != was_kept
        recent = [other for other in recent if other != each] + [each]
    assert len(keeper) == min(most, len(set(asked)))


@given(st.lists(st.tuples(st.integers(0, 5), st.integers(0, 50)), max_size=40))
def test_octets_are_bounded_and_counted(kept_values: list[tuple[int, int]]) -> None:
    keeper: Keeper[int] = Keeper(100, 80, lambda value: value)
    held: dict[int, int] = {}
    for key, value in kept_values:
        keeper.keep(key, None, value)
        held.pop(key, None)
        held[key] = value
        while sum(held.values()) > 80 and len(held) > 1:
            del held[next(iter(held))]
        assert keeper.octets == sum(held.values()) and len(keeper) == len(held)


def test_records_are_held_as_long_as_their_value_is_kept() -> None:
    keeper: Keeper[str] = Keeper(1)
    record = _Record("a")
    gone = weakref.ref(record)
    keeper.of((record,), lambda: "value")
    del record
    gc.collect()
    assert gone() is not None, "its identity could become another's"
    keeper.of((_Record("b"),), lambda: "other")
    gc.collect()
    assert gone() is None


def test_several_threads_may_ask() -> None:
    keeper: Keeper[int] = Keeper(20)
    wrong: list[int] = []

    def ask(seed: int) -> None:
        for at in range(4000):
            each = (at * seed) % 31
            if keeper.of((each,), lambda each=each: each) != each:
                wrong.append(each)

    threads = [Thread(target=ask, args=(seed,)) for seed in (3, 7, 11)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert not wrong and len(keeper) == 20


def test_one_thread_may_go_through_them_while_others_ask() -> None:
    keeper: Keeper[int] = Keeper(300)
    for each in range(300):
        keeper.keep((each,), None, each)
    asks, done = [], Event()

    def ask() -> None:
        while not done.is_set():
            for each in range(0, 300, 7):
                keeper.find((each,))

    before = sys.getswitchinterval()
    sys.setswitchinterval(1e-6)
    try:
        asks = [Thread(target=ask) for _ in range(2)]
        for thread in asks:
            thread.start()
        for at in range(400):
            assert len(keeper.items()) == 300
            keeper.keep((300 + at,), None, at)
    finally:
        sys.setswitchinterval(before)
        done.set()
        for thread in asks:
            thread.join()


def test_a_copy_of_a_picture_is_read_once(tmp_path: Path) -> None:
    """Of its file, however its path was come by: a path of its own is asked with each time."""
    Image.new("RGB", (900, 600), (90, 120, 60)).save(tmp_path / "hedge.png")
    first = copy_of(tmp_path / "hedge.png", "a-hedge", 750)
    assert copy_of(tmp_path / "hedge.png", "a-hedge", 750) is first is at_hand(tmp_path / "hedge.png", "a-hedge", 750)


def test_records_that_are_equal_are_found_by_what_is_told_of_them() -> None:
    made: list[str] = []

    @kept_by(2, lambda record, deep=0: (record.name, deep))
    def work(record: _Record, deep: int = 0) -> int:
        made.append(record.name)
        return len(made)

    assert work(_Record("a")) == work(_Record("a")) == work(_Record("a"), deep=0) == 1
    assert work(_Record("a"), 1) == 2 and work(_Record("b")) == 3
    assert work(_Record("a")) == 4, "the first has gone, of two at most"
