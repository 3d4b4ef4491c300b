"""Blocks on bound-in cards: faces that are sides as those of the cover, pressed on each card of the leaf."""

from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PIL import Image

from half_fold.core.checks.run import check
from half_fold.core.cover.flat import CoverSetter, side_flat
from half_fold.core.cover.reading import read, sheet_of_side
from half_fold.core.cover.sides import LEFT, RIGHT, edit_side, page_name, side_of, sides_of
from half_fold.core.drawing.marks import Glyphs, Shape, leaves
from half_fold.core.measure.entry import MM
from half_fold.core.paths.all import set_paths
from half_fold.core.pictures.bring import bring_picture
from half_fold.core.plan.inserts import add_insert, change_insert
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import start
from half_fold.core.press.make import press
from half_fold.core.publication.places import Stop
from half_fold.core.publication.records import Holds, HoldsPanel, HoldsPicture, Publication
from half_fold.core.publication.references import references
from half_fold.core.publication.surgery import (
    block_ids,
    block_named,
    fresh_id,
    thing_ids,
    used_pictures,
    with_thing_anywhere,
    with_things,
)
from half_fold.core.spread.claiming import display_words
from half_fold.core.spread.compose import Setter
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
    told = read(sheet_of_side(made, tmp_path, side, Setter()))
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


def test_a_fold_in_and_a_tip_in_are_no_sides(tmp_path: Path) -> None:
    job, _ = _job(tmp_path)
    more = add_insert(add_insert(job, 16, "tip-in"), 32, "gatefold")
    assert sides_of(more) == sides_of(job)
    shapes = [m for m in CoverSetter(Setter()).face(more, more.inserts[1], False) if isinstance(m, Shape)]
    assert shapes == []
