"""The same core without a window: a command is done, or one sentence says why it is not."""

import atexit
import io
import os
import signal
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import NoReturn

from half_fold.commands.all import COMMANDS, command_named, help_of, parser_of, usage
from half_fold.core.measure.problem import Problem
from half_fold.core.store.files import in_one_line

AGAIN_S = 3.0  # seconds in which all that is to be put away is


def _stopped(_signal: int, _frame: object) -> NoReturn:
    """Ended from outside: unwind, so that nothing half made is left.

    Where that comes while something is being thrown away, Python drops it and goes on: it is said again.
    """
    signal.signal(signal.SIGALRM, _stopped)
    signal.setitimer(signal.ITIMER_REAL, AGAIN_S)
    atexit.register(signal.setitimer, signal.ITIMER_REAL, 0.0)  # once Python ends nothing hears the signal any more
    raise SystemExit(143)


def _window(job: Path | None) -> int:
    from half_fold.desk.application import run

    return run(job)


def _do(words: Sequence[str]) -> int:
    if not words:
        return _window(None)
    first = words[0]
    if first in ("-h", "--help", "help"):
        print(usage())
        return 0
    if first in COMMANDS:
        if "-h" in words[1:] or "--help" in words[1:]:
            print(help_of(first))
            return 0
        return command_named(first).do(parser_of(first).parse_intermixed_args(words[1:]))
    path = Path(first)
    if first.startswith("-") or not path.exists() or len(words) > 1:
        raise Problem(f"“{first}” is neither a command nor a job; the commands are {', '.join(COMMANDS)}.")
    from half_fold.core.store.job import find_file

    return _window(find_file(path))


def _say(sentence: str) -> int:
    """One sentence to standard error; gives the exit status of an error."""
    print(in_one_line(f"half-fold: {sentence}".encode("utf-8", "replace").decode("utf-8")), file=sys.stderr)
    return 2


def main(words: Sequence[str] | None = None) -> int:
    """Do what the command line asks; gives the exit status."""
    signal.signal(signal.SIGTERM, _stopped)
    for stream in (sys.stdout, sys.stderr):  # a terminal that has not all letters is shown what it can
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="replace")
    try:
        return _do(list(sys.argv[1:] if words is None else words))
    except Problem as problem:
        return _say(str(problem))
    except BrokenPipeError:  # the reader, such as head, had enough
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 141
    except MemoryError:
        return _say("The machine has not enough memory for that; close other programs, or do it in parts.")
    except OSError as error:
        named = f"“{error.filename}”: " if error.filename else ""
        return _say(
            f"{named}{(error.strerror or 'refused').lower()}; check that there is room, and that it may be used."
        )
    except KeyboardInterrupt:
        return 130


if __name__ == "__main__":
    sys.exit(main())
