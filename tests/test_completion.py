"""What shells complete: every command and flag, the choices of a word, and what can be set of a job."""

import os
import subprocess
import sys
from pathlib import Path

import pytest

from half_fold.cli import main
from half_fold.commands.all import COMMANDS, parser_of


def _script(shell: str, capsys: pytest.CaptureFixture[str]) -> str:
    capsys.readouterr()
    assert main(["completion", shell]) == 0
    return capsys.readouterr().out


def _offered(script: str, *words: str) -> list[str]:
    """What bash offers for the last of some words."""
    typed = " ".join(f"'{word}'" for word in words)
    ask = f"COMP_WORDS=({typed}); COMP_CWORD={len(words) - 1}; _half_fold; printf '%s\\n' \"${{COMPREPLY[@]}}\""
    path = os.pathsep.join([str(Path(sys.executable).parent), os.environ["PATH"]])
    done = subprocess.run(
        ["bash", "-c", f"{script}\n{ask}"], capture_output=True, text=True, check=True, env=os.environ | {"PATH": path}
    )
    assert not done.stderr
    return done.stdout.split()


def test_bash_completes_commands_flags_and_choices(capsys: pytest.CaptureFixture[str]) -> None:
    script = _script("bash", capsys)
    assert set(COMMANDS) <= set(_offered(script, "half-fold", ""))
    assert _offered(script, "half-fold", "pro") == ["proof", "prove"]
    for name in COMMANDS:
        flags = {flag for action in parser_of(name)._actions for flag in action.option_strings}
        assert flags == set(_offered(script, "half-fold", name, "-")), name
    assert _offered(script, "half-fold", "press", "job", "out.pdf", "--as", "s") == ["spreads", "sheets"]
    assert _offered(script, "half-fold", "completion", "z") == ["zsh"]


def test_bash_completes_what_can_be_set_of_a_job(job: Path, capsys: pytest.CaptureFixture[str]) -> None:
    script = _script("bash", capsys)
    offered = _offered(script, "half-fold", "set", str(job), "brief.trim")
    assert {"brief.trim", "brief.trim.width", "brief.trim.height"} <= set(offered)


@pytest.mark.parametrize("shell", ["bash", "zsh", "fish"])
def test_every_shell_is_told_of_every_command_and_flag(shell: str, capsys: pytest.CaptureFixture[str]) -> None:
    script = _script(shell, capsys)
    for name in COMMANDS:
        assert name in script
        for action in parser_of(name)._actions:
            for flag in action.option_strings:
                assert (flag.removeprefix("--") if shell == "fish" else flag) in script


def test_an_unknown_shell_is_said(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["completion", "dish"]) == 2
    assert "bash" in capsys.readouterr().err
