"""The commands, each a module that is loaded when it is asked for; help and completion follow from them."""

import argparse
import re
import textwrap
from collections.abc import Iterable
from importlib import import_module
from typing import NoReturn, Protocol, cast

from half_fold.core.measure.problem import Problem

# The rooms of the commands, in the order in which help lists them.
ROOMS: dict[str, tuple[str, ...]] = {
    "job": ("demo", "new", "keep", "set", "get", "numbers", "completion"),
    "words": ("place", "text", "fit", "fill", "contents", "legibility"),
    "pages": ("grids", "order", "schedule", "goods", "inks", "check"),
    "pictures": ("cut", "focus", "contact", "mend", "scene", "arrange", "draft"),
    "covers": ("trial", "parts", "template"),
    "printing": ("proof", "press", "outputs", "gather", "prove"),
}
COMMANDS = tuple(name for names in ROOMS.values() for name in names)
LETTERS_OF_USE, LETTERS = 46, 118  # of a line of help: what is typed, and all
HELD = "\N{NO-BREAK SPACE}"  # where a line of help is not broken


class Command(Protocol):
    """A module of a command: its uses as typed, each with what it does; what it is given; and the doing."""

    USAGE: tuple[tuple[str, str], ...]

    def takes(self, parser: argparse.ArgumentParser) -> None:
        """Tell the parser what the command is given behind its name."""

    def do(self, asked: argparse.Namespace) -> int:
        """Do it; gives the exit status. Problem where it cannot be."""


class Parser(argparse.ArgumentParser):
    """Errors are one sentence, never a usage dump."""

    def error(self, message: str) -> NoReturn:
        raise Problem(f"“half-fold {self.prog}”: {message}; “half-fold --help” lists the commands.")


def command_named(name: str) -> Command:
    """The command of that name, which there is."""
    room = next(room for room, names in ROOMS.items() if name in names)
    return cast(Command, import_module(f"half_fold.commands.{room}.{name}"))


def parser_of(name: str) -> Parser:
    """What reads the words behind a command's name."""
    parser = Parser(prog=name, add_help=False)
    command_named(name).takes(parser)
    return parser


def usage() -> str:
    """Every command with its uses."""
    own = (("[JOB]", "open the window"), ("COMMAND --help", "all that a command takes"))
    return _in_columns([*own, *(use for name in COMMANDS for use in command_named(name).USAGE)])


def help_of(name: str) -> str:
    """What a command is for, and all that it takes."""
    parser = parser_of(name)
    parser.prog = f"half-fold {name}"
    takes = " ".join(parser.format_usage().partition(": ")[2].split()).removeprefix("half-fold ")
    return "\n".join([_in_columns(command_named(name).USAGE), "", "takes:", _in_columns([(takes, "")])])


def _in_columns(uses: Iterable[tuple[str, str]]) -> str:
    """What is typed to the left, what it does to the right of it, or under it where it is long."""
    lines = []
    for typed, does in uses:
        whole = re.sub(r"\[[^]]*\]", lambda found: found[0].replace(" ", HELD), f"half-fold {typed}")
        wrapped = textwrap.wrap(whole, LETTERS, subsequent_indent="    ", break_on_hyphens=False)
        first = [line.replace(HELD, " ") for line in wrapped]
        then = textwrap.wrap(does, LETTERS - LETTERS_OF_USE)
        if then and len(first) == 1 and len(first[0]) < LETTERS_OF_USE - 1:
            first = [first[0].ljust(LETTERS_OF_USE) + then.pop(0)]
        lines += [*first, *(" " * LETTERS_OF_USE + words for words in then)]
    return "\n".join(lines)
