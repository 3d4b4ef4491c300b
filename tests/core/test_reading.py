"""Whether words can be read: figures worked by hand, an outside judge, and remedies that do what they say."""

import subprocess
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PIL import Image

from half_fold.core.checks.reading_rules import words_unread
from half_fold.core.checks.run import check
from half_fold.core.cover.surfaces import surface_of_side
from half_fold.core.drawing.marks import DisplayList, Shape
from half_fold.core.drawing.tone import BLACK, Tone
from half_fold.core.inks.tones import ink
from half_fold.core.legibility.grounds import SCALE, SeenGround, ground_of
from half_fold.core.legibility.letter_remedies import heavier, shaded
from half_fold.core.legibility.reading import Surface, read_surface, worst_of
from half_fold.core.legibility.remedies import places, remedies
from half_fold.core.legibility.verdicts import (
    GOOD,
    SOLVED,
    UNREADABLE,
    judge_words,
    light_of,
    stem_of,
    verdict_of,
    words_seen,
)
from half_fold.core.measure.rect import Rect
from half_fold.core.paths.all import set_paths
from half_fold.core.pictures.colour.colour import COATED, lab_of_ink_picture, shipped_profile
from half_fold.core.pictures.library.bring import bring_picture
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.spreads import spread_of
from half_fold.core.plan.starters import start
from half_fold.core.press.make import press
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import Block, HoldsPicture, Publication
from half_fold.core.publication.surgery import block_named, with_thing_anywhere, with_things
from half_fold.core.spread.edits.claiming import display_words
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.job import open_job
from tests.blocks import block_over

PROFILE = shipped_profile(COATED)
ALL_OVER = Held(**{edge: Stop(kind="bleed") for edge in ("left", "top", "right", "bottom")})
QUIET, BUSY = (40, 46, 58), None


def _job(tmp_path: Path, colour: tuple[int, int, int] | None, inked: str = "paper") -> tuple[Publication, Path]:
    """A page with a picture all over it, of one colour or of loud stripes, and words in the middle."""
    chance = np.random.default_rng(4)
    wide, high = 1300, 1700
    if colour is None:
        coarse = chance.integers(0, 2, (85, 65, 1)).repeat(3, 2) * 235 + 10
        pixels = np.kron(coarse[..., 0], np.ones((20, 20)))[..., None].repeat(3, 2).astype(np.uint8)
    else:
        noise = chance.normal(0, 2, (high, wide, 1))
        pixels = np.clip(np.array(colour) + noise, 0, 255).astype(np.uint8)
    Image.fromarray(pixels).save(tmp_path / "ground.jpg", quality=92)
    job = set_values(start("magazine", "Graftwood"), ["pages=8"])
    pictures = tmp_path / "pictures"
    job, picture = bring_picture(job, pictures, tmp_path / "ground.jpg")
    ground = Block(id="b1", place=ALL_OVER, holds=HoldsPicture(picture=picture.id))
    words = block_over(
        "b2", replace(display_words("headline", "The winter of long ladders"), ink=inked), (0, 5), (3, 5)
    )
    job = with_things(job, job.pages[1].id, lambda _: (ground, words))
    return replace(job, pages=(job.pages[0], replace(job.pages[1], furniture="off"), *job.pages[2:])), pictures


def _sheet(job: Publication, pictures: Path) -> Surface:
    return Surface(job, pictures, spread_of(job, 2))


# The figures ----------------------------------------------------------------------------------------------------------


def test_a_ground_is_told_inside_boxes_as_a_plain_mean_and_deviation() -> None:
    light = np.arange(40.0).reshape(5, 8)
    sums = np.pad(light.cumsum(0).cumsum(1), ((1, 0), (1, 0)))
    squares = np.pad((light**2).cumsum(0).cumsum(1), ((1, 0), (1, 0)))
    ground = SeenGround(Rect(0, 0, 8 / SCALE, 5 / SCALE), light, sums, squares)
    mean, deviation = ground.around(np.array([[2.01 / SCALE, 1.01 / SCALE, 4.99 / SCALE, 2.99 / SCALE]]))
    part = light[1:3, 2:5]
    assert mean[0] == pytest.approx(part.mean()) and deviation[0] == pytest.approx(part.std())


def test_words_on_one_tone_stand_off_by_the_difference_of_lightness_over_five(tmp_path: Path) -> None:
    job = set_values(start("magazine", "Graftwood"), ["pages=8"])
    words = block_over("b2", display_words("headline", "Winter"), (0, 5), (3, 5))
    job = with_things(job, job.pages[1].id, lambda _: (words,))
    marks = Setter().spread(job, spread_of(job, 2))
    tone = Tone(0.3, 0.2, 0.2, 0.1)
    under = DisplayList(marks.area, (Shape(marks.area, tone), *marks.marks))
    ground = ground_of(under, tmp_path, (), PROFILE)
    word = next(w for w in judge_words(words_seen(under), ground, PROFILE) if w.text == "Winter")
    assert word.score == pytest.approx((light_of(tone, PROFILE) - light_of(BLACK, PROFILE)) / 5, rel=0.02)
    assert word.worked.value == round(word.score, 2) and word.verdict in word.worked.how
    assert not word.weak and word.area.width > 50


def test_each_word_takes_the_worst_tenth_of_its_own_letters_against_its_own_ground(tmp_path: Path) -> None:
    job, pictures = _job(tmp_path, BUSY)
    found = read_surface(_sheet(job, pictures))
    assert len(found.words) == len(found.letters) > 3
    for word, letters in zip(found.words, found.letters, strict=True):
        mean, unrest = found.ground.around(letters.boxes)
        off = (word.ink - mean) / np.sqrt(unrest**2 + 25)
        off *= 1 if np.median(off) >= 0 else -1
        assert word.letters == pytest.approx(off) and word.light == pytest.approx(mean.mean())
        assert word.score == pytest.approx(np.quantile(off, 0.1) * word.thin)


def test_the_ground_stands_while_only_words_change_and_is_made_anew_where_anything_else_does(tmp_path: Path) -> None:
    job, pictures = _job(tmp_path, BUSY)
    before = read_surface(_sheet(job, pictures))
    moved = set_paths(job, ["block.b2.side=right", "block.b2.ink=loden"])
    assert read_surface(_sheet(moved, pictures)).ground is before.ground
    for change in ("block.b2.ground=yes", "block.b1.treatment.exposure=0.5", "block.b1.closer=1.5"):
        other = read_surface(_sheet(set_paths(job, [change]), pictures)).ground
        assert np.abs(other.light - before.ground.light).max() > 5, change


def test_thin_faces_take_off_by_how_thin_their_stems_are() -> None:
    assert stem_of("Young Serif/Regular") > 0.1 > stem_of("EB Garamond/Regular") > 0.04
    assert (verdict_of(UNREADABLE - 0.1), verdict_of(UNREADABLE), verdict_of(GOOD)) == (
        "not to be read",
        "risky",
        "good",
    )


def test_words_are_told_apart_and_turned_ones_lie_where_they_lie(tmp_path: Path) -> None:
    job, pictures = _job(tmp_path, QUIET)
    found = read_surface(_sheet(job, pictures))
    assert [word.text for word in found.of("b2")] == ["The", "winter", "of", "long", "ladders"]
    turned = with_things(job, job.pages[1].id, lambda things: (things[0], replace(things[1], angle=90.0)))
    areas = [word.area for word in read_surface(_sheet(turned, pictures)).of("b2")]
    assert len({round(area.centre[0]) for area in areas[:1]}) == 1 and areas[0].height > areas[0].width


def test_quiet_grounds_read_and_loud_ones_do_not(tmp_path: Path) -> None:
    (tmp_path / "quiet").mkdir()
    (tmp_path / "loud").mkdir()
    assert read_surface(_sheet(*_job(tmp_path / "quiet", QUIET))).verdict("b2") == "good"
    assert read_surface(_sheet(*_job(tmp_path / "quiet", QUIET, "black"))).verdict("b2") != "good"
    assert read_surface(_sheet(*_job(tmp_path / "loud", BUSY))).verdict("b2") == "not to be read"


def test_the_ground_is_that_of_the_press_file_as_an_outside_judge_draws_it(tmp_path: Path) -> None:
    """The means and deviations round letters, from Ghostscript's page without the words, within five per cent."""
    job, pictures = _job(tmp_path, (120, 150, 90))
    found = read_surface(_sheet(job, pictures))
    bare = with_things(job, job.pages[1].id, lambda things: things[:1])
    file, tiff = tmp_path / "bare.pdf", tmp_path / "bare.tif"
    press(bare, pictures, file, "2")
    subprocess.run(
        ["gs", "-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", "-sDEVICE=tiff32nc", "-r200", f"-sOutputFile={tiff}",
         "-dUseTrimBox", str(file)],
        check=True, capture_output=True,
    )  # fmt: skip
    image = Image.open(tiff).resize(
        (found.ground.light.shape[1] // 2, found.ground.light.shape[0]), Image.Resampling.BOX
    )
    theirs = lab_of_ink_picture(image, found.sheet.profile)[..., 0]
    boxes = np.concatenate([word.boxes for word in found.of("b2")])
    means, _ = found.ground.around(boxes)
    assert means == pytest.approx(np.full(len(means), theirs.mean()), rel=0.05)


# Remedies -------------------------------------------------------------------------------------------------------------


def test_every_remedy_is_done_for_real_and_reads(tmp_path: Path) -> None:
    job, pictures = _job(tmp_path, (128, 122, 118), "black")
    job = replace(job, inks=tuple(replace(i) for i in job.inks))
    sheet = _sheet(with_tint(job), pictures)
    before = read_surface(sheet)
    assert before.score("b2") < GOOD
    found = remedies(sheet, "b2")
    assert found and all(each.score >= GOOD for each in found)
    for each in found:
        again = read_surface(sheet.changed(each.publication))
        assert again.score("b2") == pytest.approx(each.score, abs=0.6), each.words
        assert again.score("b2") > before.score("b2")
    kinds = " ".join(each.words for each in found)
    assert "In " in kinds and "wash" in kinds


def with_tint(job: Publication) -> Publication:
    """The words in an ink that is as light as their ground, so that nothing but a remedy makes them read."""
    block = block_named(job, "b2")
    holds = replace(block.holds, ink="dusk")
    return with_things(job, job.pages[1].id, lambda things: (things[0], replace(block, holds=holds)))


def test_the_wash_is_the_thinnest_that_does(tmp_path: Path) -> None:
    job, pictures = _job(tmp_path, BUSY)
    sheet = _sheet(job, pictures)
    found = next(each for each in remedies(sheet, "b2") if "wash" in each.words)
    panel = next(thing for thing in found.publication.pages[1].things if thing.id not in ("b1", "b2"))
    assert found.score >= SOLVED - 0.5 and 5 < panel.opacity <= 100
    thinner = with_things(
        found.publication,
        job.pages[1].id,
        lambda things: tuple(replace(t, opacity=t.opacity - 8) if t.id == panel.id else t for t in things),
    )
    assert read_surface(sheet.changed(thinner)).score("b2") < SOLVED


def test_places_found_are_calm_near_and_clear_of_the_rest(tmp_path: Path) -> None:
    job, pictures = _job(tmp_path, QUIET)
    chance = np.random.default_rng(2)
    picture = np.full((1700, 1300, 3), QUIET, np.uint8)
    loud = chance.integers(0, 2, (40, 65)).repeat(20, 0).repeat(20, 1) * 235
    picture[450:1250] = loud[:800, :1300, None]
    Image.fromarray(picture).save(tmp_path / "half.jpg", quality=92)
    job, record = bring_picture(job, pictures, tmp_path / "half.jpg")
    ground = Block(id="b1", place=ALL_OVER, holds=HoldsPicture(picture=record.id))
    words = replace(block_named(job, "b2"), place=block_over("x", HoldsPicture(picture="x"), (0, 5), (3, 4)).place)
    job = with_things(job, job.pages[1].id, lambda _: (ground, words))
    sheet = _sheet(job, pictures)
    assert read_surface(sheet).score("b2") < GOOD
    found = places(sheet, "b2")
    assert found and all(each.score >= GOOD for each in found)
    assert all("by fields" in each.words for each in found)


def test_a_block_that_reads_or_is_locked_is_offered_nothing(tmp_path: Path) -> None:
    job, pictures = _job(tmp_path, QUIET)
    assert remedies(_sheet(job, pictures), "b2") == []
    assert remedies(_sheet(job, pictures), "b1") == []


EDITS = (
    ["block.b2.ink=black"],
    ["block.b2.ink=paper"],
    ["block.b1.treatment.exposure=-2"],
    ["block.b1.opacity=30"],
    ["role.headline.look="],
    ["bleed=5mm"],
    ["paper.text=Marrow Board 250"],
    ["block.b2.ink=black", "block.b1.opacity=100"],
)


@pytest.mark.parametrize("colour", [BUSY, QUIET])
def test_what_is_kept_of_a_reading_is_what_would_be_read(tmp_path: Path, colour: tuple[int, int, int] | None) -> None:
    """Through edits of the words, of what is behind them, of the paper, and back by undo."""
    job, pictures = _job(tmp_path, colour)
    jobs = [job]
    for typed in EDITS:
        jobs.append(set_paths(jobs[-1], typed))
    for each in (*jobs, *reversed(jobs)):
        sheet, fresh = _sheet(each, pictures), replace(_sheet(each, pictures), setter=Setter())
        kept, found = worst_of(sheet), read_surface(fresh).worst
        assert [(w.text, w.block, w.score) for w in kept] == [(w.text, w.block, w.score) for w in found]
    assert len({tuple(w.score for w in worst_of(_sheet(each, pictures))) for each in jobs}) > 2


# The rule -------------------------------------------------------------------------------------------------------------


def test_words_that_cannot_be_read_are_found_on_pages_and_on_the_cover(tmp_path: Path) -> None:
    from half_fold.core.checks.context import Context

    job, pictures = _job(tmp_path, BUSY)
    found = list(words_unread(Context(job, Setter(), pictures)))
    assert found and found[0].page == 2 and "cannot be read" in found[0].message and found[0].block == "b2"
    assert not list(words_unread(Context(job, Setter(), None)))
    words = replace(block_named(job, "b2"), id="c9")
    side = replace(
        job, cover=replace(job.cover, ink="loden", front=(replace(words, holds=replace(words.holds, ink="loden")),))
    )
    on_cover = [
        each
        for each in check(side, Setter(), pictures)
        if each.side == "outside" and each.consequence == "could not be read"
    ]
    assert on_cover
    score = read_surface(surface_of_side(side, pictures, "outside", Setter())).score("c9")
    assert score == pytest.approx(0, abs=0.5) and ink(side, "loden")


def test_a_cover_is_read_on_its_own_paper_whatever_that_is(tmp_path: Path) -> None:
    job = set_values(start("book", "Ladders"), ["binding=case", "paper.text=Sallow Wove 80", "jacket=Marrow Gloss 135"])
    assert surface_of_side(job, tmp_path, "outside", Setter()).profile == shipped_profile(COATED)
    assert Surface(job, tmp_path, spread_of(job, 2)).profile != shipped_profile(COATED)
    screen = start("screen-cover", "Ladders")  # on no paper at all
    assert not read_surface(surface_of_side(screen, tmp_path, "outside", Setter())).worst


def test_a_shade_round_the_letters_is_as_small_as_solves_it_and_is_theirs_alone(tmp_path: Path) -> None:
    job, pictures = _job(tmp_path, BUSY)
    sheet = _sheet(job, pictures)
    now = read_surface(sheet)
    (words, score, made), *more = list(shaded(sheet, now, "b2"))
    assert not more and "shade" in words and made.looks == job.looks
    light = block_named(made, "b2").light
    assert light is not None and light.glow is not None
    assert read_surface(sheet.changed(made)).score("b2") == pytest.approx(score) and score > now.score("b2") + 1
    assert not list(shaded(sheet.changed(made), read_surface(sheet.changed(made)), "b2"))  # it has a light of its own


def test_a_heavier_weight_is_that_of_the_same_family_and_slope(tmp_path: Path) -> None:
    job, pictures = _job(tmp_path, (150, 150, 150))
    held = block_named(job, "b2")
    thin = replace(
        held.holds.paragraphs[0], runs=(replace(held.holds.paragraphs[0].runs[0], face="EB Garamond/Italic"),)
    )  # type: ignore[union-attr]
    job = with_thing_anywhere(job, replace(held, holds=replace(held.holds, paragraphs=(thin,))))
    sheet = _sheet(job, pictures)
    now = read_surface(sheet)
    (words, score, made), *_ = list(heavier(sheet, now, "b2"))
    assert words == "In EB Garamond Bold Italic" and score > now.score("b2")
    assert stem_of("EB Garamond/Bold Italic") > stem_of("EB Garamond/Italic")
    assert not list(heavier(sheet.changed(made), read_surface(sheet.changed(made)), "b2"))  # there is none heavier


def test_remedies_on_a_side_of_the_cover_light_its_own_block(demo: Path) -> None:
    job = open_job(demo)
    spoiled = set_paths(job.publication, ["block.c5.ink=black"])
    sheet = surface_of_side(spoiled, job.pictures, "outside", Setter())
    found = [each for each in remedies(sheet, "c5") if "shade" in each.words]
    assert found and found[0].score >= GOOD
    changed = sheet.changed(found[0].publication).job
    light = block_named(changed, "c5").light
    assert light is not None and light.glow is not None and changed.looks == job.publication.looks
