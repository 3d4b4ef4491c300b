"""Arranging pictures: what is given is the best there is, and nothing that cannot be."""

from itertools import permutations

import cv2
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.arrange import finding, judging
from half_fold.core.arrange.arrangement import Arrangement
from half_fold.core.arrange.ask import Pin, arrangements_on, pins_of, take_arrangement
from half_fold.core.arrange.finding import _Problem, _Search, arranged
from half_fold.core.arrange.fitness import Item, fitness
from half_fold.core.arrange.items import items_of, rect_of
from half_fold.core.arrange.manner import NUDGES, manner_changes, nudged, set_manner, suggested
from half_fold.core.arrange.reasons import arrangement_name, worked_cost
from half_fold.core.arrange.room import room_of, standing
from half_fold.core.compiled.compiling import load
from half_fold.core.grid.edits import set_grid
from half_fold.core.measure.entry import MM
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.library.fit import cropped_away, effective_ppi, placed
from half_fold.core.pictures.library.told import Told
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.spreads import spread_of
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import HoldsPanel, HoldsPicture, Picture, Point, Publication, Worth
from half_fold.core.publication.surgery import page_of_block, with_things
from half_fold.core.spread.where.frames import block_box, page_frame_of
from tests.blocks import block_over

BOTH = (2, 3)


def _book(columns: int = 6, rows: int = 4, **brief: str) -> Publication:
    asked = [f"{key}={value}" for key, value in {"pages": "12", "binding": "perfect", **brief}.items()]
    made = set_values(start("photo-book", "Harvest"), asked)
    for field, value in (("columns", columns), ("rows", rows)):
        made = set_grid(made, made.masters[0].name, field, str(value))
    return made


def _picture(name: int, wide: int = 4500, high: int = 3000, worth: Worth = "", **more: object) -> Picture:
    return Picture(
        id=f"picture{name}", file=f"{name}.jpg", width=wide, height=high, digest=str(name), worth=worth,
        **more,  # type: ignore[arg-type]  # fields of it
    )  # fmt: skip


def _items(*pictures: Picture) -> list[Item]:
    return [Item(each, float(turn)) for turn, each in enumerate(pictures)]


SHAPES = [(4500, 3000), (3000, 4500), (4000, 3000), (3500, 3500), (6000, 2500)]


@pytest.fixture(autouse=True, scope="module")
def _compiled() -> None:
    load()  # interpreted the search takes minutes; that both forms agree is a test of its own


# The room -------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("pages", [BOTH, (2,), (3,), (1,)])
@pytest.mark.parametrize("bound", ["left", "right"])
def test_every_rectangle_of_a_room_is_printed_where_its_stops_say(pages: tuple[int, ...], bound: str) -> None:
    book = _book(columns=3, rows=3, bound=bound)
    room = room_of(book, pages)
    for rect in range(len(room.rects)):
        page, place = room.place(rect)
        block = replace(block_over("b", HoldsPicture(picture="x")), place=place)
        assert tuple(block_box(book, page, block)) == pytest.approx(tuple(room.printed[rect]), abs=0.01)


def test_framed_pictures_keep_the_same_white_all_round_once_trimmed() -> None:
    book = set_manner(_book(columns=3, rows=3), "frame", "4mm")
    room = room_of(book, BOTH)
    for rect in range(len(room.rects)):
        page, place = room.place(rect)
        block = replace(block_over("b", HoldsPicture(picture="x")), place=place)
        assert tuple(block_box(book, page, block)) == pytest.approx(tuple(room.printed[rect]), abs=0.01)
    whole = room.seen[room.number((0, 5, 0, 2, 1))]
    assert tuple(whole) == pytest.approx(tuple(room.area.grown(-4 * MM)))
    one = room.seen[room.number((3, 5, 0, 2, 1))]
    assert one[0] == pytest.approx(4 * MM) and one[2] == pytest.approx(room.area.right - 4 * MM)
    assert set_manner(book, "frame", "none").manner.frame is None


def test_a_room_of_12_by_4_fields_has_1395_rectangles_with_their_bleeding_forms() -> None:
    assert len(room_of(_book(), BOTH).rects) == 1395


def test_a_fine_grid_is_thought_in_fewer_fields_whose_edges_lie_on_its_lines() -> None:
    book = _book(columns=11, rows=13)
    room, frame = room_of(book, (2,)), page_frame_of(book, 2)
    assert len(room.columns) <= 8 and len(room.rows) <= 6
    lefts, rights = {span[0] for span in frame.columns}, {span[1] for span in frame.columns}
    assert all(line.start in lefts and line.end in rights for line in room.columns)


def test_what_lies_there_takes_its_fields_but_a_ground_for_all_takes_none() -> None:
    book = _book()
    book = with_things(book, book.pages[1].id, lambda _: (block_over("b1", HoldsPanel(), (0, 1), (0, 1), (6, 4)),))
    spread = spread_of(book, 2)
    room = room_of(book, BOTH)
    assert room.cells(standing(book, spread, room)).reshape(4, 12)[:2, :2].all()
    assert room.cells(standing(book, spread, room)).sum() == 4
    wide = block_over("b2", HoldsPanel(), (0, 5), (0, 3), (6, 4))
    covered = with_things(book, book.pages[1].id, lambda _: (wide,))
    one = room_of(covered, (2,))
    assert not standing(covered, spread, one)


# What each costs by itself --------------------------------------------------------------------------------------------


def test_how_a_picture_would_lie_is_how_it_then_lies() -> None:
    book = _book()
    room = room_of(book, BOTH)
    clear = ((0.6, 0.2, 0.8, 0.5),)
    picture = _picture(1, keep_clear=clear)
    item = Item(picture, 0, focus=(0.3, 0.7), clear=clear)
    found = fitness(room, [item], 0.8, 300)
    for rect in range(0, len(room.rects), 37):
        box = Rect(*room.printed[rect])
        where = placed(picture, HoldsPicture(picture=picture.id, focus_x=0.3, focus_y=0.7), box)
        assert found.cut[0, rect] == pytest.approx(cropped_away(where, box), abs=1e-6)
        assert found.ppi[0, rect] == pytest.approx(effective_ppi(picture, where))
        a, b, c, d = clear[0]
        seen = (
            where.left + a * where.width > box.left - 1
            and where.left + c * where.width < box.right + 1
            and where.top + b * where.height > box.top - 1
            and where.top + d * where.height < box.bottom + 1
        )
        assert (found.crop[0, rect] < judging.FORBIDDEN) == seen


def test_nothing_that_is_kept_clear_and_no_focus_lies_in_the_fold_loss() -> None:
    book = _book(**{"fold-loss": "6mm"})
    room = room_of(book, BOTH)
    clear = ((0.2, 0.3, 0.35, 0.6),)
    item = Item(_picture(1, 6000, 2500), 0, focus=(0.27, 0.45), clear=clear)
    found, loss = fitness(room, [item], 0.8, 300), 6 * MM
    assert room.fold is not None and room.loss == pytest.approx(loss)
    allowed = np.flatnonzero((found.fold[0] < judging.FORBIDDEN) & (found.crop[0] < judging.FORBIDDEN))
    over = [rect for rect in allowed if room.seen[rect][0] < room.fold - 1 < room.seen[rect][2] - 2]
    assert over
    picture = replace(item.picture, keep_clear=clear)
    for rect in over:
        box = Rect(*room.printed[rect])
        where = placed(picture, HoldsPicture(picture="x", focus_x=0.27, focus_y=0.45), box)
        low, high = (where.left + share * where.width for share in (0.2, 0.35))
        assert high <= room.fold - loss + 0.6 or low >= room.fold + loss - 0.6


def test_who_looks_aside_looks_into_the_spread() -> None:
    room = room_of(_book(), BOTH)
    looks = _picture(1, points=(Point(name="looks", across=0.9, down=0.5),))
    found = fitness(room, _items(looks), 0.8, 300).looks[0]
    left, right = room.number((0, 3, 0, 3, 0)), room.number((8, 11, 0, 3, 0))
    assert found[left] == 0 < found[right]


# What is found --------------------------------------------------------------------------------------------------------


def _told(found: Arrangement) -> list[Rect]:
    return [Rect(*found.room.seen[rect]) for rect in found.rects]


@settings(max_examples=12, deadline=None)
@given(st.lists(st.sampled_from(SHAPES), min_size=1, max_size=9), st.integers(0, 3))
def test_arrangements_lie_in_the_fields_apart_from_one_another(shapes: list[tuple[int, int]], hero: int) -> None:
    pictures = [_picture(n, *shape, worth="opens" if n == hero else "") for n, shape in enumerate(shapes)]
    found = arranged(_book(), BOTH, _items(*pictures))
    assert 1 <= len(found) <= 12 and len({each.rects for each in found}) == len(found)
    assert [each.cost for each in found] == sorted(each.cost for each in found)
    for each in found:
        cells = [each.room.cells([box]) for n, box in enumerate(_told(each)) if n != each.ground]
        assert not cells or np.sum(cells, axis=0).max() == 1
        assert sum(each.parts.values()) == pytest.approx(each.cost, abs=1e-6)
        assert arrangement_name(each)
        assert sum(part.value for part in worked_cost(each).parts) <= each.cost + 1e-6


def _best_of_all(problem: _Problem) -> float:
    """By trying everything, with the very judge of the search and nothing else of it."""
    room, count = problem.search.room, len(problem.items)
    rects = [np.flatnonzero(problem.costs[n] < judging.FORBIDDEN) for n in range(count)]
    c0, c1, r0, r1, _ = room.rects.T
    every = np.arange(len(room.rects))
    meets = (
        (c0[:, None] <= c1[None]) & (c0[None] <= c1[:, None]) & (r0[:, None] <= r1[None]) & (r0[None] <= r1[:, None])
    )
    best = np.inf
    for one in rects[0]:
        for other in rects[1][~meets[one, rects[1]]] if count > 1 else [-1]:
            if count > 2:
                third = rects[2][~meets[one, rects[2]] & ~meets[other, rects[2]]]
                wheres = np.stack([np.full(len(third), one), np.full(len(third), other), third], axis=1)
            else:
                wheres = np.array([[one, other][:count]])
            if len(wheres):
                totals = np.zeros(len(wheres))
                finding.judge_all(np.ascontiguousarray(wheres).ravel(), len(wheres), *problem.given, totals)
                best = min(best, float(totals.min()))
    assert len(every)
    return best


@pytest.mark.parametrize("seed", range(6))
def test_of_two_or_three_pictures_the_best_that_is_found_is_the_best_there_is(seed: int) -> None:
    chance = np.random.default_rng(seed)
    count = 2 + seed % 2
    worths: list[Worth] = ["", "opens", "fills", "carries"]
    pictures = [
        _picture(n, *SHAPES[chance.integers(len(SHAPES))], worth=worths[chance.integers(4)]) for n in range(count)
    ]
    book = _book(columns=3 if count == 2 else 2, rows=3)
    search = _Search(book, room_of(book, BOTH), tuple(_items(*pictures)))
    problem = _Problem(search, tuple(range(count)), 0.8)
    best = arranged(book, BOTH, _items(*pictures))[0]
    assert best.cost == pytest.approx(_best_of_all(problem), abs=1e-6)


@given(seed=st.integers(0, 10_000))
@settings(max_examples=150, deadline=None)
def test_white_told_in_bits_costs_what_a_recount_of_fields_says(seed: int) -> None:
    chance = np.random.default_rng(seed)
    columns, rows = int(chance.integers(2, 14)), int(chance.integers(2, 8))
    taken = (chance.random((rows, columns)) < 0.1).astype(np.int64)
    white, rects = taken == 0, []
    for _ in range(int(chance.integers(1, 6))):
        c0, r0 = int(chance.integers(columns)), int(chance.integers(rows))
        c1, r1 = int(chance.integers(c0, columns)), int(chance.integers(r0, rows))
        rects.append((c0, c1, r0, r1, int(chance.integers(2))))
        white[r0 : r1 + 1, c0 : c1 + 1] = False
    counts = np.zeros(judging.TAKEN_BITS + rows, np.int64)
    counts[[judging.ITEMS, judging.COLUMNS, judging.ROWS]] = len(rects), columns, rows
    counts[judging.TAKEN_BITS :] = taken @ (1 << np.arange(columns))
    scratch = [0] * (2 * rows)
    told = [int(count) for count in counts], [figure for rect in rects for figure in rect]
    cost = judging.white_cost(list(range(len(rects))), *told, scratch)
    assert cost == pytest.approx(_recounted(white, taken == 0, sum(rect[4] for rect in rects), len(rects)))


def _recounted(white: np.ndarray, free: np.ndarray, bleeds: int, count: int) -> float:
    rows, columns = white.shape
    regions, _, told, _ = cv2.connectedComponentsWithStats(white.astype(np.uint8), connectivity=4)
    cost = 0.2 * max(0, regions - 2)
    for left, top, wide, high, _ in told[1:]:
        outside = left == 0 or top == 0 or left + wide == columns or top + high == rows
        cost += 0 if outside else 0.25
        cost += 0.15 if outside and left > 0 and left + wide < columns else 0
        cost += 0.06 * (wide == 1 and high > 2 and columns > 6) + 0.06 * (high == 1 and wide > 2 and rows > 4)
    padded = np.pad(white, 1).astype(int)
    around = padded[1:, 1:] + padded[:-1, 1:] + padded[1:, :-1] + padded[:-1, :-1]
    cost += 0.045 * max(0, int(((around == 1) | (around == 3)).sum()) - 4 * (regions - 1))
    share = white.sum() / free.sum() if free.any() else 0
    cost += 2 * (0.06 - share) if share < 0.06 and count > 2 and bleeds < count else 0
    return float(cost + (2.5 * (share - 1 / 3) if share > 1 / 3 else 0))


def test_a_limit_stops_the_judge_only_where_the_whole_would_come_to_it() -> None:
    book = _book(columns=6, rows=4)
    search = _Search(book, room_of(book, BOTH), tuple(_items(*(_picture(n, *SHAPES[n]) for n in range(4)))))
    problem, chance = _Problem(search, (0, 1, 2, 3), 0.8), np.random.default_rng(3)
    given = [each.tolist() for each in problem.given]
    stopped = 0
    for found in arranged(book, BOTH, list(search.items)):
        where = list(found.rects)
        whole = judging.judged(where, *given[:-1], 1e9)
        assert whole == pytest.approx(sum(given[-2]))
        for limit in whole * chance.uniform(0.2, 1.8, 40):
            told = judging.judged(where, *given[:-1], float(limit))
            assert told == whole if limit > whole else told >= limit
            stopped += told < whole
    assert stopped > 50


def test_the_same_is_found_each_time_and_interpreted_as_compiled(monkeypatch: pytest.MonkeyPatch) -> None:
    items = _items(*(_picture(n, *SHAPES[n]) for n in range(4)))
    book = _book(columns=3, rows=3)

    def found() -> list[tuple[int, ...]]:
        return [each.rects for each in arranged(book, BOTH, items)]

    assert found() == found()
    for name, few in (
        ("RUNS", 2),
        ("TRIES", 40),
        ("KEPT", 3),
        ("LEANING_TRIES", 20),
        ("LEANING_KEPT", 2),
        ("GROUND_TRIES", 20),
    ):
        monkeypatch.setattr(finding, name, few)
    compiled = found()
    monkeypatch.setattr(finding, "load", lambda: None)
    monkeypatch.setattr(finding, "seek", _interpreted(finding.seek))
    monkeypatch.setattr(finding, "go_on", _interpreted(finding.go_on))
    monkeypatch.setattr(finding, "judge_all", _interpreted(finding.judge_all))
    assert found() == compiled


def _interpreted(procedure: object) -> object:
    """The interpreted form of a procedure that is loaded."""
    cells = {
        name: cell.cell_contents
        for name, cell in zip(procedure.__code__.co_freevars, procedure.__closure__, strict=True)  # type: ignore[attr-defined]
    }
    return cells["interpreted"]


def test_no_picture_prints_below_200_ppi_where_another_order_of_sizes_avoids_it() -> None:
    small = _picture(1, 1000, 700)
    found = arranged(_book(), BOTH, _items(small, _picture(2), _picture(3, 3000, 4500)))
    for each in found[:6]:
        box, where = each.lies(next(n for n, item in enumerate(each.items) if item.picture is small))
        assert effective_ppi(small, where) >= 200, arrangement_name(each)
        assert not box.is_empty()


def test_what_is_worth_more_is_larger_and_all_are_read_in_their_order() -> None:
    pictures = [_picture(n, worth=worth) for n, worth in enumerate(("fills", "fills", "opens", "fills"))]
    best = arranged(_book(), BOTH, _items(*pictures))[0]
    areas = [box.width * box.height for box in _told(best)]
    assert areas.index(max(areas)) == 2
    assert best.parts["order"] < 0.5


def test_of_a_right_bound_job_the_right_page_is_read_first() -> None:
    pictures = [_picture(n) for n in range(4)]
    for bound, sign in (("left", 1), ("right", -1)):
        best = arranged(_book(bound=bound), BOTH, _items(*pictures))[0]
        middles = [sign * box.centre[0] for box in _told(best)]
        assert middles[0] < middles[-1]


def test_they_lie_round_what_stays_and_pins_hold() -> None:
    book = _book()
    panel = block_over("b9", HoldsPanel(), (2, 4), (1, 2), (6, 4))
    book = with_things(book, book.pages[1].id, lambda _: (panel,))
    items = _items(*(_picture(n) for n in range(3)))
    area = block_box(book, 2, panel)
    for each in arranged(book, BOTH, items):
        assert not any(box.meets(area.grown(-1)) for box in _told(each))
    room = room_of(book, BOTH)
    held = [replace_item(items[0], rect=room.number((8, 9, 2, 3, 0))), replace_item(items[1], size=(3, 2)), items[2]]
    for each in arranged(book, BOTH, held):
        assert each.rects[0] == held[0].rect and each.fields(1) == (3, 2)


def replace_item(item: Item, rect: int = -1, size: tuple[int, int] | None = None) -> Item:
    return replace(item, rect=rect, size=size)


def test_a_picture_may_be_the_ground_of_others_and_what_counts_in_it_stays_free() -> None:
    ground = _picture(1, 9000, 3300, worth="opens", keep_clear=((0.1, 0.3, 0.3, 0.8),))
    items = [
        Item(ground, 0, focus=(0.2, 0.5), clear=ground.keep_clear),
        *(Item(_picture(n), float(n)) for n in (2, 3)),
    ]
    found = [each for each in arranged(_book(), BOTH, items) if each.ground >= 0]
    assert found
    for each in found:
        _, where = each.lies(each.ground)
        clear = Rect(where.left + 0.1 * where.width, where.top + 0.3 * where.height,
                     where.left + 0.3 * where.width, where.top + 0.8 * where.height)  # fmt: skip
        assert not any(box.meets(clear) for n, box in enumerate(_told(each)) if n != each.ground)


def test_what_cannot_be_arranged_is_said() -> None:
    book = _book()
    with pytest.raises(Problem, match="no picture"):
        arranged(book, BOTH, [])
    with pytest.raises(Problem, match="At most 12"):
        arranged(book, BOTH, _items(*(_picture(n) for n in range(13))))
    with pytest.raises(Problem, match="side by side"):
        arranged(book, (3, 4), _items(_picture(1)))
    full = with_things(
        book, book.pages[1].id, lambda _: (block_over("b1", HoldsPicture(picture="x"), (0, 5), (0, 3), (6, 4)),)
    )
    with pytest.raises(Problem, match="no room"):
        arranged(full, (2,), _items(_picture(1)))


# The spreads beside it, and the manner --------------------------------------------------------------------------------


def _with_pictures(book: Publication, count: int = 4) -> Publication:
    return replace(book, pictures=tuple(_picture(n, *SHAPES[n % 3]) for n in range(count)))


def test_a_pattern_that_lies_beside_it_is_avoided_or_looked_for_as_the_manner_says() -> None:
    book = _with_pictures(_book())
    items = _items(*book.pictures)
    first = arranged(book, BOTH, items)[0]
    book, _ = take_arrangement(book, first)
    same = first.owners() >= 0
    other = arranged(book, (4, 5), items)[0]
    alike = arranged(replace(book, manner=set_manner(book, "variety", "-200").manner), (4, 5), items)[0]
    assert (alike.owners() // 2 == first.owners() // 2)[same].mean() > (other.owners() // 2 == first.owners() // 2)[
        same
    ].mean()
    assert other.parts["variety"] < alike.parts["variety"] + 1


@pytest.mark.parametrize("words", list(NUDGES))
def test_every_nudge_moves_the_manner_within_its_range(words: str) -> None:
    manner = _book().manner
    for _ in range(30):
        manner = nudged(manner, words)
    assert manner != _book().manner
    for key in NUDGES[words]:
        set_manner(_book(), key, f"{getattr(manner, key):g}")


def test_to_the_bleed_and_in_the_margins_do_as_they_say() -> None:
    items = _items(*(_picture(n) for n in range(3)))
    book = _book()
    out = arranged(replace(book, manner=nudged(nudged(book.manner, "to the bleed"), "to the bleed")), BOTH, items)[0]
    inside = arranged(
        replace(book, manner=nudged(nudged(book.manner, "in the margins"), "in the margins")), BOTH, items
    )[0]
    assert sum(out.room.rects[list(out.rects)][:, 4]) > sum(inside.room.rects[list(inside.rects)][:, 4])


def test_choices_speak_for_a_manner_only_when_there_are_some_and_nobody_takes_it_by_itself() -> None:
    manner = _book().manner
    choice = ({"order": 0.8, "white": 0.0}, [{"order": 0.1, "white": 0.6}, {"order": 0.0, "white": 0.5}])
    assert suggested(manner, [choice, choice]) == manner
    then = suggested(manner, [choice] * 4)
    assert then.order == 75 and then.white == 125 and then.crop == 100
    assert manner_changes(manner, then) == "Order 100 to 75 %, White 100 to 125 %"


# Laid -----------------------------------------------------------------------------------------------------------------


def test_what_is_taken_are_ordinary_blocks_that_lie_as_was_shown() -> None:
    book = _with_pictures(_book())
    found = arranged(book, BOTH, items_of(book, (), [p.id for p in book.pictures], {}))[1]
    made, names = take_arrangement(book, found)
    for n, item in enumerate(found.items):
        name = next(b for b in names if _held(made, b) == item.picture.id)
        index, _, block = page_of_block(made, name)
        assert tuple(block_box(made, index + 1, block)) == pytest.approx(tuple(found.lies(n)[0]), abs=0.01)
    again = arrangements_of_blocks(made, names)
    moved, same = take_arrangement(made, again[2])
    assert sorted(same) == sorted(names) and len(moved.pages[1].things) + len(moved.pages[2].things) == 4


def _held(book: Publication, name: str) -> str:
    holds = page_of_block(book, name)[2].holds
    assert isinstance(holds, HoldsPicture)
    return holds.picture


def arrangements_of_blocks(book: Publication, names: tuple[str, ...]) -> list[Arrangement]:
    return arranged(book, BOTH, items_of(book, names, (), {}))


def test_pictures_are_read_by_their_time_where_all_have_one_and_else_as_they_were_chosen() -> None:
    book = _with_pictures(_book(), 3)
    names = [p.id for p in book.pictures]
    times = {str(n): Told(taken=f"2026-10-0{9 - n} 10:00:00", focus=(0.2, 0.8)) for n in range(3)}
    turned = items_of(book, (), names, times)
    assert [item.picture.id for item in turned] == names[::-1] and turned[0].focus == (0.2, 0.8)
    del times["1"]
    assert [item.picture.id for item in items_of(book, (), names, times)] == names


def test_a_locked_block_is_not_arranged_and_a_pin_needs_the_fields(tmp_path: object) -> None:
    book = _with_pictures(_book())
    made, names = take_arrangement(book, arranged(book, BOTH, items_of(book, (), ["picture0", "picture1"], {}))[0])
    index, page, block = page_of_block(made, names[0])
    pins = pins_of(made, 2, False, {names[0]: "place", names[1]: "size"})
    assert pins[names[0]] == Pin(rect=rect_of(made, room_of(made, BOTH), names[0])) and pins[names[1]].size
    locked = with_things(made, page.id, lambda things: tuple(replace(t, locked=t.id == block.id) for t in things))
    with pytest.raises(Problem, match="locked"):
        items_of(locked, names, (), {})
    from pathlib import Path

    with pytest.raises(Problem, match="lies free here"):
        arrangements_on(book, Path("."), 2, (), ())
    assert list(permutations(names, 2)) and index
