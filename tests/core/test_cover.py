"""The cover flat: its panels follow the spine, and its edits are checked."""

import pytest
from msgspec.structs import replace

from half_fold.core.cover.edits import set_cover
from half_fold.core.cover.flat import cover_flat, cover_marks
from half_fold.core.drawing.marks import Picture, Shape
from half_fold.core.measure.entry import MM
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.settings import set_values
from half_fold.core.publication.records import Picture as PictureRecord
from half_fold.core.publication.records import Publication


@pytest.mark.parametrize(
    ("settings", "spine"),
    [
        (["pages=48", "paper.text=grammage=130,volume=1.42"], 5.0),
        (["pages=124", "paper.text=grammage=130,volume=1.42"], 12.0),
    ],
)
def test_panels_follow_the_spine(magazine: Publication, settings: list[str], spine: float) -> None:
    flat = cover_flat(set_values(magazine, settings))
    assert flat.spine is not None
    assert flat.spine.width / MM == pytest.approx(spine)
    assert flat.trim.width / MM == pytest.approx(440 + spine)
    assert (flat.back.right, flat.front.left) == (flat.spine.left, flat.spine.right)
    assert flat.front.right == flat.trim.right


def test_a_stitched_cover_is_two_panels(magazine: Publication) -> None:
    flat = cover_flat(set_values(magazine, ["binding=saddle"]))
    assert flat.spine is None and flat.back.right == flat.front.left


def test_a_self_cover_job_has_none(magazine: Publication) -> None:
    with pytest.raises(Problem, match="its own cover"):
        cover_flat(set_values(magazine, ["paper.cover=none"]))


def test_panel_and_picture_reach_the_bleed(magazine: Publication) -> None:
    job = replace(magazine, pictures=(PictureRecord(id="p1", file="p.jpg", width=3000, height=2000, digest="d"),))
    for over in ("front", "wrap"):
        changed = set_cover(set_cover(job, "picture", "p1"), "over", over)
        panel, picture = cover_marks(changed).marks
        sheet = cover_flat(changed).trim.grown(3 * MM)
        assert isinstance(panel, Shape) and panel.rect == sheet
        assert isinstance(picture, Picture)
        assert picture.clip[1:] == sheet[1:]
        assert picture.clip.left == (sheet.left if over == "wrap" else cover_flat(changed).front.left)
        assert picture.placed.clipped(picture.clip) == pytest.approx(picture.clip)


def test_edits_of_the_cover(magazine: Publication) -> None:
    job = set_cover(set_cover(set_cover(magazine, "ink", "loden"), "tint", "62,5 %"), "focus_x", "25")
    assert (job.cover.ink, job.cover.tint, job.cover.focus_x) == ("loden", 62.5, 0.25)
    for field, value in (
        ("ink", "gold"),
        ("tint", "120"),
        ("tint", "much"),
        ("picture", "none such"),
        ("over", "spine"),
        ("foil", "1"),
    ):
        with pytest.raises(Problem):
            set_cover(magazine, field, value)
