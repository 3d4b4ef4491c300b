"""What a shell needs to complete the words of a command."""

import argparse
from collections.abc import Callable, Iterator

from msgspec import Struct

USAGE = (
    (
        "completion bash|zsh|fish",
        "what has a shell complete the words of a command: for bash, half-fold completion bash > "
        "~/.local/share/bash-completion/completions/half-fold",
    ),
)


class Completed(Struct, frozen=True):
    """A command as a shell completes it: its name, what it does, and its flags, each with what it may be given."""

    name: str
    does: str
    flags: tuple[tuple[str, tuple[str, ...] | None], ...]  # None where nothing follows, empty where anything may
    choices: tuple[str, ...]  # of the first word, where there is a choice

    @property
    def takes_paths(self) -> bool:
        """Whether what can be set of a job follows the job."""
        return self.name in ("set", "get")


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    parser.add_argument("shell", choices=tuple(SHELLS))


def do(asked: argparse.Namespace) -> int:
    """Print the script for that shell."""
    print(SHELLS[asked.shell](list(_commands())))
    return 0


def _commands() -> Iterator[Completed]:
    from half_fold.commands.all import COMMANDS, command_named, parser_of

    for name in COMMANDS:
        actions = parser_of(name)._actions
        flags = [
            (flag, None if action.nargs == 0 else tuple(map(str, action.choices or ())))
            for action in actions
            for flag in action.option_strings
        ]
        first = next((action.choices for action in actions if not action.option_strings), None)
        yield Completed(name, command_named(name).USAGE[0][1], tuple(flags), tuple(map(str, first or ())))


def _bash(commands: list[Completed]) -> str:
    cases = "\n".join(f'        {each.name}) words="{_words(each)}" ;;' for each in commands)
    given = "\n".join(
        f'        "{each.name} {flag}") words="{" ".join(choices)}"; flags="" ;;'
        for each in commands
        for flag, choices in each.flags
        if choices
    )
    paths = "|".join(each.name for each in commands if each.takes_paths)
    return f"""# Words of half-fold for bash.
_half_fold() {{
    local cur=${{COMP_WORDS[COMP_CWORD]}} command=${{COMP_WORDS[1]:-}} words="" flags=yes job
    COMPREPLY=()
    if [ "$COMP_CWORD" -eq 1 ]; then
        COMPREPLY=($(compgen -W "{" ".join(each.name for each in commands)}" -- "$cur") $(compgen -f -- "$cur"))
        return
    fi
    case "$command" in
{cases}
    esac
    case "$command ${{COMP_WORDS[COMP_CWORD-1]}}" in
{given}
    esac
    case "$command" in {paths})
        job=${{COMP_WORDS[2]:-}}
        if [ "$COMP_CWORD" -ge 3 ] && [ -e "$job" ]; then
            words="$words $("${{COMP_WORDS[0]}}" get "$job" 2>/dev/null | cut -d= -f1)"
        fi ;;
    esac
    COMPREPLY=($(compgen -W "$words" -- "$cur"))
    [ -n "$flags" ] && [ "${{cur#-}}" = "$cur" ] && COMPREPLY+=($(compgen -f -- "$cur"))
}}
complete -o filenames -F _half_fold half-fold"""


def _words(each: Completed) -> str:
    return " ".join([*each.choices, *(flag for flag, _ in each.flags)])


def _zsh(commands: list[Completed]) -> str:
    named = "\n".join(f"        {_quoted(f'{each.name}:{each.does}')}" for each in commands)
    cases = []
    for each in commands:
        flags = " ".join(_quoted(_zsh_flag(flag, choices)) for flag, choices in each.flags)
        rest = "'*:path:_half_fold_paths'" if each.takes_paths else "'*:file:_files'"
        first = f"'1:word:({' '.join(each.choices)})'" if each.choices else "'1:file:_files'"
        cases.append(f"        {each.name}) _arguments {' '.join(filter(None, (flags, first, rest)))} ;;")
    ways = "\n".join(cases)
    return f"""#compdef half-fold
_half_fold_paths() {{
    local job=$words[2]
    [[ -e $job ]] && compadd -- ${{${{(f)"$(half-fold get $job 2>/dev/null)"}}%%=*}}
}}
_half_fold() {{
    local -a commands
    commands=(
{named}
    )
    if (( CURRENT == 2 )); then
        _describe command commands
        _files
        return
    fi
    local command=$words[2]
    shift words
    (( CURRENT-- ))
    case $command in
{ways}
    esac
}}
if [ "$funcstack[1]" = _half_fold ]; then _half_fold "$@"; else compdef _half_fold half-fold; fi"""


def _zsh_flag(flag: str, choices: tuple[str, ...] | None) -> str:
    if choices is None:
        return flag
    return f"*{flag}:word:({' '.join(choices)})" if choices else f"*{flag}:word:_files"


def _fish(commands: list[Completed]) -> str:
    lines = ["# Words of half-fold for fish."]
    for each in commands:
        here = f"-n '__fish_seen_subcommand_from {each.name}'"
        lines.append(f"complete -c half-fold -n __fish_use_subcommand -a {each.name} -d {_quoted(each.does)}")
        lines += [f"complete -c half-fold {here} -f -a {_quoted(' '.join(each.choices))}"] if each.choices else []
        for flag, choices in each.flags:
            given = "" if choices is None else f" -x -a {_quoted(' '.join(choices))}" if choices else " -r"
            lines.append(f"complete -c half-fold {here} -l {flag.removeprefix('--')}{given}")
        if each.takes_paths:
            asked = "(half-fold get (commandline -opc)[3] 2>/dev/null | string replace -r '=.*' '')"
            lines.append(f"complete -c half-fold {here} -a {_quoted(asked)}")
    return "\n".join(lines)


def _quoted(words: str) -> str:
    """One word to a shell, whatever is in it."""
    return "'" + words.replace("'", "’") + "'"


SHELLS: dict[str, Callable[[list[Completed]], str]] = {"bash": _bash, "zsh": _zsh, "fish": _fish}
