"""Make the demo jobs, and open the first."""

import argparse
import tempfile
from pathlib import Path

USAGE = (("demo [DIR] [--no-window]", "make the demo jobs in DIR (or a new temporary folder) and open the first"),)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    parser.add_argument("folder", type=Path, nargs="?")
    parser.add_argument("--no-window", action="store_true")


def do(asked: argparse.Namespace) -> int:
    from half_fold.core.store.demo import make_demos

    folder = asked.folder or Path(tempfile.mkdtemp(prefix="half-fold-demo-"))
    files = make_demos(folder)
    print(*files, sep="\n", flush=True)
    if asked.no_window:
        return 0
    from half_fold.desk.memory import note_opened

    for file in files[:0:-1]:  # found on the way in, under the first
        note_opened(file)
    from half_fold.desk.application import run

    return run(files[0])
