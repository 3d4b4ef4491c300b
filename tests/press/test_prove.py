"""The press proves its own file: whatever is broken on the way into it is found, said, and no file is left."""

import re
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

import numpy as np
import pikepdf
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.cli import main
from half_fold.core.drawing.affine import Affine, turned
from half_fold.core.drawing.marks import (
    Glyphs,
    Line,
    Mark,
    MarkGroup,
    PictureMark,
    Shape,
    Stroke,
    Veil,
    from_block,
)
from half_fold.core.drawing.marks import Path as Drawn
from half_fold.core.drawing.outline import ellipse
from half_fold.core.drawing.tone import BLACK, REGISTRATION, Gradient, GradientStop, Spot, Tone
from half_fold.core.measure.rect import Rect
from half_fold.core.press import make
from half_fold.core.press.pdf import content, fonts, images, leaves, shown
from half_fold.core.press.pdf.composed import EDGE, PATH, RULE, Composed, composed, hashed
from half_fold.core.press.pdf.content import Content, Resources, resource_name
from half_fold.core.press.pdf.paints import shading, spot_name
from half_fold.core.press.pdf.text_groups import TextGroup, grouped
from half_fold.core.press.proving import prove
from half_fold.core.press.proving.prove import Unproved, hold_page
from half_fold.core.press.proving.read_back import ContentReader, ReadFont, ReadFonts, Unreadable
from half_fold.core.store.job import open_job
from half_fold.core.typesetting.faces.faces import face

MEDIA = Rect(-100, -10, 200, 390)
FACE = "EB Garamond/Regular"


def _run(text: str, baseline: float = 50.0, colour: Tone = BLACK, turn: Affine | None = None) -> Glyphs:
    shaped = face(FACE).shape(text)
    xs = 12.5 + 10 * np.concatenate([[0.0], np.cumsum(shaped.advances)[:-1]])
    return Glyphs(FACE, 10.0, shaped.gids, xs, baseline, colour, shaped.texts, from_block("b1"), turn)


PLUM = Tone(s=1.0, spot=Spot("Ellerby plum", 0.4, 0.9, 0.1, 0.1))
FADE = Gradient("linear", Affine(60, 0, 0, 60, 0, 285), (GradientStop(0.0, PLUM), GradientStop(1.0, Tone(y=0.4))))
MARKS = (
    Shape(Rect(0, 0, 100, 50), Tone(c=0.3), BLACK, 2.0),
    _run("Difficult (hedges) [cut] and # flasks"),
    _run("оф глыбы \\ σοφία", 80.0, Tone(m=1.0, y=0.8)),
    PictureMark("p1", Rect(-20, 100, 60, 140), Rect(0, 105, 50, 135)),
    Line((0, 0), (10, 90), Tone(k=0.5), 0.5),
    Line((5, 0), (5, 9), REGISTRATION, 0.25),
    _run("turned words", 200.0, turn=turned((12.5, 200.0), 90.0)),
    Shape(Rect(0, 220, 60, 250), PLUM, Tone(s=0.4, spot=PLUM.spot), 2.0),
    _run("a plum", 260.0, PLUM),
    Drawn(ellipse(Rect(0, 270, 60, 300)), FADE, Stroke(PLUM, 1.5, (4.0, 2.0))),
    _run("faded", 320.0, FADE),
    Veil(np.arange(48, dtype=np.uint8).reshape(6, 8), Rect(0, 330, 60, 360), PLUM),
    PictureMark(
        "p1", Rect(0, 360, 40, 380), Rect(0, 360, 40, 380), from_block("b"), None, ellipse(Rect(0, 360, 40, 380))
    ),
)


def _written() -> tuple[bytes, ReadFonts, Resources]:
    resources = _resources()
    page = Content(MEDIA, resources)
    page.draw(MARKS, lambda _: MEDIA)
    read = {resource_name("F", key): ReadFont(font.advances, dict(font.texts)) for key, font in resources.fonts.items()}
    return page.bytes(), ReadFonts(read), resources


def _told(octets: bytes = b"", groups: Sequence[TextGroup | Mark] | None = None) -> Composed:
    groups = list(grouped(MARKS)) if groups is None else groups
    return composed(MARKS, groups, lambda _: MEDIA, MEDIA, octets, _named, "page 1")


def _named(mark: PictureMark | MarkGroup, clip: Rect) -> tuple[str, PictureMark | MarkGroup]:
    assert isinstance(mark, PictureMark)
    part, laid = _resources().part(mark, clip)
    return resource_name("P", part.key), laid


def _resources() -> Resources:
    return Resources(sizes={"p1": (800, 400)})


def test_a_reader_finds_every_kind_of_mark_as_it_was_composed(form: str) -> None:
    octets, read, _ = _written()
    found = ContentReader().read(octets, read)
    hold_page(found, _told(octets), "page 1")
    assert found.text == "".join("".join(mark.texts) for mark in MARKS if isinstance(mark, Glyphs))
    picture, other = (f"picture {_named(MARKS[at], MEDIA)[0]}" for at in (3, -1))
    veil = f"veil {content.veil_name(MARKS[-2])}"  # type: ignore[arg-type]  # a veil
    drawn = ["area", EDGE, picture, RULE, RULE, "area", EDGE, PATH, veil, other]
    assert [kind for kind, _ in found.drawn] == drawn
    plum, fade = hashed(spot_name(PLUM.spot)), hashed(shading(FADE, MEDIA).name)  # type: ignore[arg-type] # it has one
    told = [[0, 0, 0, 1, 0, 0], [0, 1, 0.8, 0, 0, 0], [0, 0, 0, 1, 0, 0], [0, 0, 0, 0, 1, plum], [0] * 5 + [fade]]
    assert [ink for _, ink in found.inks] == told


def test_runs_that_are_wrongly_shown_together_are_found(monkeypatch: pytest.MonkeyPatch) -> None:
    """The writer and the record of what was composed go by the same groups: a fault in them must not be hidden."""
    monkeypatch.setattr(shown, "look_of", lambda mark: mark.size)
    octets, read, _ = _written()
    found = ContentReader().read(octets, read)
    with pytest.raises(Unproved, match="in the ink"):
        hold_page(found, _told(octets, list(grouped(MARKS))), "page 1")
    for groups in (list(grouped(MARKS[1:])), list(grouped(MARKS[::-1]))):
        with pytest.raises(Unproved, match="lost"):
            _told(octets, groups)


_OCTETS, _READ, _ = _written()


@settings(max_examples=120, deadline=None)
@given(
    st.lists(
        st.tuples(
            st.sampled_from(["EB Garamond/Regular", "EB Garamond/Italic", "Amiri/Regular", "IBM Plex Sans/Bold"]),
            st.sampled_from([7.5, 10.0, 31.0]),
            st.sampled_from([BLACK, Tone(m=1.0, y=0.8), Tone(spot=PLUM.spot, s=0.5), Tone(k=1.0)]),
            st.sampled_from(["a", "b"]),
            st.integers(-60, 260),
            st.lists(st.integers(1, 90), min_size=1, max_size=6),
        ),
        min_size=1,
        max_size=24,
    ),
    st.tuples(st.integers(-20, 90), st.integers(100, 260)),
)
def test_looks_that_change_from_run_to_run_are_read_back(told: list[tuple[Any, ...]], clip: tuple[int, int]) -> None:
    """Faces, sizes and inks in any order, each run seen, cut or left out: each glyph, place and ink."""
    marks = [
        Glyphs(
            face,
            size,
            np.array(gids, np.uint16),
            float(left) + 5.5 * np.arange(len(gids)),
            60.0,
            colour,
            tuple(chr(64 + gid) for gid in gids),
            from_block(block),
        )
        for face, size, colour, block, left, gids in told
    ]
    seen = Rect(clip[0], 0, clip[1], 100)
    resources = Resources()
    page = Content(MEDIA, resources)
    page.draw(marks, lambda _: seen)
    octets = page.bytes()
    fonts = {
        resource_name("F", key): ReadFont(font.advances.round(4), font.texts) for key, font in resources.fonts.items()
    }
    made = composed(marks, resources.groups(marks), lambda _: seen, MEDIA, octets, lambda mark, _: ("", mark), "page 1")
    hold_page(ContentReader().read(octets, ReadFonts(fonts)), made, "page 1")
    assert page.fonts <= set(resources.fonts)


@settings(max_examples=60, deadline=None)
@given(st.lists(st.tuples(st.sampled_from([7.0, 7.0, 11.0]), st.integers(0, 2)), min_size=2, max_size=12))
def test_runs_of_one_block_are_clipped_each_by_its_own(told: list[tuple[float, int]]) -> None:
    """The cards of a leaf have a clip each, and one origin: the words of the second were lost, and the proof agreed."""
    marks = [
        Glyphs(
            FACE,
            size,
            np.array([36 + at], np.uint16),
            np.array([20.0]),
            50.0 + 100 * card,
            BLACK,
            (chr(97 + at),),
            from_block("b"),
        )
        for at, (size, card) in enumerate(told)
    ]

    def clip_of(mark: Mark) -> Rect:
        assert isinstance(mark, Glyphs)
        top = 100.0 * (mark.baseline // 100)
        return Rect(0, top, 200, top + 100)

    resources = Resources()
    page = Content(MEDIA, resources)
    page.draw(marks, clip_of)
    fonts = {resource_name("F", key): ReadFont(font.advances, font.texts) for key, font in resources.fonts.items()}
    found = ContentReader().read(page.bytes(), ReadFonts(fonts))
    assert found.text == "".join(chr(97 + at) for at in range(len(told)))
    made = composed(marks, resources.groups(marks), clip_of, MEDIA, page.bytes(), lambda mark, _: ("", mark), "page 1")
    hold_page(found, made, "page 1")
    assert made.text.replace("\n", "") == found.text


@settings(max_examples=400, deadline=None)
@given(st.integers(0, len(_OCTETS) - 1), st.integers(1, 255))
def test_no_octet_can_be_broken_unseen(at: int, by: int) -> None:
    """Every octet that carries a glyph, a place, an ink or a mark is read; the checksum tells the rest."""
    broken = bytes([*_OCTETS[:at], _OCTETS[at] ^ by, *_OCTETS[at + 1 :]])
    told = _told(_OCTETS)
    try:
        hold_page(ContentReader().read(broken, _READ), told, "page 1")
    except (Unreadable, Unproved):
        return
    same = ContentReader().read(broken, _READ)
    assert same.text == told.text.replace("\n", "")
    assert broken != _OCTETS and leaves.zlib.crc32(broken) != told.digest


@pytest.mark.parametrize(
    "stray",
    [
        b"(",
        b")",
        b"[",
        b"]",
        b"Q",
        b"q",
        b"ET",
        b"BT",
        b"7",
        b"0 0 1 rg",
        b"/F1 12 Tf",
        b"EMC",
        b"<41> Tj",
        b"[(a)] TJ",
    ],
)
def test_what_is_left_open_or_foreign_is_not_passed_over(form: str, stray: bytes) -> None:
    for text in (_OCTETS + b"\n" + stray, stray + b"\n" + _OCTETS, _OCTETS.replace(b"BT", b"BT " + stray, 1)):
        with pytest.raises((Unreadable, Unproved)):
            hold_page(ContentReader().read(text, _READ), _told(), "page 1")


def test_strings_are_read_with_every_escape_of_the_standard(form: str) -> None:
    said = (
        rb"BT /%b 10 Tf 1 0 0 1 0 0 Tm [(\000\101\0B\000\
C(\000)\n\r\t\b\f\(\)\\Z)] TJ ET"
        % resource_name("F", FACE).encode()
    )
    wanted = b"\x00A\x00B\x00C(\x00)\n\r\t\b\f()\\Z"
    wide = ReadFont(np.zeros(65536), {})
    found = ContentReader().read(said, ReadFonts({resource_name("F", FACE): wide}))
    assert found.gids.tolist() == np.frombuffer(wanted, ">u2").tolist()


# The whole way, with a writer that is broken at one place --------------------------------------------------


def _swapping(old: bytes, new: bytes) -> Callable[[pytest.MonkeyPatch], None]:
    def meddle(patch: pytest.MonkeyPatch) -> None:
        whole = content.Content.bytes
        patch.setattr(content.Content, "bytes", lambda self: whole(self).replace(old, new, 1))

    return meddle


def _octet_of_content(patch: pytest.MonkeyPatch) -> None:
    draw = make.Writer.add

    def add(self: make.Writer, drawn: leaves.DrawnPage) -> None:
        octets = bytearray(leaves.zlib.decompress(drawn.packed))
        for at in range(len(octets) // 2, len(octets))[:1]:
            octets[at] ^= 1
        draw(self, replace(drawn, packed=leaves.zlib.compress(bytes(octets))))

    patch.setattr(make.Writer, "add", add)


def _box(patch: pytest.MonkeyPatch) -> None:
    box = make._box
    patch.setattr(make, "_box", lambda rect, media: box(rect if rect == media else rect.grown(0.05), media))


def _map(patch: pytest.MonkeyPatch) -> None:
    told = fonts.unicode_map
    patch.setattr(fonts, "unicode_map", lambda texts: told(texts).replace(b"> <0065>", b"> <0066>"))


def _widths(patch: pytest.MonkeyPatch) -> None:
    told = fonts._widths
    patch.setattr(fonts, "_widths", lambda gids, advance: told(gids, lambda gid: advance(gid) + 12))


def _program(patch: pytest.MonkeyPatch) -> None:
    whole = fonts.Face.subset
    patch.setattr(fonts.Face, "subset", lambda self, gids: whole(self, list(gids)[:-4]))


def _picture(patch: pytest.MonkeyPatch) -> None:
    size = images.Stream
    patch.setattr(images, "Stream", lambda pdf, octets, stated: size(pdf, octets[: len(octets) // 2], stated))


def _bracket(patch: pytest.MonkeyPatch) -> None:
    """The fault that lost pages: a glyph whose low octet is an opening bracket leaves its string open."""
    runs = shown.ShownRuns.shown

    def run(self: shown.ShownRuns, *given: object, **more: object) -> bytes:
        return re.sub(rb"\)(-?[\d.]+)\(", rb"[(", runs(self, *given, **more), count=1)  # type: ignore[arg-type]

    patch.setattr(shown.ShownRuns, "shown", run)


BROKEN = {
    "an octet of a content": _octet_of_content,
    "a box": _box,
    "a text map": _map,
    "the widths": _widths,
    "a font program": _program,
    "a picture": _picture,
    "a string left open": _bracket,
    "an ink": _swapping(b"0 0 0 1 k /F", b"0.4 0 0 1 k /F"),
    "a place": _swapping(b"1 0 0 1 ", b"1 0 0 1 1"),
    "a mark left out": _swapping(b" re f", b" re n"),
    "a picture left out": lambda patch: patch.setattr(content.Content, "_picture", lambda self, mark, clip: None),
    "a word left out": lambda patch: patch.setattr(
        content, "grouped", lambda marks, whole=grouped: list(whole(marks))[:-1]
    ),
}


@pytest.mark.parametrize("broken", BROKEN)
def test_a_broken_writer_is_caught_and_leaves_no_file(
    demo_source: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str], broken: str
) -> None:
    BROKEN[broken](monkeypatch)
    out = tmp_path / "x.pdf"
    job = open_job(demo_source, to_write=False)
    with pytest.raises(Unproved, match="was not kept"):
        make.press(job.publication, job.pictures, out, form="spreads")
    assert not list(tmp_path.iterdir())


def test_a_fault_in_the_second_half_of_a_long_file_is_found(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, demo_source: Path
) -> None:
    """Also where a second process holds that half, and also where that process fails."""
    job = open_job(demo_source, to_write=False)
    hold = prove._Reader.hold

    def hold_but_last(self: prove._Reader, page: pikepdf.Object, made: leaves.DrawnPage) -> None:
        if made.label == "page 47":
            raise Unproved(made.label, "for the test")
        hold(self, page, made)

    monkeypatch.setattr(prove, "may_part", lambda: True)
    monkeypatch.setattr(prove._Reader, "hold", hold_but_last)
    with pytest.raises(Unproved, match="page 47"):
        make.press(job.publication, job.pictures, tmp_path / "x.pdf")
    monkeypatch.setattr(prove, "_told", lambda *_: 1 / 0)
    with pytest.raises(Unproved, match="page 47"):
        make.press(job.publication, job.pictures, tmp_path / "x.pdf")
    assert not list(tmp_path.iterdir())


def test_what_was_proved_is_said_and_kept(demo: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["press", str(demo), str(tmp_path / "x.pdf")]) == 0
    said = capsys.readouterr().out
    told = re.search(r"proved: 48 pages, ([\d,]+) words, (\d+) pictures", said)
    assert told, said
    counted = int(told[1].replace(",", ""))
    from tests.conftest import judge

    read = judge("pdftotext", "-raw", tmp_path / "x.pdf", "-").replace("\u00ad\n", "").split()
    assert abs(len(read) - counted) < 0.02 * counted
    assert told[0] in "proved: " + str(open_job(demo, to_write=False).pressed()[-1]["proved"])
