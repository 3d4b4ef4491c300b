"""Content streams mark by mark: inks, overprint, clips, and glyphs to the thousandth of a millimetre."""

import numpy as np
import pikepdf
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from half_fold.core.drawing.marks import Glyphs, Line, PictureMark, Shape
from half_fold.core.drawing.tone import BLACK, REGISTRATION, WHITE, Tone
from half_fold.core.measure.entry import MM
from half_fold.core.measure.rect import Rect
from half_fold.core.press.crop_marks import LENGTH, crop_marks, slug
from half_fold.core.press.pdf.content import KNOCK_OUT, OVERPRINT, Content, Resources, resource_name
from half_fold.core.press.pdf.fonts import FontUse
from half_fold.core.press.pdf.reach import touched_area
from half_fold.core.press.pdf.seen import PicturePart
from half_fold.core.typesetting.faces.faces import face

MEDIA = Rect(-100, -10, 200, 390)
FACE = "EB Garamond/Regular"


SIZES = {"p1": (160, 80)}


def _run(text: str, size: float = 10.0, colour: Tone = BLACK, shifts: list[float] | None = None) -> Glyphs:
    shaped = face(FACE).shape(text)
    xs = 12.5 + size * np.concatenate([[0.0], np.cumsum(shaped.advances)[:-1]])
    if shifts:
        xs = xs + np.resize(shifts, len(xs))
    return Glyphs(FACE, size, shaped.gids, xs, 50.0, colour, shaped.texts)


def _stream(*marks: Glyphs | Shape | Line | PictureMark, clip: Rect = MEDIA) -> bytes:
    content = Content(MEDIA, Resources(sizes=SIZES))
    content.draw(marks, lambda _: clip)
    return content.bytes()


def _drawn(*marks: Glyphs | Shape | Line | PictureMark, clip: Rect = MEDIA) -> str:
    return _stream(*marks, clip=clip).decode("latin-1")


def _positions(stream: bytes, size: float) -> list[tuple[int, float]]:
    """(glyph id, x) as a PDF reader works them out from Tm, TJ and the font's widths."""
    font, pen, out = FontUse(FACE), 0.0, []
    with pikepdf.new() as pdf:
        told = pikepdf.parse_content_stream(pikepdf.Stream(pdf, stream))
    for operands, operator in told:
        if str(operator) == "Tm":
            pen = float(operands[4])
        for part in operands[0] if str(operator) == "TJ" else ():
            if not isinstance(part, pikepdf.String):
                pen -= float(part) * size / 1000
                continue
            for high, low in zip(bytes(part)[::2], bytes(part)[1::2], strict=True):
                out.append((256 * high + low, pen))
                pen += font.advance(256 * high + low) * size / 1000
    return out


@settings(max_examples=60, deadline=None)
@given(
    st.text("abcdefgilrstvwAVTo ,.ff", min_size=1, max_size=60),
    st.floats(5, 60),
    st.lists(st.floats(-2, 3), max_size=5),
)
def test_glyphs_come_to_stand_where_the_display_list_says(text: str, size: float, shifts: list[float]) -> None:
    run = _run(text, size, shifts=shifts)
    found = _positions(_stream(run), size)
    assert [gid for gid, _ in found] == run.gids.tolist()
    assert np.allclose([x for _, x in found], run.xs - MEDIA.left, atol=0.003)


def test_glyph_ids_whose_octets_mean_something_in_a_string_come_through() -> None:
    """Brackets, the backslash and the line ends, as the high and as the low octet of a glyph id."""
    octets = [0x28, 0x29, 0x5C, 0x0D, 0x0A, 0x00, 0x41]
    gids = np.array(octets + [256 * 3 + octet for octet in octets] + [0x0A0D, 0x0828], np.uint16)
    run = Glyphs(FACE, 10.0, gids, 12.5 + 7.0 * np.arange(len(gids)), 50.0, BLACK, ("",) * len(gids))
    found = _positions(_stream(run), 10.0)
    assert [gid for gid, _ in found] == gids.tolist()
    assert np.allclose([x for _, x in found], run.xs - MEDIA.left, atol=0.003)


@pytest.mark.parametrize(
    ("colour", "size", "state"),
    [
        (BLACK, 10, OVERPRINT),
        (BLACK, 24, OVERPRINT),
        (BLACK, 25, KNOCK_OUT),
        (WHITE, 10, KNOCK_OUT),
        (Tone(k=0.5), 10, KNOCK_OUT),
        (Tone(c=1, k=1), 10, KNOCK_OUT),
    ],
)
def test_black_text_overprints_up_to_24_points_and_white_never(colour: Tone, size: float, state: str) -> None:
    assert f"/{state} gs" in _drawn(_run("Hedge", size, colour))


def test_inks_are_written_as_they_are() -> None:
    assert "0.72 0.32 0.62 0.42 k" in _drawn(_run("Hedge", colour=Tone(0.72, 0.32, 0.62, 0.42)))
    assert "0.02 0.04 0.15 0 k" in _drawn(Shape(Rect(0, 0, 10, 10), Tone(0.04, 0.08, 0.3).tinted(0.5)))


def test_y_runs_upwards_from_the_foot_of_the_sheet() -> None:
    assert "100 380 10 10 re" in _drawn(Shape(Rect(0, 0, 10, 10), BLACK))
    assert "1 0 0 1 112.5 340 Tm" in _drawn(_run("H"))


def test_a_stroke_stays_inside_its_edge() -> None:
    stream = _drawn(Shape(Rect(0, 0, 100, 50), None, BLACK, 2.0))
    assert "2 w 101 341 98 48 re S" in stream


def test_only_what_passes_its_clip_is_clipped() -> None:
    inside, across, outside = Rect(0, 0, 10, 10), Rect(-5, 0, 10, 10), Rect(150, 0, 160, 10)
    clip = Rect(0, -10, 100, 300)
    assert " W n" not in _drawn(Shape(inside, BLACK), clip=clip)
    assert "100 90 100 310 re W n" in _drawn(Shape(across, BLACK), clip=clip)
    assert _drawn(Shape(outside, BLACK), clip=clip) == ""


def test_a_picture_is_laid_by_matrix_and_clipped_to_its_block() -> None:
    """Of 160 x 80 pixels on 80 x 40 pt are seen those from 40, 10 to 140, 70; two more go in all round."""
    stream = _drawn(PictureMark("p1", Rect(-20, 0, 60, 40), Rect(0, 5, 50, 35)))
    part = PicturePart("p1", 38, 8, 142, 72, 104, 64)
    assert f"/{KNOCK_OUT} gs 100 355 50 30 re W n 52 0 0 32 99 354 cm /{resource_name('P', part.key)} Do" in stream


def test_resources_are_shared_and_named_once() -> None:
    resources = Resources(sizes=SIZES)
    first, second = Content(MEDIA, resources), Content(MEDIA, resources)
    for content in (first, second):
        content.draw([_run("Hedge"), PictureMark("p1", MEDIA, MEDIA)], lambda _: MEDIA)
    assert (
        list(resources.fonts) == [FACE]
        and first.pictures == second.pictures
        and {part.picture for part in first.pictures} == {"p1"}
    )
    assert first.bytes() == second.bytes()
    assert first.fonts == second.fonts == {FACE}


def test_a_soft_hyphen_goes_in_as_actual_text() -> None:
    run = _run("well-")
    hyphened = Glyphs(run.face, run.size, run.gids, run.xs, run.baseline, run.colour, (*run.texts[:-1], "\u00ad"))
    content = Content(MEDIA, Resources(sizes=SIZES))
    content.draw([run, hyphened], lambda _: MEDIA)
    stream = content.bytes().decode("latin-1")
    assert stream.count("/Span <</ActualText <FEFF00AD>>> BDC") == 1 and stream.count("EMC") == 1


def test_bounds_never_cut_what_is_drawn() -> None:
    run = _run("fgjÅ", 20)
    box = touched_area(run)
    assert box.left < run.xs[0] and box.right > run.xs[-1] + 20 and box.top < 50 - 20 and box.bottom > 50 + 6
    line = Line((0, 0), (10, 0), BLACK, 2)
    assert touched_area(line) == Rect(-1, -1, 11, 1)


def test_crop_marks_keep_clear_of_the_bleed_and_end_on_the_sheet() -> None:
    trim = Rect(0, 0, 600, 800)
    for bleed in (0.0, 3 * MM, 5 * MM):
        near, far = max(bleed, 3 * MM), max(bleed, 3 * MM) + LENGTH
        marks = crop_marks(trim, bleed, (300.0,))
        assert len(marks) == 10 and all(mark.colour == REGISTRATION and mark.weight == 0.25 for mark in marks)
        sheet = trim.grown(slug(bleed))
        for mark in marks:
            (x0, y0), (x1, y1) = mark.start, mark.end
            assert abs(x1 - x0) + abs(y1 - y0) == pytest.approx(LENGTH)
            outside = max(-x0, x0 - 600, -y0, y0 - 800)
            assert outside == pytest.approx(near)
            assert sheet.holds(x1, y1) and far <= slug(bleed)


def test_an_embedded_font_draws_its_glyphs_at_their_own_ids() -> None:
    import io

    from fontTools.pens.recordingPen import DecomposingRecordingPen
    from fontTools.ttLib import TTFont

    use = FontUse(FACE)
    run = _run("Hedge")
    for gid, text in zip(run.gids.tolist(), run.texts, strict=True):
        assert use.use(gid, text)
    with pikepdf.new() as pdf:
        font = use.embed(pdf)
        descendant = font.DescendantFonts[0]
        program = TTFont(io.BytesIO(descendant.FontDescriptor.FontFile2.read_bytes()))
        assert descendant.CIDToGIDMap == "/Identity" and font.Encoding == "/Identity-H"
        assert str(font.BaseFont)[7] == "+" and len(descendant.FontDescriptor.FontFile2.read_bytes()) < 60_000
        whole = TTFont(face(FACE).file)

        def outline(source: TTFont, gid: int) -> list[object]:
            pen = DecomposingRecordingPen(source.getGlyphSet())
            source.getGlyphSet()[source.getGlyphOrder()[gid]].draw(pen)
            return pen.value

        for gid in run.gids.tolist():
            assert outline(program, gid) == outline(whole, gid) and outline(whole, gid)
        unused = next(g for g in range(40, 90) if g not in run.gids.tolist())
        assert outline(program, unused) == []


def test_widths_stand_as_runs_of_neighbouring_glyphs() -> None:
    use = FontUse(FACE)
    for gid in (20, 21, 22, 40):
        use.use(gid, chr(65 + gid))
    with pikepdf.new() as pdf:
        widths = use.embed(pdf).DescendantFonts[0].W
        assert [int(widths[i]) for i in range(0, len(widths), 2)] == [0, 20, 40]
        assert [float(w) for w in widths[3]] == pytest.approx([use.advance(g) for g in (20, 21, 22)])
