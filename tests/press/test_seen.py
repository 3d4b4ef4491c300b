"""No more of a picture goes into the file than is seen of it, no finer than it prints; and it lies as the whole did."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from half_fold.core.drawing.affine import flipped, turned
from half_fold.core.drawing.marks import (
    UNSAID,
    PictureMark,
    from_block,
)
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour.treat import drawn_key
from half_fold.core.press.pdf.seen import AROUND, WORTHWHILE, part_of
from half_fold.core.publication.records import Treatment

WHOLE = Rect(0, 0, 72, 36)  # an inch by half of one
SIZE = (1200, 600)


def test_a_picture_is_reduced_to_what_prints() -> None:
    part = part_of(PictureMark("p", WHOLE, WHOLE), WHOLE, SIZE)
    assert part == ("p", 0, 0, 1200, 600, 300, 150, 0.0)
    assert part_of(PictureMark("p", WHOLE, WHOLE), WHOLE, SIZE, 600)[1:7] == (0, 0, 1200, 600, 600, 300)
    assert part_of(PictureMark("p", WHOLE, WHOLE), WHOLE, SIZE, 0)[1:7] == (0, 0, 1200, 600, 1200, 600)


def test_a_picture_that_is_sharpened_knows_its_printed_fineness() -> None:
    """1200 pixels over an inch, made 300 of: 300 to the inch; and what is not sharpened is made once for every size."""
    key = drawn_key("p", Treatment(sharpen=80.0))
    assert part_of(PictureMark(key, WHOLE, WHOLE), WHOLE, SIZE).ppi == pytest.approx(300, abs=1)
    assert part_of(PictureMark("p", WHOLE, WHOLE), WHOLE, SIZE).ppi == 0.0


def test_what_is_cut_off_by_block_or_page_does_not_go_in() -> None:
    mark = PictureMark("p", WHOLE, Rect(18, 9, 60, 30))
    part = part_of(mark, Rect(0, 0, 36, 36), SIZE)
    assert (part.left, part.top, part.right, part.bottom) == (300 - AROUND, 150 - AROUND, 600 + AROUND, 500 + AROUND)
    assert part.across == pytest.approx((300 + 2 * AROUND) / 4, abs=1)


def test_a_picture_that_is_no_finer_than_wanted_keeps_its_pixels() -> None:
    part = part_of(PictureMark("p", WHOLE, WHOLE), WHOLE, (int(300 * WORTHWHILE), int(150 * WORTHWHILE)))
    assert (part.across, part.down) == (part.right - part.left, part.bottom - part.top)


def test_of_a_flipped_picture_the_other_side_is_seen() -> None:
    mark = PictureMark("p", WHOLE, Rect(0, 0, 18, 36), UNSAID, flipped(WHOLE))
    assert part_of(mark, WHOLE, SIZE)[1:5] == (900 - AROUND, 0, 1200, 600)


@given(
    st.floats(-100, 100),
    st.floats(20, 300),
    st.floats(-40, 60),
    st.floats(5, 200),
    st.integers(40, 6000),
    st.integers(40, 6000),
    st.floats(-180, 180),
)
def test_the_part_holds_all_that_is_seen_and_lies_where_it_lay(
    left: float, wide: float, clip_left: float, clip_wide: float, across: int, down: int, turn: float
) -> None:
    placed = Rect(left, -20, left + wide, 70)
    clip = Rect(clip_left, 0, clip_left + clip_wide, 50)
    affine = turned(clip.centre, turn) if abs(turn) > 5 else None
    mark = PictureMark("p", placed, clip, from_block("b"), affine)
    if mark.seen.is_empty():
        return
    part = part_of(mark, clip, (across, down))
    laid = part.laid(mark, (across, down))
    assert 0 <= part.left < part.right <= across and 0 <= part.top < part.bottom <= down
    # A pixel of the part lies where it lies in the whole.
    for x, y in ((part.left, part.top), (part.right, part.bottom)):
        whole = placed.left + x / across * placed.width, placed.top + y / down * placed.height
        own = (
            laid.placed.left + (x - part.left) / (part.right - part.left) * laid.placed.width,
            laid.placed.top + (y - part.top) / (part.bottom - part.top) * laid.placed.height,
        )
        assert np.allclose(whole, own)
    # Whatever of the picture lies in the clip lies in the part.
    for u, v in np.random.default_rng(1).random((40, 2)):
        place = placed.left + u * placed.width, placed.top + v * placed.height
        shown = place if affine is None else affine.of(*place)
        if clip.left < shown[0] < clip.right and clip.top < shown[1] < clip.bottom:
            assert laid.placed.grown(1e-6).holds(*place)
