"""Vector art: SVG read as outlines, laid in blocks, recoloured, and printed as paths."""

import math
import re
from pathlib import Path

import numpy as np
import pikepdf
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.checks.run import check
from half_fold.core.drawing.marks import MarkGroup
from half_fold.core.drawing.marks import Path as Drawn
from half_fold.core.drawing.regions import region_of
from half_fold.core.drawing.tone import Gradient, Tone
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import set_paths
from half_fold.core.pictures.library.bring import bring_picture, load_pixels
from half_fold.core.pictures.vector.svg_style import colour_of, number, transform_of
from half_fold.core.pictures.vector.vector import LONG_SIDE, Vector, outline_of_art, read_vector
from half_fold.core.plan.spreads import spreads_of
from half_fold.core.plan.starters import start
from half_fold.core.press.make import press
from half_fold.core.publication.records import Art, HoldsPicture, Publication
from half_fold.core.publication.surgery import with_page
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.codec import decode, encode
from tests.blocks import block_over

UNIT = LONG_SIDE / 100  # every drawing below is 100 units wide


def read(tmp_path: Path, inside: str, attributes: str = 'viewBox="0 0 100 100"') -> Vector:
    file = tmp_path / "x.svg"
    file.write_text(
        f'<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" {attributes}>{inside}</svg>'  # noqa: E501
    )
    return read_vector(file)


def area(art: Art) -> float:
    """In the drawing's own units."""
    return float(region_of([outline_of_art(art)], 0.05).area) / UNIT**2


def box(art: Art) -> tuple[float, ...]:
    return tuple(edge / UNIT for edge in outline_of_art(art).bounds)


@pytest.mark.parametrize(
    ("shape", "wanted", "where"),
    [
        ('<rect x="10" y="20" width="30" height="40"/>', 1200, (10, 20, 40, 60)),
        ('<rect x="0" y="0" width="40" height="40" rx="10"/>', 1600 - (4 - math.pi) * 100, (0, 0, 40, 40)),
        ('<circle cx="50" cy="50" r="20"/>', math.pi * 400, (30, 30, 70, 70)),
        ('<ellipse cx="50" cy="50" rx="40" ry="10"/>', math.pi * 400, (10, 40, 90, 60)),
        ('<polygon points="0,0 60,0 30,60"/>', 1800, (0, 0, 60, 60)),
        ('<polyline points="0 0 60 0 30 60"/>', 1800, (0, 0, 60, 60)),
        ('<path d="M10 10h20v20h-20z"/>', 400, (10, 10, 30, 30)),
        ('<path d="m10,10 20,0 0,20z"/>', 200, (10, 10, 30, 30)),
        ('<path d="M30 50a20 20 0 1 1 40 0 20 20 0 0 1-40 0"/>', math.pi * 400, (30, 30, 70, 70)),
        ('<path d="M0 0Q50 100 100 0z"/>', 100 * 50 * 2 / 3, (0, 0, 100, 100)),
        ('<path fill-rule="evenodd" d="M0 0h60v60h-60zM10 10h20v20h-20z"/>', 3600 - 400, (0, 0, 60, 60)),
        ('<path d="M0 0h60v60h-60zM10 10v20h20v-20z"/>', 3600 - 400, (0, 0, 60, 60)),
        ('<g transform="translate(10 5) scale(2)"><rect width="10" height="10"/></g>', 400, (10, 5, 30, 25)),
        ('<rect transform="rotate(90 50 50)" x="50" y="50" width="20" height="10"/>', 200, (40, 50, 50, 70)),
        ('<g transform="matrix(1 0 0.5 1 0 0)"><rect width="20" height="20"/></g>', 400, (0, 0, 30, 20)),
        ('<line x1="10" y1="50" x2="90" y2="50" stroke="red" stroke-width="4"/>', 320, (10, 48, 90, 52)),
        ('<line x1="10" y1="50" x2="90" y2="50" stroke="red" stroke-width="4" stroke-linecap="square"/>', 336, (8, 48, 92, 52)),  # noqa: E501
        ('<path d="M10 50H90" fill="none" stroke="red" stroke-width="8" stroke-dasharray="10 10"/>', 320, (10, 46, 80, 54)),  # noqa: E501
        ('<rect x="10" y="10" width="40" height="40" fill="none" stroke="red" stroke-width="4"/>', 44**2 - 36**2, (8, 8, 52, 52)),  # noqa: E501
        ('<defs><rect id="r" width="10" height="10"/></defs><use href="#r" x="30" y="40"/>', 100, (30, 40, 40, 50)),
        ('<symbol id="s" viewBox="0 0 10 10"><rect width="5" height="5"/></symbol><use xlink:href="#s"/>', 2500, (0, 0, 50, 50)),  # noqa: E501
        ('<symbol id="s" viewBox="0 0 10 10"><rect width="5" height="5"/></symbol><use href="#s" x="7" width="10" height="10"/>', 25, (7, 0, 12, 5)),  # noqa: E501
        ('<svg x="50" y="0" width="50" height="50" viewBox="0 0 10 10"><rect width="10" height="10"/></svg>', 2500, (50, 0, 100, 50)),  # noqa: E501
    ],
)  # fmt: skip
def test_shapes_fill_what_their_measures_say(
    tmp_path: Path, shape: str, wanted: float, where: tuple[float, ...]
) -> None:
    (art,) = read(tmp_path, shape).art
    assert area(art) == pytest.approx(wanted, rel=2e-3)
    if "Q" not in shape:  # whose handles reach further than the curve
        assert box(art) == pytest.approx(where, abs=0.08)


def clipped(clip: str, what: str = '<rect width="80" height="80" clip-path="url(#c)"/>') -> str:
    return f'<clipPath id="c">{clip}</clipPath>{what}'


@pytest.mark.parametrize(
    ("inside", "wanted", "where"),
    [
        (clipped('<rect x="20" y="20" width="30" height="40"/>'), 1200, (20, 20, 50, 60)),
        (clipped('<circle cx="40" cy="40" r="20"/>'), math.pi * 400, (20, 20, 60, 60)),
        (clipped('<rect width="10" height="10"/><rect x="30" width="10" height="10"/>'), 200, (0, 0, 40, 10)),
        (clipped('<g transform="translate(20 0)"><rect width="10" height="10"/></g>'), 100, (20, 0, 30, 10)),
        ('<rect id="r" width="5" height="5" display="none"/>' + clipped('<use href="#q" x="10"/>')
         + '<defs><rect id="q" width="8" height="9"/></defs>', 72, (10, 0, 18, 9)),
        (clipped('<path clip-rule="evenodd" d="M0 0h60v60h-60zM10 10h20v20h-20z"/>'), 3200, (0, 0, 60, 60)),
        (clipped('<rect width="20" height="20"/>', '<g transform="translate(30 0)" clip-path="url(#c)">'
                 '<rect x="-5" width="15" height="15"/></g>'), 150, (30, 0, 40, 15)),
        ('<clipPath id="c" clipPathUnits="objectBoundingBox"><rect width=".5" height="1"/></clipPath>'
         '<rect x="20" y="20" width="40" height="40" clip-path="url(#c)"/>', 800, (20, 20, 40, 60)),
        ('<clipPath id="d"><rect width="30" height="100"/></clipPath><clipPath id="c" clip-path="url(#d)">'
         '<rect x="20" width="30" height="30"/></clipPath><rect width="80" height="80" clip-path="url(#c)"/>',
         300, (20, 0, 30, 30)),
        (clipped('<rect width="50" height="50"/>', '<g clip-path="url(#c)"><g clip-path="url(#e)">'
                 '<rect width="90" height="90"/></g></g><clipPath id="e"><rect x="40" width="50" height="50"/>'
                 '</clipPath>'),
         500, (40, 0, 50, 50)),
        (clipped('<rect width="50" height="50"/>', '<style>.a{clip-path:url("#c")}</style>'
                 '<rect class="a" width="90" height="90"/>'), 2500, (0, 0, 50, 50)),
        (clipped('<rect x="20" width="20" height="90"/>', '<line x1="0" y1="50" x2="90" y2="50" stroke="red" '
                 'stroke-width="4" clip-path="url(#c)"/>'), 80, (20, 48, 40, 52)),
        ('<mask id="m"><rect width="40" height="40" fill="white"/></mask><rect width="80" height="80" mask="url(#m)"/>',
         1600, (0, 0, 40, 40)),
        ('<mask id="m"><rect width="100" height="100" fill="#fff"/><rect width="40" height="80" fill="#000"/></mask>'
         '<rect width="80" height="80" mask="url(#m)"/>', 3200, (40, 0, 80, 80)),
        ('<circle cx="50" cy="0" r="40"/>', math.pi * 800, (10, 0, 90, 40)),  # half of it is beyond the sheet
        ('<svg x="50" width="50" height="50" viewBox="0 0 10 10"><rect x="5" width="10" height="10"/></svg>',
         1250, (75, 0, 100, 50)),
    ],
)  # fmt: skip
def test_what_clip_paths_masks_and_boxes_leave(
    tmp_path: Path, inside: str, wanted: float, where: tuple[float, ...]
) -> None:
    drawn = read(tmp_path, inside)
    (art,) = drawn.art
    assert not drawn.notes
    assert area(art) == pytest.approx(wanted, rel=2e-3) and box(art) == pytest.approx(where, abs=0.05)


def test_what_a_clip_path_leaves_whole_keeps_its_curves_and_what_it_hides_is_gone(tmp_path: Path) -> None:
    whole, _ = read(tmp_path, '<circle cx="20" cy="20" r="9"/><rect width="1" height="1"/>').art
    inside = '<circle cx="20" cy="20" r="9"/><circle cx="80" cy="80" r="9"/>'
    cut = clipped('<rect width="50" height="50"/>', f'<g clip-path="url(#c)">{inside}</g><rect width="1" height="1"/>')
    held, _ = read(tmp_path, cut).art
    assert held.data == whole.data and "C" in held.data


def test_what_is_drawn_twice_by_the_even_odd_rule_is_nothing(tmp_path: Path) -> None:
    twice = '<path {}="evenodd" d="M0 0h50v50h-50zM0 0h50v50h-50z"/>'
    (art,) = read(tmp_path, twice.format("fill-rule") + '<rect width="2" height="2"/>').art
    assert area(art) == pytest.approx(4, rel=2e-3)
    (art,) = read(tmp_path, clipped(twice.format("clip-rule")) + '<rect width="2" height="2"/>').art
    assert area(art) == pytest.approx(4, rel=2e-3)


def _many(count: int) -> str:
    return "".join(f'<rect x="{n % 90}" y="{n // 90}" width="1" height="1"/>' for n in range(count))


# Seven lines that stand for two million of what they end in.
BOMB_OF_LINKS = "".join(f'<g id="g{n}">' + f'<use href="#g{n + 1}"/>' * 8 + "</g>" for n in range(7))
END = '<path id="g7" d="M{} 0h9v9z"/>'


@pytest.mark.parametrize(
    "inside",
    [
        _many(4001),
        BOMB_OF_LINKS + END.format(0),
        BOMB_OF_LINKS + f"<defs>{END.format(200)}</defs>",  # beyond the sheet, where none of them is kept
        clipped('<use href="#g0"/>') + f"<defs>{BOMB_OF_LINKS}{END.format(0)}</defs>",
    ],
)
def test_a_drawing_of_more_shapes_than_a_job_may_hold_is_refused_in_a_sentence(tmp_path: Path, inside: str) -> None:
    with pytest.raises(Problem, match=r"shapes.*simpler drawing"):
        read(tmp_path, inside)


def test_a_job_opens_with_the_largest_drawing_and_the_longest_gradient_there_may_be(tmp_path: Path) -> None:
    stops = "".join(f'<stop offset="{n / 99}" stop-color="#{n:02x}0000"/>' for n in range(100))
    drawn = read(tmp_path, f'<linearGradient id="s">{stops}</linearGradient><rect width="9" height="9" fill="url(#s)"/>'
                 + _many(3999))  # fmt: skip
    assert len(drawn.art) == 4000
    gradient = drawn.art[0].gradient
    assert gradient is not None and (gradient.stops[0].colour, gradient.stops[-1].colour) == ("#000000", "#630000")
    job, picture = bring_picture(start("magazine", "Drawn"), tmp_path / "pictures", tmp_path / "x.svg")
    assert decode(encode(job), "drawn").pictures == (picture,)


def test_what_cuts_itself_comes_to_an_end(tmp_path: Path) -> None:
    drawn = read(
        tmp_path,
        '<clipPath id="c" clip-path="url(#c)"><rect width="9" height="9"/></clipPath>'
        '<mask id="m"><g mask="url(#m)"><rect width="9" height="9" fill="white"/></g></mask>'
        '<rect width="5" height="5"/><rect width="50" height="50" clip-path="url(#c)" mask="url(#m)"/>',
    )
    assert drawn.art and drawn.notes


def test_fills_and_strokes_lie_in_their_order_in_their_colours(tmp_path: Path) -> None:
    style = "<style>.a{fill:#00f}.b, #last{fill:none;stroke:rgb(10,20,30)}</style>"
    drawn = read(tmp_path, f"""{style}<g fill="green"><rect width="9" height="9" stroke="red"/>
        <rect class="a" width="9" height="9"/></g>
        <circle id="last" r="9"/><rect style="fill:currentColor" color="tomato" width="3" height="3" fill="red"/>
        <rect display="none" width="50" height="50"/><g visibility="hidden"><rect width="50" height="50"/></g>""")  # fmt: skip  # noqa: E501
    assert [art.colour for art in drawn.art] == ["#008000", "#ff0000", "#0000ff", "#0a141e", "#ff6347"]


def test_opacities_multiply(tmp_path: Path) -> None:
    drawn = read(tmp_path, '<g opacity="0.5"><rect width="9" height="9" fill-opacity="50%" opacity=".8"/></g>')
    assert drawn.art[0].opacity == pytest.approx(0.2)


def test_gradients_run_along_their_axis(tmp_path: Path) -> None:
    stops = '<stop offset="10%" stop-color="red"/><stop offset="1" style="stop-color:#00f;stop-opacity:.4"/>'
    drawn = read(
        tmp_path,
        f"""<linearGradient id="s">{stops}</linearGradient>
        <linearGradient id="a" href="#s"/><linearGradient id="b" href="#s" x1="0" y1="0" x2="0" y2="1"/>
        <radialGradient id="c" xlink:href="#s" gradientUnits="userSpaceOnUse" cx="50" cy="50" r="20"/>
        <rect x="20" y="10" width="40" height="20" fill="url(#a)"/>
        <rect x="20" y="10" width="40" height="20" fill="url('#b')"/>
        <rect width="90" height="90" fill="url(#c)"/>""",
    )
    across, down, round_about = (art.gradient for art in drawn.art)
    assert across is not None and down is not None and round_about is not None
    from half_fold.core.drawing.affine import Affine

    ends = [[Affine(*g.matrix).of(x, 0) for x in (0, 1)] for g in (across, down, round_about)]
    assert np.array(ends[0]) / UNIT == pytest.approx(np.array([(20, 10), (60, 10)]), abs=0.01)
    assert np.array(ends[1]) / UNIT == pytest.approx(np.array([(20, 10), (20, 30)]), abs=0.01)
    assert np.array(ends[2]) / UNIT == pytest.approx(np.array([(50, 50), (70, 50)]), abs=0.01)
    assert round_about.way == "radial"
    assert [(s.at, s.colour, s.opacity) for s in across.stops] == [(0.1, "#ff0000", 1.0), (1.0, "#0000ff", 0.4)]


@pytest.mark.parametrize(
    ("inside", "said"),
    [
        ("<text>a</text>", "text"),
        ('<image href="x.png"/>', "picture"),
        ('<g clip-path="url(#c)"><rect width="1" height="1"/></g>', "clip path"),
        ('<g filter="url(#c)"/>', "filter"),
        (clipped("<text>a</text>"), "path of words"),
        ('<mask id="m"><path d="M0 0h9v9" fill="red"/></mask><rect width="9" height="9" mask="url(#m)"/>', "mask"),
        ('<marker id="m"/><path d="M0 0h9" stroke="red" marker-end="url(#m)"/>', "arrowhead"),
        ('<rect width="1" height="1" fill="url(#p)"/><pattern id="p"/>', "pattern"),
        ('<rect width="1" height="1" fill="octarine"/>', "octarine"),
        ('<use href="#gone"/>', "not there"),
        ('<g id="a"><use href="#a"/></g>', "without end|not there"),
    ],
)
def test_what_is_not_understood_is_said(tmp_path: Path, inside: str, said: str) -> None:
    drawn = read(tmp_path, '<rect width="5" height="5"/>' + inside)
    assert any(re.search(said, note) for note in drawn.notes), drawn.notes


BOMB = '<?xml version="1.0"?><!DOCTYPE s [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;">]>'


@pytest.mark.parametrize(
    "content",
    [
        b"", b"<svg", b"<html/>", b"\x89PNG", b"<svg xmlns='http://www.w3.org/2000/svg'/>",
        b"<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 0 0'><rect width='1' height='1'/></svg>",
        b"<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'><text>only words</text></svg>",
        b"<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'><path d='nonsense'/></svg>",
        (BOMB + "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'><title>&b;</title></svg>").encode(),
        b'<!DOCTYPE s [<!ENTITY x SYSTEM "file:///etc/passwd">]><svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="&x;"/></svg>',  # noqa: E501
    ],
)  # fmt: skip
def test_what_is_no_drawing_is_refused_in_a_sentence(tmp_path: Path, content: bytes) -> None:
    (tmp_path / "x.svg").write_bytes(content)
    with pytest.raises(Problem, match=r"“x.svg”"):
        read_vector(tmp_path / "x.svg")


@given(st.text("MmLlHhVvCcSsQqTtAaZz0123456789.,- e+", max_size=60), st.text("0123456789.-, ", max_size=20))
def test_no_path_data_raises(data: str, box_of: str) -> None:
    import tempfile

    with tempfile.TemporaryDirectory() as folder:
        try:
            read(
                Path(folder),
                f'<path d="{data}" stroke="red"/><rect width="1" height="1"/>',
                f'viewBox="{box_of}" width="9" height="9"',
            )
        except Problem:
            return


CREST = """<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 140"><defs><clipPath id="c"><circle cx="70"
cy="70" r="60"/></clipPath><linearGradient id="s" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="#2d6e8e"/>
<stop offset="1" stop-color="#f3d9a4"/></linearGradient><mask id="m"><rect width="200" height="140" fill="white"/>
<circle cx="92" cy="38" r="12" fill="black"/></mask><symbol id="t" viewBox="0 0 20 40"><path d="M10 0C20 8 20 24 10 28
C0 24 0 8 10 0Z" fill="#2f5d3a"/></symbol></defs><g clip-path="url(#c)"><rect width="140" height="140" fill="url(#s)"/>
<circle cx="86" cy="42" r="14" fill="#fff6d8" mask="url(#m)"/><use href="#t" x="30" y="60" width="20" height="40"/>
<path d="M-10 120L220 110" stroke="#8a6b43" stroke-width="9"/></g><path transform="rotate(9)" d="M150 30h40v40h-40zM160
40v20h20v-20z" fill="#b5472f" fill-rule="evenodd"/></svg>"""
ODD = ("1e308", "-1e308", "NaN", "0", "-5", "1e-320", "url(#c)", "url(#m)", "objectBoundingBox", "100%", "")


@given(st.lists(st.tuples(st.integers(0, 10_000), st.sampled_from(ODD)), min_size=1, max_size=4))
@settings(max_examples=150, deadline=None)
def test_whatever_stands_in_a_drawing_gives_art_that_can_be_kept_or_one_sentence(
    tmp_path_factory: pytest.TempPathFactory, changes: list[tuple[int, str]]
) -> None:
    drawing = CREST
    for at, odd in changes:
        places = list(re.finditer(r"-?\d+\.?\d*|(?<=\")[^\"]*(?=\")", drawing))
        place = places[at % len(places)]
        drawing = drawing[: place.start()] + odd + drawing[place.end() :]
    file = tmp_path_factory.mktemp("odd") / "x.svg"
    file.write_text(drawing)
    try:
        vector = read_vector(file)
    except Problem as problem:
        assert str(problem).endswith(".")
        return
    for art in vector.art:
        assert np.isfinite(outline_of_art(art).points).all()
        assert art.gradient is None or np.isfinite(art.gradient.matrix).all()


def test_words_of_the_format_are_read() -> None:
    assert [number(text) for text in ("3", "1in", "72pt", "-.5e1", "25.4mm", "x", "")] == pytest.approx(
        [3, 96, 96, -5, 96, 0, 0]
    )
    assert (
        colour_of("RGB(100%, 0%, 50%)") == "#ff0080" and colour_of("#abc") == "#aabbcc" and colour_of("inherit") is None
    )
    assert transform_of("translate(3) rotate(90)").of(1, 0) == pytest.approx((3, 1))
    assert transform_of("skewX(45)").of(0, 1) == pytest.approx((1, 1))


# In a job -------------------------------------------------------------------------------------------------

LEAF = """<rect x="10" y="10" width="80" height="80" fill="#2f6f3a"/><circle cx="50" cy="50" r="20" fill="black"/>
<linearGradient id="g"><stop stop-color="red"/><stop offset="1" stop-color="blue" stop-opacity="0"/></linearGradient>
<rect x="20" y="60" width="20" height="20" fill="url(#g)" opacity=".5"/>"""


def _job(tmp_path: Path, **more: object) -> tuple[Publication, Path]:
    source = tmp_path / "leaf.svg"
    source.write_text(f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100">{LEAF}</svg>')
    folder = tmp_path / "pictures"
    job, picture = bring_picture(start("magazine", "Vector"), folder, source)
    block = block_over("b1", HoldsPicture(picture=picture.id, **more), (0, 3), (0, 3))  # type: ignore[arg-type] # of a table
    return with_page(job, replace(job.pages[0], things=(block,), master="")), folder


def test_art_is_kept_in_the_job_and_read_back(tmp_path: Path) -> None:
    job, folder = _job(tmp_path)
    (picture,) = job.pictures
    assert (picture.width, picture.height, len(picture.art)) == (LONG_SIDE, LONG_SIDE, 3) and picture.outline
    assert decode(encode(job), "x") == job
    image = load_pixels(folder / picture.file)
    assert image.mode == "RGBA" and image.size == (800, 800)
    assert image.getpixel((100, 100)) == (47, 111, 58, 255) and image.getpixel((20, 20)) == (0, 0, 0, 0)


def _painted(job: Publication) -> list[Drawn | MarkGroup]:
    return [m for m in Setter().spread(job, spreads_of(job)[0]).marks if isinstance(m, Drawn | MarkGroup)]


def test_colours_come_to_inks_and_greys_to_black_alone(tmp_path: Path) -> None:
    green, black, faded = _painted(_job(tmp_path)[0])
    assert isinstance(green, Drawn) and isinstance(black, Drawn) and isinstance(faded, MarkGroup)
    assert isinstance(green.fill, Tone) and green.fill.c > green.fill.m
    assert black.fill == Tone(k=1.0)
    assert faded.opacity == 0.5 and faded.mask is not None
    (area_of,) = faded.marks
    assert isinstance(area_of, Drawn) and isinstance(area_of.fill, Gradient)


def test_art_is_recoloured_by_an_ink_turned_and_cut_to_its_block(tmp_path: Path) -> None:
    job, _ = _job(tmp_path, focus_x=0.0)
    made = set_paths(job, ["ink.damson=spot 40 90 20 20", "block.b1.ink=damson", "block.b1.turn=45"])
    for mark in _painted(made):
        paths = [mark] if isinstance(mark, Drawn) else [each for each in mark.marks if isinstance(each, Drawn)]
        for path in paths:
            assert isinstance(path.fill, Tone) and path.fill.spot is not None
            around = block_box_of(made).grown(0.01)
            assert path.outline.bounds.clipped(around) == path.outline.bounds


def block_box_of(job: Publication):  # type: ignore[no-untyped-def] # a rectangle
    from half_fold.core.spread.where.frames import block_box

    return block_box(job, 1, job.pages[0].blocks[0])


def test_art_is_printed_as_paths_and_never_as_pixels(tmp_path: Path) -> None:
    job, folder = _job(tmp_path)
    press(job, folder, tmp_path / "x.pdf")
    with pikepdf.open(tmp_path / "x.pdf") as pdf:
        named = pdf.pages[0].Resources.get("/XObject", {})
        assert not [x for x in named.values() if x.Subtype == pikepdf.Name.Image]
    assert not [f for f in check(job, Setter(), folder) if f.rule == "low resolution"]
