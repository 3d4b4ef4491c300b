"""Blocks on bound-in cards: faces that are sides as those of the cover, pressed on each card of the leaf."""

from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PIL import Image

from half_fold.core.apart.pair import LEFT, RIGHT
from half_fold.core.apart.sides import edit_side, is_blank, page_name, side_of, sides_of, with_side
from half_fold.core.brief.papers import known_papers
from half_fold.core.checks.run import check
from half_fold.core.cover.flat import CoverSetter, side_flat
from half_fold.core.cover.surfaces import surface_of_side
from half_fold.core.drawing.changes import bounds
from half_fold.core.drawing.marks import Glyphs, leaves
from half_fold.core.legibility.reading import read_surface
from half_fold.core.measure.entry import MM
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import hull
from half_fold.core.numbers.all import all_numbers
from half_fold.core.paths.all import set_paths
from half_fold.core.pictures.library.bring import bring_picture
from half_fold.core.plan.inserts import add_insert, change_insert
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import start
from half_fold.core.press.cover_sheets import insert_sheet
from half_fold.core.press.make import press
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import Holds, HoldsPanel, HoldsPicture, Publication
from half_fold.core.publication.references import references
from half_fold.core.publication.surgery import (
    block_ids,
    block_named,
    fresh_id,
    thing_ids,
    with_thing_anywhere,
    with_things,
)
from half_fold.core.publication.used import used_pictures
from half_fold.core.spread.edits.claiming import display_words
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.codec import decode, encode
from tests.blocks import block_over
from tests.conftest import judge

DPI = 100


def _job(tmp_path: Path, binding: str = "perfect") -> tuple[Publication, str]:
    """A job with a card of two up, and which side of it that is."""
    job = set_values(start("magazine", "Graftwood"), ["pages=48", f"binding={binding}"])
    job = add_insert(job, 16, "card")
    job = change_insert(job, job.inserts[0].id, "parts", "words: Yes, send it")
    side = sides_of(job)[-1]
    assert side == f"card {job.inserts[0].id}"
    return job, side


def _with(
    job: Publication, side: str, page: int, holds: Holds, columns: tuple[int, int], rows: tuple[int, int]
) -> tuple[Publication, str]:
    """A block over fields of a face, and its id."""
    name = fresh_id("b", thing_ids(job))

    def make(on: Publication) -> Publication:
        block = block_over(name, holds, columns, rows, of=(6, 12))
        return with_things(on, on.pages[page - 1].id, lambda things: (*things, block))

    return edit_side(job, side, make), name


def test_a_card_has_two_faces_beside_one_another_as_large_as_it_is(tmp_path: Path) -> None:
    job, side = _job(tmp_path)
    card, flat = job.inserts[0], side_flat(job, side)
    assert flat.back is not None and flat.folds == ()
    for face in (flat.front, flat.back):
        assert (face.width / MM, face.height / MM) == pytest.approx((card.width.mm, card.height.mm))
    assert flat.front.right < flat.back.left
    assert [page_name(job, side, number) for number in (LEFT, RIGHT)] == [f"{card.name}, front", f"{card.name}, back"]
    assert len(side_of(job, side).pages) == 3


def test_blocks_on_a_card_are_the_jobs_own_in_every_way(tmp_path: Path) -> None:
    job, side = _job(tmp_path)
    made, panel = _with(job, side, LEFT, HoldsPanel(ink="loden"), (0, 2), (0, 3))
    made, words = _with(made, side, RIGHT, display_words("headline", "Thanks"), (0, 5), (0, 5))
    assert {panel, words} <= set(block_ids(made)) and panel != words
    assert block_named(made, panel).holds == HoldsPanel(ink="loden")
    recoloured = set_paths(made, [f"block.{panel}.ink=russet", f"block.{words}.width=60mm"])
    assert block_named(recoloured, panel).holds == HoldsPanel(ink="russet")
    assert any(ref.name == "russet" and "insert" in ref.where for ref in references(recoloured))
    assert decode(encode(made), "card") == made
    lit = CoverSetter(Setter()).marks(made, side)
    assert any(isinstance(mark, Glyphs) and "".join(mark.texts) == "Thanks" for mark in leaves(lit.marks))


def test_they_are_pressed_on_every_card_of_the_leaf_under_its_parts(tmp_path: Path) -> None:
    job, side = _job(tmp_path)
    job = change_insert(job, job.inserts[0].id, "up", "2")
    Image.new("RGB", (800, 800), (20, 120, 40)).save(tmp_path / "green.png")
    job, picture = bring_picture(job, tmp_path / "pictures", tmp_path / "green.png")
    job, name = _with(job, side, LEFT, HoldsPicture(picture=picture.id), (3, 5), (0, 5))
    job, _ = _with(job, side, RIGHT, display_words("headline", "Thanks"), (0, 5), (0, 5))
    assert used_pictures(job) == {picture.id}
    out = tmp_path / "x.pdf"
    press(job, tmp_path / "pictures", out, f"insert.{job.inserts[0].id}")
    assert judge("pdftotext", "-f", "1", "-l", "1", out, "-").count("Yes, send it") == 2
    assert judge("pdftotext", "-f", "2", "-l", "2", out, "-").count("Thanks") == 2
    judge("pdftoppm", "-r", str(DPI), "-f", "1", "-l", "1", "-png", "-singlefile", out, tmp_path / "x")
    page = np.asarray(Image.open(tmp_path / "x.png").convert("RGB"), float)
    green = (page[..., 1] - page[..., 0] > 40).any(axis=1)
    runs = np.flatnonzero(np.diff(np.concatenate([[0], green.astype(int), [0]]))).reshape(-1, 2)
    assert len(runs) == 2
    apart = (runs[1, 0] - runs[0, 0]) / DPI * 25.4
    assert apart == pytest.approx(job.inserts[0].height.mm, abs=0.4)
    assert name in block_ids(job)


def test_what_bleeds_off_a_card_does_not_reach_the_one_below_it(tmp_path: Path) -> None:
    job, side = _job(tmp_path)
    job = change_insert(job, job.inserts[0].id, "up", "2")
    job, name = _with(job, side, RIGHT, HoldsPanel(ink="black"), (0, 5), (6, 11))
    foot = replace(block_named(job, name).place, bottom=Stop(kind="bleed"), left=Stop(kind="bleed"))
    job = with_thing_anywhere(job, replace(block_named(job, name), place=foot))
    out, card = tmp_path / "x.pdf", job.inserts[0]
    press(job, tmp_path, out, f"insert.{card.id}")
    judge("pdftoppm", "-r", "300", "-f", "2", "-l", "2", "-gray", "-singlefile", out, tmp_path / "x")
    page = np.asarray(Image.open(tmp_path / "x.pgm"))
    bleed, tall = (round(mm / 25.4 * 300) for mm in (job.brief.bleed.mm, card.height.mm))
    inked = (page < 60).mean(axis=1) > 0.5
    assert inked[bleed + tall - 20] and not inked[bleed + tall + 3] and not inked[bleed + tall + 30]
    assert inked[-3]  # the lowest bleeds off the leaf


def test_what_is_wrong_on_a_card_is_found_with_its_name_and_mended(tmp_path: Path) -> None:
    job, side = _job(tmp_path)
    made, ground = _with(job, side, LEFT, HoldsPanel(ink="loden"), (0, 5), (0, 11))
    made, words = _with(made, side, LEFT, replace(display_words("headline", "Lost"), ink="loden"), (0, 5), (0, 5))
    told = read_surface(surface_of_side(made, tmp_path, side, Setter()))
    assert told.score(words) < 2 and ground
    found = [each for each in check(made, Setter(), tmp_path) if each.side == side]
    assert any("Lost" in each.message and each.place == f"{made.inserts[0].name}, front" for each in found)


def test_a_self_cover_job_has_its_cards_to_turn_to(tmp_path: Path) -> None:
    job = set_values(start("magazine", "Graftwood"), ["pages=16", "binding=saddle", "paper.cover=none"])
    assert sides_of(job) == ()
    job = add_insert(job, 8, "card")
    assert sides_of(job) == (f"card {job.inserts[0].id}",)
    assert side_of(job, sides_of(job)[0]).pages[1].id
    assert not [f for f in check(job, Setter(), None) if f.side]


def test_a_tip_in_has_faces_of_its_own_and_prints_in_its_size(tmp_path: Path) -> None:
    job, _ = _job(tmp_path)
    more = add_insert(job, 16, "tip-in")
    tip = more.inserts[1]
    assert sides_of(more) == (*sides_of(job), f"card {tip.id}")
    more = change_insert(change_insert(more, tip.id, "width", "120mm"), tip.id, "height", "90mm")
    more, _ = _with(more, f"card {tip.id}", LEFT, HoldsPanel(ink="loden"), (0, 5), (0, 11))
    more, _ = _with(more, f"card {tip.id}", RIGHT, display_words("headline", "Errata"), (0, 5), (0, 11))
    assert decode(encode(more), "tipped") == more
    out = tmp_path / "tip.pdf"
    press(more, tmp_path, out, f"insert.{tip.id}")
    assert "Errata" in judge("pdftotext", "-f", "2", "-l", "2", out, "-")
    boxes = judge("pdfinfo", "-box", "-f", "1", "-l", "2", out)
    trims = [line.split()[3:] for line in boxes.splitlines() if "TrimBox" in line]
    assert len(trims) == 2
    for left, foot, right, head in (map(float, trim) for trim in trims):
        assert ((right - left) / MM, (head - foot) / MM) == pytest.approx((120, 90), abs=0.01)


@pytest.mark.parametrize(("bound", "fold", "back"), [("left", 220, 217), ("right", 217, 220)])
def test_a_gatefold_prints_opened_on_both_faces_and_its_fold_is_marked(
    tmp_path: Path, bound: str, fold: float, back: float
) -> None:
    """A page of 220 mm and the 217 that fold in: 437 opened; bound at the right the page lies right on its front."""
    job = set_values(start("magazine", "Graftwood"), ["pages=48", f"bound={bound}"])
    before = {n.key: n.value for n in all_numbers(job)}["weight.copy"]
    job = add_insert(job, 16, "gatefold")
    after = {n.key: n.value for n in all_numbers(job)}["weight.copy"]
    gsm = next(paper.grammage for paper in known_papers(job) if paper.name == job.inserts[0].paper)
    assert after - before == pytest.approx(0.437 * 0.285 * gsm, abs=0.3)  # and a cover wider by its thickness
    (side,) = (each for each in sides_of(job) if each.startswith("card"))
    flat = side_flat(job, side)
    assert [(x - trim.left) / MM for x, trim in zip(flat.folds, (flat.front, flat.back), strict=True)] == pytest.approx(
        [fold, back], abs=0.01
    )
    job, _ = _with(job, side, LEFT, HoldsPanel(ink="loden"), (0, 5), (0, 11))
    job, _ = _with(job, side, RIGHT, display_words("headline", "Unfolded"), (0, 5), (0, 11))
    out = tmp_path / "gate.pdf"
    press(job, tmp_path, out, f"insert.{job.inserts[0].id}", marks=True)
    assert "Unfolded" in judge("pdftotext", "-f", "2", "-l", "2", out, "-")
    trims = [
        line.split()[3:]
        for line in judge("pdfinfo", "-box", "-f", "1", "-l", "2", out).splitlines()
        if "TrimBox" in line
    ]
    for left, foot, right, head in (map(float, trim) for trim in trims):
        assert ((right - left) / MM, (head - foot) / MM) == pytest.approx((437, 285), abs=0.01)
    folded = [insert_sheet(job, job.inserts[0], Setter(), index).folds for index in (0, 1)]
    assert folded == [pytest.approx((fold * MM,)), pytest.approx((back * MM,))]


@pytest.mark.parametrize("kind", ["card", "tip-in", "gatefold"])
def test_a_leaf_that_is_trimmed_all_round_bleeds_all_round(kind: str) -> None:
    """The edge where its two faces lie beside one another on the desk is a cut like the others."""
    job = add_insert(start("magazine", "Graftwood"), 2, kind)
    (side,) = (each for each in sides_of(job) if each.startswith("card"))
    block = block_over("b1", HoldsPanel(ink="loden"), (0, 5), (0, 11), of=(6, 12))
    edges = {"left": 0, "top": 0, "right": 1, "bottom": 1}
    all_round = replace(
        block, place=Held(**{edge: Stop(kind="bleed", index=at, count=2) for edge, at in edges.items()})
    )
    for page, index in ((LEFT, 0), (RIGHT, 1)):
        name = side_of(job, side).pages[page - 1].id
        full = edit_side(job, side, lambda on, name=name: with_things(on, name, lambda _: (all_round,)))
        sheet = insert_sheet(full, full.inserts[0], Setter(), index)
        panel = hull([bounds(mark) for mark in sheet.marks if mark.origin.block == "b1"])
        assert (panel.left, panel.top, panel.right) == pytest.approx(
            (sheet.bleed.left, sheet.bleed.top, sheet.bleed.right), abs=0.01
        )


def test_a_card_that_is_no_longer_there_is_told_and_the_cover_keeps_its_blocks(tmp_path: Path) -> None:
    job, side = _job(tmp_path)
    job, _ = _with(job, "outside", RIGHT, HoldsPanel(), (1, 3), (1, 6))
    on_card, _ = _with(job, side, LEFT, HoldsPanel(), (1, 6), (1, 12))
    shown = side_of(on_card, side)
    without = replace(job, inserts=())
    for late in (
        lambda: side_of(without, side),
        lambda: with_side(without, side, shown),
        lambda: edit_side(without, side, lambda p: p),
        lambda: is_blank(without, side),
    ):
        with pytest.raises(Problem, match="no longer in the job"):
            late()
