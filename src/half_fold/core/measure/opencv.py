"""OpenCV, where there is room for it: short of memory it ends the program as it is loaded, without a word."""

from half_fold.core.measure.room import require_room

require_room(400_000_000)  # octets: it takes 320

import cv2  # noqa: E402  # where there is room

__all__ = ["cv2"]
