"""Damage files of every kind by a seed, and see that each gives a result or one sentence, in bounded time and memory.

    python -m tools.fuzz KIND [--seed N] [--cases N] [--only N] [--from N]

KIND is jobs, pictures, texts, tables, fonts, profiles, sheets, folders, kills or all. Each case is a function of the
seed and its number, so that one that failed is done again with ``--only``. Exits with 1 where a case ended in anything
else.
"""

import argparse
import contextlib
import io
import json
import os
import random
import resource
import shutil
import signal
import sys
import tempfile
import time
import traceback
import zipfile
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

from msgspec.structs import replace
from PIL import Image
from tests.blocks import block_over
from tests.conftest import font_called
from tests.pictures import GREY_PROFILE, RGB_PROFILE

from half_fold.cli import main as command
from half_fold.core.brief.printers import choose_printer, read_sheet
from half_fold.core.checks.run import check
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.colour.colour import COATED, shipped_profile
from half_fold.core.plan.settings import set_value
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import HoldsPicture
from half_fold.core.publication.surgery import with_page
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.autosave import Autosave
from half_fold.core.store.job import create_job, open_job
from half_fold.core.typesetting.sheet.sheet import set_role

TEXTS = Path(__file__).parents[1] / "tests/data/texts"
LONGEST = 10.0  # seconds a case may take
MOST_MEMORY = 1.5e9  # octets
ODD: tuple[Any, ...] = (
    *(None, True, -1, 0, 1, 7, 10**9, -(10**30), 1e308, 1e-300, 0.1, "", " ", "x", "x" * 5000, "../../etc/passwd"),
    *("/dev/zero", "\0", "\u202eא", "🂡", "-3 mm", "1e9 pt", "12,5,7", [], {}, [[]], [None], "body", "black", "0"),
)


class Failed(Exception):
    """A case ended in neither a result nor a sentence."""


# Damage ------------------------------------------------------------------------------------------------------


def damaged(content: bytes, rng: random.Random) -> bytes:
    """Octets with a few changed, cut, doubled, wiped or put in at places that the seed chooses."""
    made = bytearray(content or b"?")
    for _ in range(rng.choice((1, 1, 2, 3, 8, 30))):
        at, long = rng.randrange(len(made) + 1), rng.choice((1, 2, 4, 16, 300))
        act = rng.randrange(6)
        if act == 0 and at < len(made):
            made[at] = rng.randrange(256)
        elif act == 1 and at < len(made):
            made[at] ^= 1 << rng.randrange(8)
        elif act == 2:
            del made[at : at + long]
        elif act == 3:
            made[at:at] = made[at : at + long]
        elif act == 4:
            made[at : at + long] = rng.choice((b"\0", b"\xff", b"\x7f")) * min(long, len(made) - at)
        elif rng.random() < 0.1:
            del made[at:]
        else:
            made[at:at] = rng.randbytes(long)
    return bytes(made)


def damaged_archive(path: Path, rng: random.Random) -> bytes:
    """An archive as it is but for one of its parts, damaged as octets or as markup."""
    out = io.BytesIO()
    with zipfile.ZipFile(path) as source, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as made:
        names = source.namelist()
        hit = rng.choice([name for name in names if name.endswith(".xml")])
        for name in names:
            content = source.read(name)
            if name == hit:
                content = (damaged if rng.random() < 0.3 else damaged_markup)(content, rng)
            if name != hit or rng.random() > 0.03:
                made.writestr(name, content)
    return out.getvalue()


def damaged_markup(content: bytes, rng: random.Random) -> bytes:
    """Markup that is still well formed as often as not: whole tags and values dropped, doubled and exchanged."""
    parts = content.decode("utf-8", "replace").replace("<", "\n<").split("\n")
    for _ in range(rng.choice((1, 2, 5))):
        if not parts:
            break
        at, act = rng.randrange(len(parts)), rng.randrange(5)
        if act == 0:
            del parts[at]
        elif act == 1:
            parts[at:at] = parts[at : at + rng.choice((1, 3, 9))]
        elif act == 2:
            other = rng.randrange(len(parts))
            parts[at], parts[other] = parts[other], parts[at]
        elif act == 3:
            values = parts[at].split('"')
            if len(values) > 2:
                values[1] = str(rng.choice(ODD)).replace("\0", "")
            parts[at] = '"'.join(values)
        else:
            parts[at] += str(rng.choice(ODD)).replace("\0", "")
    return "".join(parts).encode()


def damaged_table(content: bytes, rng: random.Random, directory: int = 12) -> bytes:
    """A font or profile with one of its tables damaged, found by the directory there; or damaged as octets.

    A font's directory is at 12 and has sixteen octets a table; a profile's is at 132 and has twelve.
    """
    if rng.random() < 0.3:
        return damaged(content, rng)
    is_font = directory == 12
    count = int.from_bytes(content[4:6] if is_font else content[128:132])
    entry = directory + (16 if is_font else 12) * rng.randrange(count)
    at, long = (int.from_bytes(content[entry + n : entry + n + 4]) for n in ((8, 12) if is_font else (4, 8)))
    hurt = damaged(content[at : at + long], rng)[:long].ljust(long, b"\0")
    return content[:at] + hurt + content[at + long :]


def damaged_tree(tree: Any, rng: random.Random) -> Any:
    """A tree of JSON with a few of its values replaced, dropped, doubled or exchanged."""
    for _ in range(rng.choice((1, 1, 1, 2, 4))):
        places = list(_places(tree))
        where, key = rng.choice(places)
        act = rng.randrange(6)
        if act == 0:
            where[key] = rng.choice(ODD)
        elif act == 1:
            del where[key]
        elif act == 2 and isinstance(where, list):
            where.insert(rng.randrange(len(where) + 1), where[key])
        elif act == 3 and isinstance(where[key], int | float):
            where[key] = where[key] * rng.choice((-1, 0, 0.5, 3, 1000)) + rng.choice((0, 1, -0.01))
        elif act == 4 and isinstance(where[key], str):
            where[key] = damaged(where[key].encode(), rng).decode("utf-8", "ignore")
        else:
            other, its = rng.choice(places)
            where[key] = json.loads(json.dumps(other.get(its) if isinstance(other, dict) else _at(other, its)))
    return tree


def _at(values: list[Any], index: int) -> Any:
    return values[index] if index < len(values) else None


def _places(tree: Any) -> Iterator[tuple[Any, Any]]:
    for key in list(tree) if isinstance(tree, dict) else range(len(tree)):
        yield tree, key
        if isinstance(tree[key], dict | list):
            yield from _places(tree[key])


# What is damaged ---------------------------------------------------------------------------------------------


class Bench:
    """A folder with a whole job in it, and sound files of every kind to damage."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.sound = folder / "sound"
        self.sound.mkdir()
        with quiet():
            self._pictures()
            self._job()
        self.document = self.sound / "job/job.halffold"
        if not self.document.exists():
            self.document = next((self.sound / "job").glob("*.halffold"))

    def _pictures(self) -> None:
        ramp = Image.linear_gradient("L").resize((120, 80))
        colour = Image.merge("RGB", (ramp, ramp.rotate(180), ramp))
        folder = self.sound / "pictures"
        folder.mkdir()
        colour.save(folder / "colour.jpg", icc_profile=RGB_PROFILE)
        colour.convert("CMYK").save(folder / "inks.jpg")
        ramp.save(folder / "grey.jpg", icc_profile=GREY_PROFILE, progressive=True)
        colour.quantize(16).save(folder / "palette.png", transparency=3)
        ramp.convert("1").save(folder / "line.png")
        colour.convert("RGBA").save(folder / "clear.png", icc_profile=RGB_PROFILE)
        colour.save(folder / "colour.webp", lossless=True)
        for scheme in ("raw", "tiff_lzw", "tiff_deflate", "packbits", "group4", "jpeg"):
            (ramp.convert("1") if scheme == "group4" else colour).save(folder / f"{scheme}.tif", compression=scheme)
        colour.convert("CMYK").save(folder / "inks.tif")
        ramp.convert("I;16").save(folder / "deep.png")

    def _job(self) -> None:
        """Twelve pages with text, a headline, pictures and a font of the job's own, bound as a book."""
        job = self.sound / "job"
        assert command(["new", "magazine", str(job), "--set", "pages=12"]) == 0
        text = next(TEXTS.glob("letters-1.docx"))
        pictures = [self.sound / "pictures/colour.jpg", self.sound / "pictures/clear.png"]
        words = ["place", str(job), "--text", str(text), "--font", str(font_called("Hedge", self.sound / "hedge.ttf"))]
        assert command([*words, *(word for each in pictures for word in ("--picture", str(each)))]) == 0
        opened = open_job(job)
        publication = opened.publication
        for page, picture in zip(publication.pages[-2:], publication.pictures, strict=True):
            laid = block_over(f"laid {page.id}", HoldsPicture(picture=picture.id))
            publication = with_page(publication, replace(page, things=(*page.blocks, laid)))
        opened.save(set_role(publication, "body", "family", "Hedge"))
        opened.close()

    def fresh(self) -> Path:
        """A job of the case's own."""
        job = self.folder / "job"
        shutil.rmtree(job, ignore_errors=True)
        return Path(shutil.copytree(self.sound / "job", job))


def case_of_jobs(bench: Bench, rng: random.Random) -> None:
    job = bench.fresh()
    document = job / bench.document.name
    content = document.read_bytes()
    if rng.random() < 0.25:
        document.write_bytes(damaged(content, rng))
    else:
        document.write_text(json.dumps(damaged_tree(json.loads(content), rng)), encoding="utf-8")
    if do("check", job) != 2:
        do("numbers", job)
        do("press", job, bench.folder / "out.pdf", *rng.choice(((), ("--part", "cover"), ("--as", "spreads"))))
        do("template", job, bench.folder / "out.svg")


def case_of_pictures(bench: Bench, rng: random.Random) -> None:
    path = rng.choice(sorted((bench.sound / "pictures").iterdir()))
    job = bench.fresh()
    hurt = bench.folder / f"hurt{path.suffix}"
    hurt.write_bytes(damaged(path.read_bytes(), rng))
    do("place", job, "--picture", hurt)
    laid = rng.choice(sorted((job / "pictures").iterdir()))
    laid.write_bytes(hurt.read_bytes())
    do("check", job)
    do("press", job, bench.folder / "out.pdf", "--part", "pages")


def case_of_texts(bench: Bench, rng: random.Random) -> None:
    path = rng.choice([p for p in sorted(TEXTS.rglob("*")) if p.suffix in (".docx", ".odt", ".md", ".txt")])
    hurt = bench.folder / f"hurt{path.suffix}"
    whole = path.suffix in (".md", ".txt") or rng.random() < 0.2
    hurt.write_bytes(damaged(path.read_bytes(), rng) if whole else damaged_archive(path, rng))
    job = bench.fresh()
    if do("place", job, "--text", hurt) == 0:
        do("check", job)


def case_of_tables(bench: Bench, rng: random.Random) -> None:
    job = bench.fresh()
    hurt = bench.folder / rng.choice(("hurt.csv", "hurt.xlsx"))
    hurt.unlink(missing_ok=True)  # a damaged one is no running order any more, and is not written over
    do("order", job, hurt)
    in_parts = hurt.suffix == ".xlsx" and rng.random() < 0.8
    hurt.write_bytes(damaged_archive(hurt, rng) if in_parts else damaged(hurt.read_bytes(), rng))
    if do("order", job, "--read", hurt) == 0:
        do("check", job)
    if do("goods", job, hurt) == 0:
        do("set", job, "page.2.claim=words {page} {what runs} over 1-2 x 1")
        do("goods", job, "--lay", "b1", "--as", "fill x fill, 2mm")
        do("check", job)


def case_of_fonts(bench: Bench, rng: random.Random) -> None:
    hurt = bench.folder / "hurt.ttf"
    hurt.write_bytes(damaged_table((bench.sound / "hedge.ttf").read_bytes(), rng))
    job = bench.fresh()
    do("place", job, "--font", hurt)
    if rng.random() < 0.7:
        next((job / "fonts").iterdir()).write_bytes(hurt.read_bytes())
    do("check", job)
    do("press", job, bench.folder / "out.pdf", "--part", "pages")


def case_of_profiles(bench: Bench, rng: random.Random) -> None:
    hurt = bench.folder / "hurt.icc"
    hurt.write_bytes(damaged_table(shipped_profile(COATED), rng, 132))
    job = bench.fresh()
    do("press", job, bench.folder / "out.pdf", "--part", "cover", "--profile", hurt)
    path = rng.choice(sorted((job / "pictures").iterdir()))
    profile = damaged_table(RGB_PROFILE, rng, 132)
    Image.open(path).save(path, icc_profile=profile)
    do("check", job)
    do("press", job, bench.folder / "out.pdf", "--part", "pages")


def case_of_sheets(bench: Bench, rng: random.Random) -> None:
    from importlib.resources import files

    name = rng.choice(("city-litho", "short-run", "on-demand"))
    content = files("half_fold.data").joinpath(f"printers/{name}.json").read_bytes()
    hurt = bench.folder / "hurt.printer.json"
    if rng.random() < 0.2:
        hurt.write_bytes(damaged(content, rng))
    else:
        hurt.write_text(json.dumps(damaged_tree(json.loads(content), rng)), encoding="utf-8")
    job = open_job(bench.fresh())
    try:
        made = choose_printer(job.publication, read_sheet(hurt))
        check(made, Setter(), job.folder)
    except Problem:
        return
    finally:
        job.close()


def case_of_folders(bench: Bench, rng: random.Random) -> None:
    """A job of an odd name, among hidden files of the user's own and links out of it: what is not the job's stays."""
    outside = bench.folder / "outside"
    shutil.rmtree(outside, ignore_errors=True)
    shutil.copytree(bench.sound / "job", outside)
    shutil.copy(bench.sound / "pictures/grey.jpg", outside / "grey.jpg")
    job = _oddly_named(bench, rng)
    planted = [place / name for place in _own_folders(job) for name in rng.sample(HIDDEN, 2)]
    for each in planted:
        each.write_text(f"mine, {each.name}", encoding="utf-8")
    for _ in range(rng.choice((0, 1, 1, 2))):
        _link_out(job, outside, rng)
    before = _octets_under(outside)
    for _ in range(rng.choice((1, 2, 3))):
        do(
            *(
                str(word).replace("JOB", str(job)).replace("OUT", str(bench.folder / "out"))
                for word in rng.choice(COMMANDS)
            )
        )
    if _octets_under(outside) != before:
        raise Failed("what lies outside of the job was written or taken away")
    for each in planted:
        if each.parent.is_symlink():
            continue
        if not each.exists() or each.read_text(encoding="utf-8") != f"mine, {each.name}":
            raise Failed(f"a file of the user's own was written or taken away: {each}")


NAMES = (".hid", "-x", "a b", "עץ", "x" * 120, "n\nl", "pictures", "job.", "CON", "half-fold", "é\u0301", "%s{}")
HIDDEN = (".notes.original", ".plan.markdown", ".x.part", "half.unfinished", ".half-fold-keep", "~lock", ".half-fold-x")
OWN_FOLDERS = ("pictures", "fonts", "masks", "versions", "press")
COMMANDS: tuple[tuple[str, ...], ...] = (
    *(("set", "JOB", "title=A leaf"), ("set", "JOB", "pages=16"), ("check", "JOB"), ("check", "JOB", "--fix", "all")),
    ("place", "JOB", "--picture", str(TEXTS.parents[2] / "docs/screenshots/brief.png")),
    ("place", "JOB", "--text", str(TEXTS / "plain-1.docx")),
    *(("keep", "JOB", "a kind"), ("keep", "JOB", "a kind", "--drop"), ("new", "--from", "JOB", "OUT/next")),
    *(("press", "JOB", "OUT.pdf", "--part", "cover"), ("outputs", "JOB", "OUT"), ("gather", "JOB", "OUT.zip")),
    *(("contact", "JOB", "OUT.pdf"), ("focus", "JOB"), ("order", "JOB", "OUT.csv"), ("text", "JOB", "OUT.md")),
)


def _oddly_named(bench: Bench, rng: random.Random) -> Path:
    """A fresh job, its folder and its document under another name."""
    fresh, name = bench.fresh(), rng.choice(NAMES)
    place = bench.folder / "odd"
    shutil.rmtree(place, ignore_errors=True)
    place.mkdir()
    job = fresh.rename(place / name)
    (job / bench.document.name).rename(job / f"{name}{bench.document.suffix}")
    return job


def _own_folders(job: Path) -> list[Path]:
    return [job, *(job / name for name in OWN_FOLDERS if (job / name).is_dir())]


def _link_out(job: Path, outside: Path, rng: random.Random) -> None:
    """A folder of the job, or a file in one, that is a link to elsewhere."""
    place = job / rng.choice(OWN_FOLDERS)
    if rng.random() < 0.6:
        if place.is_dir() and not place.is_symlink():
            shutil.rmtree(place)
        place.unlink(missing_ok=True)
        place.symlink_to(rng.choice((outside / place.name, outside, job, outside / "nowhere")))
    elif place.is_dir() and not place.is_symlink():
        laid = rng.choice([*(each for each in place.iterdir() if each.name not in HIDDEN), place / "another.jpg"])
        laid.unlink(missing_ok=True)
        laid.symlink_to(rng.choice((outside / "grey.jpg", outside / "nothing", laid, Path("/dev/zero"))))


def _octets_under(folder: Path) -> dict[str, bytes]:
    """Every file there, by its name."""
    return {str(path.relative_to(folder)): path.read_bytes() for path in sorted(folder.rglob("*")) if path.is_file()}


def case_of_kills(bench: Bench, rng: random.Random) -> None:
    """A process that edits and saves without pause is killed: what it was told is kept stands, whole."""
    shutil.rmtree(bench.folder / "job", ignore_errors=True)
    file = create_job(bench.folder / "job", start("magazine", "0"))
    reading, writing = os.pipe()
    child = os.fork()
    if not child:
        _edit_without_pause(file, writing)
    os.close(writing)
    time.sleep(0.05 + rng.random() * 0.4)
    os.kill(child, signal.SIGKILL)
    os.waitpid(child, 0)
    with os.fdopen(reading, "rb") as told:
        saved = [int(line) for line in told.read().split(b"\n")[:-1]]
    job = open_job(file.parent)
    try:
        kept = int(job.publication.title)
    finally:
        job.close()
    if kept < (saved[-1] if saved else 0):
        raise Failed(f"step {saved[-1]} was saved, and {kept} stands")
    if left := [path.name for path in file.parent.rglob("*.part*")]:
        raise Failed(f"left behind: {left}")


def _edit_without_pause(file: Path, telling: int) -> None:
    job = open_job(file.parent)
    saver = Autosave(job, lambda _sentence: None)
    publication = job.publication
    for step in range(1, 10**6):
        publication = set_value(publication, "title", str(step))
        saver.offer(publication)
        if step % 7 == 0 and saver.flush():
            os.write(telling, b"%d\n" % step)


CASES: dict[str, Callable[[Bench, random.Random], None]] = {
    "jobs": case_of_jobs,
    "pictures": case_of_pictures,
    "texts": case_of_texts,
    "tables": case_of_tables,
    "fonts": case_of_fonts,
    "profiles": case_of_profiles,
    "sheets": case_of_sheets,
    "folders": case_of_folders,
    "kills": case_of_kills,
}


# Doing -------------------------------------------------------------------------------------------------------


@contextlib.contextmanager
def quiet() -> Iterator[tuple[io.StringIO, io.StringIO]]:
    out, errors = io.StringIO(), io.StringIO()
    with contextlib.redirect_stdout(out), contextlib.redirect_stderr(errors):
        yield out, errors


def do(*words: str | Path) -> int:
    """A command of the line; Failed where it gives no result and no one sentence."""
    with quiet() as (_, errors):
        status = command([str(word) for word in words])
    said = errors.getvalue().strip()
    if status not in (0, 1, 2) or "Traceback" in said:
        raise Failed(f"{words[0]} gave {status}: {said}")
    if status == 2 and not said.splitlines()[-1].rstrip().endswith((".", "”", ")")):
        raise Failed(f"{words[0]} said no sentence: {said!r}")
    return status


def run(kind: str, seed: int, numbers: range) -> list[str]:
    """Those cases in a process of their own; what went wrong, by number. A process that dies takes one case with it."""
    wrong: list[str] = []
    with tempfile.TemporaryDirectory(prefix="half-fold-fuzz-") as name:
        os.environ["XDG_DATA_HOME"] = f"{name}/own"  # kinds that are kept are not the user's
        bench = Bench(Path(name))
        at = numbers.start
        while at < numbers.stop:
            told, telling = os.pipe()
            child = os.fork()
            if not child:
                os.close(told)
                _work(kind, seed, range(at, numbers.stop), bench, telling)
            os.close(telling)
            with os.fdopen(told, "r", encoding="utf-8") as lines:
                for line in lines:
                    number, _, fault = line.rstrip("\n").partition("\t")
                    at = int(number) + 1
                    if fault:
                        wrong.append(f"{kind} {number}: {json.loads(fault)}")
                        print(wrong[-1], flush=True)
            _, status = os.waitpid(child, 0)
            if status:
                wrong.append(f"{kind} {at}: the process ended with {os.waitstatus_to_exitcode(status)}")
                print(wrong[-1], flush=True)
                at += 1
    return wrong


def _work(kind: str, seed: int, numbers: range, bench: Bench, telling: int) -> None:
    """The child's part: never comes back."""
    signal.signal(signal.SIGALRM, _too_long)
    for number in numbers:
        begun, fault = time.monotonic(), ""
        signal.alarm(int(LONGEST * 6))
        try:
            CASES[kind](bench, random.Random(f"{seed} {kind} {number}"))
        except BaseException as error:
            fault = f"{error!r}\n{''.join(traceback.format_exception(error)[-6:])}"
        signal.alarm(0)
        taken, memory = time.monotonic() - begun, resource.getrusage(resource.RUSAGE_SELF).ru_maxrss * 1024
        if not fault and taken > LONGEST:
            fault = f"took {taken:.1f} s"
        if not fault and memory > MOST_MEMORY:
            fault = f"took {memory / 1e9:.1f} GB"
        os.write(telling, f"{number}\t{json.dumps(fault) if fault else ''}\n".encode())
        if memory > MOST_MEMORY:
            break
    os._exit(0)


def _too_long(_signal: int, _frame: object) -> None:
    raise Failed("hung")


def main() -> int:
    asked = argparse.ArgumentParser(description=__doc__.splitlines()[0])
    asked.add_argument("kind", choices=[*CASES, "all"])
    asked.add_argument("--seed", type=int, default=1)
    asked.add_argument("--cases", type=int, default=100)
    asked.add_argument("--from", type=int, default=0, dest="first")
    asked.add_argument("--only", type=int)
    told = asked.parse_args()
    numbers = range(told.first, told.first + told.cases) if told.only is None else range(told.only, told.only + 1)
    wrong = 0
    for kind in CASES if told.kind == "all" else (told.kind,):
        begun = time.monotonic()
        faults = len(run(kind, told.seed, numbers))
        print(f"{kind}: {len(numbers)} cases, {faults} wrong, {time.monotonic() - begun:.0f} s", flush=True)
        wrong += faults
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
