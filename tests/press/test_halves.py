"""A long file drawn by two processes is the file that one would have drawn; what fails in one is told by the other."""

import subprocess
import sys
from pathlib import Path

import pytest

from half_fold.core.measure.rect import Rect
from half_fold.core.press.pdf.content import Resources
from half_fold.core.press.pdf.halves import LONG, draw_all
from half_fold.core.press.sheets import Sheet

_BOTH = """
import os, sys
from functools import partial
from half_fold.core.plan.starters import start
from half_fold.core.press.pdf import halves
from half_fold.core.press.pdf.content import Resources
from half_fold.core.press.sheets import page_sheet
from half_fold.core.publication.records import Paragraph, Run
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.edits.placing import place_story

setter, before = Setter(), os.getpid()
words = "Difficult office work, 12 baffled flies. " * 120
story = tuple(Paragraph(role="body", runs=(Run(text=words + "é" * (n > 20) + "Ω" * (n % 7)),)) for n in range(30))
job, _ = place_story(start("book", "Halves"), setter, "Halves", story)
makers = [partial(page_sheet, job, setter, n + 1) for n in range(len(job.pages))]
assert len(makers) > 48, len(makers)
parted = []
fork = os.fork
os.fork = lambda: parted.append(1) or fork()
halves.may_part = lambda: True
{meddle}
two_has, one_has = Resources(), Resources()
two = list(halves.draw_all(makers, two_has, False))
halves.may_part = lambda: False
one = list(halves.draw_all(makers, one_has, False))
assert os.getpid() == before and parted == [1], parted
assert two == one and len(one) == len(makers)
for key, font in one_has.fonts.items():
    assert two_has.fonts[key].texts == font.texts, key
print("alike")
"""
_CONFLICT = """
agreed = halves._agreed
def differing(told, resources):
    for font in resources.fonts.values():
        font.texts[font.face.shape("Ω").glyphs[0]] = "another text"
    return agreed(told, resources)
halves._agreed = differing
"""
_CRASH = """
draw = halves.draw_page
halves.draw_page = lambda *given: draw(*given) if os.getpid() == before else 1 / 0
"""


_NO_ROOM = """
def no_room():
    parted.append(1)
    raise BlockingIOError("no room for a process")
os.fork = no_room
"""


@pytest.mark.parametrize("meddle", ["", _CRASH, _NO_ROOM], ids=["both draw", "the second fails", "no second"])
def test_two_processes_draw_what_one_draws(meddle: str) -> None:
    done = subprocess.run([sys.executable, "-c", _BOTH.replace("{meddle}", meddle)], capture_output=True, text=True)
    assert done.stdout == "alike\n" and done.stderr == "", done.stderr


def test_where_the_two_differ_over_a_glyph_the_first_draws_all() -> None:
    code = _BOTH.replace("{meddle}", _CONFLICT).split("assert two == one")[0] + "print(len(two) == len(makers))"
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True)
    assert done.stdout == "True\n" and done.stderr == "", done.stderr


def _sheet(folder: Path, number: int) -> Sheet:
    if number == 20:
        raise ValueError("a sheet that cannot be made")
    trim = Rect(0, 0, 100, 100)
    return Sheet(str(number), trim, trim, (), lambda _: trim)


def test_with_threads_about_one_process_draws_all_and_its_fault_comes_through(tmp_path: Path) -> None:
    from functools import partial
    from threading import Event, Thread

    done = Event()
    thread = Thread(target=done.wait)
    thread.start()
    try:
        drawn = draw_all([partial(_sheet, tmp_path, n) for n in range(LONG + 10)], Resources(), False)
        assert len([next(drawn) for _ in range(20)]) == 20
        with pytest.raises(ValueError, match="cannot be made"):
            next(drawn)
    finally:
        done.set()
        thread.join()


def test_a_run_that_is_broken_off_leaves_no_process_behind() -> None:
    code = (
        _BOTH.split("two_has, one_has")[0].replace("{meddle}", "")
        + "drawn = halves.draw_all(makers, Resources(), False)\n"
        + "for _ in range(12): next(drawn)\n"
        + "drawn.close()\n"
        + "try: os.waitpid(-1, os.WNOHANG)\n"
        + "except ChildProcessError: print('none', parted)\n"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True)
    assert done.stdout == "none [1]\n" and done.stderr == "", done.stderr
