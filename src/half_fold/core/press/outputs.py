"""Outputs: what a job is made into again and again, each kept under a name with how it is made."""

import re
from collections.abc import Iterable
from pathlib import Path
from typing import TYPE_CHECKING

from msgspec.structs import replace

from half_fold.core.measure.number import number_between
from half_fold.core.measure.problem import Problem
from half_fold.core.press.parts import part_named, parts_of
from half_fold.core.press.progress import Progress, progress_of
from half_fold.core.publication.fields import count_of, field_of
from half_fold.core.publication.property import Choices, Property, named
from half_fold.core.publication.ranges import RANGES
from half_fold.core.publication.records import OUTPUT_FORMS, Output, OutputForm, Publication
from half_fold.core.publication.surgery import by_name
from half_fold.core.spread.edits.sets import leave_out_sets
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.atomic import sweep
from half_fold.core.store.files import make_folder, within_octets
from half_fold.core.store.own import file_name, names_apart

if TYPE_CHECKING:
    from half_fold.core.press.proving.prove import Proved

FORM_WORDS: dict[OutputForm, str] = {
    "pages": "pages, one by one",
    "spreads": "spreads, as read",
    "sheets": "sheets, to be folded",
}
NONE_KEPT = "This job keeps no outputs; keep one at the Press station, or state output.NAME=pages."
HALF_A_NAME = 110  # octets of a file's name, of which systems take 255: the job's half, and that of what is made
MARKS, TO_READ, WITHOUT = "marks", "to read", "without "
_AS, _PPI = re.compile(f"as ({'|'.join(OUTPUT_FORMS)})"), re.compile(r"([\d.]+) ?ppi")


def _parts(publication: Publication, _: Output) -> Choices:
    return [(part.key, part.label) for part in parts_of(publication)]


def _part(publication: Publication, _: Output, text: str) -> str:
    """A part by its key or its name, or page numbers."""
    found = next((part.key for part in parts_of(publication) if text in (part.key, part.label)), text)
    return part_named(publication, found).key


def _name(publication: Publication, output: Output, text: str) -> str:
    """A name that no other output has."""
    if text != output.name:
        _require_free(publication, text)
    return text


def _left_out(publication: Publication, _: Output, text: str) -> tuple[str, ...]:
    """The names of sets that there are."""
    names = [each.strip() for each in text.split(",") if each.strip()]
    return tuple(by_name(publication.sets, name, "set").name for name in dict.fromkeys(names))


OUTPUT: tuple[Property[Output], ...] = (
    field_of(Output, "name", "Name", "text", parse=_name),
    field_of(Output, "part", "Part", "choice", choices=_parts, parse=_part, note="or pages, such as 1, 6-9"),
    field_of(Output, "form", "Made as", "choice", choices=tuple(FORM_WORDS.items()), also=("imposed", "spreads")),
    field_of(Output, "marks", "Marks", "flag", note="where it is cut and folded", also=("crop marks",)),
    field_of(
        Output, "to_read", "To be read", "flag", note="on a screen: cut to the trim, its pictures small",
        also=("screen", "proof copy"),
    ),
    Property(
        "without", "Without", "text", lambda output: ", ".join(output.without),
        lambda output, names: replace(output, without=names or ()), none="nothing left out", parse=_left_out,
        note="the sets that are left out, by their names", also=("layers", "leave out", "language"),
    ),
    count_of(Output, "ppi", "Pictures", "as fine as is asked", unit="ppi", note="no finer than that"),
)  # fmt: skip


def _require_free(publication: Publication, name: str) -> None:
    if not name.strip() or "." in name:  # a full stop parts the words of a path
        raise Problem("An output needs a name without a full stop; type another.")
    if any(output.name == name for output in publication.outputs):
        raise Problem(f"There is an output “{name}” already; choose another name.")


def keep_output(publication: Publication, output: Output) -> Publication:
    """The job with one output more. Problem where its name is taken or none, or it has a part that is not there."""
    name = " ".join(output.name.split())
    _require_free(publication, name)
    part = part_named(publication, output.part).key
    return replace(publication, outputs=(*publication.outputs, replace(output, name=name, part=part)))


def drop_output(publication: Publication, name: str) -> Publication:
    """The job without that output; what was made stays where it is. Problem where there is none of that name."""
    gone = output_named(publication, name)
    return replace(publication, outputs=tuple(each for each in publication.outputs if each is not gone))


def output_named(publication: Publication, name: str) -> Output:
    """The output of that name. Problem names those there are."""
    if not publication.outputs:
        raise Problem(NONE_KEPT)
    return by_name(publication.outputs, name, "output")


def set_output(publication: Publication, name: str, key: str, typed: str) -> Publication:
    """One value of an output as typed. Problem where it cannot be."""
    output = output_named(publication, name)
    return _swapped(publication, output, named(OUTPUT, key).set(publication, output, typed))


def _swapped(publication: Publication, old: Output, new: Output) -> Publication:
    return replace(publication, outputs=tuple(new if each is old else each for each in publication.outputs))


def in_effect(publication: Publication, output: Output) -> Output:
    """The same without a name and without what changes nothing: marks of what is read, the form of what has no pages.

    Problem where it has a part that is not there.
    """
    form = output.form if part_named(publication, output.part).has_pages else "pages"
    return replace(output, name="", form=form, marks=output.marks and not output.to_read)


def format_output(output: Output) -> str:
    """How it is made, in words that can be stated: ``cover, marks`` or ``pages, as spreads, to read, 150 ppi``."""
    words = [output.part]
    words += [f"as {output.form}"] if output.form != "pages" else []
    words += [MARKS] if output.marks else []
    words += [TO_READ] if output.to_read else []
    words += [f"{output.ppi} ppi"] if output.ppi else []
    words += [f"{WITHOUT}{name}" for name in output.without]
    return ", ".join(words)


def state_output(publication: Publication, name: str, text: str) -> Publication:
    """An output by its words, in the place of what had its name. Problem as above."""
    there = next((output for output in publication.outputs if output.name == name), None)
    stated = _stated(publication, name, text)
    if there is None:
        return keep_output(publication, stated)
    return _swapped(publication, there, replace(stated, part=part_named(publication, stated.part).key))


def _stated(publication: Publication, name: str, text: str) -> Output:
    output, rest = Output(name=name), []
    for word in (each.strip() for each in text.split(",")):
        if (form := _AS.fullmatch(word)) is not None:
            output = replace(output, form=form[1])
        elif (ppi := _PPI.fullmatch(word)) is not None:
            output = replace(output, ppi=int(number_between(ppi[1], *RANGES[Output]["ppi"], "number of pixels")))
        elif word.startswith(WITHOUT):
            output = replace(output, without=(*output.without, *_left_out(publication, output, word[len(WITHOUT) :])))
        elif word in (MARKS, TO_READ):
            output = replace(output, **{word.replace(" ", "_"): True})
        else:
            rest.append(word)
    return replace(output, part=", ".join(rest) or parts_of(publication)[0].key)


def output_files(publication: Publication) -> list[str]:
    """The name of the file that each output is made into, no two alike."""
    return files_named(publication, [output.name for output in publication.outputs], "output")


def files_named(publication: Publication, names: Iterable[str], instead: str) -> list[str]:
    """A file's name for each of what is made of a job, no two alike; ``instead`` where its name has no letters."""
    title = file_name(" ".join(filter(None, (publication.title, publication.issue))), "job")
    stem = within_octets(title, HALF_A_NAME)
    parts = (within_octets(file_name(each, instead), HALF_A_NAME) for each in names)
    return [f"{name}.pdf" for name in names_apart(f"{stem}-{part}" for part in parts)]


def make_output(
    publication: Publication,
    pictures: Path,
    out: Path,
    output: Output,
    profile: bytes | None = None,
    progress: Progress | None = None,
    setter: Setter | None = None,
) -> "Proved":
    """Write an output to ``out``, as for pressing; Problem as there."""
    from half_fold.core.press.make import press  # and with it what writes PDFs

    publication = leave_out_sets(publication, output.without)
    return press(
        publication, pictures, out, output.part, output.form, output.marks, profile, progress, setter,
        float(output.ppi) or None, output.to_read,
    )  # fmt: skip


def make_outputs(
    publication: Publication,
    pictures: Path,
    folder: Path,
    progress: Progress | None = None,
    setter: Setter | None = None,
) -> "list[tuple[str, Output, Proved]]":
    """Every output that is kept, each a file in ``folder``, which is made; its name there, and what was proved of it.

    Problem where none is kept, or one cannot be made; those before it are there.
    """
    if not publication.outputs:
        raise Problem(NONE_KEPT)
    make_folder(folder)
    sweep(folder)
    setter, made = setter or Setter(), []
    for name, output in zip(output_files(publication), publication.outputs, strict=True):
        tell = progress_of(progress, output.name)
        made.append((name, output, make_output(publication, pictures, folder / name, output, None, tell, setter)))
    return made
