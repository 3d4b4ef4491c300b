"""What is done with pictures from the command line: cut out, pointed at, mended, and laid as a scene."""

import argparse
import sys
from collections.abc import Sequence
from pathlib import Path

from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.store.files import shown
from half_fold.core.store.job import Job


def parser_words(name: str, parser: argparse.ArgumentParser) -> None:
    """What each of them takes behind the job."""
    if name == "cut":
        parser.add_argument("--picture", required=True)
        parser.add_argument("--box", required=True)
        parser.add_argument("--this", nargs="+", action="extend", default=[])
        parser.add_argument("--not", dest="not_this", nargs="+", action="extend", default=[])
        parser.add_argument("--soft", action="store_true")
    elif name == "focus":
        parser.add_argument("picture", nargs="*")
    elif name == "contact":
        parser.add_argument("out", type=Path)
        parser.add_argument("--one-of-each", action="store_true")
    elif name == "mend":
        parser.add_argument("block")
        parser.add_argument("stroke", nargs="+")
        parser.add_argument("--wide", type=float, default=4.0)
    elif name == "arrange":
        parser.add_argument("page")
        parser.add_argument("picture", nargs="*")
        parser.add_argument("--page", dest="alone", action="store_true")
        parser.add_argument("--story", default="")
        parser.add_argument("--go-on", nargs="+", action="extend", default=[])
        parser.add_argument("--pin", nargs="+", action="extend", default=[], metavar="BLOCK=place|size")
        parser.add_argument("--take", type=int, default=0)
    elif name == "draft":
        parser.add_argument("--pages", type=int, default=0)
        for share, usual in (("pace", 50.0), ("bleed", 0.0), ("match", 0.0)):
            parser.add_argument(f"--{share}", type=float, default=usual)
        parser.add_argument("--frame", default="none")
        for flag in ("no-openers", "no-captions", "look"):
            parser.add_argument(f"--{flag}", action="store_true")
    else:
        parser.add_argument("page", type=int)
        parser.add_argument("picture", nargs="+")
        parser.add_argument("--wash", default="")


def writes_pictures(name: str, asked: argparse.Namespace) -> bool:
    """Whether what is asked changes the job."""
    if name == "arrange":
        return asked.take > 0 or bool(asked.story)
    return name != "contact" and (name != "draft" or not asked.look)


def picture_command(name: str, job: Job, asked: argparse.Namespace) -> int:
    """Do what is asked of a job's pictures; gives the exit status."""
    ways = {
        "cut": _cut, "focus": _focus, "contact": _contact, "mend": _mend, "scene": _scene, "arrange": _arrange,
        "draft": _draft,
    }  # fmt: skip
    return ways[name](job, asked)


def _cut(job: Job, asked: argparse.Namespace) -> int:
    """A subject cut out of a picture of the job, as a picture of its own among them."""
    from half_fold.core.pictures.library.cut_command import cut
    from half_fold.saving import save

    told = asked.box, asked.this, asked.not_this, asked.soft
    made, name, words = cut(job.publication, job.pictures, asked.picture, *told)
    save(job, made)
    print(name)
    if words:
        print(words, file=sys.stderr)
    return 0


def _focus(job: Job, asked: argparse.Namespace) -> int:
    """The focus of pictures on their subjects, as far as they can be found; told for each."""
    from half_fold.core.spread.framing.subjects import all_on_subjects
    from half_fold.saving import save

    made, found = all_on_subjects(job.publication, job.pictures, asked.picture)
    if made is not job.publication:
        save(job, made)
    if not found:
        print("No picture is laid that could be moved; nothing has changed.")
    for file, (across, down) in found.items():
        print(f"{file}: {across * 100:.0f} % from the left, {down * 100:.0f} % from the head")
    return 0


def _contact(job: Job, asked: argparse.Namespace) -> int:
    """Contact sheets of the pictures, but for those that are left out."""
    from half_fold.core.pictures.library.stacks import stacks
    from half_fold.core.pictures.library.told import told_of_all
    from half_fold.core.press.contact import write_contact

    pictures = [picture for picture in job.publication.pictures if picture.worth != "left out"]
    if asked.one_of_each:
        pictures = [stack[0] for stack in stacks(pictures, told_of_all(job.pictures, pictures))]
    proved = write_contact(job.publication, job.pictures, asked.out, pictures)
    print(f"{shown(asked.out)}: {proved.sentence}")
    return 0


def _mend(job: Job, asked: argparse.Namespace) -> int:
    """A stray thing painted away from a laid picture, by strokes in per cent of it."""
    from half_fold.core.pictures.library.cut_command import read_stroke
    from half_fold.core.spread.framing.retouching import mended_over
    from half_fold.saving import save

    if not 0.1 <= asked.wide <= 50:
        raise Problem(f"A brush {asked.wide:g} % wide cannot be; give from 0.1 to 50 % of the longer side.")
    strokes = [read_stroke(each) for each in asked.stroke]
    save(job, mended_over(job.publication, job.pictures, asked.block, strokes, asked.wide / 100))
    print(f"{asked.block}: mended")
    return 0


def _pictures(job: Job, files: Sequence[str]) -> list[str]:
    """The ids of pictures by their files. Problem where there is none such."""
    names = []
    for file in files:
        found = next((p for p in job.publication.pictures if file in (p.file, p.id)), None)
        if found is None:
            raise Problem(f"There is no picture “{file}” in this job; bring it in first.")
        names.append(found.id)
    return names


def _pin(words: str) -> tuple[str, str]:
    block, _, what = words.partition("=")
    if what not in ("place", "size"):
        raise Problem(f"“{words}” pins nothing; say BLOCK=place, or BLOCK=size.")
    return block, what


def _arrange(job: Job, asked: argparse.Namespace) -> int:
    """Arrangements of pictures over a spread, or a page alone, the best first; one of them taken."""
    from half_fold.core.arrange.ask import arrangements_on, pins_of, taken
    from half_fold.core.arrange.manner import nudged
    from half_fold.core.arrange.reasons import name_of, worked_cost
    from half_fold.core.plan.page_ranges import page_range
    from half_fold.saving import save

    pages = page_range(asked.page, len(job.publication.pages))
    if asked.story:
        return _feature(job, asked, pages)
    number = pages[0]
    publication = job.publication
    for words in asked.go_on:
        publication = replace(publication, manner=nudged(publication.manner, words))
    pictures = _pictures(job, asked.picture)
    pins = pins_of(publication, number, asked.alone, dict(map(_pin, asked.pin)))
    found = arrangements_on(publication, job.pictures, number, (), pictures, asked.alone, pins)
    if asked.take:
        if asked.take > len(found):
            raise Problem("There is no arrangement of that number; take one of them by its own.")
        save(job, taken(job.publication, found[asked.take - 1])[0])  # its manner stays as it was
        print(name_of(found[asked.take - 1]))
        return 0
    for turn, each in enumerate(found, 1):
        cost = worked_cost(each)
        print(f"{turn:2}  loses {cost.number}  {name_of(each)}")
        for part in cost.parts or (cost,):
            print(f"      {part.name.lower()} {part.number}  {part.how}".rstrip())
    return 0


def _feature(job: Job, asked: argparse.Namespace, pages: Sequence[int]) -> int:
    """A story and pictures over the spreads of some pages."""
    from half_fold.core.arrange.feature import filled
    from half_fold.core.pictures.library.told import told_of_all
    from half_fold.core.publication.surgery import picture_of
    from half_fold.core.spread.setting.compose import Setter
    from half_fold.saving import save

    publication = job.publication
    story = next((s for s in publication.stories if asked.story in (s.title, s.id)), None)
    if story is None:
        raise Problem(f"There is no story “{asked.story}” in this job; bring it in first, or give its title.")
    pictures = _pictures(job, asked.picture)
    told = told_of_all(job.pictures, [picture_of(publication, name) for name in pictures])
    made, words = filled(publication, Setter(), pages, story.id, pictures, told)
    save(job, made)
    print(words)
    return 0


def _draft(job: Job, asked: argparse.Namespace) -> int:
    """A photo book drafted from all pictures that are laid nowhere yet; or only what it would be."""
    from half_fold.core.arrange.draft import Wishes, drafted, matched, planned
    from half_fold.core.arrange.manner import set_manner
    from half_fold.core.measure.number import number_between
    from half_fold.core.pictures.library.told import told_of_all
    from half_fold.saving import save

    pace = number_between(f"{asked.pace:g}", 0, 100, "pace")
    bleed, match = (
        number_between(f"{asked.bleed:g}", -100, 100, "lean"),
        number_between(f"{asked.match:g}", 0, 100, "match"),
    )
    frame = set_manner(job.publication, "frame", asked.frame).manner.frame
    wishes = Wishes(asked.pages, pace, bleed, not asked.no_openers, not asked.no_captions, match, frame)
    told = told_of_all(job.pictures, job.publication.pictures)
    plan = planned(job.publication, told, wishes)
    print(plan.words)
    if asked.look:
        for turn, spread in enumerate(plan.spreads, 1):
            print(f"{turn:3}  {spread.words}: {', '.join(picture.file for picture in spread.pictures)}".rstrip(": "))
        for picture, reason in plan.left_out:
            print(f"left out: {picture.file}, {reason}")
        return 0
    made = drafted(job.publication, told, plan, wishes)
    save(job, matched(made, plan, job.pictures, match) if match else made)
    return 0


def _scene(job: Job, asked: argparse.Namespace) -> int:
    """Pictures side by side over the spread of a page, melting into each other."""
    from half_fold.core.paths.all import page_number
    from half_fold.core.spread.edits.scenes import scene_of
    from half_fold.saving import save

    names = _pictures(job, asked.picture)
    made, scene = scene_of(job.publication, page_number(job.publication, str(asked.page)), names, asked.wash)
    save(job, made)
    print(scene)
    return 0
