"""What checks once missed, or called a fault that was none: each by the case that showed it, and others like it."""

from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PIL import Image

from half_fold.cli import main
from half_fold.core.checks.finding import Finding
from half_fold.core.checks.run import check
from half_fold.core.cover.parts import cover_parts
from half_fold.core.drawing.marks import Path as Drawn
from half_fold.core.drawing.marks import leaves
from half_fold.core.drawing.strokes import stroked
from half_fold.core.legibility.reading import Surface, read_surface
from half_fold.core.legibility.remedies import remedies
from half_fold.core.paths.all import found, set_paths
from half_fold.core.pictures.library.bring import bring_picture, digest_of
from half_fold.core.pictures.library.codes_in import code_in
from half_fold.core.plan.own_kinds import begin
from half_fold.core.plan.spreads import spread_of
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import (
    Block,
    HoldsDisplay,
    HoldsPicture,
    Paragraph,
    Publication,
    Run,
)
from half_fold.core.publication.surgery import with_things
from half_fold.core.spread.codes.barcode import X_MM, symbol
from half_fold.core.spread.edits.claiming import held_picture
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.job import open_job
from tests.blocks import block_over

PAGE = 3


def _sheet_of_words(text: str, size: str, columns: tuple[int, int] = (0, 1), **more: object) -> Publication:
    job = start("magazine", "Leaf")
    words = HoldsDisplay(paragraphs=(Paragraph(role="headline", runs=(Run(text=text),)),))
    block = block_over("b1", words, columns, (1, 4))
    job = with_things(job, job.pages[PAGE - 1].id, lambda _: (replace(block, **more),))
    return set_paths(job, [f"block.b1.size={size}"])


def _rules(job: Publication, pictures: Path | None = None) -> dict[str, Finding]:
    return {f.rule: f for f in check(job, Setter(), pictures) if f.block}


# Words -----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("angle", [0.0, 90.0])
def test_a_word_wider_than_its_block_is_found_and_stops_the_press_where_it_leaves_the_page(angle: float) -> None:
    wide = _rules(_sheet_of_words("Unwiderstehlichkeit", "150pt", angle=angle))["too wide"]
    assert wide.stops_press and "runs off the page" in wide.message
    within = _rules(_sheet_of_words("Hedges", "34pt", (0, 0)))["too wide"]
    assert not within.stops_press and "off the page" not in within.message
    assert "too wide" not in _rules(_sheet_of_words("Hedges", "20pt"))


def test_the_size_that_is_offered_holds_the_word() -> None:
    job = _sheet_of_words("Hedges", "80pt", (0, 0))
    finding = _rules(job)["too wide"]
    assert finding.fix is not None and "too wide" not in _rules(finding.fix.edit(job))


@pytest.mark.parametrize("text", ["A", "生", "Ω" * 30, "a b c", "well-known"])
def test_words_of_any_kind_are_measured(text: str) -> None:
    assert ("too wide" in _rules(_sheet_of_words(text, "400pt", (0, 0)))) or text == "A"


@pytest.mark.parametrize(("side", "align", "is_found"), [
    ("left", "right", True), ("", "left", True), ("", "right", False), ("right", "left", False),
    ("", "justified", True),
])  # fmt: skip
def test_lines_against_their_side_are_found_whoever_says_so(side: str, align: str, is_found: bool) -> None:
    job = set_paths(start("magazine", "Leaf"), [f"role.cover line.align={align}"])
    line = HoldsDisplay(paragraphs=(Paragraph(role="cover line", runs=(Run(text="Hedges"),)),), side=side)  # type: ignore[arg-type]
    block = block_over("c9", line, (4, 5), (6, 7), (6, 12))
    job = replace(job, cover=replace(job.cover, front=(block,)))
    assert ("set against its side" in _rules(job)) == is_found


def test_spelling_is_found_on_wish_and_stays_with_the_job(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    file = begin("magazine", "Leaf", tmp_path / "leaf")
    (tmp_path / "words.md").write_text("# Frost\n\nThe wynter of long laddders {title}, by hand.\n")
    assert main(["place", str(file), "--text", str(tmp_path / "words.md")]) == 0
    main(["check", str(file)])
    assert "wynter" not in capsys.readouterr().out
    assert main(["set", str(file), "spelling=yes"]) == 0
    main(["check", str(file)])
    told = capsys.readouterr().out
    assert "“wynter”" in told and "“laddders”" in told and "title" not in told
    assert open_job(file, to_write=False).publication.spelled


# Words on bars, and remedies ---------------------------------------------------------------------------------


@pytest.mark.parametrize("inset", ["0mm", "0.5mm", "2mm"])
@pytest.mark.parametrize("size", ["14pt", "30pt"])
def test_white_words_on_a_bar_that_hugs_them_read_well(tmp_path: Path, inset: str, size: str) -> None:
    job = set_paths(_sheet_of_words("Hedges laid", size, (0, 5)), [
        "ink.white=0 0 0 0", "block.b1.ink=white", "block.b1.ground=yes", "block.b1.ground.ink=black",
        "block.b1.ground.hugs=yes", f"block.b1.inset={inset}",
    ])  # fmt: skip
    words = [w for w in read_surface(Surface(job, tmp_path, spread_of(job, PAGE))).words if w.block == "b1"]
    assert len(words) == 2 and all(word.verdict == "good" for word in words), [w.score for w in words]


def test_a_bar_that_ends_within_a_word_is_unrest_still(tmp_path: Path) -> None:
    job = set_paths(_sheet_of_words("Hedges", "60pt", (0, 5)), ["ink.white=0 0 0 0", "block.b1.ink=white"])
    bar = set_paths(job, [f"page.{PAGE}.claim=panel over 1 x 1-8"])
    panel = next(b for b in bar.pages[PAGE - 1].blocks if b.id != "b1")
    job = with_things(bar, bar.pages[PAGE - 1].id, lambda things: (replace(panel), things[0]))
    (word,) = [w for w in read_surface(Surface(job, tmp_path, spread_of(job, PAGE))).words if w.block == "b1"]
    assert word.verdict == "not to be read"


def test_words_that_nothing_alone_mends_get_their_ink_and_their_ground_together(tmp_path: Path) -> None:
    """Half as light as their ground, in a list of inks that do not read on it either."""
    loud = np.random.default_rng(1).integers(0, 2, (60, 60, 1)).repeat(3, 2).astype(np.uint8) * 255
    Image.fromarray(np.kron(loud[..., 0], np.ones((24, 24), np.uint8))).convert("RGB").save(tmp_path / "loud.png")
    job, picture = bring_picture(
        _sheet_of_words("Hedges", "18pt", (0, 5)), tmp_path / "pictures", tmp_path / "loud.png"
    )
    job = replace(job, inks=tuple(ink for ink in job.inks if ink.name in ("black", "dusk", "paper", "white")))
    ground = block_over("b0", HoldsPicture(picture=picture.id), (0, 5), (0, 7))
    words = with_things(job, job.pages[PAGE - 1].id, lambda things: (ground, *things))
    sheet = Surface(
        set_paths(words, ["ink.middle=0 0 0 45", "block.b1.ink=middle"]), tmp_path / "pictures", spread_of(job, PAGE)
    )
    offered = remedies(sheet, "b1")
    assert offered
    for each in offered:
        assert read_surface(sheet.changed(each.publication)).score("b1") == pytest.approx(each.score, abs=0.6), (
            each.words
        )


# Pictures ----------------------------------------------------------------------------------------------------


def _svg(folder: Path) -> Path:
    file = folder / "mark.svg"
    file.write_text('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 80 10"><rect width="80" height="10"/></svg>')
    return file


def _cutout(folder: Path) -> Path:
    Image.new("RGBA", (300, 100), (200, 30, 30, 0)).save(folder / "cut.png")
    return folder / "cut.png"


def _photograph(folder: Path) -> Path:
    Image.new("RGB", (300, 100), (200, 30, 30)).save(folder / "photo.png")
    return folder / "photo.png"


@pytest.mark.parametrize(("made", "sits"), [(_svg, "fit"), (_cutout, "fit"), (_photograph, "fill")])
def test_drawings_and_cutouts_come_in_whole(tmp_path: Path, made: Callable[[Path], Path], sits: str) -> None:
    job, picture = bring_picture(start("magazine", "Leaf"), tmp_path / "pictures", made(tmp_path))
    assert held_picture(job, picture.id).scale == sits
    laid = set_paths(job, [f"page.1.claim=picture {picture.file} over 1-2 x 1-4"])
    assert laid.pages[0].blocks[0].holds.scale == sits
    assert "cropped drawing" not in _rules(laid)
    filling = set_paths(laid, [f"block.{laid.pages[0].blocks[0].id}.scale=fill"])
    assert ("cropped drawing" in _rules(filling)) == bool(picture.art)


def _barcode(path: Path, pixels: float, addon: str = "", turn: int = 0) -> Path:
    made = symbol("9781234567897", addon)
    scale = pixels / (X_MM / 25.4 * 72)
    table = np.full((round(made.height * scale), round(made.width * scale)), 255, np.uint8)
    for bar in made.bars:
        across, down = slice(round(bar.left * scale), round(bar.right * scale)), slice(0, round(bar.bottom * scale))
        table[down, across] = 0
    Image.fromarray(np.rot90(table, turn).copy()).save(path)
    return path


@pytest.mark.parametrize("addon", ["", "12", "54321"])
@pytest.mark.parametrize("turn", [0, 1, 2, 3])
@pytest.mark.parametrize("pixels", [2, 5, 12])
def test_a_barcode_that_came_as_a_picture_is_known(tmp_path: Path, addon: str, turn: int, pixels: int) -> None:
    file = _barcode(tmp_path / "code.png", pixels, addon, turn)
    told = code_in(file, digest_of(file))
    assert told is not None and told.digits == "9781234567897" and told.module == pytest.approx(pixels, abs=0.1)


def test_pictures_that_are_no_barcodes_are_not_taken_for_some(tmp_path: Path) -> None:
    chance = np.random.default_rng(3)
    tables = {
        "stripes": np.tile(np.repeat([0, 255], 7), (90, 20)), "noise": chance.integers(0, 2, (200, 300)) * 255,
        "white": np.full((50, 50), 255), "words": np.kron(chance.integers(0, 2, (20, 60)), np.full((8, 3), 255)),
    }  # fmt: skip
    for name, table in tables.items():
        file = tmp_path / f"{name}.png"
        Image.fromarray(table.astype(np.uint8)).save(file)
        assert code_in(file, digest_of(file)) is None, name


@pytest.mark.parametrize(("pixels", "percent", "words"), [(12, 100, ""), (12, 60, "at 60 %"), (2, 100, "2 pixels")])
def test_a_barcode_picture_is_judged_by_its_size_and_pixels(
    tmp_path: Path, pixels: int, percent: int, words: str
) -> None:
    file = _barcode(tmp_path / "code.png", pixels)
    job, picture = bring_picture(start("book", "Leaf"), tmp_path / "pictures", file)
    wide = symbol("9781234567897").width / 72 * 25.4 * percent / 100
    job = set_paths(job, ["page.1.claim=picture code.png over 1-3 x 1-2"])
    name = job.pages[0].blocks[0].id
    tall = wide * picture.height / picture.width
    job = set_paths(job, [f"block.{name}.width={wide:.4f}mm", f"block.{name}.height={tall:.4f}mm"])
    told = _rules(job, tmp_path / "pictures").get("barcode")
    assert (told is None) if not words else (told is not None and words in told.message), told


# Covers by themselves ----------------------------------------------------------------------------------------


@pytest.mark.parametrize("kind", ["cover", "screen-cover"])
def test_a_cover_by_itself_needs_the_parts_of_what_it_is_of(kind: str) -> None:
    job = start(kind, "Leaf")
    plain = {part.name for part in cover_parts(job)}
    book = {part.name for part in cover_parts(set_paths(job, ["cover-of=book"]))}
    magazine = {part.name for part in cover_parts(set_paths(job, ["cover-of=magazine"]))}
    assert "Author" in book - plain and "Issue" in magazine - plain
    assert {"Blurb", "Price", "Code"} <= book or kind == "screen-cover"
    assert [each.path for each in found(set_paths(job, ["cover-of=book"]), "brief.author")] == ["brief.author"]


# Strokes and frames ------------------------------------------------------------------------------------------


def _dots(block: Block, job: Publication) -> list[np.ndarray]:
    """The middles of the dots or dashes of each stroke of a block."""
    marks = leaves(Setter().thing_marks(job, PAGE, block))
    every = []
    for mark in marks:
        if isinstance(mark, Drawn) and mark.stroke is not None and mark.stroke.dashes:
            every.append(np.array([part.mean(0) for part in stroked(mark.outline, mark.stroke, 0.005)]))
    return every


@pytest.mark.parametrize("form", ["circle", "ellipse", "ring", "rectangle", "burst"])
@pytest.mark.parametrize("weight", ["2pt", "3.7pt"])
@pytest.mark.parametrize("gap", ["", "1.3mm"])
def test_dots_share_out_round_a_closed_shape(form: str, weight: str, gap: str) -> None:
    job = set_paths(start("magazine", "Leaf"), [f"page.{PAGE}.claim=panel over 1-2 x 2-5"])
    name = job.pages[PAGE - 1].blocks[0].id
    job = set_paths(job, [
        f"block.{name}.shape={form}", f"block.{name}.edge.weight={weight}", f"block.{name}.edge.dashes=dotted",
    ])  # fmt: skip
    if gap:
        job = set_paths(job, [f"block.{name}.edge.gap={gap}"])
    from half_fold.core.measure.length import length

    wanted = length(weight).pt + (length(gap).pt if gap else length(weight).pt)
    strokes = _dots(job.pages[PAGE - 1].blocks[0], job)
    assert len(strokes) == (2 if form == "ring" else 1)
    for dots in strokes:
        round_it = np.unique(np.round(dots, 2), axis=0)
        away = np.hypot(*(round_it[:, None] - round_it[None]).transpose(2, 0, 1))
        np.fill_diagonal(away, np.inf)
        nearest = away.min(0)
        if form in ("circle", "ring"):
            assert nearest.std() < 0.02 * wanted
        assert np.median(nearest) == pytest.approx(wanted, rel=0.12)
        if form != "burst":  # whose points lie near each other
            assert nearest.min() > 0.6 * wanted  # none touches the one where the way closes


def test_a_dotted_rule_has_a_dot_at_either_end() -> None:
    job = set_paths(start("magazine", "Leaf"), [f"page.{PAGE}.claim=rule over 1-3 x 1"])
    name = job.pages[PAGE - 1].blocks[0].id
    job = set_paths(job, [f"block.{name}.dashes=dotted", f"block.{name}.weight=3pt"])
    (mark,) = [
        m for m in leaves(Setter().thing_marks(job, PAGE, job.pages[PAGE - 1].blocks[0])) if isinstance(m, Drawn)
    ]
    way = float(np.hypot(*np.diff(mark.outline.points, axis=0)[0]))
    assert mark.stroke is not None
    steps = way / sum(mark.stroke.dashes)
    assert steps == pytest.approx(round(steps), abs=1e-6)


INSETS = ("6mm", "6mm both", "0mm", "0mm both", "3mm+3mm", "1/4in both", "", "2*4mm both", "none")


@pytest.mark.parametrize("first", INSETS)
@pytest.mark.parametrize("second", INSETS)
@pytest.mark.parametrize("kind", ["magazine", "one-spread"])
def test_a_frame_laid_again_is_one_frame_changed(first: str, second: str, kind: str) -> None:
    page = 1 if kind == "one-spread" else 2
    job = start(kind, "Leaf")
    for each in (first, second, second):
        job = set_paths(job, [f"page.{page}.frame={each}"])
    assert sum(len(p.blocks) for p in job.pages) == (second not in ("", "none"))
    (told,) = found(job, f"page.{page}.frame")
    assert told.value == second.replace("none", "")
    both = found(job, f"page.{page + 1}.frame")[0].value
    assert both == (second if "both" in second else "")


def test_the_front_has_a_frame_too() -> None:
    job = start("magazine", "Leaf")
    for inset in ("6mm", "8mm", "8mm"):
        job = set_paths(job, [f"cover.frame={inset}"])
        assert found(job, "cover.frame")[0].value == inset
    before = len(start("magazine", "Leaf").cover.front)
    assert len(job.cover.front) == before + 1
    assert len(set_paths(job, ["cover.frame="]).cover.front) == before
