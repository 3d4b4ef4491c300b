"""The command line: what it makes, and that bad input exits 2 with one sentence and leaves nothing behind."""

import json
import os
import re
import resource
import subprocess
import sys
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

import half_fold
from half_fold.cli import main
from half_fold.commands.all import COMMANDS, parser_of
from half_fold.core.publication.places import Held
from half_fold.core.publication.used import used_pictures
from half_fold.core.store.job import open_job, read
from tests.conftest import font_called


def _numbers(job: Path, capsys: pytest.CaptureFixture[str]) -> dict[str, dict[str, object]]:
    capsys.readouterr()
    assert main(["numbers", str(job), "--json"]) == 0
    return {row["key"]: row for row in json.loads(capsys.readouterr().out)}


def test_from_nothing_to_a_pdf(tmp_path: Path, story_file: Path, capsys: pytest.CaptureFixture[str]) -> None:
    job = tmp_path / "my-title"
    assert main(["new", "catalogue", str(job), "--set", "trim=A5", "pages=16", "bleed=1/8in"]) == 0
    pictures = []
    for name in ("a", "b", "c"):
        pictures.append(tmp_path / f"{name}.jpg")
        Image.new("RGB", (900, 600), (90, len(name) * 30, 40 * len(pictures))).save(pictures[-1])
    assert main(["place", str(job), "--text", str(story_file), "--picture", *map(str, pictures)]) == 0
    publication = read(job / "my-title.halffold")
    assert publication.title == "My title" and len(publication.pictures) == 3 and len(publication.stories) == 1
    assert sorted(p.name for p in (job / "pictures").iterdir()) == ["a.jpg", "b.jpg", "c.jpg"]
    assert main(["press", str(job), str(tmp_path / "out.pdf"), "--marks"]) == 0
    assert main(["proof", str(job), str(tmp_path / "out.png"), "--spread", "1", "--dpi", "36"]) == 0
    assert Image.open(tmp_path / "out.png").size == (round(148 / 25.4 * 36), round(210 / 25.4 * 36))


def test_numbers_follow_what_is_set(job: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["set", str(job), "pages=48", "paper.text=grammage=130,volume=1.42", "trim=magazine"]) == 0
    numbers = _numbers(job, capsys)
    assert numbers["spine.width"] == {
        "key": "spine.width",
        "label": "Spine",
        "value": 5.0,
        "unit": "mm",
        "working": "block 4.43 + 2 × cover paper 0.29 = 5.005, rounded to 0.1 mm",
    }
    assert numbers["wrap.width"]["value"] == 451 and numbers["extent.leaves"]["value"] == 24
    assert numbers["paper.text.caliper"]["unit"] == "µm"
    assert main(["numbers", str(job)]) == 0
    assert "printer's own sheet wins" in capsys.readouterr().out


def test_the_demo(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["demo", str(tmp_path / "d"), "--no-window"]) == 0
    job = tmp_path / "d" / "graftwood"
    assert capsys.readouterr().out.splitlines()[0] == str(job / "graftwood.halffold")
    numbers = _numbers(job, capsys)
    assert 4.8 < numbers["spine.width"]["value"] < 5.2  # type: ignore[operator]
    publication = read(job / "graftwood.halffold")
    assert len(publication.pages) == 48 and len(publication.pictures) == 14
    words = [sum(len(p.text.split()) for p in story.paragraphs) for story in publication.stories]
    assert sum(count >= 300 for count in words) >= 7 and max(words) <= 700
    assert all(page.blocks or page.runs for page in publication.pages)


def test_a_story_adds_pages_where_the_binding_allows(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    job = tmp_path / "b"
    assert main(["new", "catalogue", str(job), "--set", "pages=4", "trim=A6"]) == 0
    (tmp_path / "long.txt").write_text(
        "\n\n".join(["The hedge is cut twice and the ditch is cleared once. " * 12] * 60)
    )
    assert main(["place", str(job), "--text", str(tmp_path / "long.txt")]) == 0
    publication = read(job / "b.halffold")
    assert len(publication.pages) > 4 and len(publication.pages) % 4 == 0


@pytest.mark.checked
def test_what_would_stop_the_press_is_said_and_the_file_is_made(
    job: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(["set", str(job), "binding=saddle", "pages=30"]) == 0
    assert main(["press", str(job), str(tmp_path / "x.pdf")]) == 0
    assert "28 or 32" in capsys.readouterr().err and (tmp_path / "x.pdf").exists()


BAD = [
    ["frobnicate"],
    ["frobnicate", "x"],
    ["--verbose"],
    ["new"],
    ["new", "poster", "D"],
    ["new", "magazine", "D", "--set", "trim=0x0"],
    ["new", "magazine", "D", "--set", "pages=-2"],
    ["new", "magazine", "D", "--set", "pages"],
    ["new", "magazine", "FILE/D"],
    ["new", "magazine", "/proc/none/D"],
    ["new", "magazine", "JOB"],
    ["set", "JOB"],
    ["set", "JOB", "trim=huge"],
    ["set", "JOB", "colour=red"],
    ["set", "absent", "pages=4"],
    ["set", "FILE", "pages=4"],
    ["numbers"],
    ["numbers", "absent"],
    ["numbers", "EMPTY"],
    ["place", "JOB"],
    ["place", "JOB", "--text", "absent.md"],
    ["place", "JOB", "--picture", "FILE"],
    ["place", "JOB", "--picture", "absent.jpg"],
    ["place", "JOB", "--text", "BINARY"],
    ["proof", "JOB", "OUT.png"],
    ["proof", "JOB", "OUT.png", "--page", "0"],
    ["proof", "JOB", "OUT.png", "--page", "999"],
    ["proof", "JOB", "OUT.png", "--page", "x"],
    ["proof", "JOB", "OUT.png", "--spread", "0"],
    ["proof", "JOB", "OUT.png", "--page", "1", "--cover"],
    ["proof", "JOB", "OUT.png", "--page", "1", "--dpi", "0"],
    ["proof", "JOB", "no/folder/OUT.png", "--page", "1"],
    ["proof", "JOB", "EMPTY", "--page", "1"],
    ["press", "JOB"],
    ["press", "JOB", "no/folder/OUT.pdf"],
    ["press", "JOB", "FILE/OUT.pdf"],
    ["press", "JOB", "EMPTY"],
    ["press", "JOB", "OUT.pdf", "--part", "spine"],
    ["press", "JOB", "OUT.pdf", "--profile", "FILE"],
    ["press", "JOB", "OUT.pdf", "--as", "scrolls"],
    ["press", "JOB", "OUT.pdf", "--output", "none"],
    ["outputs", "JOB", "OUT"],
    ["demo", "FILE", "--no-window"],
    ["demo", "TAKEN", "--no-window"],
]


def _tree(folder: Path) -> dict[str, bytes]:
    return {
        str(p.relative_to(folder)): p.read_bytes() for p in folder.rglob("*") if p.is_file() and p.suffix != ".lock"
    }


@pytest.mark.parametrize("words", BAD, ids=lambda words: " ".join(words))
def test_bad_input_exits_2_with_one_sentence_and_leaves_nothing(
    words: list[str], tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.chdir(tmp_path)
    assert main(["new", "magazine", "JOB"]) == 0
    Path("FILE").write_text("not a job, not a picture")
    Path("BINARY").write_bytes(bytes(range(256)))
    Path("EMPTY").mkdir()
    Path("TAKEN/graftwood").mkdir(parents=True)
    Path("TAKEN/graftwood/mine.txt").write_text("mine")
    before = _tree(tmp_path)
    folders = {p for p in tmp_path.rglob("*") if p.is_dir()}
    capsys.readouterr()
    assert main(words) == 2
    said = capsys.readouterr()
    assert said.out == "" and said.err.startswith("half-fold: ") and said.err.count("\n") == 1
    assert "Traceback" not in said.err and "usage" not in said.err.lower()
    assert _tree(tmp_path) == before and {p for p in tmp_path.rglob("*") if p.is_dir()} == folders


def test_a_locked_job_may_be_read_but_not_set(job: Path, story_file: Path, capsys: pytest.CaptureFixture[str]) -> None:
    window = open_job(job)
    assert main(["set", str(job), "pages=8"]) == 2
    assert main(["place", str(job), "--text", str(story_file)]) == 2
    assert "another window" in capsys.readouterr().err
    assert main(["numbers", str(job)]) == 0
    window.close()


def test_help_and_a_process_of_its_own(tmp_path: Path) -> None:
    environment = {**os.environ, "PYTHONPATH": ""}
    done = subprocess.run(
        [sys.executable, "-m", "half_fold.cli", "--help"], capture_output=True, text=True, env=environment, check=False
    )
    assert done.returncode == 0 and "half-fold press JOB" in done.stdout
    done = subprocess.run(
        [sys.executable, "-m", "half_fold.cli", "numbers", str(tmp_path)], capture_output=True, text=True, check=False
    )
    assert done.returncode == 2 and done.stderr.count("\n") == 1


def test_a_reader_that_stops_early_gets_no_traceback(job: Path) -> None:
    command = f"{sys.executable} -m half_fold.cli numbers {job} --json | head -c 20"
    done = subprocess.run(["bash", "-c", command], capture_output=True, text=True, check=False)
    assert done.stdout.startswith("[") and done.stderr == ""


@pytest.mark.parametrize("mode", ["CMYK", "L", "1", "P", "LA", "RGBA", "I;16"])
def test_pictures_of_every_mode_are_placed_and_pressed(mode: str, job: Path, tmp_path: Path) -> None:
    from msgspec.structs import replace

    from half_fold.core.publication.places import Stop
    from half_fold.core.publication.records import (
        Block,
        HoldsPicture,
    )

    path = tmp_path / ("p.tif" if mode in ("CMYK", "1") else "p.png")
    Image.new(mode, (60, 40)).save(path)
    assert main(["place", str(job), "--picture", str(path)]) == 0
    opened = open_job(job)
    publication, bleed = opened.publication, Stop(kind="bleed")
    holds = HoldsPicture(picture=publication.pictures[0].id)
    hero = Block(id="hero", place=Held(left=bleed, top=bleed, right=bleed, bottom=bleed), holds=holds)
    opened.save(replace(publication, cover=replace(publication.cover, front=(hero,))))
    opened.close()
    assert main(["press", str(job), str(tmp_path / "c.pdf"), "--part", "cover"]) == 0
    assert main(["proof", str(job), str(tmp_path / "c.png"), "--cover", "--dpi", "20"]) == 0


def test_grids_that_work_out(job: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["grids", str(job), "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    assert found[0]["departure"] <= found[-1]["departure"] and {"even", "golden"} <= {each["name"] for each in found}
    assert all(
        each["lines_per_field"] * each["rows"] + each["row_gap"] * (each["rows"] - 1) == each["lines"] for each in found
    )
    assert main(["grids", str(job)]) == 0
    assert "fields of" in capsys.readouterr().out
    assert main(["grids", str(job), "--master", "nobody"]) == 2
    assert "nobody" in capsys.readouterr().err


def test_texts_go_out_as_markdown(
    job: Path, story_file: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(["place", str(job), "--text", str(story_file)]) == 0
    out = tmp_path / "out.md"
    assert main(["text", str(job), str(out)]) == 0
    written = out.read_text(encoding="utf-8")
    assert "**office**" in written and "- A saw" in written and written.endswith("\n")
    capsys.readouterr()
    assert main(["text", str(job), str(out), "--story", "Nothing of the kind"]) == 2
    assert "The office of fjords" in capsys.readouterr().err and out.read_text(encoding="utf-8") == written


def test_a_story_is_made_to_fit(job: Path, story_file: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["place", str(job), "--text", str(story_file)]) == 0
    capsys.readouterr()
    assert main(["fit", str(job), "--story", "The office of fjords"]) == 0
    said = capsys.readouterr().out
    assert "lines free" in said and "Leading of" in said
    number = next(line.split()[0] for line in said.split("\n") if "Leading of" in line)
    assert main(["fit", str(job), "--take", number]) == 0
    assert "Taken: Leading of" in capsys.readouterr().out
    assert main(["fit", str(job), "--take", "99"]) == 2
    assert main(["fit", str(job), "--story", "x"]) == 2
    assert "no story" in capsys.readouterr().err


def test_a_font_is_placed_or_refused_with_the_reason(
    job: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    font_called("Ellerby Vale", tmp_path / "vale.ttf")
    assert main(["place", str(job), "--font", str(tmp_path / "vale.ttf")]) == 0
    assert "Ellerby Vale Regular" in capsys.readouterr().out and len(list((job / "fonts").iterdir())) == 1
    font_called("Ellerby Vale", tmp_path / "no.ttf", embedding=2)
    assert main(["place", str(job), "--font", str(tmp_path / "no.ttf")]) == 2
    assert "forbid embedding" in capsys.readouterr().err


@pytest.mark.parametrize("ends_in", [0.0, 1.0])
def test_an_end_from_outside_is_not_lost_where_python_drops_it(ends_in: float) -> None:
    """It comes while something is thrown away, where what is raised is only printed; Python may be slow to end."""
    script = (
        f"import time\nclass Slow:\n    def __del__(self, sleep=time.sleep):\n        sleep({ends_in})\nslow = Slow()\n"
        "import os, signal\nfrom half_fold import cli\ncli.AGAIN_S = 0.3\n"
        "signal.signal(signal.SIGTERM, cli._stopped)\n"
        "class Thrown:\n    def __del__(self):\n"
        "        os.kill(os.getpid(), signal.SIGTERM)\n        time.sleep(0.05)\n"
        "Thrown()\nprint('went on', flush=True)\ntime.sleep(20)\n"
    )
    ended = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=False)
    assert ended.returncode == 143 and "went on" in ended.stdout


def _album(tmp_path: Path) -> Path:
    """A photo book with ten unlike pictures."""
    job = tmp_path / "album"
    assert main(["new", "photo-book", str(job), "--set", "pages=16", "binding=boards"]) == 0
    chance = np.random.default_rng(3)
    files = []
    for n in range(10):
        wide, high = ((2400, 1600), (1600, 2400))[n % 3 == 2]
        tones = chance.integers(0, 255, (5, 7, 3), dtype=np.uint8)
        files.append(tmp_path / f"p{n}.jpg")
        Image.fromarray(tones).resize((wide, high), Image.Resampling.BICUBIC).save(files[-1])
    assert main(["place", str(job), "--picture", *map(str, files)]) == 0
    return job


def test_one_file_that_cannot_be_read_keeps_no_other_out(
    tmp_path: Path, story_file: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    job, folder = tmp_path / "job", tmp_path / "photographs"
    assert main(["new", "magazine", str(job)]) == 0
    folder.mkdir()
    for name in ("a.jpg", "c.png"):
        Image.new("RGB", (30, 20), (200 if name == "a.jpg" else 10, 90, 30)).save(folder / name)
    (folder / "b.jpg").write_bytes(b"\xff\xd8\xff\xe0 and no more")
    (tmp_path / "no.svg").write_text("<svg/>")
    (tmp_path / "no.ttf").write_bytes(b"no font")
    capsys.readouterr()
    asked = ["--picture", str(folder), "--symbol", str(tmp_path / "no.svg"), "--font", str(tmp_path / "no.ttf")]
    assert main(["place", str(job), *asked, "--text", str(tmp_path / "gone.md"), str(story_file)]) == 2
    came, said = capsys.readouterr()
    assert "a.jpg: 30 × 20" in came and "c.png" in came and ": page 1" in came
    lines = said.splitlines()
    assert len(lines) == 4 and all(line.startswith("half-fold: ") and line.endswith(".") for line in lines)
    kept = read(job / "job.halffold")
    assert [picture.file for picture in kept.pictures] == ["a.jpg", "c.png"] and len(kept.stories) == 1


def test_pictures_are_arranged_ranked_and_one_is_taken(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    job = _album(tmp_path)
    capsys.readouterr()
    assert main(["arrange", str(job), "2", "p0.jpg", "p1.jpg", "p2.jpg"]) == 0
    said = capsys.readouterr().out
    costs = [float(line.split()[2]) for line in said.splitlines() if "loses" in line.split()[:2]]
    assert len(costs) == 12 and costs == sorted(costs) and "crop" in said
    assert not any(page.things for page in read(job / "album.halffold").pages)
    assert main(["arrange", str(job), "2", "p0.jpg", "p1.jpg", "--take", "2", "--go-on", "to the bleed"]) == 0
    after = read(job / "album.halffold")
    assert sum(len(page.things) for page in after.pages[1:3]) == 2 and after.manner.bleed == 0
    block = after.pages[1].blocks[0].id if after.pages[1].blocks else after.pages[2].blocks[0].id
    assert main(["arrange", str(job), "2", "--pin", f"{block}=place", "--take", "1"]) == 0
    capsys.readouterr()
    for words, why in (
        (["2", "no.jpg"], "no picture"),
        (["2", "--take", "40"], "take one of them"),
        (["90"], "no page"),
        (["2", "--pin", "b1=colour"], "pins nothing"),
        (["2", "p3.jpg", "--go-on", "sideways"], "no way to go on"),
        (["6"], "lies free here"),
    ):
        assert main(["arrange", str(job), *words]) == 2
        assert why in capsys.readouterr().err


def test_a_photo_book_is_drafted_and_said_before(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    job = _album(tmp_path)
    capsys.readouterr()
    assert main(["draft", str(job), "--look", "--pages", "14"]) == 0
    said = capsys.readouterr().out
    assert said.startswith("14 pages: 10 pictures") and not any(p.things for p in read(job / "album.halffold").pages)
    assert main(["draft", str(job), "--pages", "14", "--match", "40", "--frame", "4mm"]) == 0
    assert said.splitlines()[0] == capsys.readouterr().out.strip()
    after = read(job / "album.halffold")
    assert len(after.pages) == 14 and len(used_pictures(after)) == 10
    assert main(["press", str(job), str(tmp_path / "album.pdf")]) == 0
    capsys.readouterr()
    assert main(["draft", str(job)]) == 2 and "no picture" in capsys.readouterr().err
    assert main(["draft", str(job), "--pace", "900"]) == 2 and "pace" in capsys.readouterr().err


def test_a_story_is_laid_over_pages_with_pictures(
    job: Path, tmp_path: Path, story_file: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    Image.new("RGB", (2400, 1600), (90, 120, 60)).save(tmp_path / "gate.jpg")
    assert main(["place", str(job), "--text", str(story_file), "--picture", str(tmp_path / "gate.jpg")]) == 0
    title = read(job / f"{job.name}.halffold").stories[0].title
    capsys.readouterr()
    assert main(["arrange", str(job), "2-5", "--story", title, "gate.jpg"]) == 2
    assert "on pages already" in capsys.readouterr().err
    assert main(["arrange", str(job), "2-5", "--story", "nothing", "gate.jpg"]) == 2
    assert "no story" in capsys.readouterr().err


def test_what_can_be_read_is_told_and_mended(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["demo", str(tmp_path / "d"), "--no-window"]) == 0
    job = tmp_path / "d" / "graftwood"
    assert main(["set", str(job), "block.c5.ink=black"]) == 0
    capsys.readouterr()
    assert main(["legibility", str(job)]) == 0
    assert "cover, outside: “Hard” of c5" in capsys.readouterr().out
    assert main(["legibility", str(job), "--block", "c5"]) == 0
    assert "In paper" in capsys.readouterr().out
    assert main(["legibility", str(job), "--block", "c5", "--take", "1"]) == 0
    capsys.readouterr()
    assert main(["legibility", str(job), "--block", "c5"]) == 0
    assert "Nothing" in capsys.readouterr().out
    assert main(["legibility", str(job), "--block", "none"]) == 2
    assert main(["legibility", str(job), "--page", "99"]) == 2


def test_without_a_screen_a_window_is_refused_in_a_sentence(job: Path) -> None:
    """Qt would end the program by a signal, and leave all of its memory in a file."""
    screens = {"DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"}
    blind = {name: value for name, value in os.environ.items() if name not in screens}
    command = [sys.executable, "-m", "half_fold.cli", str(job)]
    done = subprocess.run(command, env=blind, capture_output=True, text=True, check=False)
    assert done.returncode == 2 and done.stderr.startswith("half-fold: There is no screen")
    assert done.stderr.count("\n") == 1


# Said of what is never one: things chosen together, panels left over, fields beside rows of them; and faults of ours.
SEVERAL = (
    "{len(numbers)} pages",
    "{len(frame.rows)} fields",
    "{len(families())} families",
    "{len(things)} things",
    "{len(row)} blocks",
    "{len(stacks)} panels",
    "{len(pdf.pages)} pages",
    "{len(found.gids)} glyphs",
    "{len(told[array])} entries",
    "{len(files)} jobs",
    "{len(entry)} characters",
    "{len(says)} letters",
    "{candidate.lines} lines",
)


# What is said in millimetres whatever the job's unit: how far eyes see, bars of a standard, and what a file keeps.
IN_MILLIMETRES = {
    "core/apart/sides.py": 2,
    "core/cover/trials/trial.py": 6,
    "core/spread/where/borders.py": 1,
    "core/spread/edits/repeating.py": 1,
    "core/numbers/blocks.py": 1,
}
ROOMS = (
    "core/checks",
    "core/apart",
    "core/cover",
    "core/legibility",
    "core/spread",
    "core/numbers",
    "core/plan",
    "core/arrange",
    "core/pictures",
    "desk",
)


def test_lengths_are_said_in_the_unit_of_the_job() -> None:
    """Findings of a job in inches spoke of millimetres: what is said of lengths goes through ``show``."""
    source = Path(half_fold.__file__).parent
    said = {
        str(path.relative_to(source)): len(found)
        for room in ROOMS
        for path in (source / room).rglob("*.py")
        if (found := re.findall(r"\{[^{}\n]*\} ?mm\b", path.read_text()))
    }
    assert said == IN_MILLIMETRES


def test_a_job_in_inches_is_told_of_inches(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    job = str(tmp_path / "poster")
    assert main(["new", "one-sheet", job, "--set", "trim=8.5inx11in"]) == 0
    assert main(["set", job, "page.1.claim=words Seed fair over 1-6 x 1"]) == 0
    assert main(["set", job, "brief.safe=3in"]) == 2
    assert capsys.readouterr().err == "half-fold: Safe zone of 3 in cannot be; give from 0 in to 1.9685 in.\n"
    assert main(["set", job, "brief.safe=1.5in"]) == 0
    main(["check", job])
    told = capsys.readouterr().out
    assert main(["new", "one-sheet", job + "2", "--set", "trim=8.5inx11in", "unit=mm"]) == 0
    assert main(["get", job + "2", "brief.unit"]) == 0 and "unit=mm" in capsys.readouterr().out
    assert "Text passes the safe zone by" in told and " in at its" in told and " mm" not in told


def test_counts_that_may_be_one_are_said_with_their_noun() -> None:
    """``1 pages`` was said here and there: what may be one is said by ``counted``."""
    source = Path(half_fold.__file__).parent
    said = {
        found.group()
        for path in source.rglob("*.py")
        for found in re.finditer(
            r"\{(?:(?:len|sum)\([^{}\n]*\)|-?[a-z_.]*(?:words|lines|used|room|away))\} [a-z]{3,}s\b", path.read_text()
        )
    }
    assert said == set(SEVERAL)


@pytest.mark.parametrize("name", COMMANDS)
def test_each_command_says_what_it_takes(name: str, capsys: pytest.CaptureFixture[str]) -> None:
    for asked in ([name, "--help"], [name, "somewhere", "-h"]):
        assert main(asked) == 0
        said, told = capsys.readouterr()
        assert not told and said.startswith(f"half-fold {name}") and said.count(f"half-fold {name}") >= 2
        options = [words for action in parser_of(name)._actions for words in action.option_strings]
        assert all(option in said for option in options)
        others = [line for line in said.splitlines() if line.startswith("half-fold ") and line.split()[1] != name]
        assert not others


@pytest.mark.parametrize("most", [560, 720, 800])
def test_want_of_memory_is_said_and_ends_nothing_without_a_word(most: int, demo: Path, tmp_path: Path) -> None:
    """Megabytes of address space: between what is too little to begin with and enough, libraries end a program."""

    def limited() -> None:
        resource.setrlimit(resource.RLIMIT_AS, (most << 20, most << 20))

    command = [sys.executable, "-m", "half_fold.cli", "check", str(demo)]
    done = subprocess.run(
        command, env=os.environ | {"XDG_CACHE_HOME": str(tmp_path)}, capture_output=True, text=True, preexec_fn=limited
    )
    assert done.returncode in (0, 1, 2), done.stderr
    assert done.returncode != 2 or done.stderr.strip().splitlines()[-1].endswith("or do it in parts.")
