"""Nothing that lies in a job's folder is ever run, however a process of ours is started."""

import os
import re
import subprocess
from pathlib import Path

import pytest
from PyQt6.QtCore import QProcess

from half_fold.desk.child import command_line

SOURCE = Path(__file__).parents[2] / "src/half_fold"
TRAP = "from pathlib import Path\nPath({marker!r}).write_text(__name__)\n"
NAMES = ("argparse", "json", "numpy", "sitecustomize", "usercustomize", "pikepdf", "half_fold", "enum")


@pytest.fixture
def trapped(demo: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """A job whose folder holds modules that leave a mark when they are imported; it is the present folder."""
    for name in NAMES:
        (demo / f"{name}.py").write_text(TRAP.format(marker=str(demo / "ran")))
    monkeypatch.chdir(demo)
    monkeypatch.setenv("PYTHONPATH", str(demo))
    monkeypatch.setenv("PYTHONSTARTUP", str(demo / "json.py"))
    return demo


def test_a_child_of_the_window_imports_nothing_from_where_it_is_started(trapped: Path, tmp_path: Path) -> None:
    process = QProcess()
    process.start(*command_line("press", str(trapped), str(tmp_path / "x.pdf"), "--part", "cover"))
    assert process.waitForFinished(60_000) and process.exitCode() == 0
    assert (tmp_path / "x.pdf").exists() and not (trapped / "ran").exists()


def test_the_command_imports_nothing_from_where_it_is_started(trapped: Path, tmp_path: Path) -> None:
    command = Path(command_line()[0]).with_name("half-fold")
    environment = {name: value for name, value in os.environ.items() if not name.startswith("PYTHON")}
    subprocess.run([command, "press", trapped, tmp_path / "x.pdf"], check=True, capture_output=True, env=environment)
    assert not (trapped / "ran").exists()


def test_no_process_is_started_in_another_way() -> None:
    """A child is started by ``desk.child`` or forked: what starts one otherwise has to be tested here first."""
    starts = re.compile(
        r"sys\.executable|subprocess|QProcess\.(?:execute|startDetached)|os\.(?:exec|spawn|system|popen)"
    )
    found = {path.name for path in SOURCE.rglob("*.py") if starts.search(path.read_text(encoding="utf-8"))}
    assert found == {"child.py"}
    started = [
        path.name for path in SOURCE.rglob("*.py") if ".start(*command_line(" in path.read_text(encoding="utf-8")
    ]
    processes = [path.name for path in SOURCE.rglob("*.py") if "QProcess(" in path.read_text(encoding="utf-8")]
    assert started == processes == ["child.py", "press.py"]
