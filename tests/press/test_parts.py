"""The parts of a job as files: loose leaves with bleed all round, a case beside its jacket, the faces of inserts."""

from pathlib import Path

import numpy as np
import pikepdf
import pytest
from msgspec.structs import replace
from PIL import Image

from half_fold.cli import main
from half_fold.core.brief.bindings import bindings
from half_fold.core.measure.entry import MM
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.inserts import add_insert, change_insert
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import KINDS, start
from half_fold.core.press.make import press
from half_fold.core.press.parts import part_named, parts_of, sheet_at
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import (
    Block,
    Group,
    HoldsPanel,
    Publication,
)
from half_fold.core.publication.surgery import with_page
from half_fold.core.store.job import create_job
from tests.conftest import judge

BLEED = Stop(kind="bleed")


def _whole_page(name: str, ink: str) -> Block:
    """Bleed at head, foot and outside, and at the fold."""
    return Block(id=name, place=Held(left=BLEED, top=BLEED, right=BLEED, bottom=BLEED), holds=HoldsPanel(ink=ink))


def _wired(*more: str) -> Publication:
    job = set_values(start("magazine", "Wired"), ["binding=coil", "pages=24", *more])
    for index, ink in ((1, "russet"), (2, "loden")):
        job = with_page(job, replace(job.pages[index], things=(_whole_page(f"b{index}", ink),)))
    cover = replace(job.cover, ink="paper", front=(_whole_page("c1", "russet"),), back=(_whole_page("c2", "loden"),))
    return replace(job, cover=replace(cover, inside_front=(_whole_page("c3", "dusk"),)))


def _seen(pdf: Path, page: int, folder: Path) -> np.ndarray:
    """A page at ten pixels to the millimetre, as far as its sheet goes."""
    judge("pdftoppm", "-r", "254", "-f", str(page), "-l", str(page), "-png", "-singlefile", pdf, folder / "page")
    return np.asarray(Image.open(folder / "page.png").convert("RGB"), float)


def _edges(seen: np.ndarray) -> list[np.ndarray]:
    """The colour just inside each edge of the sheet: left, right, head, foot."""
    high, wide = seen.shape[:2]
    return [seen[high // 2, 3], seen[high // 2, wide - 4], seen[3, wide // 2], seen[high - 4, wide // 2]]


def test_text_pages_of_a_wired_copy_bleed_at_the_inner_cut_too(tmp_path: Path) -> None:
    job, pdf = _wired(), tmp_path / "x.pdf"
    press(job, tmp_path, pdf)
    with pikepdf.open(pdf) as opened:
        for page in opened.pages:
            media, trim = ([float(v) for v in page.obj[name]] for name in ("/MediaBox", "/TrimBox"))
            assert [trim[0] - media[0], media[2] - trim[2]] == pytest.approx([3 * MM, 3 * MM], abs=0.02)
    left, right = _seen(pdf, 2, tmp_path), _seen(pdf, 3, tmp_path)
    for seen in (left, right):
        inks = _edges(seen)
        assert all(np.abs(ink - inks[0]).max() < 4 for ink in inks) and inks[0].mean() < 200
    assert np.abs(_edges(left)[0] - _edges(right)[0]).max() > 30


def test_a_glued_copy_is_still_cut_at_the_fold(tmp_path: Path) -> None:
    job = replace(_wired(), brief=replace(_wired().brief, binding="perfect"))
    press(job, tmp_path, tmp_path / "x.pdf")
    inks = _edges(_seen(tmp_path / "x.pdf", 3, tmp_path))
    assert inks[0].min() > 250 and inks[1].mean() < 200


def test_a_wired_cover_is_two_leaves_with_bleed_all_round(tmp_path: Path) -> None:
    job, pdf = _wired(), tmp_path / "x.pdf"
    press(job, tmp_path, pdf, "cover")
    with pikepdf.open(pdf) as opened:
        assert len(opened.pages) == 4
        for page in opened.pages:
            trim, media = ([float(v) for v in page.obj[name]] for name in ("/TrimBox", "/MediaBox"))
            assert trim[2] - trim[0] == pytest.approx(job.brief.width.pt, abs=0.02)
            assert media[2] - media[0] == pytest.approx(job.brief.width.pt + 6 * MM, abs=0.02)
    faces = [_edges(_seen(pdf, page, tmp_path)) for page in (1, 2, 3, 4)]
    for face in (faces[0], faces[1], faces[3]):
        assert all(np.abs(ink - face[0]).max() < 4 for ink in face) and face[0].mean() < 220
    assert min(ink.min() for ink in faces[2]) > 250  # nothing lies inside the back
    assert [part.key for part in parts_of(job)] == ["pages", "cover", "front"]
    mirrored = set_values(job, ["bound=right"])
    press(mirrored, tmp_path, pdf, "cover")
    turned = [_edges(_seen(pdf, page, tmp_path))[0] for page in (1, 2, 3, 4)]
    assert all(np.abs(a - b[0]).max() < 4 for a, b in zip(turned, faces, strict=True))


def test_a_block_across_the_fold_of_a_wired_copy_is_on_both_leaves_and_no_other_is(tmp_path: Path) -> None:
    job = _wired()
    across = Block(
        id="b9",
        place=Held(
            left=BLEED,
            top=Stop(kind="trim"),
            right=Stop(kind="bleed", facing=True),
            bottom=Stop(kind="field", index=1, count=8),
        ),
        holds=HoldsPanel(ink="black"),
    )
    job = with_page(with_page(job, replace(job.pages[2], things=())), replace(job.pages[1], things=(across,)))
    press(job, tmp_path, tmp_path / "x.pdf")
    for page in (2, 3):
        seen = _seen(tmp_path / "x.pdf", page, tmp_path)
        assert seen[60, 3:-4].max() < 80


def test_a_case_is_pressed_beside_its_jacket(tmp_path: Path) -> None:
    job = set_values(start("book", "Cased"), ["binding=case", "pages=128", "jacket=Marrow Silk 130"])
    assert [(part.key, part.label) for part in parts_of(job)] == [
        ("pages", "Pages"),
        ("cover", "Jacket"),
        ("front", "Front alone"),
        ("case", "Covering"),
    ]
    widths = {}
    for part in ("cover", "case"):
        press(job, tmp_path, tmp_path / "x.pdf", part)
        with pikepdf.open(tmp_path / "x.pdf") as opened:
            media = [float(v) for v in opened.pages[0].obj.MediaBox]
            widths[part] = (media[2] - media[0]) / MM
    from half_fold.core.brief.wrap import case_width, jacket_width

    jacket = jacket_width(job)
    assert jacket is not None
    assert widths == {
        "cover": pytest.approx(jacket.value, abs=0.01),
        "case": pytest.approx(case_width(job).value, abs=0.01),
    }
    bare = set_values(job, ["jacket=none"])
    assert [part.label for part in parts_of(bare)] == ["Pages", "Covering", "Front alone"]


def test_an_insert_has_two_faces_that_back_up(tmp_path: Path) -> None:
    job = add_insert(start("magazine", "Carded"), 16, "card")
    job = change_insert(job, job.inserts[0].id, "perforations", "40mm; 100mm")
    job = change_insert(
        job, job.inserts[0].id, "parts", "words: Yes, send me Graftwood / ticks: a; b / lines: name; town / reply-paid"
    )
    card, pdf = job.inserts[0], tmp_path / "x.pdf"
    press(job, tmp_path, pdf, f"insert.{card.id}", marks=True)
    marks = []
    with pikepdf.open(pdf) as opened:
        assert len(opened.pages) == 2
        for page in opened.pages:
            trim = [float(v) for v in page.obj.TrimBox]
            assert (trim[2] - trim[0]) / MM == pytest.approx(card.width.mm, abs=0.01)
            assert (trim[3] - trim[1]) / MM == pytest.approx(card.up * card.height.mm, abs=0.01)
            lines = [told for told in pikepdf.parse_content_stream(page) if str(told.operator) == "m"]
            beyond = [line for line in lines if not trim[1] <= float(line.operands[1]) <= trim[3]]
            xs = {round((float(line.operands[0]) - trim[0]) / MM, 2) for line in beyond}
            marks.append({x for x in xs if 1 < x < card.width.mm - 1})
    assert marks[0] == {card.cut.mm, 40.0, 100.0}
    assert marks[1] == {round(card.width.mm - x, 2) for x in marks[0]}
    words = judge("pdftotext", "-f", "1", "-l", "1", pdf, "-")
    assert words.count("Yes, send me Graftwood") == card.up and words.count("name") == card.up
    verso = judge("pdftotext", "-f", "2", "-l", "2", pdf, "-")
    assert "postal" not in words + verso and verso.count("Carded") == card.up == verso.count("street")


def test_a_card_of_long_words_keeps_inside_its_edge(tmp_path: Path) -> None:
    from half_fold.core.cover.flat import CoverSetter
    from half_fold.core.spread.setting.cards import card_area
    from half_fold.core.spread.setting.compose import Setter
    from half_fold.core.spread.setting.evened import ink_of

    covers = CoverSetter(Setter())
    job = add_insert(start("magazine", "Carded"), 16, "card")
    job = change_insert(job, job.inserts[0].id, "parts", "words: " + "very long words indeed " * 12)
    marks = covers.face(job, job.inserts[0], False)
    assert ink_of(list(marks)).right <= card_area(job, job.inserts[0]).right  # type: ignore[arg-type]
    tip_in = add_insert(job, 16, "tip-in").inserts[-1]
    assert covers.face(job, tip_in, False) == ()


def test_letters_a_card_lacks_are_found(tmp_path: Path) -> None:
    from half_fold.core.checks.run import check
    from half_fold.core.spread.setting.compose import Setter

    job = add_insert(start("magazine", "Carded"), 16, "card")
    job = change_insert(job, job.inserts[0].id, "parts", "words: 葉書 yes")
    (found,) = [f for f in check(job, Setter(), None) if f.rule == "missing glyph"]
    assert found.place == "Reply card" and "“葉”" in found.message


def test_every_part_is_made_on_the_command_line_and_others_are_said(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    job = add_insert(_wired(), 12, "card")
    file = create_job(tmp_path / "job", job)
    for part in (*(part.key for part in parts_of(job)),):
        assert main(["press", str(file), str(tmp_path / "x.pdf"), "--part", part]) == 0
        judge("qpdf", "--check", tmp_path / "x.pdf")
    capsys.readouterr()
    assert main(["press", str(file), str(tmp_path / "x.pdf"), "--part", "lid"]) == 2
    said = capsys.readouterr().err
    assert "no part “lid”" in said and f"insert.{job.inserts[0].id}" in said
    bare = set_values(start("magazine", "x"), ["paper.cover=none"])
    with pytest.raises(Problem, match="its own cover"):
        part_named(bare, "cover")


def test_the_sheet_in_view_is_the_one_that_has_the_page() -> None:
    job = start("magazine", "x")
    pages = part_named(job, "pages")
    assert [sheet_at(job, pages, "pages", n) for n in (1, 2, 7)] == [0, 1, 6]
    assert [sheet_at(job, pages, "spreads", n) for n in (1, 2, 3, 4)] == [0, 1, 1, 2]


@pytest.mark.parametrize("binding", [each.name for each in bindings()])
@pytest.mark.parametrize("kind", KINDS)
def test_every_part_of_every_kind_in_every_binding_is_proved(kind: str, binding: str, tmp_path: Path) -> None:
    """A short title is set so large that its glyphs reach over the corner of the other leaf."""
    job = set_values(start(kind, "Cat"), ["trim=8.5x11in", f"binding={binding}", "pages=16"])
    for bound in ("left", "right"):
        turned = set_values(job, [f"bound={bound}"])
        turned = add_insert(turned, 8, "card")
        for part in parts_of(turned):
            assert press(turned, tmp_path, tmp_path / "x.pdf", part=part.key).pages


@pytest.mark.parametrize("binding", ["coil", "perfect"])
def test_a_group_across_the_fold_mixes_as_one_on_both_pages(binding: str, tmp_path: Path) -> None:
    """Two black panels on each other across the fold, seen through by half as one: an even grey, on either page."""
    edges = {"top": Stop(kind="trim"), "bottom": Stop(kind="field", index=3, count=8)}
    panels = tuple(
        Block(
            id=name,
            place=Held(left=BLEED, right=Stop(kind="bleed", facing=True), **edges),
            holds=HoldsPanel(ink="black"),
        )
        for name in ("b8", "b9")
    )
    job = replace(_wired(), brief=replace(_wired().brief, binding=binding))
    whole = Group(id="g1", members=panels, opacity=50.0)
    job = with_page(with_page(job, replace(job.pages[2], things=())), replace(job.pages[1], things=(whole,)))
    press(job, tmp_path, tmp_path / "x.pdf")
    for page in (2, 3):
        row = _seen(tmp_path / "x.pdf", page, tmp_path)[60].mean(axis=1)
        seen = row[row < 250]
        assert len(seen) > 2150 and np.ptp(seen) < 3 and 100 < seen.mean() < 190


def test_pages_by_their_numbers_and_the_front_alone_are_files_of_their_own(tmp_path: Path) -> None:
    job = replace(_wired(), brief=replace(_wired().brief, binding="perfect"))
    job = with_page(job, replace(job.pages[2], things=(_whole_page("b9", "straw"),)))
    assert press(job, tmp_path, tmp_path / "x.pdf", "3, 2").pages == 2
    whole, some = tmp_path / "whole.pdf", tmp_path / "x.pdf"
    press(job, tmp_path, whole)
    for at, number in ((1, 2), (2, 3)):
        assert np.array_equal(_seen(some, at, tmp_path), _seen(whole, number, tmp_path))
    assert press(job, tmp_path, tmp_path / "x.pdf", "3", "spreads").pages == 1
    part = part_named(job, "2-3, 8")
    assert [sheet_at(job, part, "pages", page) for page in (1, 2, 3, 8, 20)] == [0, 0, 1, 2, 2]
    press(job, tmp_path, tmp_path / "f.pdf", "front")
    with pikepdf.open(tmp_path / "f.pdf") as opened:
        (page,) = opened.pages
        trim = [float(v) for v in page.obj["/TrimBox"]]
        assert (trim[2] - trim[0], trim[3] - trim[1]) == pytest.approx(
            (job.brief.width.pt, job.brief.height.pt), abs=0.02
        )
    inks = _edges(_seen(tmp_path / "f.pdf", 1, tmp_path))
    assert inks[1].mean() < 200 and np.abs(inks[1] - inks[2]).max() < 4
    with pytest.raises(Problem, match="pages 1 to 24"):
        part_named(job, "1-25")
