"""Every command on a job of every kind, empty and full: a result, or one sentence; never a fault."""

from pathlib import Path

import pytest
from PIL import Image

from half_fold.cli import main
from half_fold.commands.all import COMMANDS
from half_fold.core.plan.starters import KINDS
from half_fold.core.store.job import read

LOOKS: dict[str, tuple[str, ...]] = {
    "get": ("get JOB", "get JOB brief.* --json"),
    "numbers": ("numbers JOB", "numbers JOB --json"),
    "check": ("check JOB", "check JOB --json"),
    "text": ("text JOB OUT.md",),
    "grids": ("grids JOB",),
    "inks": ("inks JOB", "inks JOB --palette all", "inks JOB --palette cover", "inks JOB --give OUT.csv"),
    "trial": ("trial JOB OUT.png", "trial JOB OUT2.png --as shelf"),
    "parts": ("parts JOB",),
    "legibility": ("legibility JOB", "legibility JOB --page 1"),
    "proof": (
        "proof JOB OUT3.png --page 1 --dpi 30",
        "proof JOB OUT4.png --cover --dpi 30",
        "proof JOB OUT5.png --front --dpi 30",
    ),
    "contact": ("contact JOB OUT6.pdf",),
    "template": ("template JOB OUT7.pdf", "template JOB OUT8.svg"),
    "order": ("order JOB OUT9.csv", "order JOB OUT10.xlsx", "order JOB OUT11.pdf"),
    "schedule": ("schedule JOB OUT12.csv", "schedule JOB OUT13.ics"),
    "press": (
        "press JOB OUT14.pdf",
        "press JOB OUT15.pdf --part cover --marks",
        "press JOB OUT16.pdf --as spreads",
        "press JOB OUT17.pdf --part front",
        "press JOB OUT19.pdf --as sheets --marks",
        "press JOB OUT20.pdf --to-read",
    ),
    "gather": ("gather JOB OUT18.zip", "gather JOB OUT30.zip --strict"),
    "prove": ("prove JOB OUT14.pdf", "prove JOB OUT18.zip", "prove JOB OUT14.pdf --output Nothing"),
}
ACTS: dict[str, tuple[str, ...]] = {
    "set": ("set JOB title=Again", "set JOB page.1.claim=panel", "set JOB output.One=marks", "set JOB text.quote=body"),
    "outputs": ("outputs JOB OUT21",),
    "check": ("check JOB --fix all",),
    "fit": ("fit JOB --story TITLE",),
    "fill": ("fill JOB --story TITLE --words 60",),
    "contents": ("contents JOB", "contents JOB"),
    "goods": ("goods JOB", "goods JOB --lay b1"),
    "cut": ("cut JOB --picture a.jpg --box",),
    "focus": ("focus JOB",),
    "mend": ("mend JOB b1 10",),
    "scene": ("scene JOB 1 a.jpg b.jpg",),
    "arrange": ("arrange JOB 1 --page", "arrange JOB 1"),
    "draft": ("draft JOB --look", "draft JOB"),
    "keep": ("keep JOB ours",),
    "place": ("place JOB --picture a.jpg",),
}
ELSEWHERE = {"new", "demo", "completion"}  # make the jobs, or look at none


def _job(kind: str, folder: Path, is_full: bool) -> Path:
    job = folder / "job"
    assert main(["new", kind, str(job), "--set", "title=A small job"]) == 0
    if is_full:
        words = folder / "words.md"
        words.write_text("# Hedges\n\nLaid in the office of winter.\n\nA second paragraph.\n")
        for name, ink in (("a", (90, 40, 30)), ("b", (30, 90, 60))):
            Image.linear_gradient("L").resize((640, 420)).convert("RGB").save(folder / f"{name}.jpg", quality=90)
            Image.blend(Image.open(folder / f"{name}.jpg"), Image.new("RGB", (640, 420), ink), 0.5).save(
                folder / f"{name}.jpg"
            )
        pictures = [str(folder / "a.jpg"), str(folder / "b.jpg")]
        assert main(["place", str(job), "--text", str(words), "--picture", *pictures]) in (0, 2)
    return job


def test_no_command_is_left_out() -> None:
    assert {*LOOKS, *ACTS, *ELSEWHERE} == set(COMMANDS)


@pytest.mark.parametrize(
    ("kind", "is_full"), [*((kind, True) for kind in KINDS), ("magazine", False), ("cover", False)]
)
def test_every_command_on_every_kind(
    kind: str, is_full: bool, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    job = _job(kind, tmp_path, is_full)
    file = job / "job.halffold"
    for is_act, commands in ((False, LOOKS), (True, ACTS)):
        for asked in (each for several in commands.values() for each in several):
            before = file.read_bytes()
            words = [_word(each, job, tmp_path) for each in asked.split()]
            capsys.readouterr()
            ended = main(words)
            said = capsys.readouterr().err
            assert ended in (0, 1, 2), asked
            assert ended != 2 or (said.startswith("half-fold: ") and said.count("\n") == 1), f"{asked}: {said}"
            assert is_act or file.read_bytes() == before, f"{asked} only looks"
            read(file)


def _word(word: str, job: Path, folder: Path) -> str:
    if word == "JOB":
        return str(job)
    if word == "TITLE":
        return "Hedges"
    return str(folder / word) if word.startswith("OUT") or word.endswith(".jpg") else word
