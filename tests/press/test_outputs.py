"""Outputs kept under names: stated, set, made; copies to read as a reader opens them."""

import io
import json
from pathlib import Path

import numpy as np
import pikepdf
import pytest
from msgspec.structs import replace
from PIL import Image, ImageCms

from half_fold.cli import main
from half_fold.core.measure.entry import MM
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import found, set_path
from half_fold.core.pictures.colour.colour import profile_for
from half_fold.core.plan.sections import start_section
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import start
from half_fold.core.press.make import press
from half_fold.core.press.outputs import (
    format_output,
    in_effect,
    keep_output,
    make_outputs,
    output_files,
    output_named,
    set_output,
)
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import Block, HoldsPanel, Output, Publication
from half_fold.core.publication.surgery import by_name, with_page
from half_fold.core.store.codec import decode, encode
from half_fold.core.store.job import open_job
from tests.conftest import judge


def _job() -> Publication:
    return set_values(start("magazine", "Outputs"), ["pages=8", "binding=saddle", "signature=4", "trim=100x150mm"])


def _value(job: Publication, path: str) -> str:
    return found(job, path)[0].value


WORDS = [
    ("pages", Output(name="A")),
    ("cover, marks", Output(name="A", part="cover", marks=True)),
    ("pages, as spreads, to read, 150 ppi", Output(name="A", form="spreads", to_read=True, ppi=150)),
    ("2-3, 6, as sheets", Output(name="A", part="2-3, 6", form="sheets")),
]


@pytest.mark.parametrize(("words", "output"), WORDS)
def test_an_output_is_stated_in_words_and_says_itself_in_the_same(words: str, output: Output) -> None:
    job = set_path(_job(), "output.A", words)
    assert job.outputs == (output,) and format_output(output) == words == _value(job, "output.A")
    assert set_path(job, "output.A", words) is job
    assert decode(encode(job), "a.halffold") == job


def test_every_value_has_its_path_and_setting_what_is_there_changes_nothing() -> None:
    job = set_path(_job(), "output.To the printer", "cover, marks")
    for setting in found(job, "output.*"):
        assert set_path(job, setting.path, setting.value) is job
    job = set_path(job, "output.To the printer.form", "spreads")
    job = set_path(job, "output.To the printer.part", "Pages")
    job = set_path(job, "output.To the printer.name", "Sent")
    assert format_output(output_named(job, "Sent")) == "pages, as spreads, marks"
    assert set_path(job, "output.Sent", "").outputs == ()


@pytest.mark.parametrize(
    ("path", "typed", "said"),
    [
        ("output.B", "jacket", "no part “jacket”"),
        ("output.B", "pages, as scrolls", "no part"),
        ("output.B", "99", "no page"),
        ("output.B", "pages, 90000 ppi", "0 to 2400"),
        ("output.A.name", "", "needs a name"),
        ("output.A.name", "a.b", "full stop"),
        ("output.A.ppi", "-3", "0 to 2400"),
        ("output.A.form", "scroll", "no made as “scroll”"),
        ("output.Gone", "", "no output “Gone”"),
    ],
)
def test_what_cannot_be_is_said_and_nothing_is_changed(path: str, typed: str, said: str) -> None:
    job = set_path(_job(), "output.A", "pages")
    with pytest.raises(Problem, match=said):
        set_path(job, path, typed)


def test_an_output_of_a_section_stays_so_under_the_sections_new_name() -> None:
    job = start_section(_job(), 5, "Plates")
    job = set_path(set_path(job, "section.Plates.paper", "Marrow Silk 170"), "output.Plates", "section.Plates, marks")
    job = set_path(job, "section.Plates.name", "Colour plates")
    assert format_output(job.outputs[0]) == "section.Colour plates, marks"
    assert set_path(job, "output.Plates.part", "section.Colour plates").outputs == job.outputs


def test_two_outputs_have_two_names_and_two_files() -> None:
    job = keep_output(_job(), Output(name="For Ada"))
    with pytest.raises(Problem, match="already"):
        keep_output(job, Output(name="For  Ada"))
    job = keep_output(job, Output(name="For-Ada"))
    assert output_files(job) == ["outputs-for-ada.pdf", "outputs-for-ada-2.pdf"]
    with pytest.raises(Problem, match="already"):
        set_output(job, "For-Ada", "name", "For Ada")
    doubled = replace(job, outputs=(job.outputs[0], job.outputs[0]))
    with pytest.raises(Problem, match="same name"):
        decode(encode(doubled), "a.halffold")


def test_what_changes_nothing_makes_no_other_output() -> None:
    job = _job()
    assert in_effect(job, Output(name="x", marks=True, to_read=True)) == Output(name="", to_read=True)
    assert in_effect(job, Output(name="x", part="cover", form="sheets")) == Output(name="", part="cover")


def test_every_output_is_a_file_as_it_says(tmp_path: Path) -> None:
    job = _job()
    for name, words in (("Sent", "pages, marks"), ("Zine", "pages, as sheets"), ("Read", "pages, as spreads, to read")):
        job = set_path(job, f"output.{name}", words)
    steps: list[str] = []
    made = make_outputs(job, tmp_path, tmp_path / "new" / "out", lambda _a, _b, words: steps.append(words))
    assert [(name, output.name, proved.pages) for name, output, proved in made] == [
        ("outputs-sent.pdf", "Sent", 8), ("outputs-zine.pdf", "Zine", 4), ("outputs-read.pdf", "Read", 5),
    ]  # fmt: skip
    assert {words.partition(":")[0] for words in steps} == {"Sent", "Zine", "Read"}
    sizes = {}
    for name, _, _ in made:
        judge("qpdf", "--check", tmp_path / "new" / "out" / name)
        with pikepdf.open(tmp_path / "new" / "out" / name) as pdf:
            sizes[name] = [round(float(v) / MM) for v in pdf.pages[1].MediaBox[2:]]
    assert sizes == {"outputs-sent.pdf": [120, 170], "outputs-zine.pdf": [206, 156], "outputs-read.pdf": [200, 150]}


def test_a_copy_to_read_ends_at_its_trim_says_no_standard_and_shows_inks_by_the_profile(tmp_path: Path) -> None:
    """A panel out to the bleed fills the page to its edge; what heeds profiles shows it by them."""
    edge = Stop(kind="bleed")
    panel = Block(id="p", place=Held(left=edge, top=edge, right=edge, bottom=edge), holds=HoldsPanel(ink="loden"))
    job = _job()
    job = with_page(job, replace(job.pages[0], things=(panel,)))
    for name, to_read in (("press.pdf", False), ("read.pdf", True)):
        press(job, tmp_path, tmp_path / name, "pages", to_read=to_read)
    seen = {}
    for name in ("press.pdf", "read.pdf"):
        with pikepdf.open(tmp_path / name) as pdf:
            boxes = [[round(float(v), 2) for v in pdf.pages[0][box]] for box in ("/MediaBox", "/BleedBox", "/TrimBox")]
            says = b"PDF/X" in pdf.Root.Metadata.read_bytes()
            assert (name == "press.pdf") == says == (boxes[0] != boxes[2])
        judge("gs", "-q", "-dNOPAUSE", "-dBATCH", "-sDEVICE=png16m", "-r36", "-dLastPage=1", "-o", tmp_path / "s.png", tmp_path / name)  # fmt: skip  # noqa: E501
        seen[name] = np.asarray(Image.open(tmp_path / "s.png").convert("RGB"), float)
    shown = seen["read.pdf"][:-1, :-1]  # the last pixel is not whole
    edges = np.concatenate([shown[0], shown[-1], shown[:, 0], shown[:, -1]])
    assert np.abs(edges - shown[9, 9]).max() < 3, "filled to every edge"
    ink = by_name(job.inks, "loden", "ink")
    pixel = Image.new("CMYK", (1, 1), tuple(round(2.55 * v) for v in (ink.cyan, ink.magenta, ink.yellow, ink.black)))  # type: ignore[arg-type]  # four
    paper = ImageCms.ImageCmsProfile(io.BytesIO(profile_for(job, job.brief.text_paper)))
    as_shown = ImageCms.profileToProfile(
        pixel, paper, ImageCms.createProfile("sRGB"), outputMode="RGB", renderingIntent=1
    )
    assert as_shown is not None
    wanted = np.array(as_shown.getpixel((0, 0)), float)
    assert np.abs(shown[9, 9] - wanted).max() < np.abs(seen["press.pdf"][20, 20] - wanted).max()


def test_outputs_by_the_command_line_are_made_and_recorded(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    job, out = str(tmp_path / "job"), tmp_path / "out"
    assert main(["new", "magazine", job, "--set", "title=Grafts", "--set", "pages=8", "--set", "binding=saddle"]) == 0
    assert main(["outputs", job, str(out)]) == 2 and not out.exists()
    assert "keeps no outputs" in capsys.readouterr().err
    assert main(["set", job, "output.Read=pages, as spreads, to read", "output.Front=front"]) == 0
    assert main(["outputs", job, str(out)]) == 0
    said = capsys.readouterr().out
    assert "grafts-read.pdf: Read: proved: 5 pages" in said and "grafts-front.pdf: Front: proved: 1 page" in said
    assert main(["press", job, str(tmp_path / "one.pdf"), "--output", "Read"]) == 0
    record = [json.loads(line) for line in (tmp_path / "job" / "press" / "record.jsonl").read_text().splitlines()]
    assert [entry["output"] for entry in record] == ["Read", "Front", "Read"]
    for words, said in (
        (["--output", "Nobody"], "it has Read, Front"),
        (["--output", "Read", "--marks"], "says itself how it is made"),
    ):
        assert main(["press", job, str(tmp_path / "two.pdf"), *words]) == 2
        assert said in capsys.readouterr().err and not (tmp_path / "two.pdf").exists()
    (tmp_path / "file").write_text("mine")
    assert main(["outputs", job, str(tmp_path / "file")]) == 2
    assert "cannot be made a folder" in capsys.readouterr().err and (tmp_path / "file").read_text() == "mine"
    assert [output.name for output in open_job(tmp_path / "job").publication.outputs] == ["Read", "Front"]
