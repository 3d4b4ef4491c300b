"""Sections, folios, states, adverts and inserts."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.numbers.all import all_numbers
from half_fold.core.plan.inserts import (
    add_insert,
    backs_up,
    change_insert,
    faces,
    faults,
    format_parts,
    lines_too_close,
    parse_parts,
    place_parts,
)
from half_fold.core.plan.order import remove_pages, set_extent
from half_fold.core.plan.sections import (
    advert_share,
    change_section,
    end_section,
    folios,
    mark_pages,
    misplaced,
    roman,
    section_of,
    spans,
    start_on_recto,
    start_section,
)
from half_fold.core.plan.settings import set_value
from half_fold.core.plan.spreads import spreads
from half_fold.core.plan.starters import start
from half_fold.core.publication.places import Held
from half_fold.core.publication.records import CardPart, HoldsPanel, Insert, Publication
from half_fold.core.publication.surgery import with_page
from half_fold.core.spread.edits.placing import place_story
from half_fold.core.spread.running.states import page_state, pages_laid
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.where.reaching import put_in
from half_fold.core.typesetting.texts.text_in import read_plain
from tests.blocks import block_over


def _prelims(job: Publication) -> Publication:
    """Roman for six pages, then arabic from 1, then a hidden part."""
    job = start_section(start_section(start_section(job, 1, "Before"), 7, "The book"), 29, "Plates")
    job = change_section(job, job.sections[0], "folios", "roman")
    job = change_section(job, job.sections[1], "offset", "1")
    return change_section(job, job.sections[2], "folios", "hidden")


def test_folios_by_section(magazine: Publication) -> None:
    said = folios(_prelims(magazine))
    assert said[:7] == ["i", "ii", "iii", "iv", "v", "vi", "1"] and said[27:30] == ["22", "", ""]


@pytest.mark.parametrize(("number", "words"), [(1, "i"), (4, "iv"), (9, "ix"), (49, "xlix"), (1994, "mcmxciv")])
def test_roman_figures(number: int, words: str) -> None:
    assert roman(number) == words


def test_folios_are_printed_as_their_section_says(magazine: Publication) -> None:
    job, _ = place_story(_prelims(magazine), Setter(), "Words", tuple(read_plain("Some words.").paragraphs))
    marks = Setter().spread(job, spreads(32)[0]).marks
    assert "i" in ["".join(mark.texts) for mark in marks if hasattr(mark, "texts")]


def test_a_section_ends_where_the_next_begins_and_moves_with_its_page(magazine: Publication) -> None:
    job = _prelims(magazine)
    assert [(s.section.name, s.first, s.last) for s in spans(job)] == [
        ("Before", 1, 6),
        ("The book", 7, 28),
        ("Plates", 29, 32),
    ]
    assert section_of(job, 28).name == "The book"  # type: ignore[union-attr]
    fewer = remove_pages(job, [0, 1])
    assert [(s.section.name, s.first) for s in spans(fewer)] == [("The book", 5), ("Plates", 27)]
    assert section_of(fewer, 1) is None
    assert len(spans(end_section(job, job.sections[1]))) == 2


def test_a_section_on_a_verso_gets_a_page_before_it(magazine: Publication) -> None:
    job = start_section(magazine, 8, "Part two")
    job = change_section(job, job.sections[0], "starts", "recto")
    assert [span.first for span in misplaced(job)] == [8]
    mended = start_on_recto(job, job.sections[0])
    assert misplaced(mended) == [] and spans(mended)[0].first == 9 and len(mended.pages) == 33


@pytest.mark.parametrize(
    ("field", "text"), [("offset", "x"), ("folios", "greek"), ("name", " "), ("paper", "None such")]
)
def test_what_a_section_cannot_be(magazine: Publication, field: str, text: str) -> None:
    job = start_section(magazine, 3, "Part")
    with pytest.raises(Problem):
        change_section(job, job.sections[0], field, text)
    with pytest.raises(Problem, match="already"):
        start_section(job, 3, "Again")


def test_adverts_by_size_and_their_share(magazine: Publication) -> None:
    job = mark_pages(magazine, [3], "advert", "spread")
    assert [i for i, page in enumerate(job.pages) if page.advert] == [3, 4]
    job = mark_pages(mark_pages(job, [10], "advert", "half"), [12, 14], "advert", "quarter")
    assert advert_share(job) == pytest.approx((2 + 0.5 + 0.5) / 32)
    assert page_state(job, 3) == "planned"


def test_a_page_under_what_lies_over_the_fold_is_laid_too(magazine: Publication) -> None:
    """A picture from page 4 onto 5, by its stops or moved there: neither the state nor the count calls 5 empty."""
    held = block_over("b1", HoldsPanel(ink="loden"))
    assert isinstance(held.place, Held)
    over = replace(held, place=replace(held.place, right=replace(held.place.right, facing=True)))
    for block, under in ((held, False), (over, True)):
        job = with_page(magazine, replace(magazine.pages[3], things=(block,)))
        assert pages_laid(job) == {4, 5} if under else pages_laid(job) == {4}
        assert page_state(job, 4) == ("laid" if under else "empty")
    job = with_page(magazine, replace(magazine.pages[3], things=(held,)))
    for left, under in ((-300, False), (-100, True)):
        moved = put_in(job, "b1", Rect(left, 100, left + 200, 200))
        assert pages_laid(moved) == ({4, 5} if under else {4}), left
    assert pages_laid(with_page(magazine, replace(magazine.pages[0], things=(held,)))) == {1}, "page 1 faces nothing"


def test_states_say_how_far_a_page_has_come(magazine: Publication) -> None:
    job = mark_pages(magazine, [0, 1], "state", "copy in")
    assert [page_state(job, i) for i in (0, 2)] == ["copy in", "empty"]
    laid_out, _ = place_story(job, Setter(), "Words", tuple(read_plain("Some words.").paragraphs))
    assert page_state(laid_out, 0) == "laid" and page_state(mark_pages(laid_out, [0], "state", "passed"), 0) == "passed"
    with pytest.raises(Problem):
        mark_pages(job, [0], "state", "burnt")


# Inserts --------------------------------------------------------------------------------------------


@pytest.fixture
def carded(magazine: Publication) -> Publication:
    return add_insert(magazine, 16, "card")


def _card(job: Publication) -> Insert:
    return job.inserts[0]


def test_cuts_are_mirrored_for_the_verso(carded: Publication) -> None:
    """By hand: 160 mm wide, cut at 12 from the recto's left, perforated at 30.5: 148 and 129.5 on the verso."""
    job = change_insert(carded, "insert1", "perforations", "30.5mm")
    recto, verso = faces(job, _card(job))
    assert (recto.cut, recto.perforations) == (12, (30.5,)) and (verso.cut, verso.perforations) == (148, (129.5,))
    keys = {n.key: n.value for n in all_numbers(job)}
    assert keys["insert.cut.recto"] == 12 and keys["insert.cut.verso"] == pytest.approx(148)


@given(st.floats(90, 300), st.floats(0.01, 0.99), st.lists(st.floats(0, 1), max_size=4))
def test_every_card_backs_up(width: float, cut: float, lines: list[float]) -> None:
    job = add_insert(start("magazine", "Cards"), 2, "card")
    card = replace(
        job.inserts[0],
        width=length(f"{width!r}mm"),
        cut=length(f"{cut * width:.6f}mm"),
        perforations=tuple(length(f"{x * width:.6f}mm") for x in lines),
    )
    assert backs_up(job, card)
    recto, verso = faces(job, card)
    assert recto.cut + verso.cut == pytest.approx(card.width.mm)


def test_three_to_the_height_where_the_post_takes_them(magazine: Publication) -> None:
    assert _card(add_insert(magazine, 2, "card")).up == 3
    small = add_insert(set_value(magazine, "trim", "150x230mm"), 2, "card")
    assert _card(small).up == 2
    assert faults(magazine, _card(add_insert(magazine, 2, "card"))) == []
    three = change_insert(change_insert(small, "insert1", "up", "3"), "insert1", "height", "76mm")
    assert any("too small for the post" in fault for fault in faults(three, _card(three)))


def test_what_is_wrong_with_an_insert_is_said(carded: Publication) -> None:
    odd = change_insert(carded, "insert1", "after", "15")
    assert any("starts on a recto" in fault for fault in faults(odd, _card(odd)))
    stub = change_insert(set_value(carded, "binding", "saddle"), "insert1", "stub", "40mm")
    assert any("stub of 75 mm" in fault for fault in faults(stub, _card(stub)))
    gone = remove_pages(carded, [15])
    assert any("no longer in the order" in fault for fault in faults(gone, _card(gone)))
    gate = add_insert(carded, 2, "gatefold")
    assert faults(gate, gate.inserts[1]) == [] and gate.inserts[1].width.mm == 217
    wide = change_insert(gate, "insert2", "width", "219mm")
    assert any("217 mm or less" in fault for fault in faults(wide, wide.inserts[1]))


def test_an_insert_thickens_and_weighs_and_may_count_its_folios(carded: Publication) -> None:
    plain = {n.key: n.value for n in all_numbers(replace(carded, inserts=()))}
    with_card = {n.key: n.value for n in all_numbers(carded)}
    assert with_card["bulk.text"] - plain["bulk.text"] == pytest.approx(0.2875)
    assert with_card["weight.copy"] - plain["weight.copy"] == pytest.approx(
        0.16 * 0.095 * 3 * 250 + 0.0003 * 0.285 * 250  # three cards, and the cover wider by its spine
    )
    assert with_card["extent.pages"] == plain["extent.pages"]
    assert folios(carded)[16] == "17" and folios(change_insert(carded, "insert1", "counts", "count"))[16] == "19"


def test_lines_space_themselves_over_what_is_left(carded: Publication) -> None:
    parts = place_parts(_card(carded))
    assert [p.part.kind for p in parts] == ["words", "ticks", "lines"]
    lines = parts[-1]
    gaps = {round(b - a, 6) for a, b in pairwise(lines.baselines)}
    assert len(lines.baselines) == 3 and len(gaps) == 1 and 6 * MM < gaps.pop() <= 12.6 * MM + 1e-6
    assert all(one.rect.bottom <= two.rect.top + 1e-9 for one, two in pairwise(parts))
    crowded = change_insert(carded, "insert1", "parts", "lines: " + "; ".join("abcdefghijklmnopqrst"))
    assert lines_too_close(_card(crowded)) and not lines_too_close(_card(carded))


def test_parts_are_typed_and_said_again() -> None:
    parts = parse_parts("words: Send me two / ticks: yes; no / lines: name; town / reply-paid")
    assert [(p.kind, p.count) for p in parts] == [("words", 1), ("ticks", 2), ("lines", 2), ("reply-paid", 1)]
    card = add_insert(start("magazine", "C"), 2, "card").inserts[0]
    assert parse_parts(format_parts(replace(card, parts=parts).parts)) == parts
    with pytest.raises(Problem, match="no part of a card"):
        parse_parts("stamp: here")
    assert CardPart(kind="reply-paid") == parts[-1]


def test_extent_of_a_job_is_free_of_its_inserts(carded: Publication) -> None:
    assert len(set_extent(carded, 48).inserts) == 1
