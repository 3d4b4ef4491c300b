"""The masthead behind what stands in front of it: shares counted by an outside judge, and moves that mend it."""

from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PIL import Image, ImageDraw

from half_fold.core.apart.sides import side_of
from half_fold.core.checks.run import check
from half_fold.core.cover.masthead import GONE, Letter, Masthead, masthead_of
from half_fold.core.cover.mending import ways_to_read
from half_fold.core.cover.surfaces import surface_of_side
from half_fold.core.cover.uncovering import uncovered
from half_fold.core.legibility.reading import Surface
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.library.bring import bring_picture
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import start
from half_fold.core.press.make import press
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import Block, HoldsDisplay, HoldsPicture, Paragraph, Publication, Run
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.where.frames import block_box
from half_fold.core.store.job import open_job
from tests.blocks import block_over
from tests.conftest import judge

ALL_OVER = Held(
    left=Stop(kind="fold", facing=True), top=Stop(kind="bleed"), right=Stop(kind="bleed"), bottom=Stop(kind="bleed")
)
DPI = 300


def _job(
    tmp_path: Path, shape: tuple[float, float, float, float] | None, bleeds: bool = False
) -> tuple[Publication, Path]:
    """A magazine whose black name lies under a green ellipse: left, head, right and foot as shares of the front."""
    job = set_values(start("magazine", "Marlpit"), ["pages=48"])
    name = HoldsDisplay(paragraphs=(Paragraph(role="masthead", runs=(Run(text="Marlpit"),)),), even=True, ink="black")
    front: tuple[Block, ...] = (block_over("c1", name, (0, 5), (0, 1), of=(6, 12)),)
    job = replace(job, cover=replace(job.cover, ink="paper", front=front, back=(), spine=""))
    pictures = tmp_path / "pictures"
    if shape is None:
        return job, pictures
    image = Image.new("RGBA", (800, 1040), (0, 0, 0, 0))
    left, top, right, bottom = shape
    ImageDraw.Draw(image).ellipse((left * 800, top * 1040, right * 800, bottom * 1040), fill=(40, 150, 60, 255))
    image.save(tmp_path / "subject.png")
    job, picture = bring_picture(job, pictures, tmp_path / "subject.png")
    place = ALL_OVER
    if not bleeds:
        edges = ("left", "top", "right", "bottom")
        place = Held(**dict(zip(edges, (Stop(kind="trim"),) * 4, strict=True)))
    front = (*front, Block(id="c2", place=place, holds=HoldsPicture(picture=picture.id)))
    return replace(job, cover=replace(job.cover, front=front)), pictures


def _sheet(job: Publication, pictures: Path) -> Surface:
    return surface_of_side(job, pictures, "outside", Setter())


def _pressed(job: Publication, pictures: Path, out: Path) -> np.ndarray:
    press(job, pictures, out.with_suffix(".pdf"), part="cover")
    judge("pdftoppm", "-r", str(DPI), "-png", "-singlefile", out.with_suffix(".pdf"), out)
    return np.asarray(Image.open(out.with_suffix(".png")).convert("RGB"), float)


def test_what_is_hidden_is_what_a_count_of_pixels_of_the_press_file_says(tmp_path: Path) -> None:
    job, pictures = _job(tmp_path, (0.3, 0.02, 0.72, 0.6))
    name = masthead_of(_sheet(job, pictures))
    assert name is not None and name.in_front == ("c2",)
    bare = replace(job, cover=replace(job.cover, front=job.cover.front[:1]))
    plain, covered = _pressed(bare, pictures, tmp_path / "plain"), _pressed(job, pictures, tmp_path / "covered")
    ink = 1 - plain[..., 1] / 255
    green = covered[..., 1] - covered[..., 0] > 40
    off = (plain.shape[1] / DPI * 72 - _sheet(job, pictures).marks().area.width) / 2 + -_sheet(
        job, pictures
    ).marks().area.left
    for letter in name.letters:
        left, right = ((at + off) * DPI / 72 for at in (letter.area.left, letter.area.right))
        columns = slice(round(left) - 1, round(right) + 1)
        # Letters of a name may overhang one another a little, so the count is of the columns of each.
        share = float((ink[:, columns] * green[:, columns]).sum() / ink[:, columns].sum())
        assert letter.hidden == pytest.approx(share, abs=0.01), letter.text
    whole = float((ink * green).sum() / ink.sum())
    assert 0.05 < whole == pytest.approx(name.hidden, abs=0.01)


def test_what_lies_behind_or_aside_hides_nothing(tmp_path: Path) -> None:
    job, pictures = _job(tmp_path, (0.3, 0.02, 0.72, 0.6))
    behind = replace(job, cover=replace(job.cover, front=job.cover.front[::-1]))
    name = masthead_of(_sheet(behind, pictures))
    assert name is not None and name.hidden == 0 and name.in_front == () and name.verdict == "good"
    low, pictures = _job(tmp_path, (0.3, 0.5, 0.72, 0.9))
    assert masthead_of(_sheet(low, pictures)).hidden == 0  # type: ignore[union-attr]
    assert masthead_of(_sheet(replace(low, cover=replace(low.cover, front=())), pictures)) is None


def test_half_seen_through_hides_half(tmp_path: Path) -> None:
    job, pictures = _job(tmp_path, (0.3, 0.02, 0.72, 0.6))
    whole = masthead_of(_sheet(job, pictures))
    veiled = replace(job.cover.front[1], opacity=50.0)
    half = masthead_of(_sheet(replace(job, cover=replace(job.cover, front=(job.cover.front[0], veiled))), pictures))
    assert whole is not None and half is not None
    assert half.hidden == pytest.approx(whole.hidden / 2, abs=0.005)


def test_verdicts_follow_the_worst_letter_and_the_whole() -> None:
    def name(*hidden: float) -> Masthead:
        return Masthead("c1", tuple(Letter("a", Rect(0, 0, 1, 1), 1.0, each) for each in hidden), ())

    assert name(0.45, 0, 0, 0).verdict == "good"
    assert name(0.55, 0, 0, 0).verdict == "risky"
    assert name(0.3, 0.3, 0.3, 0.3).verdict == "risky"
    assert name(0.8, 0, 0, 0).verdict == "not to be read"
    assert name(0.6, 0.6, 0.6, 0.6).verdict == "not to be read"


def test_the_least_moves_pass_when_measured_again_and_undo_nothing_else(tmp_path: Path) -> None:
    job, pictures = _job(tmp_path, (0.2, 0.02, 0.8, 0.6))
    sheet = _sheet(job, pictures)
    now = masthead_of(sheet)
    assert now is not None and now.worst.hidden > GONE
    found = uncovered(sheet)
    assert any("down" in each.words for each in found) and any("of its size" in each.words for each in found)
    for each in found:
        changed = sheet.changed(each.publication)
        after = masthead_of(changed)
        assert after is not None and after.verdict == "good"
        assert 1 - after.hidden == pytest.approx(each.score) and "of the name is hidden" in each.then
        assert changed.job.cover.back == job.cover.back and changed.job.pages == job.pages
    assert ways_to_read(sheet, "c1")[-len(found):] == found  # fmt: skip
    assert any(finding.rule == "masthead hidden" for finding in check(job, Setter(), pictures))
    assert not any(
        finding.rule == "masthead hidden"
        for finding in check(sheet.changed(found[0].publication).job, Setter(), pictures)
    )


def test_a_picture_and_what_is_cut_out_of_it_stay_in_register(tmp_path: Path) -> None:
    job, pictures = _job(tmp_path, (0.2, 0.1, 0.8, 0.6), bleeds=True)
    subject = job.cover.front[1]
    ground = replace(subject, id="c3")
    job = replace(job, cover=replace(job.cover, front=(ground, *job.cover.front)))
    found = [each for each in uncovered(_sheet(job, pictures)) if each.words.startswith("The picture")]
    for each in found:
        cover = _sheet(job, pictures).changed(each.publication).job.cover
        first, second = (next(b for b in cover.front if b.id == name).holds for name in ("c2", "c3"))
        assert first == second


def test_a_line_set_larger_than_the_name_is_a_finding(tmp_path: Path) -> None:
    job, pictures = _job(tmp_path, None)
    line = HoldsDisplay(paragraphs=(Paragraph(role="strong line", runs=(Run(text="Ay"),)),), even=True, ink="black")
    front = (*job.cover.front, block_over("c4", line, (0, 5), (4, 9), of=(6, 12)))
    job = replace(job, cover=replace(job.cover, front=front))
    found = [each for each in check(job, Setter(), pictures) if "larger than the masthead" in each.message]
    assert len(found) == 1 and found[0].block == "c4" and "“Ay”" in found[0].message


def test_the_demo_shows_a_name_that_reads_in_part_behind_its_subject(demo: Path) -> None:
    job = open_job(demo)
    name = masthead_of(surface_of_side(job.publication, job.pictures, "outside", Setter()))
    assert name is not None and "".join(each.text for each in name.letters) == job.publication.title
    assert 0.05 < name.hidden < 0.25 and name.verdict == "good" and "c3" in name.in_front


BARS = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="300" height="100" viewBox="0 0 300 100">'
    '<path fill="#000" d="M0 0H60V100H0Z M120 0H180V100H120Z M240 0H300V100H240Z"/></svg>'
)


def test_a_drawn_name_is_measured_part_by_part(tmp_path: Path) -> None:
    job, pictures = _job(tmp_path, None)
    (tmp_path / "name.svg").write_text(BARS)
    job, art = bring_picture(job, pictures, tmp_path / "name.svg")
    drawn = block_over("c1", HoldsPicture(picture=art.id, scale="fit", masthead=True), (0, 5), (0, 1), of=(6, 12))
    Image.new("RGB", (300, 400), (40, 150, 60)).save(tmp_path / "subject.png")
    job, picture = bring_picture(job, pictures, tmp_path / "subject.png")
    front = Held(
        left=Stop(kind="field", index=3, count=6), top=Stop(kind="trim"), right=Stop(kind="trim"),
        bottom=Stop(kind="trim"),
    )  # fmt: skip
    over = Block(id="c2", place=front, holds=HoldsPicture(picture=picture.id))
    job = replace(job, cover=replace(job.cover, front=(drawn, over)))
    name = masthead_of(_sheet(job, pictures))
    assert name is not None and name.in_front == ("c2",)
    assert [letter.text for letter in name.letters] == ["part 1", "part 2", "part 3"]
    side = side_of(job, "outside")
    middle = name.letters[1].area
    cut = block_box(side, 3, over).left
    assert [letter.hidden for letter in name.letters] == pytest.approx(
        [0, (middle.right - cut) / middle.width, 1], abs=0.01
    )
    assert name.verdict == "not to be read"
    assert any(finding.rule == "masthead hidden" for finding in check(job, Setter(), pictures))
    assert uncovered(_sheet(job, pictures))
    plain = replace(job, cover=replace(job.cover, front=(replace(drawn, holds=replace(drawn.holds, masthead=False)),)))
    assert masthead_of(_sheet(plain, pictures)) is None
    low = replace(job, cover=replace(job.cover, front=(block_over("c1", drawn.holds, (0, 5), (4, 7), of=(6, 12)),)))
    assert any("top quarter" in finding.message for finding in check(low, Setter(), pictures))
    large = HoldsDisplay(paragraphs=(Paragraph(role="cover line", runs=(Run(text="Ha"),)),), even=True, ink="black")
    louder = replace(job, cover=replace(job.cover, front=(drawn, block_over("c2", large, (0, 5), (6, 11), of=(6, 12)))))
    assert any("larger than the masthead" in finding.message for finding in check(louder, Setter(), pictures))
