"""Every glyph of every face, wherever it stands in a run, comes back from the content stream as it was laid.

The reader is qpdf's (by pikepdf): nothing of it is ours.
"""

from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pikepdf
import pytest
import reportlab

from half_fold.core.drawing.marks import Glyphs
from half_fold.core.drawing.tone import BLACK
from half_fold.core.measure.rect import Rect
from half_fold.core.press.pdf.content import Content, Resources
from half_fold.core.typesetting.faces.faces import face, families, join_face

MEDIA = Rect(0, 0, 1000, 1000)
SIZE = 10.0
NEAR = 0.002
# One style of each family: to sweep all of them takes a minute, and was done by hand when each came.
SHIPPED = [f"{family}/{next(iter(styles))}" for family, styles in families().items()]
OTHERS = {  # an old glyph order with quadratic outlines, and one with cubic ones
    "Foreign Quadratic/Regular": Path(reportlab.__file__).parent / "fonts/Vera.ttf",
    "Foreign Cubic/Regular": Path("/usr/share/fonts/opentype/urw-base35/NimbusRoman-Regular.otf"),
}
KERNS = {"none": (0.0, 0.0), "before the second": (0.4, 0.0), "before the third": (0.0, -0.3), "both": (0.7, 0.2)}


@pytest.fixture(scope="module", autouse=True)
def _others() -> None:
    for key, file in OTHERS.items():
        join_face(*key.split("/"), file)


def _threes(key: str, kerns: tuple[float, float]) -> Iterator[Glyphs]:
    """Every glyph of a face as the first, the second and the third of a run."""
    advances = np.array(face(key).advances()) * SIZE
    order = np.random.default_rng(5).permutation(len(advances)).astype(np.uint16)
    for at in range(len(order)):
        gids = order[[at, (at + 1) % len(order), (at + 2) % len(order)]]
        xs = 100 + np.concatenate([[0.0], np.cumsum(advances[gids[:2]] + kerns)])
        yield Glyphs(key, SIZE, gids, xs, 50.0 + at % 700, BLACK, [chr(0xF0000 + gid) for gid in gids.tolist()])


def _read(content: Content, resources: Resources) -> list[tuple[list[int], list[float], float]]:
    """(glyph ids, pens, baseline) of every run, as a reader finds them."""
    out: list[tuple[list[int], list[float], float]] = []
    (font,) = resources.fonts.values()
    with pikepdf.new() as pdf:
        told = pikepdf.parse_content_stream(pikepdf.Stream(pdf, content.bytes()))
    for operands, operator in told:
        if str(operator) == "Tm":
            pen = float(operands[4])
            out.append(([], [], MEDIA.bottom - float(operands[5])))
        for part in operands[0] if str(operator) == "TJ" else ():
            if not isinstance(part, pikepdf.String):
                pen -= float(part) * SIZE / 1000
                continue
            octets = bytes(part)
            for high, low in zip(octets[::2], octets[1::2], strict=True):
                out[-1][0].append(256 * high + low)
                out[-1][1].append(pen)
                pen += font.advance(256 * high + low) * SIZE / 1000
    return out


@pytest.mark.parametrize("key", [*SHIPPED, *OTHERS])
def test_every_glyph_comes_back_from_every_place_in_a_run(form: str, key: str) -> None:
    resources = Resources()
    for kerns in KERNS.values():
        runs = list(_threes(key, kerns))
        content = Content(MEDIA, resources)
        content.draw(runs, lambda _: MEDIA)
        found = _read(content, resources)
        assert len(found) == len(runs)
        assert [gids for gids, _, _ in found] == [run.gids.tolist() for run in runs]
        assert np.allclose([xs for _, xs, _ in found], [run.xs for run in runs], atol=NEAR)
        assert np.allclose([y for _, _, y in found], [run.baseline for run in runs], atol=NEAR)


def test_every_pair_of_octets_that_may_mean_something_comes_back(form: str) -> None:
    """All pairs of glyph ids made of octets that mean something in a stream, kerned and not."""
    key = "EB Garamond/Regular"
    octets = [0x00, 0x0A, 0x0D, 0x20, 0x28, 0x29, 0x3C, 0x3E, 0x5B, 0x5C, 0x5D, 0x72]
    count = len(face(key).advances())
    ids = [256 * high + low for high in (0, 0x0A) for low in octets if 256 * high + low < count]
    runs = [
        Glyphs(key, SIZE, np.array([one, other], np.uint16), np.array([100.0, x]), 50.0 + n % 700, BLACK, ("", ""))
        for n, (one, other) in enumerate((a, b) for a in ids for b in ids)
        for x in (100.0 + face(key).advances()[one] * SIZE, 103.3)
    ]
    resources = Resources()
    content = Content(MEDIA, resources)
    content.draw(runs, lambda _: MEDIA)
    found = _read(content, resources)
    assert [gids for gids, _, _ in found] == [run.gids.tolist() for run in runs]
    assert np.allclose([xs for _, xs, _ in found], [run.xs for run in runs], atol=NEAR)
