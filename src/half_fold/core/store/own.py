"""What the user keeps for all jobs: papers and printers' sheets, in the user's own data folder."""

from collections.abc import Iterable
from pathlib import Path

import msgspec
from platformdirs import user_data_path

from half_fold.core.measure.problem import Problem
from half_fold.core.store.atomic import write_whole


def own_folder() -> Path:
    return user_data_path("half-fold")


def keep_own(path: Path, content: object) -> None:
    """Write records as readable JSON. Problem where the folder or the file cannot be written."""
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise Problem(f"“{path.parent}” cannot be made; check its permissions.") from error
    write_whole(path, msgspec.json.format(msgspec.json.encode(content), indent=1) + b"\n")


def file_name(words: str, instead: str) -> str:
    """Words as a file's name: ``Hedge Laying`` becomes ``hedge-laying``; ``instead`` where nothing is left of them."""
    return "-".join("".join(c if c.isalnum() else " " for c in words.lower()).split()) or instead


def names_apart(names: Iterable[str]) -> list[str]:
    """The names, no two alike: those that another had before are numbered, ``cover``, ``cover-2``."""
    out: list[str] = []
    for name in names:
        count, apart = 1, name
        while apart in out:
            count += 1
            apart = f"{name}-{count}"
        out.append(apart)
    return out
