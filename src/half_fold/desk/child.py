"""How a process of ours is started beside the window."""

import sys

# Python in isolated mode: neither the folder it is started in nor the user's environment can bring code of theirs in.
ISOLATED = "-I"


def command_line(*words: str) -> tuple[str, list[str]]:
    """The program, and what to give it, for a command of Half Fold's own."""
    return sys.executable, [ISOLATED, "-m", "half_fold.cli", *words]
