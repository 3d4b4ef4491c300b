"""Hard type before outside judges: drop caps, wraps, narrow columns, other directions, fonts of one's own."""

from pathlib import Path

import numpy as np
import pikepdf
import pytest
from msgspec.structs import replace
from PIL import Image

from half_fold.cli import main
from half_fold.core.measure.length import length
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import HoldsPanel, HoldsStory, Paragraph, Publication, Run, Wrap
from half_fold.core.publication.surgery import with_page
from half_fold.core.spread.edits.placing import add_story
from half_fold.core.store.job import create_job
from half_fold.core.typesetting.faces.faces import face_file
from half_fold.core.typesetting.faces.fonts import bring_font
from half_fold.core.typesetting.sheet.sheet import set_role
from half_fold.core.typesetting.texts.markdown_in import read_markdown
from tests.blocks import block_over
from tests.conftest import judge

TEXT = (
    "The office of the fjords kept its baffling, efficient calendar: *nobody* who has pruned in **February** forgets "
    "the difficulty of frozen fingers, or whip-and-tongue grafting at the affluent waffle stall of the co-operative. "
)
FOUR_TIMES = 288  # pixels to the inch: a screen's 72, four times enlarged


def _hard(paragraphs: tuple[Paragraph, ...] = (), **roles: str) -> Publication:
    """Page 3 in four narrow columns, justified round an ellipse, with all that type can be asked for."""
    job = start("magazine", "Hard")
    for field, value in {
        "drop_lines": "3",
        "hanging": "yes",
        "letter_give": "1",
        "opening_words": "3",
        **roles,
    }.items():
        job = set_role(job, "body", field, value)
    job, story = add_story(job, "Words", paragraphs or tuple(read_markdown("\n\n".join([TEXT * 3] * 5)).paragraphs))
    text = block_over("t", HoldsStory(story=story, columns=4, balanced=True), rows=(0, 6))
    wrap = Wrap(shape="ellipse", side="both", offset=length("4mm"))
    panel = replace(block_over("p", HoldsPanel(ink="straw"), (2, 3), (1, 2)), wrap=wrap)
    return with_page(job, replace(job.pages[2], things=(text, panel)))


def _pressed(job: Publication, folder: Path) -> tuple[Path, Path]:
    file = create_job(folder / "hard", job)
    pdf = folder / "hard.pdf"
    assert main(["press", str(file), str(pdf)]) == 0
    judge("qpdf", "--check", pdf)
    return file, pdf


@pytest.fixture(scope="module")
def hard(tmp_path_factory: pytest.TempPathFactory) -> tuple[Publication, Path, Path]:
    job = _hard()
    return job, *_pressed(job, tmp_path_factory.mktemp("hard"))


def _letters(text: str) -> str:
    return "".join(text.replace("\u00ad", "").split())


def test_set_text_reads_back_as_the_story_in_order(hard: tuple[Publication, Path, Path]) -> None:
    job, _, pdf = hard
    read = judge("pdftotext", "-raw", "-f", "3", "-l", "3", pdf, "-").replace("\f", "")
    lines = [line for line in read.split("\n") if line.strip()]
    assert lines[-1].split()[-1] == "3" or lines[-1].startswith("3")
    wanted = _letters("".join(p.text for p in job.stories[0].paragraphs))
    got = _letters("".join(line.removesuffix("-") if line.endswith("-") else line for line in lines[:-1]))
    # A hyphen of the story's own at a line's end reads like one of ours: leave them out on both sides.
    assert got.replace("-", "") == wanted.replace("-", "")


def test_proof_and_pdf_stand_in_the_same_place_at_four_times_the_size(
    hard: tuple[Publication, Path, Path], tmp_path: Path
) -> None:
    _, file, pdf = hard
    proof = tmp_path / "proof.png"
    assert main(["proof", str(file), str(proof), "--page", "3", "--dpi", str(FOUR_TIMES)]) == 0
    judge("pdftoppm", "-r", str(FOUR_TIMES), "-f", "3", "-l", "3", "-png", "-singlefile", pdf, tmp_path / "page")
    ours = np.asarray(Image.open(proof).convert("L"), float)
    whole = np.asarray(Image.open(tmp_path / "page.png").convert("L"), float)
    with pikepdf.open(pdf) as opened:
        page = opened.pages[2].obj
        media, trim = ([float(v) for v in page[name]] for name in ("/MediaBox", "/TrimBox"))
    scale = FOUR_TIMES / 72
    x, y = round((trim[0] - media[0]) * scale), round((media[3] - trim[3]) * scale)
    high, wide = min(ours.shape[0], whole.shape[0] - y), min(ours.shape[1], whole.shape[1] - x)
    theirs, ours = whole[y : y + high, x : x + wide], ours[:high, :wide]
    tiles = [(r, c) for r in range(100, high - 500, 380) for c in range(100, wide - 500, 380)]
    compared = 0
    for r, c in tiles:
        tile = ours[r : r + 300, c : c + 300]
        if (tile < 128).mean() < 0.02:
            continue
        off = {
            (dy, dx): np.abs(tile - theirs[r + dy : r + dy + 300, c + dx : c + dx + 300]).mean()
            for dy in range(-3, 4)
            for dx in range(-3, 4)
        }
        best = min(off, key=off.__getitem__)
        assert max(map(abs, best)) <= 1, (r, c, best)
        compared += 1
    assert compared > 15


def test_hebrew_reads_back_in_its_own_order(tmp_path: Path) -> None:
    words = "הפרדס שומר על לוח השנה שלו ואיש אינו שוכח את הכפור של חודש שבט"
    paragraphs = tuple(
        Paragraph(role="body", runs=(Run(text=f"{words} 1914 {words}"),), language="he_IL") for _ in range(3)
    )
    job = _hard(paragraphs, family="Frank Ruhl Libre", drop_lines="0", opening_words="0", hanging="no", letter_give="0")
    job = set_role(job, "body", "figures", "")
    job = replace(job, stories=(replace(job.stories[0], language="he_IL"),))
    _, pdf = _pressed(job, tmp_path)
    read = judge("pdftotext", "-f", "3", "-l", "3", pdf, "-")
    seen = [w.strip("\u202a\u202b\u202c\u200e\u200f") for w in read.split()]
    for word in words.split():
        assert word in seen, word
    assert read.count("1914") == 3
    first = judge("pdftotext", "-f", "3", "-l", "3", "-x", "420", "-y", "0", "-W", "220", "-H", "120", pdf, "-")
    assert words.split()[0] in first.split()[0]  # the first column stands at the right


def _cubic(folder: Path) -> Path:
    """A font with cubic outlines, made from one that ships."""
    from fontTools.fontBuilder import FontBuilder
    from fontTools.pens.t2CharStringPen import T2CharStringPen
    from fontTools.ttLib import TTFont

    source = TTFont(face_file("Young Serif/Regular"))
    glyphs, metrics = source.getGlyphSet(), source["hmtx"]
    names = [n for n in source.getGlyphOrder() if n == ".notdef" or any(g == n for g in source.getBestCmap().values())]
    builder = FontBuilder(source["head"].unitsPerEm, isTTF=False)
    builder.setupGlyphOrder(names)
    builder.setupCharacterMap({code: n for code, n in source.getBestCmap().items() if n in names})
    strings = {}
    for name in names:
        pen = T2CharStringPen(metrics[name][0], glyphs)
        glyphs[name].draw(pen)
        strings[name] = pen.getCharString()
    builder.setupCFF("EllerbyCubic-Regular", {}, strings, {})
    builder.setupHorizontalMetrics({name: metrics[name] for name in names})
    builder.setupHorizontalHeader(ascent=source["hhea"].ascent, descent=source["hhea"].descent)
    builder.setupNameTable({"familyName": "Ellerby Cubic", "styleName": "Regular", "psName": "EllerbyCubic-Regular"})
    builder.setupOS2(fsType=0)
    builder.setupPost()
    path = folder / "cubic.otf"
    builder.save(path)
    return path


def test_a_font_of_ones_own_with_cubic_outlines_is_embedded_and_reads_back(tmp_path: Path) -> None:
    folder = tmp_path / "made"
    folder.mkdir()
    job, font = bring_font(_hard(opening_words="0"), folder, _cubic(tmp_path))
    job = set_role(set_role(job, "body", "family", font.family), "body", "figures", "")
    (folder / "fonts" / font.file).rename(tmp_path / font.file)
    (folder / "fonts").rmdir()
    file = create_job(tmp_path / "hard", job)
    (file.parent / "fonts").mkdir()
    (tmp_path / font.file).rename(file.parent / "fonts" / font.file)
    pdf = tmp_path / "cubic.pdf"
    assert main(["press", str(file), str(pdf)]) == 0
    judge("qpdf", "--check", pdf)
    fonts = judge("pdffonts", pdf)
    (row,) = [line for line in fonts.split("\n") if "EllerbyCubic" in line]
    assert "CID Type 0C" in row and row.split()[-5:-2] == ["yes", "yes", "yes"]
    assert "office of the fjords" in " ".join(judge("pdftotext", "-f", "3", "-l", "3", pdf, "-").split())
    judge("gs", "-q", "-dBATCH", "-dNOPAUSE", "-dSAFER", "-sDEVICE=nullpage", "-dFirstPage=3", "-dLastPage=3", pdf)
