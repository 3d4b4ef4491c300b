"""Spots, gradients, masks and veils in the file: on their own plates, as they were drawn, and proved to be so."""

import re
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pikepdf
import pytest
from msgspec.structs import replace

from half_fold.core.drawing.affine import turned
from half_fold.core.drawing.marks import Mark, MarkGroup, Veil, mixes
from half_fold.core.drawing.marks import Path as Drawn
from half_fold.core.drawing.outline import ellipse, rectangle
from half_fold.core.drawing.tone import BLACK, Spot, Tone, finer
from half_fold.core.measure.rect import Rect
from half_fold.core.paths.all import set_paths
from half_fold.core.plan.starters import start
from half_fold.core.press.make import Writer, press
from half_fold.core.press.pdf.composed import Unproved
from half_fold.core.press.pdf.leaves import draw_page
from half_fold.core.press.pdf.paints import plates
from half_fold.core.press.sheets import Sheet, clip_whole
from half_fold.core.publication.records import HoldsDisplay, Paragraph, Publication, Run
from half_fold.core.publication.surgery import with_page
from tests.blocks import block_over
from tests.conftest import judge
from tests.press.corpus import LEAF, LEFT, MOSS_TONE, PLUM_TONE, RED, RIGHT, SHEET, STRAW, _fade, _mask, words

MARKS: list[Mark] = [
    Drawn(rectangle(LEFT), PLUM_TONE),
    Drawn(ellipse(RIGHT), _fade(LEAF, PLUM_TONE, STRAW)),
    Drawn(ellipse(RIGHT), None),
    Veil(np.full((20, 30), 90, np.uint8), RIGHT, RED),
    MarkGroup((Drawn(rectangle(SHEET), MOSS_TONE),), mask=_mask(BLACK, Tone())),
    words("Hedge", 24, 20, 50),
]
MARKS = [mark for mark in MARKS if not (isinstance(mark, Drawn) and mark.fill is None)]


def _pressed(out: Path, meddle: Callable[[Writer], None] | None = None) -> None:
    job = start("magazine", "Paints")
    with pikepdf.new() as pdf:
        writer = Writer(pdf, job, Path(), job.brief.text_paper, False)
        writer.add(draw_page(Sheet("page 1", SHEET, SHEET, tuple(MARKS), clip_whole(SHEET)), writer.resources, False))
        if meddle is not None:
            finish = writer._finish

            def meddled(steps: object) -> None:
                finish(steps)  # type: ignore[arg-type]  # as the writer calls it
                meddle(writer)

            writer._finish = meddled  # type: ignore[method-assign, assignment]  # a fault on the way into the file
        writer.save(out, "Paints")


def test_a_file_with_every_paint_is_proved(tmp_path: Path) -> None:
    _pressed(tmp_path / "x.pdf")
    judge("qpdf", "--check", tmp_path / "x.pdf")
    with pikepdf.open(tmp_path / "x.pdf") as pdf:
        spaces = pdf.pages[0].Resources.ColorSpace
        assert sorted(str(space[1]) for space in spaces.values()) == ["/Ellerby plum", "/Wet moss"]


def _resources(writer: Writer) -> pikepdf.Object:
    return writer.pages[0][0].Resources


def _spot_renamed(writer: Writer) -> None:
    next(iter(_resources(writer).ColorSpace.values()))[1] = pikepdf.Name("/Another")


def _spot_stood_in_otherwise(writer: Writer) -> None:
    next(iter(_resources(writer).ColorSpace.values()))[3].C1[0] = 0.77


def _gradient_ends_otherwise(writer: Writer) -> None:
    next(iter(_resources(writer).Pattern.values())).Shading.Function.Functions[1].C1[2] = 0.9


def _gradient_elsewhere(writer: Writer) -> None:
    next(iter(_resources(writer).Pattern.values())).Matrix[4] = 3.5


def _gradient_in_other_inks(writer: Writer) -> None:
    patterns = _resources(writer).Pattern.values()
    spotted = next(each for each in patterns if each.Shading.ColorSpace != pikepdf.Name.DeviceCMYK)
    spotted.Shading.ColorSpace[1][4] = pikepdf.Name("/Wet moss")


def _veil(writer: Writer) -> pikepdf.Object:
    return next(x for name, x in _resources(writer).XObject.items() if name.startswith("/V"))


def _veil_thinner(writer: Writer) -> None:
    _veil(writer).SMask.write(bytes(600))


def _veil_in_another_tone(writer: Writer) -> None:
    _veil(writer).write(bytes([9, 9, 9, 9]))


def _mask_lost(writer: Writer) -> None:
    state = next(s for name, s in _resources(writer).ExtGState.items() if name.startswith("/GTM"))
    state.SMask = pikepdf.Name("/None")


FAULTS = {
    "a spot under another name": (_spot_renamed, "plate of its own"),
    "a spot's stand-in": (_spot_stood_in_otherwise, "plate of its own"),
    "a gradient's end": (_gradient_ends_otherwise, "gradient"),
    "a gradient's place": (_gradient_elsewhere, "gradient"),
    "a gradient's inks": (_gradient_in_other_inks, "gradient"),
    "a veil's cover": (_veil_thinner, "veil"),
    "a veil's tone": (_veil_in_another_tone, "veil"),
    "a mask": (_mask_lost, "mask"),
}


@pytest.mark.parametrize("fault", FAULTS)
def test_a_paint_that_is_not_what_was_drawn_is_found(tmp_path: Path, fault: str) -> None:
    meddle, said = FAULTS[fault]
    with pytest.raises(Unproved, match=said):
        _pressed(tmp_path / "x.pdf", meddle)


def test_a_gradient_is_as_fine_as_is_asked_and_keeps_its_ends() -> None:
    stops = tuple(finer(_fade(LEAF, PLUM_TONE, STRAW).stops, 4))
    assert [stop.at for stop in stops] == pytest.approx(np.linspace(0, 1, 9))
    assert stops[0].tone == LEAF and stops[-1].tone == STRAW and stops[4].tone == PLUM_TONE
    assert stops[2].tone.s == pytest.approx(0.5) and stops[2].tone.c == pytest.approx(LEAF.c / 2)
    spots = (Spot("Ellerby plum", 0.4, 0.9, 0.1, 0.1),)
    assert plates(stops[2].tone, spots)[4] == pytest.approx(0.5)


def test_what_mixes_is_known() -> None:
    assert [mixes(mark) for mark in MARKS] == [False, False, True, True, False]


def _spoken(job: Publication, holds: HoldsDisplay, out: Path, look: str = "") -> str:
    block = replace(block_over("b1", holds, (0, 5), (0, 6)), look=look)
    made = with_page(job, replace(job.pages[0], things=(block,), master=""))
    press(made, out.parent, out)
    return re.sub(r"\s", "", judge("pdftotext", "-raw", "-l", "1", out, "-"))


@pytest.mark.parametrize("lies", ["straight", "arched up", "arched down", "wave", "letter under letter"])
def test_words_on_every_way_and_in_every_look_read_back_letter_for_letter(tmp_path: Path, lies: str) -> None:
    job = set_paths(
        start("magazine", "Spoken"),
        [
            "ink.damson=spot 40 90 20 20",
            "fade.dawn=damson; straw",
            "look.all=shadow",
            "look.all.outline=2pt",
            "look.all.glow=yes",
            "look.all.fill=dawn",
        ],
    )
    said = "Kept pears, 1948"
    holds = HoldsDisplay(paragraphs=(Paragraph(role="headline", runs=(Run(text=said),)),), lies=lies, bend=140.0)  # type: ignore[arg-type] # of a table
    read = _spoken(job, holds, tmp_path / "x.pdf", "all")
    if lies in ("arched up", "arched down", "wave"):  # a reader may part what bends into lines of its own
        assert sorted(read) == sorted(said.replace(" ", ""))
    else:
        assert read == said.replace(" ", "")


def test_a_shadow_of_black_knocks_nothing_out(tmp_path: Path) -> None:
    """Under it the other plates are as they were: black alone is added."""
    from tests.press.test_corpus import plates as judged

    marks: list[Mark] = [
        Drawn(rectangle(SHEET), LEAF),
        MarkGroup((Veil(np.full((8, 8), 255, np.uint8), Rect(20, 20, 100, 70), BLACK),), 0.4, "multiply"),
    ]
    job = start("magazine", "Shadow")
    with pikepdf.new() as pdf:
        writer = Writer(pdf, job, Path(), job.brief.text_paper, False)
        writer.add(draw_page(Sheet("page 1", SHEET, SHEET, tuple(marks), clip_whole(SHEET)), writer.resources, False))
        writer.save(tmp_path / "x.pdf", "Shadow")
    found = judged(tmp_path / "x.pdf", tmp_path)
    lit, shaded = found[10, 10], found[90, 120]
    assert shaded[:3] == pytest.approx(lit[:3], abs=0.01)
    assert shaded[3] == pytest.approx(1 - (1 - LEAF.k) * 0.6, abs=0.01)


@pytest.mark.parametrize("angle", [7.0, 45.0, 135.0, 200.0, 301.0])
@pytest.mark.parametrize("x", [-150.0, -60.0, -20.0, 100.0, 135.0, 190.0])
def test_what_is_turned_just_off_the_page_is_left_out_by_writer_and_record_alike(
    tmp_path: Path, angle: float, x: float
) -> None:
    """What a turned group shows is judged by two: neither may think that it is seen where the other does not."""
    box = Rect(x, -30, x + 60, 60)
    inner = MarkGroup((Drawn(ellipse(box), RED), words("Hedge", 24, x, 20)), 0.5, affine=turned(box.centre, -angle / 2))
    marks: list[Mark] = [MarkGroup((inner, Drawn(rectangle(box), LEAF)), affine=turned(box.centre, angle))]
    job = start("magazine", "Off")
    with pikepdf.new() as pdf:
        writer = Writer(pdf, job, Path(), job.brief.text_paper, False)
        writer.add(draw_page(Sheet("page 1", SHEET, SHEET, tuple(marks), clip_whole(SHEET)), writer.resources, False))
        writer.save(tmp_path / "x.pdf", "Off")


def test_the_plates_of_spots_are_said(tmp_path: Path) -> None:
    job = set_paths(start("magazine", "Plates"), ["ink.damson=spot 40 90 20 20", "ink.gilt=spot 10 20 60 10"])
    job = set_paths(job, ["page.3.frame=5mm", "role.headline.ink=gilt"])
    frame = job.pages[2].blocks[0].id
    made = set_paths(job, [f"block.{frame}.edge.ink=damson"])
    proved = press(made, tmp_path, tmp_path / "x.pdf", marks=True)
    assert proved.spots == ("damson",) and proved.sentence.endswith("1 plate beside the four: damson")
    assert "plate" not in press(job, tmp_path, tmp_path / "y.pdf", marks=True).sentence
