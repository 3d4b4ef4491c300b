"""What the desk remembers between sittings: where its window stood, and the jobs that were open last."""

from pathlib import Path

import msgspec
from msgspec import Struct
from platformdirs import user_state_path

from half_fold.core.measure.problem import Problem
from half_fold.core.store.atomic import write_whole

MOST_RECENT = 8


class Memory(Struct):
    """``geometry`` is Qt's own, in hexadecimal; ``recent`` are job files, the latest first.

    ``folders`` says where each kind of thing was last fetched from; ``folded`` which parts are folded away at each
    station; ``opened`` which headings of the working were opened or folded, by the kind of thing.
    """

    geometry: str = ""
    recent: list[str] = []
    folders: dict[str, str] = {}
    folded: dict[str, list[str]] = {}
    opened: dict[str, dict[str, bool]] = {}


def _file() -> Path:
    return user_state_path("half-fold") / "desk.json"


def recall() -> Memory:
    """What was remembered; nothing where that cannot be read."""
    try:
        return msgspec.json.decode(_file().read_bytes(), type=Memory)
    except (OSError, msgspec.DecodeError, UnicodeDecodeError, RecursionError):
        return Memory()


def remember(memory: Memory) -> None:
    """Keep it; a desk that cannot remember still works."""
    try:
        _file().parent.mkdir(parents=True, exist_ok=True)
        write_whole(_file(), msgspec.json.encode(memory))
    except (OSError, Problem):
        return


def last_folder(what: str) -> str:
    """Where such things were last fetched from; home where that is not known or no longer there."""
    folder = Path(recall().folders.get(what, ""))
    return str(folder) if folder.is_absolute() and _is_there(folder) and folder.is_dir() else str(Path.home())


def note_folder(what: str, folder: Path) -> None:
    """Such things are fetched from there now."""
    memory = recall()
    memory.folders[what] = str(folder.resolve())
    remember(memory)


def note_opened(job: Path) -> None:
    """The job is the latest now."""
    memory = recall()
    name = str(job.resolve())
    memory.recent = [name, *(other for other in memory.recent if other != name)][:MOST_RECENT]
    remember(memory)


def recent_jobs() -> list[Path]:
    """Jobs that were open last and are still there."""
    return [path for path in map(Path, recall().recent[:MOST_RECENT]) if _is_there(path)]


def _is_there(path: Path) -> bool:
    try:
        return path.exists()
    except (OSError, ValueError):
        return False
