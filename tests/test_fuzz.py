"""A short run of the tools that damage files and play monkey at the window; the long ones are for hand."""

import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]


def _run(*words: str) -> str:
    done = subprocess.run([sys.executable, "-m", *words], cwd=ROOT, capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stdout[-6000:] + done.stderr[-3000:]
    return done.stdout


@pytest.mark.parametrize(
    ("kind", "cases"),
    [
        *(("jobs", 30), ("pictures", 10), ("texts", 20), ("tables", 15)),
        *(("fonts", 12), ("profiles", 6), ("sheets", 40), ("folders", 20), ("kills", 4)),
    ],
)
def test_damaged_files_give_a_result_or_a_sentence(kind: str, cases: int) -> None:
    assert f"{kind}: {cases} cases, 0 wrong" in _run("tools.fuzz", kind, "--seed", "11", "--cases", str(cases))


def test_the_fuzz_can_fail(tmp_path: Path) -> None:
    """A reader that raises what is no sentence is found by it."""
    script = (
        "import half_fold.core.brief.printers as p, tools.fuzz as f, sys\n"
        "def broken(path): raise KeyError('broken')\n"
        "f.read_sheet = broken\n"
        "sys.argv = ['fuzz', 'sheets', '--cases', '2']\n"
        "sys.exit(f.main())"
    )
    done = subprocess.run([sys.executable, "-c", script], cwd=ROOT, capture_output=True, text=True, check=False)
    assert done.returncode == 1 and "KeyError('broken')" in done.stdout and "2 wrong" in done.stdout


def test_a_monkey_at_the_window_breaks_nothing() -> None:
    assert "60 acts, 0 wrong" in _run("tools.monkey", "--seed", "11", "--acts", "60")
