"""What was made is known again: every damage is refused, on the way into the file and when it comes back."""

import shutil
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from typing import Any

import numpy as np
import pikepdf
import pytest
from pikepdf import Array, Dictionary, Name

from half_fold.cli import main
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.library.bring import digest_of
from half_fold.core.press import make
from half_fold.core.press.outputs import keep_output
from half_fold.core.press.pdf.composed import Unproved
from half_fold.core.press.proving import prove
from half_fold.core.press.proving.prints import prints_of
from half_fold.core.press.proving.returned import made_of, returned
from half_fold.core.publication.records import Output
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.demo import make_demo
from half_fold.core.store.job import Job, open_job
from tests.conftest import judge
from tests.press.test_paints import _pressed

Damage = Callable[[pikepdf.Pdf], None]
PAGES = "1, 4, 43"  # with a fade, a masked group, cut-outs and pictures


class Pressed:
    """A file with its job, whose record knows it, and what it was proved by."""

    def __init__(self, file: Path, job: Job, asked: tuple[Any, ...]) -> None:
        self.file, self.job, self.asked = file, job, asked


@pytest.fixture(scope="module")
def made(tmp_path_factory: pytest.TempPathFactory) -> Iterator[dict[str, Pressed]]:
    """Pages of the demo, and a sheet that has every paint there is."""
    folder = tmp_path_factory.mktemp("returned")
    job = open_job(make_demo(folder))
    asked: list[tuple[Any, ...]] = []
    with pytest.MonkeyPatch.context() as patch:
        real = make.prove

        def noted(*args: Any) -> prove.Proved:
            asked.append(args[1:])
            return real(*args)

        patch.setattr(make, "prove", noted)
        proved = make.press(job.publication, job.pictures, folder / "pages.pdf", PAGES)
        job.record_pressed(made_of(folder / "pages.pdf", Output(name="", part=PAGES), proved))
        _pressed(folder / "paints.pdf")
        proved = prove.Proved(1, 1, 0, (), asked[1][-1], digest_of(folder / "paints.pdf"))
        job.record_pressed(made_of(folder / "paints.pdf", Output(name="", part="cover"), proved))
    named = zip(("pages", "paints"), asked, strict=True)
    yield {name: Pressed(folder / f"{name}.pdf", job, args) for name, args in named}
    job.close()


def _images(pdf: pikepdf.Pdf) -> list[tuple[pikepdf.Object, str]]:
    return [
        (page.Resources.XObject, name)
        for page in pdf.pages
        for name, stream in page.Resources.get("/XObject", {}).items()
        if stream.Subtype == Name.Image
    ]


def _photograph(pdf: pikepdf.Pdf) -> pikepdf.Object:
    return next(held[name] for held, name in _images(pdf) if held[name].get("/Filter") == Name.DCTDecode)


def _masked(pdf: pikepdf.Pdf) -> pikepdf.Object:
    return next(held[name] for held, name in _images(pdf) if "/SMask" in held[name])


def _form(pdf: pikepdf.Pdf) -> pikepdf.Object:
    return next(x for x in pdf.pages[0].Resources.XObject.values() if x.Subtype == Name.Form)


def _fade(pdf: pikepdf.Pdf) -> pikepdf.Object:
    return next(iter(pdf.pages[0].Resources.Pattern.values())).Shading


def _state(pdf: pikepdf.Pdf) -> pikepdf.Object:
    return pdf.pages[0].Resources.ExtGState.GOver


def _font(pdf: pikepdf.Pdf) -> pikepdf.Object:
    return next(iter(pdf.pages[0].Resources.Font.values())).DescendantFonts[0]


def _swap(pdf: pikepdf.Pdf) -> None:
    (one, name), (other, called) = _images(pdf)[0], _images(pdf)[-1]
    one[name], other[called] = other[called], one[name]


def _garble(pdf: pikepdf.Pdf) -> None:
    picture = _photograph(pdf)
    octets = bytearray(picture.read_raw_bytes())
    octets[len(octets) // 2 : len(octets) // 2 + 60] = bytes(range(60))
    picture.write(bytes(octets), filter=Name.DCTDecode)


def _halve(pdf: pikepdf.Pdf) -> None:
    picture = _photograph(pdf)
    octets = picture.read_raw_bytes()
    picture.write(octets[: len(octets) // 2] + b"\xff\xd9", filter=Name.DCTDecode)


def _thin(pdf: pikepdf.Pdf) -> None:
    mask = _masked(pdf).SMask
    values = np.frombuffer(mask.read_bytes(), np.uint8) // 2
    mask.write(values.tobytes())


def _flatten_glyphs(pdf: pikepdf.Pdf) -> None:
    """The last octets of the outlines, which are no glyph's extents."""
    descriptor = _font(pdf).FontDescriptor
    stream = descriptor.get("/FontFile2") or descriptor.get("/FontFile3")
    octets = bytearray(stream.read_bytes())
    octets[-1] ^= 1
    stream.write(bytes(octets))


def _note(pdf: pikepdf.Pdf) -> None:
    box = Array([100, 100, 300, 300])
    note = Dictionary(Type=Name.Annot, Subtype=Name.Square, Rect=box, IC=Array([1, 0, 0]))
    pdf.pages[1].Annots = Array([pdf.make_indirect(note)])


def _profile(pdf: pikepdf.Pdf) -> pikepdf.Object:
    return pdf.Root.OutputIntents[0].DestOutputProfile


def _another_profile(pdf: pikepdf.Pdf) -> None:
    octets = bytearray(_profile(pdf).read_bytes())
    octets[len(octets) // 2] ^= 255
    _profile(pdf).write(bytes(octets))


def _content(pdf: pikepdf.Pdf, page: int, of: Callable[[bytes], bytes]) -> None:
    held = pdf.pages[page].Contents
    held.write(of(held.read_bytes()))


def _set(place: Callable[[pikepdf.Pdf], pikepdf.Object], key: str, value: object) -> Damage:
    def damage(pdf: pikepdf.Pdf) -> None:
        held = place(pdf)
        assert repr(held.get(key)) != repr(value), "it is another already"
        held[key] = value

    return damage


def _drop(place: Callable[[pikepdf.Pdf], pikepdf.Object], key: str) -> Damage:
    def damage(pdf: pikepdf.Pdf) -> None:
        held = place(pdf)
        assert key in held, "there is nothing to lose"
        del held[key]

    return damage


def _page(pdf: pikepdf.Pdf) -> pikepdf.Object:
    return pdf.pages[1].obj


def _at(place: Callable[[pikepdf.Pdf], pikepdf.Object], index: int, value: object) -> Damage:
    def damage(pdf: pikepdf.Pdf) -> None:
        held = place(pdf)
        assert held[index] != value
        held[index] = value

    return damage


def _spot(pdf: pikepdf.Pdf) -> pikepdf.Object:
    return next(iter(pdf.pages[0].Resources.ColorSpace.values()))


DAMAGES: dict[str, tuple[str, Damage]] = {
    "two pictures swapped": ("pages", _swap),
    "a picture as its negative": ("pages", _drop(_photograph, "/Decode")),
    "a picture garbled": ("pages", _garble),
    "half a picture": ("pages", _halve),
    "a picture in other inks": ("pages", _set(_photograph, "/ColorSpace", Name.DeviceRGB)),
    "a cut-out with its ground": ("pages", _drop(_masked, "/SMask")),
    "a cut-out half gone": ("pages", _thin),
    "a picture for another rendering": ("pages", _set(_photograph, "/Interpolate", True)),
    "glyphs drawn otherwise": ("pages", _flatten_glyphs),
    "glyphs of another width": ("pages", _set(_font, "/DW", 20)),
    "another face's name": ("pages", _set(_font, "/BaseFont", Name("/Another"))),
    "a page turned": ("pages", _set(_page, "/Rotate", 90)),
    "a page scaled": ("pages", _set(_page, "/UserUnit", 2)),
    "a page cropped": ("pages", _set(_page, "/CropBox", Array([40, 40, 300, 300]))),
    "another trim": ("pages", _at(lambda pdf: _page(pdf).TrimBox, 0, 0)),
    "a page lost": ("pages", lambda pdf: pdf.pages.__delitem__(1)),
    "a page twice": ("pages", lambda pdf: pdf.pages.append(pdf.pages[1])),
    "pages in another order": ("pages", lambda pdf: pdf.pages.reverse()),
    "a word gone": ("pages", lambda pdf: _content(pdf, 1, lambda content: content.replace(b"TJ", b"  ", 1))),
    "something painted over it": ("pages", lambda pdf: _content(pdf, 1, lambda c: c + b"\n0 0 0 1 k 0 0 90 90 re f")),
    "a group cut short": ("pages", _set(_form, "/BBox", Array([0, 0, 10, 10]))),
    "a group elsewhere": ("pages", _set(_form, "/Matrix", Array([1, 0, 0, 1, 30, 0]))),
    "a group in another space": ("pages", _set(lambda pdf: _form(pdf).Group, "/CS", Name.DeviceRGB)),
    "a fade that ends elsewhere": ("pages", _at(lambda pdf: _fade(pdf).Coords, 2, 7)),
    "a fade that stops at its ends": ("pages", _set(_fade, "/Extend", Array([False, False]))),
    "another curve of a fade": ("pages", _set(lambda pdf: _fade(pdf).Function, "/N", 3)),
    "a state made see-through": ("pages", _set(_state, "/ca", 0.3)),
    "overprint everywhere": ("pages", _set(lambda pdf: pdf.pages[0].Resources.ExtGState.GKnock, "/OP", True)),
    "a state that blends": ("pages", _set(_state, "/BM", Name.Multiply)),
    "a note over the page": ("pages", _note),
    "another profile": ("pages", _another_profile),
    "a profile of noughts": ("pages", lambda pdf: _profile(pdf).write(bytes(len(_profile(pdf).read_bytes())))),
    "no profile": ("pages", _drop(lambda pdf: pdf.Root.OutputIntents[0], "/DestOutputProfile")),
    "another standard": ("pages", _set(lambda pdf: pdf.Root.OutputIntents[0], "/S", Name.GTS_PDFA1)),
    "another direction": ("pages", _set(lambda pdf: pdf.Root, "/ViewerPreferences", Dictionary(Direction=Name.R2L))),
    "something that runs as it opens": (
        "pages",
        _set(lambda pdf: pdf.Root, "/OpenAction", Dictionary(S=Name.JavaScript, JS="1")),
    ),
    "another title": ("pages", _set(lambda pdf: pdf.trailer.Info, "/Title", "Another")),
    "all pages turned by their tree": ("pages", _set(lambda pdf: pdf.Root.Pages, "/Rotate", 180)),
    "a spot thinned": ("paints", _set(lambda pdf: _spot(pdf)[3], "/N", 2)),
    "a spot on another plate": ("paints", _at(_spot, 1, Name("/Another"))),
    "a mask lost": (
        "paints",
        lambda pdf: [s.__setitem__("/SMask", Name("/None")) for s in pdf.pages[0].Resources.ExtGState.values()],
    ),
}


def _damaged(pressed: Pressed, out: Path, damage: Damage) -> Path:
    with pikepdf.open(pressed.file) as pdf:
        damage(pdf)
        pdf.save(out, fix_metadata_version=False)
    return out


@pytest.mark.parametrize("name", DAMAGES)
def test_a_damage_is_refused_as_it_is_made_and_when_it_comes_back(
    name: str, made: dict[str, Pressed], tmp_path: Path
) -> None:
    which, damage = DAMAGES[name]
    out = _damaged(made[which], tmp_path / "x.pdf", damage)
    with pytest.raises(Unproved, match="was not kept"):
        prove.prove(out, *made[which].asked)
    with pytest.raises(Problem, match="is not as it was made"):
        returned(made[which].job, out)


@pytest.mark.parametrize("which", ["pages", "paints"])
def test_what_is_not_damaged_is_known_however_it_is_packed(
    which: str, made: dict[str, Pressed], tmp_path: Path
) -> None:
    pressed = made[which]
    assert returned(pressed.job, pressed.file).is_same
    for asked in (
        ["--object-streams=disable", "--stream-data=uncompress"],
        ["--linearize"],
        ["--qdf", "--normalize-content=n"],
    ):
        judge("qpdf", *asked, pressed.file, tmp_path / "x.pdf")
        again = returned(pressed.job, tmp_path / "x.pdf")
        assert not again.is_same and "whole" in again.sentence, asked
        prove.prove(tmp_path / "x.pdf", *pressed.asked)


def test_every_octet_that_is_flipped_is_told(made: dict[str, Pressed], tmp_path: Path) -> None:
    """Anywhere in the file: either it says the same in all its objects, or it is refused in one sentence."""
    pressed, whole = made["paints"], made["paints"].file.read_bytes()
    known = pressed.asked[-1]
    for at in np.random.default_rng(8).integers(20, len(whole) - 20, 250).tolist():
        octets = bytearray(whole)
        octets[at] ^= 4
        (tmp_path / "x.pdf").write_bytes(octets)
        try:
            again = returned(pressed.job, tmp_path / "x.pdf")
        except Problem as problem:
            assert "not as it was made" in str(problem) or "not whole" in str(problem)
            continue
        assert not again.is_same
        with pikepdf.open(tmp_path / "x.pdf") as pdf:
            assert prints_of(pdf) == known


def test_the_state_of_the_job_and_what_was_made_later_are_said(demo: Path, tmp_path: Path) -> None:
    job = open_job(demo)
    job.keep_version(job.publication, "as sent")
    job.close()
    first, second = tmp_path / "first.pdf", tmp_path / "second.pdf"
    assert main(["press", str(demo), str(first), "--part", "cover"]) == 0
    said = returned(open_job(demo, to_write=False), first).sentence
    assert "as sent" in said and "stands as it did then" in said
    assert main(["set", str(demo), "title=Another"]) == 0
    assert main(["press", str(demo), str(second), "--part", "cover"]) == 0
    said = returned(open_job(demo, to_write=False), first).sentence
    assert "changed since" in said and "made anew since" in said
    assert "made anew" not in returned(open_job(demo, to_write=False), second).sentence


def test_it_is_asked_from_the_command_line(demo: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    out = tmp_path / "x.pdf"
    job = open_job(demo)
    job.save(keep_output(job.publication, Output(name="Sent", part="1-2")))
    job.close()
    assert main(["press", str(demo), str(out), "--output", "Sent"]) == 0
    assert main(["prove", str(demo), str(out), "--output", "Sent"]) == 0
    assert "whole and unchanged: the output “Sent”" in capsys.readouterr().out
    for words, said in (
        ([str(demo / "none.pdf")], "cannot be read"),
        ([str(demo / "graftwood.halffold")], "cannot be read as a PDF"),
        ([str(out), "--output", "Other"], "those there are: Sent"),
    ):
        assert main(["prove", str(demo), *words]) == 2
        assert said in capsys.readouterr().err
    shutil.rmtree(demo / "press")
    assert main(["prove", str(demo), str(out)]) == 2
    assert "Nothing can be proved" in capsys.readouterr().err


def test_the_files_of_an_archive_are_known(demo: Path, tmp_path: Path) -> None:
    assert main(["gather", str(demo), str(tmp_path / "all.zip")]) == 0
    shutil.unpack_archive(tmp_path / "all.zip", tmp_path / "out")
    job = open_job(demo, to_write=False)
    parts = {returned(job, file).made.part for file in (tmp_path / "out").glob("*.pdf")}
    assert parts == {"pages", "cover"}
    assert (demo / "press" / "record.jsonl").stat().st_size < 8000


@pytest.mark.checked
@pytest.mark.parametrize("asked", [["press", "x.pdf"], ["outputs", "x"], ["gather", "x.zip"]])
def test_strict_makes_nothing_of_a_job_that_a_check_stops(
    asked: Sequence[str], demo: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    name, out = asked[0], tmp_path / asked[1]
    picture = next((demo / "pictures").iterdir())
    picture.unlink()
    before = open_job(demo, to_write=False).pressed()
    assert main([name, str(demo), str(out), "--strict"]) == 1
    assert "Would stop the press" in capsys.readouterr().err
    assert not out.exists() and open_job(demo, to_write=False).pressed() == before


def test_words_with_letters_that_no_face_has_are_not_counted(tmp_path: Path) -> None:
    from half_fold.core.plan.starters import start
    from half_fold.core.spread.edits.placing import place_story
    from half_fold.core.typesetting.texts.text_in import read_plain

    counts = []
    for words in ("Hedges are laid in winter", "Hedges are l\U00012000id in winter"):
        job = place_story(start("magazine", "Boxes"), Setter(), "Hedges", tuple(read_plain(words).paragraphs))[0]
        counts.append(make.press(job, tmp_path, tmp_path / "x.pdf").words)
    assert counts[0] - counts[1] == 1
