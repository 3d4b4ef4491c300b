"""What black overprints is asked by the printer's sheet, said where it shows, and is so on the plates."""

from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PIL import Image

from half_fold.core.brief.allowances import overprint
from half_fold.core.paths.all import set_paths
from half_fold.core.plan.own_kinds import begin
from half_fold.core.press.make import press
from half_fold.core.press.ticket import ticket
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import Block, HoldsPanel, Ink
from half_fold.core.publication.surgery import with_things
from half_fold.core.spread.edits.claiming import display_words
from half_fold.core.store.job import read
from tests.blocks import block_over
from tests.conftest import judge

ALL_OVER = Held(**{edge: Stop(kind="bleed") for edge in ("left", "top", "right", "bottom")})
THINGS = ("small", "large", "panel")
DPI = 288


def _under_black(pdf: Path, folder: Path) -> dict[str, float]:
    """The share of yellow where each of three bands of the page, from its head, is black: as an outside judge parts it.

    The bands are those of a page of 150 mm, parted in three.
    """
    out = folder / "plate.tif"
    judge("gs", "-q", "-dBATCH", "-dNOPAUSE", "-dSAFER", "-sDEVICE=tiffsep", f"-r{DPI}", f"-sOutputFile={out}", pdf)
    black, yellow = (
        1 - np.asarray(Image.open(folder / f"plate({name}).tif").convert("L"), np.float64) / 255
        for name in ("Black", "Yellow")
    )
    bands = zip(np.array_split(black, 3), np.array_split(yellow, 3), strict=True)
    return {name: float(under[over > 0.99].mean()) for name, (over, under) in zip(THINGS, bands, strict=True)}


@pytest.mark.parametrize(
    ("settings", "overprinted", "says"),
    [
        ((), ("small",), "text overprints up to 24 pt; larger, panels and rules knock out (usual; the printer’s own"),
        (("overprint=text", "overprint_to=900pt"), ("small", "large"), "text overprints up to 900 pt"),
        (("overprint_to=8pt",), (), "text overprints up to 8 pt; larger, panels and rules knock out (asked for by Wh"),
        (("overprint=all",), THINGS, "overprints, panels and rules too (asked for by Wharf Street Litho)"),
        (("overprint=none",), (), "knocks out, however small (asked for by Wharf Street Litho)"),
    ],
)
def test_the_plates_have_what_the_sheet_asks(
    tmp_path: Path, settings: tuple[str, ...], overprinted: tuple[str, ...], says: str
) -> None:
    file = begin("one-sheet", "A leaf", tmp_path / "leaf", ["trim=100x150mm", "printer=Wharf Street Litho"])
    job = set_paths(read(file), [f"printer.{setting}" for setting in settings])
    job = replace(job, inks=(*job.inks, Ink(name="Straw", cyan=0, magenta=0, yellow=100, black=0)))
    ground = Block(id="g1", place=ALL_OVER, holds=HoldsPanel(ink="Straw"))
    small = replace(display_words("body", "Straw under small words " * 12), ink="black")
    large = replace(display_words("headline", "HHH"), ink="black")
    things = (
        ground,
        block_over("s1", small, (0, 3), (0, 1), (4, 6)),
        block_over("s2", large, (0, 3), (2, 3), (4, 6)),
        block_over("s3", HoldsPanel(ink="black"), (1, 2), (5, 5), (4, 6)),
    )
    job = with_things(job, job.pages[0].id, lambda _: things)
    press(job, tmp_path / "leaf/pictures", tmp_path / "x.pdf")
    found = _under_black(tmp_path / "x.pdf", tmp_path)
    assert {name for name, share in found.items() if share > 0.95} == set(overprinted), found
    assert all(share < 0.05 for name, share in found.items() if name not in overprinted), found
    rule, says_who = overprint(job)
    assert says in f"{rule.words} ({says_who})" and says in ticket(job, [], [])
