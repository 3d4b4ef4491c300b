"""What the bench and the proof paint is what the ink planes say, turned into the screen's colours."""

from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from PyQt6.QtGui import QColor, QImage, QPainter

from half_fold.core.drawing.marks import DisplayList, Mark, PictureMark, leaves
from half_fold.core.drawing.overprint import Overprint
from half_fold.core.drawing.planes import Layer, on_paper
from half_fold.core.pictures.colour.colour import as_printed, inks_to_screen, to_screen, to_screen_profile
from half_fold.core.pictures.library.bring import load_pixels
from half_fold.core.publication.records import Publication
from half_fold.desk.paint.painter import paint
from half_fold.desk.paint.proxies import to_qimage
from tests.press.corpus import CASE_NAMES, CASES, LISTS, MOSS, PLUM, SHEET, SPOTS
from tests.press.test_corpus import SCALE, Floats, away_from_edges, job, sources  # noqa: F401

MEAN, HIGH = 0.005, 0.02


def _painted(marks: list[Mark], folder: Path, black: Overprint) -> np.ndarray:
    images = {
        name: to_qimage(as_printed(to_screen(load_pixels(folder / f"{name}.png")), "black" if name == "p3" else ""))
        for name in {mark.picture for mark in leaves(marks) if isinstance(mark, PictureMark)}
    }
    image = QImage(round(SHEET.width * SCALE), round(SHEET.height * SCALE), QImage.Format.Format_RGB32)
    image.fill(QColor("white"))
    painter = QPainter(image)
    painter.scale(SCALE, SCALE)
    paint(painter, DisplayList(SHEET, tuple(marks), black), lambda name, _: images[name], outlines=True)
    painter.end()
    bits = image.constBits()
    assert bits is not None
    bits.setsize(image.sizeInBytes())
    return np.frombuffer(bits, np.uint8).reshape(image.height(), image.width(), 4)[..., 2::-1].astype(np.float32) / 255


def _on_screen(inks: Floats) -> np.ndarray:
    """Inks on the four plates and on those of the spots, each spot's stand-in printed over the rest."""
    light = 1 - inks[..., :4]
    for at, spot in enumerate((PLUM, MOSS), 4):
        light = light * (1 - inks[..., at : at + 1] * np.array(spot[1:], np.float32))
    shown = inks_to_screen(Image.fromarray(np.round((1 - light) * 255).astype(np.uint8), "CMYK"))
    return np.asarray(shown, np.float32) / 255


@pytest.mark.parametrize(("name", "black"), CASES, ids=CASE_NAMES)
def test_the_bench_shows_what_the_planes_say(
    job: tuple[Publication, Path],  # noqa: F811
    qapp: object,
    name: str,
    black: Overprint,
) -> None:
    marks = list(LISTS[name])

    def pixels(picture: str) -> tuple[Floats, Floats]:
        shown = to_screen(load_pixels(job[1] / f"{picture}.png"))
        plain = shown.convert("L").convert("RGB") if picture == "p3" else shown.convert("RGB")
        inks = np.asarray(to_screen_profile(plain), np.float32) / 255
        alpha = np.asarray(shown.getchannel("A"), np.float32) / 255 if shown.mode == "RGBA" else np.ones(inks.shape[:2])
        return inks, alpha.astype(np.float32)

    laid = on_paper(Layer(SHEET, SCALE, sources(*job)._replace(pixels_of=pixels), spots=SPOTS, black=black).lay(marks))
    wanted, found = _on_screen(laid), _painted(marks, job[1], black)
    calm = away_from_edges(wanted) & away_from_edges(found)
    off = np.abs(found - wanted)[calm]
    assert calm.mean() > 0.1 and off.mean() < MEAN and np.quantile(off, 0.99) < HIGH, (
        off.mean(),
        np.quantile(off, 0.99),
    )
