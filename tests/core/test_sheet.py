"""The type sheet: values as typed, roles that inherit, scales on the baseline, fonts of the user's own."""

from pathlib import Path

import pytest
from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.plan.starters import start
from half_fold.core.publication.surgery import role_named
from half_fold.core.store.codec import decode, encode
from half_fold.core.typesetting.faces.faces import face, face_file, face_key
from half_fold.core.typesetting.faces.fonts import bring_font, embedding_fault, join_fonts, missing_fonts, read_font
from half_fold.core.typesetting.lines.roles import features_of, style_of
from half_fold.core.typesetting.sheet.scale import RATIOS, TRADITIONAL, apply_scale, propose, sizes_of
from half_fold.core.typesetting.sheet.sheet import add_role, base_role, give_back, remove_role, set_role, uses_of
from tests.conftest import font_called

JOB = start("book", "Sheet")


def test_a_role_is_as_the_one_it_is_based_on_until_it_says_otherwise() -> None:
    assert role_named(JOB, "list").size.typed == "11pt" and role_named(JOB, "list").align == "left"
    bigger = set_role(JOB, "body", "size", "12")
    assert role_named(bigger, "list").size.typed == "12pt" == role_named(bigger, "quote").size.typed
    own = set_role(bigger, "list", "size", "9pt")
    assert role_named(own, "list").size.typed == "9pt"
    assert role_named(set_role(own, "body", "size", "13pt"), "list").size.typed == "9pt"
    assert role_named(give_back(own, "list", "size"), "list").size.typed == "12pt"
    assert decode(encode(own), "x") == own


def test_new_roles_chains_and_circles() -> None:
    job, name = add_role(JOB, "Side note", "list")
    assert name == "side note" and role_named(job, name).align == "left"
    assert role_named(set_role(job, "body", "family", "IBM Plex Sans"), name).family == "IBM Plex Sans"
    with pytest.raises(Problem, match="itself based on"):
        base_role(job, "body", name)
    with pytest.raises(Problem, match="based on"):
        remove_role(job, "list")
    assert len(remove_role(job, name).roles) == len(JOB.roles)
    with pytest.raises(Problem, match="already"):
        add_role(job, "side NOTE", "body")
    with pytest.raises(Problem, match="not removed"):
        remove_role(JOB, "folio")


def test_basing_a_role_keeps_its_look() -> None:
    before = role_named(JOB, "caption")
    based = base_role(JOB, "caption", "body")
    after = role_named(based, "caption")
    assert replace(after, based_on="", own=()) == before
    freed = base_role(based, "caption", "")
    assert role_named(freed, "caption") == before


@pytest.mark.parametrize(
    ("field", "value", "said"),
    [
        ("size", "0", "from 1 pt to 2000 pt"),
        ("size", "large", "large"),
        ("tint", "140", "from 0 to 100"),
        ("before", "1.5", "whole number"),
        ("ink", "puce", "no ink"),
        ("align", "middle", "no aligned"),
        ("hyphenate", "maybe", "neither yes nor no"),
        ("family", "Nothing Sans", "no family"),
        ("name", "x", "nothing called “name”"),
        ("shadow", "x", "nothing called “shadow”"),
        ("drop_lines", "40", "from 0 to 12"),
    ],
)
def test_what_a_role_cannot_be_is_said(field: str, value: str, said: str) -> None:
    with pytest.raises(Problem, match=said):
        set_role(JOB, "body", field, value)


def test_values_reach_the_style() -> None:
    job = JOB
    for field, value in (
        ("tracking", "15"),
        ("case", "capitals"),
        ("figures", "old style, in columns"),
        ("ligatures", "no"),
        ("word_least", "70 %"),
        ("letter_give", "1.5"),
        ("hyphens_in_row", "1"),
        ("hanging", "yes"),
        ("rule_above", "0.5"),
        ("tab", ""),
    ):
        job = set_role(job, "body", field, value)
    role = role_named(job, "body")
    style = style_of(role, "en_GB")
    assert style.setting.tracking == 0.015 and style.setting.case == "capitals" and style.setting.hanging
    assert features_of(role) == ("onum", "tnum", "-liga")
    assert style.manner.shrink == pytest.approx(0.3) and style.manner.letters == 0.015
    assert style.manner.hyphens_in_row == 1
    assert role.rule_above is not None and role.rule_above.typed == "0.5pt" and role.tab is None
    assert style_of(role, "en_GB") is style


def test_changing_the_family_keeps_a_style_that_is_there() -> None:
    job = set_role(JOB, "quote", "family", "Young Serif")
    assert role_named(job, "quote").style == "Regular"
    assert role_named(set_role(JOB, "body", "style", "SemiBold"), "body").style == "SemiBold"


def test_scales() -> None:
    assert TRADITIONAL[:4] == (6, 7, 8, 9) and 72 in TRADITIONAL and len(RATIOS) == 7
    sizes = sizes_of(1.25, 10)
    assert 10.0 in sizes and 12.5 in sizes and 15.6 in sizes and 8.0 in sizes
    proposals = {p.role: p for p in propose(JOB, 1.25)}
    assert "body" not in proposals and "masthead" not in proposals
    step = role_named(JOB, "body").leading.pt
    for proposal in proposals.values():
        assert proposal.leading >= proposal.size or proposal.size < 11
        halves = proposal.leading / step * 2
        assert halves == pytest.approx(round(halves))
    made = apply_scale(JOB, 1.25)
    assert role_named(made, "headline").size.pt == pytest.approx(proposals["headline"].size)
    assert role_named(made, "body") == role_named(JOB, "body")
    assert all(p.size in TRADITIONAL for p in propose(JOB, 0))
    with pytest.raises(Problem, match="between 1 and 2"):
        propose(JOB, 5)


def test_uses_are_counted_over_stories_blocks_and_cover() -> None:
    assert uses_of(JOB, "headline") == 1  # the cover's title
    assert uses_of(JOB, "body") == 0


def _font(folder: Path, bits: int, family: str = "Ellerby Test") -> Path:
    """A font of another name, with those licence bits."""
    return font_called(family, folder / f"test-{bits}-{family}.ttf".replace(" ", "-"), bits)


def test_a_font_whose_licence_allows_it_is_copied_into_the_job(tmp_path: Path) -> None:
    job_folder = tmp_path / "job"
    job_folder.mkdir()
    file = _font(tmp_path, 0)  # once: a font says when it was made, to the second
    made, font = bring_font(JOB, job_folder, file)
    assert (font.family, font.style) == ("Ellerby Test", "Regular")
    assert (job_folder / "fonts" / font.file).exists()
    role = set_role(made, "body", "family", "Ellerby Test")
    assert style_of(role_named(role, "body"), "en_GB").face.file.parent == job_folder / "fonts"
    assert bring_font(made, job_folder, file) == (made, font)
    assert decode(encode(role), "x") == role
    (job_folder / "fonts" / font.file).unlink()
    assert missing_fonts(made, job_folder) == [font]
    join_fonts(made, job_folder)
    assert face(face_key("Ellerby Test", "Regular")).key == "Ellerby Test/Regular"


@pytest.mark.parametrize(("bits", "said"), [(2, "forbid embedding it"), (0x100, "a part of it"), (0x200, "bitmaps")])
def test_a_font_whose_licence_forbids_it_is_refused(tmp_path: Path, bits: int, said: str) -> None:
    with pytest.raises(Problem, match=said):
        bring_font(JOB, tmp_path, _font(tmp_path, bits))
    assert not (tmp_path / "fonts").exists()
    assert embedding_fault(_font(tmp_path, 8)) == ""


def test_what_is_no_font_is_said(tmp_path: Path) -> None:
    bad = tmp_path / "bad.ttf"
    bad.write_bytes(b"nothing of a font")
    with pytest.raises(Problem, match="no font"):
        read_font(bad)
    with pytest.raises(Problem, match="no font at"):
        read_font(tmp_path / "absent.ttf")
    with pytest.raises(Problem, match="ships with"):
        bring_font(JOB, tmp_path, face_file("Young Serif/Regular"))
