"""Stocks stated in every way the trade has, against hand-worked figures."""

from pathlib import Path

import pytest

from half_fold.core.brief.bulk import text_caliper
from half_fold.core.brief.dummies import add_dummy, measured
from half_fold.core.brief.papers import find_paper, keep_paper, library, own_papers
from half_fold.core.brief.spine import spine
from half_fold.core.brief.stating import parse_paper
from half_fold.core.brief.stock import caliper, grammage, per_pound, volume
from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.settings import set_value, set_values
from half_fold.core.publication.records import Publication

# What is stated, and by hand: caliper in µm, grammage, volume (None where nothing gives it).
STATED = [
    ("grammage=130,volume=1.42", 184.6, 130, 1.42),
    ("grammage=100,caliper=125um", 125, 100, 1.25),
    ("grammage=100,caliper=125", 125, 100, 1.25),
    ("caliper=12pt", 304.8, None, None),
    ("caliper=0.012in", 304.8, None, None),
    ("caliper=0.1mm", 100, None, None),
    ("ppi=400", 127, None, None),
    ("grammage=80,ppi=400", 127, 80, 1.5875),
    ("ppi=400,volume=1.27", 127, 100, 1.27),
    ("lb=60,category=book,ppi=426", 2 * 25400 / 426, 88.808, 2 * 25400 / 426 / 88.808),
    ("lb=80,category=cover,caliper=10pt", 254, 216.33, 254 / 216.33),
    ("lb=60,category=book", 88.808 * 1.25, 88.808, 1.25),
]


@pytest.mark.parametrize(("stated", "thick", "weight", "bulk"), STATED)
def test_papers_are_stated_in_every_way(
    magazine: Publication, stated: str, thick: float, weight: float | None, bulk: float | None
) -> None:
    paper = parse_paper(magazine, stated)
    assert caliper(paper).value == pytest.approx(thick, rel=1e-4)
    for worked, figure in ((grammage(paper), weight), (volume(paper), bulk)):
        assert (worked is None) == (figure is None)
        if worked is not None:
            assert worked.value == pytest.approx(figure, rel=1e-4)


@pytest.mark.parametrize(
    ("category", "gsm"),
    [
        ("book", 1.4801),
        ("cover", 2.7041),
        ("bond", 3.7597),
        ("index", 1.8080),
        ("tag", 1.6275),
        ("newsprint", 1.6275),
        ("bristol", 2.1928),
    ],
)
def test_basis_weights_by_the_published_factors(category: str, gsm: float) -> None:
    assert per_pound(category) == pytest.approx(gsm, abs=6e-5)


def test_typed_and_derived_are_told_apart(magazine: Publication) -> None:
    paper = parse_paper(magazine, "lb=60,category=book,ppi=426")
    weight, bulk = grammage(paper), volume(paper)
    assert weight is not None and weight.how.startswith("derived: 60 lb book")
    assert bulk is not None and bulk.how.startswith("derived")
    typed = grammage(parse_paper(magazine, "grammage=90,volume=1.2"))
    assert typed is not None and typed.how == "typed"


@pytest.mark.parametrize(
    "stated",
    [
        "grammage=130",
        "grammage=130,volume=1.1,caliper=100",
        "lb=60",
        "lb=60,category=napkin",
        "grammage=0,volume=1",
        "caliper=5m",
        "caliper=-3",
        "grammage=90,volume=12",
        "ppi=1000000",
    ],
)
def test_what_is_no_paper_is_said_in_a_sentence(magazine: Publication, stated: str) -> None:
    with pytest.raises(Problem) as caught:
        parse_paper(magazine, stated)
    assert str(caught.value).endswith((".", ")."))


def test_the_library_spans_the_kinds(magazine: Publication) -> None:
    papers = library()
    assert len(papers) >= 40 and len({p.name for p in papers}) == len(papers)
    volumes = [worked.value for paper in papers if (worked := volume(paper)) is not None]
    assert min(volumes) < 0.8 and max(volumes) >= 2.0
    assert {p.kind for p in papers} == {"text", "cover", "case"}
    assert all(40 < caliper(paper).value < 450 for paper in papers)


def test_own_papers_are_kept_for_other_jobs(
    magazine: Publication, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    assert own_papers() == ()
    keep_paper(parse_paper(magazine, "caliper=98um,name=Barn Door Cream"))
    keep_paper(parse_paper(magazine, "caliper=102um,name=Barn Door Cream"))
    assert [paper.caliper for paper in own_papers()] == [102]
    assert find_paper(magazine, "barn door cream").caliper == 102
    job = set_value(magazine, "paper.text", "Barn Door Cream")
    assert text_caliper(job).value == 102 and job.papers[-1].name == "Barn Door Cream"
    (tmp_path / "half-fold" / "papers.json").write_text("{")
    assert own_papers() == () and text_caliper(job).value == 102


def test_dummies_by_least_squares_through_the_origin(magazine: Publication) -> None:
    """By hand: leaves 24, 48, 96 and 4.5, 8.9, 17.7 mm: sum xy 2234.4, sum xx 12096: 184.7222 µm."""
    job = set_values(magazine, ["pages=48", "paper.text=Marrow Volume 130", "spine.rounding=none"])
    mills = spine(job)
    one = add_dummy(job, "Marrow Volume 130", 48, length("4.5mm"))
    assert mills is not None and spine(one).value == mills.value  # type: ignore[union-attr]
    three = add_dummy(
        add_dummy(one, "Marrow Volume 130", 96, length("8.9mm")), "Marrow Volume 130", 192, length("17.7mm")
    )
    found = measured(three, "marrow volume 130")
    assert found is not None and found.caliper == pytest.approx(2234.4 / 12096 * 1000)
    residuals = [round(residual, 4) for _, residual in found.residuals]
    assert residuals == [0.0667, 0.0333, -0.0333]
    assert (
        text_caliper(three).value == pytest.approx(184.7222, abs=1e-4)
        and "measured on 3 dummies" in text_caliper(three).how
    )
    assert text_caliper(set_value(three, "caliper", "mill")).value == pytest.approx(184.6)


def test_a_dummy_that_cannot_have_been(magazine: Publication) -> None:
    for pages, block in ((1, "4mm"), (48, "0mm"), (48, "4mm*100")):
        with pytest.raises(Problem):
            add_dummy(magazine, "Marrow Silk 90", pages, length(block))
