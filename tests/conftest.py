"""Shared fixtures: an offscreen Qt, a small job, the demo, and the outside judges."""

import atexit
import os
import shutil
import subprocess
import tempfile
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import pytest
from fontTools.ttLib import TTFont
from hypothesis import settings

from half_fold.cli import main
from half_fold.commands import making
from half_fold.core.compiled import compiling
from half_fold.core.plan.order import set_extent
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Publication
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.demo import make_demo
from half_fold.core.typesetting.faces.faces import face_file

# How long an example takes says how busy the machine is; what is slow is told in benchmarks.
settings.register_profile("house", deadline=None)
settings.load_profile("house")
# Copies of the tests' pictures are no business of the user's cache.
os.environ["XDG_CACHE_HOME"] = tempfile.mkdtemp(prefix="half-fold-tests-")
atexit.register(shutil.rmtree, os.environ["XDG_CACHE_HOME"], ignore_errors=True)

STORY = """# The office of fjords

The first efficient difficulty: baffled flies *waffle* in the **office**, and the afflicted find it sufficient.

## On hedges

A well-known hedge is cut twice; the third cut is affectation. Nobody who has pruned in February forgets the
particular difficulty of frozen fingers, or the effect of a flask.

- A saw
- A *long* ladder

> A tree forgives one bad cut.
"""


@pytest.fixture(params=["interpreted", "compiled"], scope="module")
def form(request: pytest.FixtureRequest) -> str:
    """Either form of the procedures, for tests that hold both to the same."""
    compiling.forget()
    if request.param == "compiled":
        compiling.load()
    return str(request.param)


@pytest.fixture(autouse=True)
def _own_state(tmp_path_factory: pytest.TempPathFactory, monkeypatch: pytest.MonkeyPatch) -> None:
    """The desk's memory, and what the user keeps for all jobs, are the test's own."""
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path_factory.mktemp("data")))
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path_factory.mktemp("state")))


@pytest.fixture(autouse=True)
def _unlooked(request: pytest.FixtureRequest, monkeypatch: pytest.MonkeyPatch) -> None:
    """What is made is looked through only where a test looks at what is found: each job takes seconds."""
    if request.node.get_closest_marker("checked") is None:
        monkeypatch.setattr(making, "look_through", lambda _job, _setter: [])


@pytest.fixture(autouse=True, scope="session")
def _one_application(qapp: object) -> None:
    """One application for the whole run: a proof made first would else leave one that no window can use."""


@pytest.fixture
def magazine() -> Publication:
    """A new magazine of 32 empty pages."""
    return set_extent(start("magazine", "Test leaf"), 32)


@pytest.fixture(scope="session")
def setter() -> Setter:
    return Setter()


@pytest.fixture(scope="session")
def demo_source(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The demo job's folder, not to be changed."""
    return make_demo(tmp_path_factory.mktemp("demo")).parent


@pytest.fixture
def demo(demo_source: Path, tmp_path: Path) -> Path:
    """A demo job of the test's own."""
    return Path(shutil.copytree(demo_source, tmp_path / "graftwood"))


@pytest.fixture
def story_file(tmp_path: Path) -> Path:
    path = tmp_path / "hedges.md"
    path.write_text(STORY, encoding="utf-8")
    return path


@pytest.fixture
def job(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> Path:
    """A job started on the command line."""
    folder = tmp_path / "leaf"
    assert main(["new", "magazine", str(folder)]) == 0
    capsys.readouterr()
    return folder


def font_called(family: str, path: Path, embedding: int = 0) -> Path:
    """A font that ships, under another name and with those bits of its licence, written to ``path``."""
    font = TTFont(face_file("Young Serif/Regular"))
    font["OS/2"].fsType = embedding
    for record in font["name"].names:
        if record.nameID in (1, 16):
            record.string = family
    font.save(path)
    return path


def judge(*words: str | Path) -> str:
    """What an outside judge prints; the test fails where the judge is missing or finds fault."""
    done = subprocess.run([str(word) for word in words], capture_output=True, text=True, check=False)
    assert done.returncode == 0, f"{words}: {done.stdout}{done.stderr}"
    return done.stdout
