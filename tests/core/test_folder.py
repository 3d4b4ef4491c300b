"""Whatever lies in a job's folder, the job opens, and nothing outside it is read or replaced on its say-so."""

import os
import shutil
import socket
import stat
import subprocess
import sys
import typing
from pathlib import Path

import msgspec
import pytest
from msgspec.structs import replace
from PIL import Image

from half_fold.cli import main
from half_fold.core.checks.run import check
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.library.bring import bring_picture, open_picture, picture_file
from half_fold.core.pictures.rasters.mask_files import keep_in_masks
from half_fold.core.plan.own_kinds import begin
from half_fold.core.publication import records
from half_fold.core.publication.own_files import DIGESTS, MAY_BE_NONE, NAMING, own_files
from half_fold.core.publication.records import Font, Publication
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.atomic import sweep, whole_file
from half_fold.core.store.codec import encode
from half_fold.core.store.files import require_output
from half_fold.core.store.job import create_job, open_job
from half_fold.core.store.next_job import create_next
from half_fold.core.typesetting.faces.faces import Face, face_file
from half_fold.core.typesetting.faces.fonts import bring_font, join_fonts, missing_fonts, read_font, shaping_fault
from half_fold.core.typesetting.faces.scripts import standing_in
from half_fold.core.typesetting.texts.text_in import read_text_file
from tests.conftest import font_called

SECRET = b"\x89PNG\r\n\x1a\n of another"


def _pipe(path: Path) -> None:
    os.mkfifo(path)


def _folder(path: Path) -> None:
    path.mkdir()


def _link_out(path: Path) -> None:
    other = path.parent.parent.parent / f"elsewhere-{path.name}"
    Image.new("RGB", (40, 40)).save(other, "PNG")
    path.symlink_to(other)


def _loop(path: Path) -> None:
    path.symlink_to(path.name)


def _device(path: Path) -> None:
    path.symlink_to("/dev/zero")


def _socket(path: Path) -> None:
    told = os.getcwd()
    os.chdir(path.parent)  # a socket's path may not be long
    try:
        socket.socket(socket.AF_UNIX).bind(path.name)
    finally:
        os.chdir(told)


def _nonsense(path: Path) -> None:
    path.write_bytes(bytes(range(256)) * 40)


def _nothing(path: Path) -> None:
    path.touch()


ODD = [_pipe, _folder, _link_out, _loop, _device, _socket, _nonsense, _nothing]


@pytest.fixture
def pictured(job: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> Path:
    """A job with a picture over its first page."""
    Image.new("RGB", (2600, 3400), (200, 180, 120)).save(tmp_path / "grain.png")
    assert main(["place", str(job), "--picture", str(tmp_path / "grain.png")]) == 0
    assert main(["set", str(job), "page.1.claim=picture grain.png over 1-6 x 1-8"]) == 0
    capsys.readouterr()
    return job


@pytest.mark.parametrize("odd", ODD)
def test_a_picture_may_have_become_anything(pictured: Path, tmp_path: Path, odd: object) -> None:
    demo, job = pictured, open_job(pictured, to_write=False)
    (picture,) = job.publication.pictures
    (job.pictures / picture.file).unlink()
    odd(job.pictures / picture.file)  # type: ignore[operator]
    found = [f for f in check(job.publication, Setter(), job.pictures) if picture.file in f.message]
    assert [f.rule for f in found if f.stops_press] == ["missing picture"] or [f.rule for f in found] == [
        "changed picture"
    ]
    assert main(["press", str(demo), str(tmp_path / "x.pdf")]) == 2 and not (tmp_path / "x.pdf").exists()
    assert main(["numbers", str(demo)]) == 0 and main(["check", str(demo)]) in (0, 1)


@pytest.mark.parametrize("odd", ODD)
def test_what_is_brought_in_may_be_anything(tmp_path: Path, magazine: Publication, odd: object) -> None:
    (tmp_path / "a" / "b").mkdir(parents=True)
    path = tmp_path / "a" / "b" / "thing"
    odd(path)  # type: ignore[operator]
    is_picture = odd is _link_out  # the user's own link to a picture is the user's say-so
    for suffix, read in (
        (".png", open_picture),
        (".txt", read_text_file),
        (".docx", read_text_file),
        (".ttf", read_font),
    ):
        named = path.rename(path.with_suffix(suffix)) if not path.is_symlink() else path
        path = named
        if is_picture and suffix == ".png":
            assert open_picture(path).size == (40, 40)
            continue
        if odd is _nonsense and suffix == ".txt":
            continue
        with pytest.raises(Problem):
            read(path)  # type: ignore[operator]


def _with_font(folder: Path) -> tuple[Publication, Path, Font]:
    from half_fold.core.plan.starters import start
    from half_fold.core.typesetting.sheet.sheet import set_role

    made = folder / "made"
    made.mkdir()
    job, font = bring_font(start("book", "Fonts"), made, font_called("Ellerby Odd", folder / "odd.ttf"))
    job = set_role(job, "body", "family", font.family)
    file = create_job(folder / "job", job)
    shutil.move(made / "fonts", file.parent / "fonts")
    return job, file, font


@pytest.mark.checked
@pytest.mark.parametrize("odd", [_pipe, _folder, _link_out, _loop, _nonsense, _nothing])
def test_a_font_may_have_become_anything(tmp_path: Path, odd: object, capsys: pytest.CaptureFixture[str]) -> None:
    job, file, font = _with_font(tmp_path)
    assert missing_fonts(job, file.parent) == []
    (file.parent / "fonts" / font.file).unlink()
    odd(file.parent / "fonts" / font.file)  # type: ignore[operator]
    join_fonts(job, file.parent)
    found, *_ = [f for f in check(job, Setter(), file.parent / "pictures") if f.rule == "missing font"]
    assert found.stops_press and missing_fonts(job, file.parent) == [font]
    assert main(["press", str(file), str(tmp_path / "x.pdf")]) == 0  # in the face that stands in, as it says
    assert "missing or damaged" in capsys.readouterr().err


def test_a_font_outside_the_job_is_never_embedded(tmp_path: Path) -> None:
    job, file, font = _with_font(tmp_path)
    for name in (str(face_file("Amiri/Bold")), "../../amiri.ttf"):
        content = encode(replace(job, fonts=(replace(font, file=name),)))
        file.write_bytes(content)
        assert main(["check", str(file)]) == 2


def test_a_role_in_a_face_that_is_nowhere_is_set_in_another_and_said(tmp_path: Path) -> None:
    job, file, font = _with_font(tmp_path)
    gone = replace(
        job, fonts=(), roles=tuple(replace(r, family="Nowhere") if r.name == "body" else r for r in job.roles)
    )
    file.write_bytes(encode(gone))
    assert main(["press", str(file), str(tmp_path / "x.pdf")]) == 0
    assert "There is no face “Nowhere" in next(
        f.message for f in check(gone, Setter(), tmp_path) if f.rule == "missing font"
    )
    assert font.family


@pytest.mark.parametrize("cut", [10, 400, 3000, 20_000])
def test_a_font_that_cannot_be_cut_down_is_refused_as_it_comes(tmp_path: Path, cut: int) -> None:
    from half_fold.core.plan.starters import start

    content = font_called("Ellerby Cut", tmp_path / "whole.ttf").read_bytes()
    (tmp_path / "cut.ttf").write_bytes(content[:cut] + bytes(len(content) - cut))
    with pytest.raises(Problem):
        bring_font(start("book", "x"), tmp_path, tmp_path / "cut.ttf")
    assert not (tmp_path / "fonts").exists() and shaping_fault(tmp_path / "whole.ttf") == ""


@pytest.mark.parametrize("profile", [b"", b"nonsense", b"\0" * 300, "cmyk", "rgb"])
def test_a_profile_that_cannot_be_used_is_passed_over(tmp_path: Path, magazine: Publication, profile: object) -> None:
    from half_fold.core.pictures.colour.colour import COATED, shipped_profile, to_screen
    from half_fold.core.pictures.colour.press_inks import to_press

    content = {"cmyk": shipped_profile(COATED), "rgb": shipped_profile("srgb")}.get(profile, profile)  # type: ignore[call-overload]
    for mode in ("RGB", "L", "CMYK"):
        path = tmp_path / f"{mode}.jpg"
        Image.new(mode, (40, 40)).save(path, icc_profile=content or None)
        made, picture = bring_picture(magazine, tmp_path / "pictures", path)
        image = Image.open(picture_file(tmp_path / "pictures", picture))
        assert to_press(image, shipped_profile(COATED))[0].size == to_screen(image).size == (40, 40)
        assert made.pictures


# Versions and the press folder -------------------------------------------------------------------------------


def test_foreign_files_among_versions_are_passed_over(job: Path) -> None:
    opened = open_job(job)
    kept = opened.keep_version(opened.publication, "first")
    for name in ("notes.txt", "x.halffold.gz", "2026-01-01.halffold.gz", "2026-99-99 99.99.99.999.halffold.gz"):
        (job / "versions" / name).write_bytes(b"x")
    (job / "versions" / "folder").mkdir()
    assert opened.versions()[-1] == kept or kept in opened.versions()
    for path in opened.versions():
        if path != kept:
            with pytest.raises(Problem):
                opened.read_version(path)
    opened.close()


def test_two_versions_of_one_moment_both_stay(job: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    from datetime import datetime

    from half_fold.core.store import job as module

    class Still(datetime):
        @classmethod
        def now(cls, tz: object = None) -> "Still":
            return cls(2026, 11, 27, 20, 0, 0, 5000)

    monkeypatch.setattr(module, "datetime", Still)
    opened = open_job(job)
    paths = {opened.keep_version(opened.publication, name) for name in ("", "", "named", "")}
    assert len(paths) == 4 == len(opened.versions())
    opened.close()


@pytest.mark.parametrize("odd", [_nothing, _link_out, _pipe])
def test_the_press_folder_may_be_anything(job: Path, tmp_path: Path, odd: object) -> None:
    shutil.rmtree(job / "press", ignore_errors=True)
    if odd is _link_out:
        (tmp_path / "other").mkdir()
        (job / "press").symlink_to(tmp_path / "other")
    else:
        odd(job / "press")  # type: ignore[operator]
    opened = open_job(job, to_write=False)
    assert opened.pressed() == []
    assert main(["press", str(job), str(tmp_path / "x.pdf"), "--part", "cover"]) == 0
    assert (tmp_path / "x.pdf").exists() and not list(tmp_path.glob("other/*"))


@pytest.mark.parametrize("odd", [_folder, _pipe, _link_out, _nonsense])
def test_the_press_record_may_be_anything(job: Path, tmp_path: Path, odd: object) -> None:
    (job / "press").mkdir(exist_ok=True)
    odd(job / "press" / "record.jsonl")  # type: ignore[operator]
    assert open_job(job, to_write=False).pressed() == []
    assert main(["press", str(job), str(tmp_path / "x.pdf"), "--part", "cover"]) == 0


# What is written ---------------------------------------------------------------------------------------------


def test_nothing_is_replaced_that_is_no_such_file(
    demo: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    file = demo / "graftwood.halffold"
    before = file.read_bytes()
    picture = next((demo / "pictures").iterdir())
    link = tmp_path / "link.pdf"
    link.symlink_to(tmp_path / "target.pdf")
    words = tmp_path / "words.pdf"
    words.write_text("my own words")
    (tmp_path / "pipe.pdf").parent.mkdir(exist_ok=True)
    os.mkfifo(tmp_path / "pipe.pdf")
    for out in (file, picture, link, words, tmp_path / "pipe.pdf", Path("/dev/null"), demo):
        assert main(["press", str(demo), str(out), "--part", "cover"]) == 2, out
        assert capsys.readouterr().err.count("\n") == 1
    for command, suffix in (("text", "md"), ("order", "csv"), ("schedule", "csv"), ("template", "png")):
        target = tmp_path / f"{command}.{suffix}"
        target.symlink_to(file)
        assert main([command, str(demo), str(target)]) == 2, command
    assert main(["text", str(demo), str(file)]) == 2
    assert file.read_bytes() == before and words.read_text() == "my own words" and picture.stat().st_size > 1000
    assert not (tmp_path / "target.pdf").exists()
    assert main(["press", str(demo), str(tmp_path / "new.pdf"), "--part", "cover"]) == 0
    assert main(["press", str(demo), str(tmp_path / "new.pdf"), "--part", "cover"]) == 0


def test_a_job_that_is_a_link_is_locked_and_saved_where_it_leads(job: Path, tmp_path: Path) -> None:
    link = tmp_path / "link.halffold"
    link.symlink_to(job / "leaf.halffold")
    first = open_job(link)
    with pytest.raises(Problem, match="another window"):
        open_job(job)
    first.save(replace(first.publication, title="Changed"))
    first.close()
    assert link.is_symlink() and open_job(job, to_write=False).publication.title == "Changed"


def _left_by_a_kill(folder: Path) -> Path:
    """What a write into a folder leaves where its process is killed while it writes."""
    script = (
        "import os, signal, sys; from pathlib import Path; from half_fold.core.store.atomic import whole_file\n"
        "with whole_file(Path(sys.argv[1])) as temporary:\n"
        "    temporary.write_bytes(b'half'); print(temporary, flush=True); os.kill(os.getpid(), signal.SIGKILL)"
    )
    told = subprocess.run([sys.executable, "-c", script, str(folder / "x.pdf")], capture_output=True, text=True)
    left = Path(told.stdout.strip())
    assert left.parent == folder and left.read_bytes() == b"half", told
    return left


OF_THE_USER = (
    ".notes.original", ".plan.markdown", ".hidden", ".keep me", "notes.abcdefgh", ".leaf.halffold.ab12cd_3",
    ".hid.halffold", ".half-fold-notes.unfinished", "half-fold-0123456789abcdef.unfinished",
)  # fmt: skip


def test_what_a_kill_left_is_swept_at_the_next_opening_and_nothing_else(
    job: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    folders = [job / name for name in ("pictures", "fonts", "masks", "versions", "press")]
    mine = []
    for folder in (*folders, job):
        folder.mkdir(exist_ok=True)
        mine += [folder / name for name in OF_THE_USER if (folder, name) != (job, ".hid.halffold")]
    for path in mine:
        path.write_bytes(b"x")
    left = [_left_by_a_kill(folder) for folder in (*folders, job)]
    open_job(job, to_write=False)
    assert all(path.exists() for path in left)
    capsys.readouterr()
    assert main(["set", str(job), "title=Another"]) == 0
    assert "6 files" in capsys.readouterr().err
    assert not any(path.exists() for path in left) and all(path.read_bytes() == b"x" for path in mine)
    assert sweep(job / "no such folder") == []


@pytest.mark.parametrize("name", [".hid", ".half-fold", ".x.abcdefgh", "a job", "-set"])
def test_a_job_may_be_called_anything_and_is_still_there(tmp_path: Path, name: str) -> None:
    folder = tmp_path / name
    made = begin("one-sheet", "Leaf", folder)
    assert made.name == f"{name}.halffold"
    for title in ("One", "Two"):
        opened = open_job(folder)
        opened.save(replace(opened.publication, title=title))
        opened.close()
    assert open_job(made, to_write=False).publication.title == "Two"


def test_nothing_is_swept_behind_a_link_nor_while_it_is_written(job: Path, tmp_path: Path) -> None:
    other = tmp_path / "of another"
    other.mkdir()
    left = _left_by_a_kill(other)
    (job / "versions").symlink_to(other)
    (job / left.name).symlink_to(left)
    open_job(job).close()
    assert left.exists() and (job / left.name).is_symlink()
    with whole_file(other / "y.pdf") as temporary:
        temporary.write_bytes(b"y")
        assert sweep(other) == [left]
    assert (other / "y.pdf").read_bytes() == b"y" and os.listdir(other) == ["y.pdf"]


def test_outputs_sweep_their_folder(job: Path, tmp_path: Path) -> None:
    out = tmp_path / "made"
    out.mkdir()
    (out / ".notes.original").write_text("mine")
    _left_by_a_kill(out)
    assert main(["set", str(job), "output.all=pages"]) == 0
    assert main(["outputs", str(job), str(out)]) == 0
    assert sorted(os.listdir(out)) == [".notes.original", "leaf-all.pdf"]


# Every field that names a file -------------------------------------------------------------------------------

OUTSIDE = ("../../victim.png", "/etc/hostname", "..", ".", "", "a/b.png", "..\\x.png", "x\0.png", "é" * 200)


def _held(kind: type) -> set[type]:
    """The kinds of record that fields of a kind may hold."""
    found, waiting = set[type](), [field.type for field in msgspec.structs.fields(kind)]
    while waiting:
        each = waiting.pop()
        if typing.get_origin(each) is typing.Literal:
            continue
        if isinstance(each, type) and issubclass(each, msgspec.Struct):
            found.add(each)
        waiting += typing.get_args(each)
    return found


def test_the_table_of_own_files_names_every_field_there_is() -> None:
    kinds, waiting = set[type](), [Publication]
    while waiting:
        kind = waiting.pop()
        if kind not in kinds:
            kinds.add(kind)
            waiting += _held(kind)
    fields = {(kind, name) for kind in kinds for name in kind.__struct_fields__}
    files = {each for each in fields if each[1] in ("file", "mask")} - {(records.Goods, "file")}  # which is only said
    assert files == set(NAMING)
    assert {each for each in fields if "digest" in each[1]} == DIGESTS


def _naming(field: tuple[type, str], name: str, publication: Publication) -> Publication:
    """The job with something in it whose field names that file."""
    kind, key = field
    picture = records.Picture(id="p", file="pear.png", width=40, height=40, digest="ab")
    if kind is records.Picture:
        return replace(publication, pictures=(replace(picture, **{key: name}),))
    if kind is records.Font:
        font = records.Font(family="Odd", style="Regular", file="odd.otf", digest="ab")
        return replace(publication, fonts=(replace(font, **{key: name}),))
    treated = (
        records.Treatment(patches=(records.Patch(file=name, left=0, top=0, right=1, bottom=1),))
        if kind is records.Patch
        else records.Treatment(seen=records.Brushed(file=name))
    )
    return replace(publication, looks=(records.Look(name="odd", treatment=treated),))


@pytest.mark.parametrize("field", [*NAMING, *DIGESTS], ids=lambda field: f"{field[0].__name__}.{field[1]}")
@pytest.mark.parametrize("name", OUTSIDE)
def test_no_field_names_a_file_elsewhere(
    tmp_path: Path, magazine: Publication, field: tuple[type, str], name: str, capsys: pytest.CaptureFixture[str]
) -> None:
    if not name and field in {*MAY_BE_NONE, *DIGESTS}:
        return
    odd = _naming(field, name, magazine)
    with pytest.raises(Problem):
        create_job(tmp_path / "made", odd)
    (tmp_path / "job").mkdir()
    (tmp_path / "job" / "job.halffold").write_bytes(encode(odd))
    (tmp_path / "victim.png").write_bytes(SECRET)
    before = _tree(tmp_path)
    for words in (
        ["new", "--from", str(tmp_path / "job"), str(tmp_path / "next")],
        ["keep", str(tmp_path / "job"), "x"],
    ):
        assert main(words) == 2
        assert capsys.readouterr().err.count("\n") == 1
    assert _tree(tmp_path) == before


def _tree(folder: Path) -> dict[str, bytes]:
    return {str(path): path.read_bytes() for path in folder.rglob("*") if path.is_file()}


@pytest.mark.parametrize("field", list(NAMING), ids=lambda field: f"{field[0].__name__}.{field[1]}")
def test_what_a_job_names_goes_on_to_the_next_number_and_no_link_does(
    tmp_path: Path, magazine: Publication, field: tuple[type, str]
) -> None:
    folder, name = NAMING[field][1], "kept.png"
    publication = _naming(field, name, magazine)
    home = create_job(tmp_path / "job", publication).parent
    for each in own_files(publication):
        (home / each.folder).mkdir(exist_ok=True)
        (home / each.folder / each.name).write_bytes(b"content")
    made = create_next(tmp_path / "next", publication, home)
    assert (made.parent / folder / name).read_bytes() == b"content"
    (home / folder / name).unlink()
    (tmp_path / "secret").write_bytes(SECRET)
    (home / folder / name).symlink_to(tmp_path / "secret")
    with pytest.raises(Problem, match="link to another place"):
        create_next(tmp_path / "again", publication, home)
    assert not (tmp_path / "again").exists()


@pytest.mark.parametrize("folder", ["pictures", "fonts", "masks", "versions", "press"])
def test_nothing_is_written_through_a_linked_folder(job: Path, tmp_path: Path, folder: str) -> None:
    other = tmp_path / "elsewhere"
    other.mkdir()
    shutil.rmtree(job / folder, ignore_errors=True)
    (job / folder).symlink_to(other)
    Image.new("RGB", (60, 60)).save(tmp_path / "leaf.png")
    opened = open_job(job)
    writers = {
        "pictures": lambda: bring_picture(opened.publication, opened.pictures, tmp_path / "leaf.png"),
        "fonts": lambda: bring_font(opened.publication, opened.folder, font_called("Odd", tmp_path / "odd.ttf")),
        "masks": lambda: keep_in_masks(opened.pictures, Image.new("L", (4, 4))),
        "versions": lambda: opened.keep_version(opened.publication),
        "press": lambda: opened.record_pressed({"file": "x.pdf"}),
    }
    with pytest.raises(Problem, match="leads to another place"):
        writers[folder]()
    assert not list(other.iterdir())


# What is there already ---------------------------------------------------------------------------------------

WRITERS = {
    "text": ("words.md",), "order": ("order.csv", "order.xlsx", "order.pdf"), "schedule": ("days.csv", "days.ics"),
    "template": ("flat.pdf", "flat.svg", "flat.png"), "press": ("out.pdf",), "gather": ("all.zip",),
    "trial": ("seen.png",), "proof": ("page.png", "page.jpg"), "contact": ("sheets.pdf",),
    "inks --give": ("inks.csv", "inks.gpl"),
}  # fmt: skip
MORE_WORDS = {"proof": ["--cover"]}
ALREADY = {
    "a picture": b"\xff\xd8\xff\xe0 a photograph", "a drawing": b"\x89PNG\r\n\x1a\n"[::-1], "words": b"My own words.\n",
    "a table": b"name,price\r\nPear,3\r\n", "a program": b"\x7fELF\0\1", "a page": b"<html></html>",
    "a packed folder": b"PK\x03\x04" + b"\0" * 30, "half a letter": b"\xc3",
}  # fmt: skip
SAME = {("text", "words"), ("text", "a table"), ("text", "a page"), ("proof", "a picture")}  # text is text


@pytest.fixture(scope="module")
def for_writers(tmp_path_factory: pytest.TempPathFactory) -> Path:
    folder = tmp_path_factory.mktemp("writers")
    made = begin("magazine", "Leaf", folder / "leaf", ["pages=4", "press-date=2027-03-01"])
    Image.new("RGB", (60, 60)).save(folder / "pear.png")
    assert main(["place", str(made), "--picture", str(folder / "pear.png")]) == 0
    (folder / "words.md").write_text("# Pears\n\nOne pear.\n")
    assert main(["place", str(made), "--text", str(folder / "words.md")]) == 0
    return made


@pytest.mark.parametrize("command", list(WRITERS))
def test_no_command_replaces_a_file_of_another_kind(
    for_writers: Path, tmp_path: Path, command: str, capsys: pytest.CaptureFixture[str]
) -> None:
    first, *rest = command.split()
    for name in WRITERS[command]:
        out = tmp_path / name
        words = [first, str(for_writers), *rest, str(out), *MORE_WORDS.get(command, [])]
        for kind, content in ALREADY.items():
            if (command, kind) in SAME:
                continue
            out.write_bytes(content)
            assert main(words) == 2, (words, kind)
            assert capsys.readouterr().err.count("\n") == 1
            assert out.read_bytes() == content
        out.unlink()
        for _ in range(2):  # and its own again
            assert main(words) == 0, (words, capsys.readouterr())
        assert out.stat().st_size > 5


@pytest.mark.parametrize("command", list(WRITERS))
@pytest.mark.parametrize("folder", ["pictures", "fonts", "masks", "versions"])
def test_no_command_writes_among_what_a_job_is_made_of(
    for_writers: Path, command: str, folder: str, capsys: pytest.CaptureFixture[str]
) -> None:
    (for_writers.parent / folder).mkdir(exist_ok=True)
    first, *rest = command.split()
    for name in WRITERS[command]:
        out = for_writers.parent / folder / name
        assert main([first, str(for_writers), *rest, str(out), *MORE_WORDS.get(command, [])]) == 2, out
        assert "of a job" in capsys.readouterr().err and not out.exists()


def test_names_that_move_the_line_are_escaped(tmp_path: Path, job: Path, capsys: pytest.CaptureFixture[str]) -> None:
    odd = tmp_path / "pear\n\x1b[31m\u202ehalf-fold: done.png"
    Image.new("RGB", (60, 60)).save(odd)
    assert main(["place", str(job), "--picture", str(odd)]) == 0
    told = capsys.readouterr()
    assert told.out.count("\n") == 1 and all(c.isprintable() for c in told.out.strip())
    (kept,) = (job / "pictures").iterdir()
    assert kept.name.isprintable()
    for words in (["check", str(odd)], ["press", str(odd), "x.pdf"], ["place", str(job), "--text", str(odd)]):
        assert main(words) == 2
        told = capsys.readouterr()
        assert told.err.count("\n") == 1 and "\x1b" not in told.err and "\u202e" not in told.err


def test_a_file_of_another_kind_is_told_by_how_it_begins(tmp_path: Path) -> None:
    (tmp_path / "a.pdf").write_bytes(b"%PDF-1.6 ...")
    (tmp_path / "empty.pdf").touch()
    for name in ("a.pdf", "empty.pdf", "new.pdf"):
        require_output(tmp_path / name, (b"%PDF",))
    (tmp_path / "a.pdf").write_bytes(SECRET)
    with pytest.raises(Problem, match="another kind"):
        require_output(tmp_path / "a.pdf", (b"%PDF",))
    assert stat.S_ISREG((tmp_path / "a.pdf").stat().st_mode)


# Terminals, names and disks ----------------------------------------------------------------------------------


def test_a_terminal_without_all_letters_and_names_that_are_no_text(tmp_path: Path) -> None:
    import subprocess
    import sys

    folder = os.fsencode(tmp_path) + b"/caf\xe9"
    environment = {**os.environ, "PYTHONIOENCODING": "ascii", "LC_ALL": "C", "PYTHONUTF8": "0"}
    asked = [[b"new", b"magazine", folder], [b"numbers", folder], [b"press", folder, folder + b".pdf"]]
    asked += [[b"check", b"\xff\xfe"], [b"demo", os.fsencode(tmp_path) + b"/\xe9", b"--no-window"]]
    python = [os.fsencode(sys.executable), b"-I", b"-m", b"half_fold.cli"]
    for words in asked:
        done = subprocess.run([*python, *words], capture_output=True, env=environment)
        assert done.returncode in (0, 1, 2) and b"Traceback" not in done.stderr, (words, done.stderr)
        assert done.stderr.count(b"\n") <= 1
    assert os.path.exists(folder + b".pdf")


@pytest.mark.parametrize(
    "words",
    [
        ["order", "JOB", "OUT.xlsx"],
        ["order", "JOB", "OUT.csv"],
        ["press", "JOB", "OUT.pdf"],
        ["proof", "JOB", "OUT.png", "--page", "1"],
        ["demo", "OUT", "--no-window"],
        ["new", "book", "OUT"],
    ],
)
def test_a_full_disk_is_one_sentence(
    job: Path, tmp_path: Path, words: list[str], monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    import errno

    def full(*_: object, **__: object) -> None:
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    monkeypatch.setattr(shutil, "copyfile", full)
    out = tmp_path / "out"
    asked = [word.replace("JOB", str(job)).replace("OUT", str(out)) for word in words]
    assert main(asked) == 2
    said = capsys.readouterr()
    assert said.err.count("\n") == 1 and said.err.startswith("half-fold: ")
    assert not [path for path in tmp_path.iterdir() if path.name.startswith("out") and path.is_file()]


def test_fonts_of_a_job_that_has_gone_trouble_no_other(tmp_path: Path, magazine: Publication) -> None:
    """Letters that no face has are looked for in what ships and what the job brought, whatever else was open."""
    other = tmp_path / "other"
    other.mkdir()
    bring_font(magazine, other, font_called("Gone With It", tmp_path / "gone.ttf"))
    shutil.rmtree(other)
    assert standing_in(["𒀀"]) is None
    kept = tmp_path / "kept"
    kept.mkdir()
    _, font = bring_font(magazine, kept, font_called("Ours", tmp_path / "ours.ttf"))
    assert standing_in(["œ"], [font.family]) is not None


def test_glyphs_that_a_damaged_font_has_not_got_are_missing_ones(tmp_path: Path) -> None:
    """Its tables name them, and its count says that they are not there."""
    content = bytearray(font_called("Cut", tmp_path / "cut.ttf").read_bytes())
    at = next(at for at in range(12, 600, 16) if content[at : at + 4] == b"maxp")
    start = int.from_bytes(content[at + 8 : at + 12]) + 4
    content[start : start + 2] = (40).to_bytes(2)
    drawn = Face.of_octets("", bytes(content))
    assert len(drawn.advances()) == 40
    assert max(drawn.shape("Hamburgefons, fi 123").glyphs) < 40
