"""The colour of the old ground taken out of the edge of a cut-out, where subject and ground are mixed."""

import numpy as np
import numpy.typing as npt

Octets = npt.NDArray[np.uint8]
Floats = npt.NDArray[np.float32]
WHOLLY, HARDLY = 247, 8  # of 255: what is as opaque as that is all subject, or all ground
LEAST, MOST = 3, 80  # pixels: how far from an edge the colours of subject and ground are looked for
FAINT, PLAIN = 0.15, 0.55  # how opaque an edge is where its own colour is not to be trusted, and where it is


def without_spill(pixels: Octets, cover: Octets) -> Octets:
    """Pixels (shape (high, wide, 3)) of a picture with the colour that its subject has where it is half covered.

    A pixel there is so much subject and so much ground; both are known a little way off, and the mix is undone. Where
    hardly any of the subject is left it takes the colour that the subject has nearby.
    """
    from half_fold.core.measure.opencv import cv2

    edge = (cover > HARDLY) & (cover < WHOLLY)
    rows, columns = np.flatnonzero(edge.any(1)), np.flatnonzero(edge.any(0))
    if not len(rows):
        return pixels
    # As far as the edge is wide anywhere: there all is subject on one side of it, and all ground on the other.
    wide = cv2.distanceTransform(edge.astype(np.uint8), cv2.DIST_L2, 3).max()
    reach = min(MOST, max(LEAST, int(np.ceil(wide)) + 1))
    top, bottom = max(0, rows[0] - 3 * reach), rows[-1] + 1 + 3 * reach
    left, right = max(0, columns[0] - 3 * reach), columns[-1] + 1 + 3 * reach
    near = pixels[top:bottom, left:right].astype(np.float32)
    own = cover[top:bottom, left:right]
    subject, has_subject = _around(near, own >= WHOLLY, reach)
    ground, has_ground = _around(near, own <= HARDLY, reach)
    alpha = own.astype(np.float32)[..., None] / 255
    undone = np.clip((near - (1 - alpha) * ground) / np.maximum(alpha, FAINT), 0, 255)
    undone = np.where(has_ground, undone, near)
    trust = np.clip((alpha - FAINT) / (PLAIN - FAINT), 0, 1)
    clean = np.where(has_subject, undone * trust + subject * (1 - trust), undone)
    made = pixels.copy()
    at = edge[top:bottom, left:right]
    made[top:bottom, left:right][at] = np.rint(clean[at]).astype(np.uint8)
    return made


def _around(pixels: Floats, where: npt.NDArray[np.bool_], reach: int) -> tuple[Floats, npt.NDArray[np.bool_]]:
    """The mean colour of the pixels that are meant, within so far of each; and where there are any."""
    from half_fold.core.measure.opencv import cv2

    size = (2 * reach + 1, 2 * reach + 1)
    weight = where.astype(np.float32)
    total = cv2.blur(cv2.blur(weight, size), size)[..., None]
    colours = cv2.blur(cv2.blur(pixels * weight[..., None], size), size)
    return (colours / np.maximum(total, 1e-6)).astype(np.float32), total > 1e-4
