"""What is made for the printer from the command line, and what comes back: press, outputs, gather and prove."""

import argparse
import sys
from pathlib import Path
from typing import TYPE_CHECKING

from half_fold.core.measure.problem import Problem
from half_fold.core.store.files import shown

if TYPE_CHECKING:
    from collections.abc import Callable

    from half_fold.core.checks.finding import Finding
    from half_fold.core.publication.records import Output
    from half_fold.core.store.job import Job

WAYS = ("press", "outputs", "gather", "prove")


def parser_words(name: str, parser: argparse.ArgumentParser) -> None:
    """What each of them takes behind the job."""
    parser.add_argument("out", type=Path)
    if name in ("press", "prove"):
        parser.add_argument("--output", default="")
    if name == "press":
        from half_fold.core.publication.records import OUTPUT_FORMS

        parser.add_argument("--part", default="")
        parser.add_argument("--as", dest="form", choices=OUTPUT_FORMS)
        parser.add_argument("--marks", action="store_true")
        parser.add_argument("--to-read", dest="to_read", action="store_true")
        parser.add_argument("--profile", type=Path)
    if name != "prove":
        parser.add_argument("--progress", action="store_true")
        parser.add_argument("--strict", action="store_true")


def press_command(name: str, job: "Job", asked: argparse.Namespace) -> int:
    """Do it; gives the exit status."""
    return {"press": _press, "outputs": _outputs, "gather": _gather, "prove": _prove}[name](job, asked)


def _press(job: "Job", asked: argparse.Namespace) -> int:
    from half_fold.core.checks.run import check
    from half_fold.core.pictures.colour.colour import read_profile
    from half_fold.core.press.outputs import make_output
    from half_fold.core.press.returned import made_of
    from half_fold.core.spread.setting.compose import Setter

    output = _output(job, asked)
    profile = read_profile(asked.profile) if asked.profile else None
    setter = Setter()  # which has the job set for the checks as well
    if asked.strict and _stops(check(job.publication, setter, job.pictures)):
        return 1
    proved = make_output(job.publication, job.pictures, asked.out, output, profile, _teller(asked), setter)
    _record(job, made_of(asked.out, output, proved))
    if not asked.strict:  # which has looked
        _stops(check(job.publication, setter, job.pictures))
    print(f"{shown(asked.out)}: proved: {proved.sentence}")
    return 0


def _output(job: "Job", asked: argparse.Namespace) -> "Output":
    """How it is made: as it was kept, or as is said."""
    from half_fold.core.press.outputs import output_named
    from half_fold.core.press.parts import parts_of
    from half_fold.core.publication.records import Output

    if not asked.output:
        part = asked.part or parts_of(job.publication)[0].key
        return Output(name="", part=part, form=asked.form or "pages", marks=asked.marks, to_read=asked.to_read)
    if asked.part or asked.form or asked.marks or asked.to_read:
        raise Problem("An output says itself how it is made; leave out --part, --as, --marks and --to-read.")
    return output_named(job.publication, asked.output)


def _outputs(job: "Job", asked: argparse.Namespace) -> int:
    from half_fold.core.checks.run import check
    from half_fold.core.press.outputs import make_outputs
    from half_fold.core.press.returned import made_of
    from half_fold.core.spread.setting.compose import Setter

    setter = Setter()
    if asked.strict and _stops(check(job.publication, setter, job.pictures)):
        return 1
    for name, output, proved in make_outputs(job.publication, job.pictures, asked.out, _teller(asked), setter):
        _record(job, made_of(asked.out / name, output, proved))
        print(f"{shown(asked.out / name)}: {output.name}: proved: {proved.sentence}")
    if not asked.strict:  # which has looked
        _stops(check(job.publication, setter, job.pictures))
    return 0


def _gather(job: "Job", asked: argparse.Namespace) -> int:
    from half_fold.core.checks.run import check
    from half_fold.core.press.gather import gather
    from half_fold.core.spread.setting.compose import Setter

    setter = Setter()
    findings = check(job.publication, setter, job.pictures)
    if _stops(findings) and asked.strict:
        return 1
    gathered = gather(job.publication, job.pictures, asked.out, findings, _teller(asked), setter)
    files = [{"file": name, "part": part, "as": "pages", **proved.record} for name, part, proved in gathered.files]
    made = {"file": shown(asked.out), "part": "everything", "as": "pages", "proved": gathered.words}
    _record(job, {**made, "files": files})
    print(f"{shown(asked.out)}: proved: {gathered.words}")
    return 0


def _prove(job: "Job", asked: argparse.Namespace) -> int:
    from half_fold.core.press.returned import returned

    print(f"{shown(asked.out)}: {returned(job, asked.out, asked.output).sentence}")
    return 0


def _teller(asked: argparse.Namespace) -> "Callable[[int, int, str], None] | None":
    """What says on standard output how far the work is, where that is asked for."""
    return (lambda done, count, words: print(f"{done} {count} {words}", flush=True)) if asked.progress else None


def _record(job: "Job", made: dict[str, object]) -> None:
    """Note what was made, and of which state of the job."""
    from half_fold.core.press.returned import state_of

    try:
        job.record_pressed({**made, "state": state_of(job.publication)})
    except Problem as problem:
        print(f"Made, but not recorded: {problem}", file=sys.stderr)


def _stops(findings: "list[Finding]") -> bool:
    """Say what would stop the press, and whether something would."""
    from half_fold.core.checks.finding import would_stop

    stopping = would_stop(findings)
    for finding in stopping:
        print(f"Would stop the press: {finding.where}: {finding.message}. {finding.why}", file=sys.stderr)
    return bool(stopping)
