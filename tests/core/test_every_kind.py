"""Every kind of job, every edge and part: what reaches out is printed to the bleed, and what does not is found."""

from pathlib import Path

import pytest
from PIL import Image

from half_fold.cli import main
from half_fold.core.apart.sides import edit_side, side_of, sides_of, spread_of_side
from half_fold.core.checks.finding import Finding
from half_fold.core.checks.run import check
from half_fold.core.grid.stops import EDGES, Edge
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import length
from half_fold.core.paths.all import set_paths
from half_fold.core.plan.own_kinds import begin
from half_fold.core.plan.starters import KINDS, start
from half_fold.core.press.sheets import page_sheet
from half_fold.core.publication.records import Publication
from half_fold.core.spread.edits.edits import move
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.where.frames import block_box, frames_of, page_frame_of
from half_fold.core.spread.where.reaching import put_in, reach
from half_fold.core.store.job import open_job

SPAN = "panel over 1-2 x 1-2"


def _started(kind: str) -> Publication:
    return start(kind, "Leaf")


def _block_of(publication: Publication) -> str:
    return next(block.id for page in publication.pages for block in page.blocks)


def _about(found: list[Finding], block: str) -> set[str]:
    return {finding.rule for finding in found if finding.block == block}


def _laid_on_pages(kind: str) -> list[tuple[int, Publication]]:
    """The job with one panel, on each of its first pages in turn."""
    publication = _started(kind)
    pages = range(1, min(4, len(publication.pages)) + 1)
    return [(number, set_paths(publication, [f"page.{number}.claim={SPAN}"])) for number in pages]


PAGED = [kind for kind in KINDS if kind not in ("cover", "screen-cover")]


@pytest.mark.parametrize("kind", PAGED)
@pytest.mark.parametrize("edge", EDGES)
def test_an_edge_reaches_the_bleed_or_a_fold_and_is_printed_so_far(kind: str, edge: Edge) -> None:
    for number, publication in _laid_on_pages(kind):
        name = _block_of(publication)
        for _ in range(40):
            publication = reach(publication, name, edge, outward=True)
        at = EDGES.index(edge)
        page = next(n for n, p in enumerate(publication.pages, 1) if p.blocks)
        frame, other = frames_of(publication, page).own, frames_of(publication, page).facing
        box = block_box(publication, page, publication.pages[page - 1].blocks[0])
        ends = [frame.bleed_box[at], *([other.bleed_box[at]] if other is not None else [])]
        inner = frame.has_fold and other is None and edge == ("left" if frame.on_right else "right")
        assert min(abs(box[at] - end) for end in (ends if not inner else [frame.fold])) < 0.01, (number, box)
        assert "short of the bleed" not in _about(check(publication, Setter(), None), name)
        if not frame.has_fold:  # all of its bleed is on the sheet
            sheet = page_sheet(publication, Setter(), page)
            assert sheet.clip_of(sheet.marks[-1])[at] == pytest.approx(frame.bleed_box[at])


@pytest.mark.parametrize("kind", PAGED)
@pytest.mark.parametrize("edge", EDGES)
@pytest.mark.parametrize("short", [0.2, 1.0, 4.0])
def test_an_edge_that_ends_near_the_trim_is_found(kind: str, edge: Edge, short: float) -> None:
    for _, publication in _laid_on_pages(kind):
        name = _block_of(publication)
        page = next(n for n, p in enumerate(publication.pages, 1) if p.blocks)
        frame = page_frame_of(publication, page)
        if frame.has_fold and edge == ("left" if frame.on_right else "right"):
            continue
        at, inside = EDGES.index(edge), frame.trim.grown(-20 * MM)
        box = inside._replace(**{edge: frame.trim.grown(-short * MM)[at]})
        found = _about(check(put_in(publication, name, box), Setter(), None), name)
        assert found & {"near the trim", "short of the bleed"}, (kind, edge, short)


@pytest.mark.parametrize("kind", KINDS)
def test_what_lies_off_all_paper_is_found_on_every_part(kind: str) -> None:
    publication = _started(kind)
    assert not [f for f in check(publication, Setter(), None) if f.rule == "on no part"]
    for side in (None, *sides_of(publication)):
        if side is None and kind not in PAGED:
            continue
        on = publication if side is None else side_of(publication, side)
        number = 1 if side is None else spread_of_side(publication, side).numbers[-1]

        def far(p: Publication, number: int = number) -> Publication:
            before = {block.id for block in p.pages[number - 1].blocks}
            laid = set_paths(p, [f"page.{number}.claim={SPAN}"])
            (name,) = {block.id for block in laid.pages[number - 1].blocks} - before
            return put_in(laid, name, block_box(laid, number, next(
                b for b in laid.pages[number - 1].blocks if b.id == name)).moved(0, -900 * MM))  # fmt: skip

        made = far(on) if side is None else edit_side(publication, side, far)
        assert [f for f in check(made, Setter(), None) if f.rule == "on no part" and f.stops_press], side


def test_a_screen_cover_has_no_back_to_walk_onto() -> None:
    publication = set_paths(_started("screen-cover"), ["cover.front.claim=panel over 1-3 x 1-3"])
    name = publication.cover.front[-1].id
    for _ in range(8):
        publication = edit_side(publication, "outside", lambda p: reach(p, name, "left", outward=True))
        publication = edit_side(publication, "outside", lambda p: move(p, name, -1, 0))
    assert publication.cover.front[-1].id == name and not publication.cover.back
    with pytest.raises(Exception, match="no back cover"):
        set_paths(publication, ["cover.back.claim=panel over 1-3 x 1-3"])
    with pytest.raises(Exception, match="no inside front cover"):
        set_paths(publication, ["cover.inside_front.claim=panel over 1-3 x 1-3"])


def test_what_is_left_on_a_part_that_has_gone_is_found() -> None:
    publication = set_paths(_started("cover"), ["cover.back.claim=panel over 1-3 x 1-3"])
    assert not [f for f in check(publication, Setter(), None) if f.rule == "on no part"]
    found = [f for f in check(set_paths(publication, ["binding=screen"]), Setter(), None) if f.rule == "on no part"]
    assert any("back cover" in finding.message for finding in found)


@pytest.mark.parametrize("kind", KINDS)
def test_a_text_is_laid_where_pages_may_come_and_kept_in_the_drawer_elsewhere(
    kind: str, tmp_path: Path, story_file: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    file = begin(kind, "Leaf", tmp_path / "leaf")
    before = open_job(file, to_write=False).publication
    long = tmp_path / "long.md"
    long.write_text("# The long frost\n\n" + story_file.read_text().partition("\n")[2] * 60)
    assert main(["place", str(file), "--text", str(long)]) == 0
    told, after = capsys.readouterr().out, open_job(file, to_write=False).publication
    if kind in ("magazine", "book", "catalogue", "photo-book"):
        assert "pages" in told and any(page.blocks for page in after.pages)
        return
    assert len(after.pages) == len(before.pages) and not any(page.blocks for page in after.pages)
    (claim,) = [words.partition("set ")[2].strip() for words in told.splitlines() if "story drawer" in words]
    assert main(["set", str(file), claim.replace("'", "")]) == 0  # as the sentence says
    made = open_job(file, to_write=False).publication
    assert any(page.blocks for page in made.pages) or made.cover.front
    assert not [f for f in check(made, Setter(), None) if f.rule == "page count"]


def test_goods_that_find_no_room_on_a_sheet_are_refused(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    file = begin("one-sheet", "Leaf", tmp_path / "leaf")
    (tmp_path / "goods.csv").write_text("name\n" + "\n".join(f"Pear {n}" for n in range(30)))
    assert main(["set", str(file), "page.1.claim=words {name} over 1-2 x 1"]) == 0
    name = open_job(file, to_write=False).publication.pages[0].blocks[0].id
    capsys.readouterr()
    assert main(["goods", str(file), str(tmp_path / "goods.csv"), "--lay", name, "--as", "2 x 2, 4mm"]) == 2
    assert "no further pages" in capsys.readouterr().err
    assert len(open_job(file, to_write=False).publication.pages) == 1


def test_a_poster_prints_its_bleed_all_round(tmp_path: Path) -> None:
    """An outside judge looks at the file: there is ink at all four edges of its bleed."""
    from tests.conftest import judge

    file = begin("one-sheet", "Leaf", tmp_path / "leaf", ["trim=120x180mm"])
    assert main(["set", str(file), f"page.1.claim={SPAN}"]) == 0
    name = open_job(file, to_write=False).publication.pages[0].blocks[0].id
    publication = open_job(file, to_write=False).publication
    for edge in EDGES:
        for _ in range(20):
            publication = reach(publication, name, edge, outward=True)
    job = open_job(file)
    job.save(publication)
    job.close()
    assert main(["press", str(file), str(tmp_path / "x.pdf")]) == 0
    judge("pdftoppm", "-r", "72", "-png", tmp_path / "x.pdf", tmp_path / "x")
    (made,) = tmp_path.glob("x*.png")
    image = Image.open(made).convert("L")
    wide, high = image.size
    assert wide == pytest.approx(length("126mm").pt, abs=2)
    for at in ((2, high // 2), (wide - 3, high // 2), (wide // 2, 2), (wide // 2, high - 3)):
        assert image.getpixel(at) < 250, at
