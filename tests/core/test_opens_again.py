"""No edit, and nothing that is brought in, makes a job that does not open again: it is taken whole, or refused."""

import os
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import settings as tries
from hypothesis import strategies as st
from msgspec.structs import replace
from PIL import Image

from half_fold.cli import main
from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import set_path
from half_fold.core.paths.all import settings as every_setting
from half_fold.core.pictures.library.bring import copy_in
from half_fold.core.plan.inserts import add_insert
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Paragraph, Publication, Run
from half_fold.core.publication.validity import require_whole
from half_fold.core.spread.edits.placing import add_story
from half_fold.core.store.codec import decode, encode
from half_fold.core.store.job import open_job, read
from half_fold.core.typesetting.texts.titles import LETTERS, cut_title, title_from

ODD = ("x" * 600, "half \ud83c", "0", "-1", "1e9", "99999999", "nan", "inf", "0mm", "900000mm", "\0", "", "é" * 501)


def _job() -> Publication:
    job = add_insert(start("magazine", "Again"), 16, "card")
    job, _ = add_story(job, "Hedges", (Paragraph(role="body", runs=(Run(text="Laid in the office of winter."),)),))
    job = set_path(job, "page.3.claim", "panel over 1-3 x 1-3")
    return set_path(job, "page.4.claim", "words The frost over 1-3 x 1-3")


def _taken(before: Publication, made: Publication) -> bool:
    """Whether an edit is taken, as the desk and the command line ask; what is taken opens."""
    try:
        require_whole(made, before)
    except Problem as problem:
        assert str(problem).endswith(".")
        return False
    assert decode(encode(made), "again.halffold") == made
    return True


JOB = _job()
SETTINGS = list(every_setting(JOB))


def test_whatever_is_typed_at_any_path_opens_again_or_is_refused() -> None:
    kinds: dict[tuple[str, ...], str] = {}
    for each in SETTINGS:  # one path of each kind: page.3.runs stands for page.4.runs
        kinds.setdefault(tuple(step for step in each.path.split(".") if not any(map(str.isdigit, step))), each.path)
    assert len(kinds) > 150
    taken = refused = 0
    for path in kinds.values():
        for typed in ODD[len(path) % 2 :: 2]:  # the other half at other paths
            try:
                made = set_path(JOB, path, typed)
            except Problem:
                refused += 1
                continue
            taken += _taken(JOB, made)
    assert taken > 50 and refused > 500


@tries(max_examples=60, deadline=None)
@given(data=st.data())
def test_some_things_typed_one_after_the_other(data: st.DataObject) -> None:
    job = JOB
    for _ in range(4):
        path = data.draw(st.sampled_from(SETTINGS)).path
        try:
            made = set_path(job, path, data.draw(st.sampled_from(ODD) | st.text(max_size=700)))
        except Problem:
            continue
        job = made if _taken(job, made) else job


def test_what_is_shared_is_not_walked_again_and_what_is_new_is() -> None:
    first, *others = JOB.roles
    with pytest.raises(Problem, match="size of the role"):
        require_whole(replace(JOB, roles=(replace(first, size=length("0pt")), *others)), JOB)
    broken = replace(JOB, roles=(replace(first, label="x" * 501), *others))
    with pytest.raises(Problem, match="501 letters long"):
        require_whole(broken, JOB)
    require_whole(broken, broken)  # what stands is known to be well: a keystroke costs what it changes
    shifted = replace(JOB, roles=(replace(first, label="x" * 501), *JOB.roles))
    with pytest.raises(Problem, match="501 letters long"):
        require_whole(shifted, JOB)


@pytest.mark.parametrize("opening", ["hedge " * 300, "垣" * 700, "é" * 501, "x" * 600, "  \n "])
def test_a_story_called_by_its_first_words_has_a_title_that_lists_can_show(opening: str) -> None:
    paragraphs = (Paragraph(role="body", runs=(Run(text=opening),)),)
    title = title_from(paragraphs)
    assert title and len(title) <= LETTERS
    assert _taken(JOB, add_story(JOB, opening, paragraphs)[0])


def test_a_title_is_cut_after_a_word_and_says_so() -> None:
    assert cut_title("A hedge") == "A hedge"
    assert cut_title("hedge " * 60).endswith("hedge…") and len(cut_title("垣" * 300)) == LETTERS


def test_a_picture_with_a_long_caption_of_its_own_comes_in_whole(tmp_path: Path) -> None:
    told = Image.Exif()
    told[0x010E], told[0x8298] = "The hedge in February. " * 60, "Photograph by nobody. " * 40
    Image.new("RGB", (300, 200), (90, 120, 60)).save(tmp_path / "hedge.jpg", exif=told)
    picture = copy_in((), tmp_path / "pictures", tmp_path / "hedge.jpg")
    assert len(picture.caption) > 1000
    assert _taken(JOB, replace(JOB, pictures=(replace(picture, id="hedge"),)))


@pytest.mark.parametrize("name", [b"caf\xe9.jpg", ("ß" * 125 + ".jpg").encode(), b"a.b.JPEG"])
def test_a_picture_of_any_name_is_brought_in_twice_and_opens(tmp_path: Path, name: bytes) -> None:
    """Names with an octet to a letter, and the longest there may be: a copy needs room for a number as well."""
    main(["new", "magazine", str(tmp_path / "again")])
    for at, grey in enumerate((20, 200)):
        folder = tmp_path / str(at)
        folder.mkdir()
        path = folder / os.fsdecode(name)
        Image.new("RGB", (300, 200), (grey, 90, 60)).save(os.fsencode(path), "JPEG")
        assert main(["place", str(tmp_path / "again"), "--picture", str(path)]) == 0
    files = [picture.file for picture in read(tmp_path / "again" / "again.halffold").pictures]
    assert len(set(files)) == 2 and all((tmp_path / "again" / "pictures" / file).exists() for file in files)
    if name == b"caf\xe9.jpg":
        assert files == ["café.jpg", "café-2.jpg"]


def test_a_job_is_not_written_that_would_not_open(tmp_path: Path) -> None:
    main(["new", "magazine", str(tmp_path / "again")])
    job = open_job(tmp_path / "again")
    before = job.file.read_bytes()
    with pytest.raises(Problem, match="600 letters long; 500 are the most"):
        job.save(replace(job.publication, title="x" * 600))
    assert job.file.read_bytes() == before
    job.close()
