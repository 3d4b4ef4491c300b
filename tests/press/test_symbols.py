"""Symbols of the job's own: drawings that are set as letters, in words and in stories, and print as they are drawn."""

from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PIL import Image

from half_fold.cli import main
from half_fold.core.checks.run import check
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import set_paths
from half_fold.core.pictures.vector.symbols import add_symbol, font_of, remove_symbol
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import start
from half_fold.core.press.make import press
from half_fold.core.publication.records import HoldsStory, Paragraph, Publication, Run, Symbol
from half_fold.core.publication.surgery import with_things
from half_fold.core.spread.edits.claiming import display_words
from half_fold.core.spread.edits.placing import add_story
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.codec import encode
from half_fold.core.store.job import Job, create_job, open_job
from half_fold.core.typesetting.faces.faces import face
from half_fold.core.typesetting.faces.scripts import known_fallbacks
from half_fold.core.typesetting.sheet.sheet import with_fallback
from tests.blocks import block_over
from tests.conftest import judge

RING = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="40" viewBox="0 0 40 40"><path fill="#a00" '
    'fill-rule="evenodd" d="M20 0 A20 20 0 1 1 19.99 0 Z M20 10 A10 10 0 1 1 19.99 10 Z"/></svg>'
)
BARS = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="60" height="20" viewBox="0 0 60 20">'
    '<rect width="40" height="20"/><rect x="20" width="40" height="20" fill="#0a0"/></svg>'
)


@pytest.fixture
def job(tmp_path: Path) -> Job:
    made = set_values(start("magazine", "Graftwood"), ["pages=8"])
    (tmp_path / "end-mark.svg").write_text(RING)
    (tmp_path / "bars.svg").write_text(BARS)
    opened = open_job(create_job(tmp_path / "job", made, lambda _: None))
    yield opened
    opened.close()


def _with_words(publication: Publication, words: str) -> Publication:
    block = block_over("b1", display_words("headline", words), (0, 5), (1, 3))
    return with_things(publication, publication.pages[1].id, lambda _: (block,))


def test_a_drawing_is_a_letter_as_high_as_capitals_and_its_font_is_the_same_each_time(job: Job, tmp_path: Path) -> None:
    made, symbol = add_symbol(job.publication, job.folder, tmp_path / "end-mark.svg")
    assert symbol.name == "end mark" and symbol.letter == "\ue000"
    drawn = face("Symbols/Regular")
    gid = drawn.shape(symbol.letter).glyphs[0]
    assert gid and drawn.ink_of(gid) == pytest.approx((0.06, -0.7, 0.76, 0.0), abs=0.003)
    assert drawn.advance(gid) == pytest.approx(0.82, abs=0.003)
    assert font_of(made.symbols) == font_of(made.symbols)
    again, other = add_symbol(made, job.folder, tmp_path / "bars.svg")
    assert other.letter == "\ue001" and len([f for f in again.fonts if f.family == "Symbols"]) == 1
    wide = face("Symbols/Regular")
    assert wide.shape(symbol.letter).glyphs[0] == gid  # the first stands where it stood
    left, top, right, bottom = wide.ink_of(wide.shape(other.letter).glyphs[0])
    assert (right - left) / (bottom - top) == pytest.approx(3, rel=0.01) and right - left == pytest.approx(
        1.6, abs=0.01
    )
    roles = [role for role in again.roles if not role.based_on]
    assert all(("Signs", "Symbols") in known_fallbacks(role.fallback) for role in roles)


def test_they_print_as_they_are_drawn_in_words_and_in_stories(job: Job, tmp_path: Path) -> None:
    made, symbol = add_symbol(job.publication, job.folder, tmp_path / "end-mark.svg")
    made = set_paths(_with_words(made, "End {end mark}"), ["block.b1.size=60pt"])
    text = tuple(Paragraph(role="body", runs=(Run(text=words),)) for words in ("It ends.", "Here {end mark} it is."))
    made, story = add_story(made, "Told", text)
    assert made.stories[0].paragraphs[1].text == f"Here {symbol.letter} it is."
    held = block_over("b2", HoldsStory(story=story, columns=1), (0, 5), (4, 7))
    made = with_things(made, made.pages[1].id, lambda things: (*things, held))
    job.save(made)
    assert not [f for f in check(made, Setter(), job.pictures) if f.rule == "missing letters"]
    press(made, job.pictures, tmp_path / "x.pdf", part="2")
    told = judge("pdftotext", tmp_path / "x.pdf", "-")
    assert f"End {symbol.letter}" in told and f"Here {symbol.letter} it is." in told
    assert "Symbols" in judge("pdffonts", tmp_path / "x.pdf")
    judge("pdftoppm", "-r", "300", "-gray", "-singlefile", tmp_path / "x.pdf", tmp_path / "x")
    page = np.asarray(Image.open(tmp_path / "x.pgm")) < 128
    rows = np.flatnonzero(page.any(axis=1))
    line = page[rows[0] : rows[0] + 200]
    columns = np.flatnonzero(line.any(axis=0))
    starts = [columns[0], *columns[1:][np.diff(columns) > 6]]
    ring = line[:, starts[-1] : columns[-1] + 1]
    ring = ring[np.flatnonzero(ring.any(axis=1))[0] : np.flatnonzero(ring.any(axis=1))[-1] + 1]
    high, wide = ring.shape
    assert wide == pytest.approx(high, abs=3) and high == pytest.approx(0.7 * 60 / 72 * 300, abs=3)
    assert ring.mean() == pytest.approx(np.pi / 4 * 0.75, abs=0.02) and not ring[high // 2, wide // 2]


def test_what_lies_on_one_another_is_one_shape_and_what_is_used_stays(job: Job, tmp_path: Path) -> None:
    made, symbol = add_symbol(job.publication, job.folder, tmp_path / "bars.svg", "Bars")
    used = _with_words(made, "See {bars}")
    with pytest.raises(Problem, match="page 2"):
        remove_symbol(used, job.folder, "bars")
    assert remove_symbol(made, job.folder, "bars").symbols == ()
    assert not remove_symbol(made, job.folder, "bars").fonts
    for file, name, sentence in (
        ("bars.svg", "bars", "already"),
        ("bars.svg", "title", "cannot be called"),
        ("none.svg", "", "can be read"),
    ):
        with pytest.raises(Problem, match=sentence):
            add_symbol(made, job.folder, tmp_path / file, name)
    with pytest.raises(Problem, match="no symbol"):
        remove_symbol(made, job.folder, "star")
    assert isinstance(symbol, Symbol) and made.symbols == (symbol,)


def test_a_file_with_two_symbols_of_one_letter_is_refused(job: Job, tmp_path: Path) -> None:
    made, symbol = add_symbol(job.publication, job.folder, tmp_path / "bars.svg")
    job.save(made)
    doubled, file = replace(made, symbols=(symbol, replace(symbol, name="other"))), job.file
    with pytest.raises(Problem, match="two symbols"):
        job.save(doubled)
    job.close()
    file.write_bytes(encode(doubled))
    with pytest.raises(Problem, match="two symbols"):
        open_job(file)


def test_a_family_for_another_script_is_named_beside_symbols_even_while_their_font_is_away(
    job: Job, tmp_path: Path
) -> None:
    made, _ = add_symbol(job.publication, job.folder, tmp_path / "end-mark.svg")
    for away in (False, True):
        if away:
            for file in (job.folder / "fonts").iterdir():
                file.unlink()
        also = with_fallback(made, "Hebrew", "Frank Ruhl Libre")
        stated = [role.fallback for role in also.roles if not role.based_on]
        assert set(stated) == {"Hebrew: Frank Ruhl Libre, Signs: Symbols"}
    assert with_fallback(also, "Hebrew", "Frank Ruhl Libre") == also


def test_by_the_command_line(job: Job, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    file = job.file
    job.close()
    assert main(["place", str(file), "--symbol", str(tmp_path / "end-mark.svg"), str(tmp_path / "bars.svg")]) == 0
    assert "end mark: in words {end mark}, as a letter U+E000" in capsys.readouterr().out
    opened = open_job(file, to_write=False)
    assert [symbol.name for symbol in opened.publication.symbols] == ["end mark", "bars"]
    assert main(["place", str(file), "--symbol", str(tmp_path / "end-mark.svg")]) == 2
