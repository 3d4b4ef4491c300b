"""The light of a block: shadow, glow and lines round it, over those of its look, and kept as a look."""

import pytest
from msgspec.structs import replace

from half_fold.core.drawing.marks import Mark, MarkGroup, Path, Shape, Veil, leaves
from half_fold.core.drawing.outline import Outline, rectangle
from half_fold.core.drawing.regions import region_of
from half_fold.core.drawing.tone import Gradient
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import found, set_path, set_paths
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import HoldsPanel, Look, Publication, Shadow
from half_fold.core.publication.surgery import block_named
from half_fold.core.spread.edits import edits
from half_fold.core.spread.edits.lit import keep_light, unlit
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.codec import decode, encode


def _job() -> tuple[Publication, str]:
    return edits.claim(start("magazine", "Hedges"), (60.0, 60.0), (200.0, 200.0), (2, 3), HoldsPanel(ink="black"))


def _set(job: Publication, block: str, *typed: str) -> Publication:
    return set_paths(job, [f"block.{block}.{each}" for each in typed])


def _marks(job: Publication, block: str) -> tuple[Mark, ...]:
    return Setter().thing_marks(job, 2, block_named(job, block))


def _areas(job: Publication, block: str) -> list[Outline]:
    """What is filled, from back to front, as outlines."""
    every = leaves(_marks(job, block))
    return [m.outline if isinstance(m, Path) else rectangle(m.rect) for m in every if isinstance(m, Path | Shape)]


def _veil(job: Publication, block: str) -> Veil:
    return next(mark for mark in leaves(_marks(job, block)) if isinstance(mark, Veil))


def _value(job: Publication, block: str, key: str) -> str:
    return found(job, f"block.{block}.{key}")[0].value


def test_a_shadow_falls_as_far_across_and_down_as_is_typed_in_any_unit() -> None:
    job, block = _job()
    sharp = _set(job, block, "shadow=yes", "shadow.soft=0", "shadow.across=3mm", "shadow.down=-1/8in")
    shadow, thing = _areas(sharp, block)
    assert shadow.bounds.left - thing.bounds.left == pytest.approx(3 * MM)
    assert shadow.bounds.top - thing.bounds.top == pytest.approx(-9.0)
    assert _value(sharp, block, "shadow.down") == "-1/8in"


def test_distances_are_in_pixels_where_the_job_is() -> None:
    job, block = _job()
    job = replace(job, brief=replace(job.brief, unit="px@300"))
    job = _set(job, block, "shadow.across=4px", "outline.weight=3px")
    assert _value(job, block, "shadow.across").startswith("4px")
    light = block_named(job, block).light
    assert light is not None and light.contours[0].weight.pt == pytest.approx(3 * 72 / 300)


def test_to_set_one_value_of_a_shadow_gives_the_shadow() -> None:
    job, block = _job()
    job = _set(job, block, "shadow.opacity=70")
    (group,) = (mark for mark in _marks(job, block) if isinstance(mark, MarkGroup))
    assert group.opacity == pytest.approx(0.7) and _value(job, block, "shadow") == "yes"
    assert block_named(_set(job, block, "shadow="), block).light is None


def test_what_is_not_stated_is_its_looks_and_follows_it() -> None:
    job, block = _job()
    looks = (Look(name="lifted", shadow=Shadow(opacity=20.0, distance=length("2mm"))),)
    job = _set(replace(job, looks=looks), block, "look=lifted", "outline.weight=2pt")
    assert _veil(job, block) and len(_areas(job, block)) == 2
    stronger = set_path(job, "look.lifted.shadow.opacity", "90")
    (group,) = (mark for mark in _marks(stronger, block) if isinstance(mark, MarkGroup))
    assert group.opacity == pytest.approx(0.9)
    own = _set(stronger, block, "shadow.down=0mm")
    (group,) = (mark for mark in _marks(own, block) if isinstance(mark, MarkGroup))
    assert group.opacity == pytest.approx(0.9), "it begins with what its look has"
    off = _set(stronger, block, "shadow=no")
    assert not [mark for mark in _marks(off, block) if isinstance(mark, MarkGroup)]
    assert _marks(_set(off, block, "shadow="), block), "and its look's again"


def test_outlines_lie_one_round_the_other_inside_and_astride() -> None:
    job, block = _job()
    plain = region_of(_areas(job, block))
    job = _set(
        job, block, "outline.weight=4pt", "outline.2.weight=2pt", "outline.3.weight=3pt", "outline.3.side=inside"
    )
    areas = [region_of([each]) for each in _areas(job, block)]
    boxes = [each.bounds for each in areas]  # the outer line, the inner, the thing, the line within
    left = plain.bounds[0]
    assert [left - box[0] for box in boxes] == pytest.approx([6.0, 4.0, 0.0, 0.0], abs=0.02)
    assert areas[-1].area == pytest.approx(plain.area - plain.buffer(-3.0).area, rel=1e-3)
    astride = _set(job, block, "outline.2.weight=", "outline.2.side=centred")
    assert left - region_of([_areas(astride, block)[-1]]).bounds[0] == pytest.approx(1.5, abs=0.02)


def test_an_outline_may_be_of_a_fade_and_keeps_its_names() -> None:
    job, block = _job()
    job = set_path(set_path(job, "fade.eve", "black; loden"), f"block.{block}.outline.ink", "eve")
    assert any(isinstance(mark, Path) and isinstance(mark.fill, Gradient) for mark in leaves(_marks(job, block)))
    with pytest.raises(Problem, match="used by page 3"):
        set_path(job, "fade.eve", "")


def test_it_is_kept_as_a_look_and_the_block_wears_that() -> None:
    job, block = _job()
    job = _set(job, block, "shadow.across=1mm", "glow=yes", "glow.opacity=30")
    before = _marks(job, block)
    kept = keep_light(job, block, "lit")
    assert block_named(kept, block).look == "lit" and block_named(kept, block).light is None
    assert [type(mark) for mark in _marks(kept, block)] == [type(mark) for mark in before]
    with pytest.raises(Problem, match="no light of its own"):
        keep_light(kept, block, "again")
    with pytest.raises(Problem):
        keep_light(job, block, "")


def test_it_is_written_and_read_again() -> None:
    job, block = _job()
    job = _set(job, block, "shadow.across=1mm", "outline.weight=2pt", "outline.side=inside")
    assert block_named(decode(encode(job), "hedges"), block) == block_named(job, block)


@pytest.mark.parametrize(
    "typed", ["shadow.opacity=140", "shadow.soft=-1mm", "outline.side=upward", "glow.ink=no such", "shadow=perhaps"]
)
def test_what_cannot_be_is_said(typed: str) -> None:
    job, block = _job()
    with pytest.raises(Problem):
        _set(job, block, typed)


def test_it_is_left_off_to_compare_its_own_first_and_then_its_look() -> None:
    job, block = _job()
    plain = _marks(job, block)
    assert unlit(job, [block]) is job
    job = _set(replace(job, looks=(Look(name="lifted", shadow=Shadow()),)), block, "look=lifted", "outline.weight=1pt")
    job = _set(job, block, "locked=yes")
    once = unlit(job, [block])
    assert block_named(once, block).look == "lifted" and len(_areas(once, block)) == 1
    assert len(_marks(unlit(once, [block]), block)) == len(plain) == 1
