"""Uneven light, shadows and grey paper taken away: ink on white.

Method: the picture over its own background (a closing, then a median, at a small size), then
one threshold for the page by Otsu's method (N. Otsu, "A threshold selection method from
gray-level histograms", IEEE Trans. SMC 9, 1979).
"""

import cv2
import numpy as np

from wren_ladder.drumming.page_reading.pixels import Gray, Ink

BACKGROUND_SIZE = 500  # pixels of the longer side at which light is judged
FAINTEST = 212  # of a thin line; noise of paper is paler
PALEST_INK = 205  # of 255 on white paper; Otsu's threshold on a blank page means nothing
DARKEST_LIMIT = 165  # thin brackets around ghosts are grey where they are a pixel wide


def flatten(gray: Gray) -> Gray:
    """The same picture as if it lay in even light on white paper."""
    height, width = gray.shape
    scale = min(1.0, BACKGROUND_SIZE / max(height, width))
    small = cv2.resize(gray, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (15, 15))
    paper = cv2.medianBlur(cv2.morphologyEx(small, cv2.MORPH_CLOSE, kernel), 11)
    paper = cv2.resize(paper, (width, height), interpolation=cv2.INTER_LINEAR)
    return cv2.divide(gray, np.maximum(paper, 1), scale=255)


def faint_ink_of(flat: Gray) -> Ink:
    """Where anything is that may be a thin line: staff lines of a coarse picture are grey."""
    return flat < FAINTEST


def ink_of(flat: Gray) -> Ink:
    """Where ink is, of a picture in even light."""
    limit, _ = cv2.threshold(flat, 0, 255, cv2.THRESH_BINARY | cv2.THRESH_OTSU)
    return flat < np.clip(limit, DARKEST_LIMIT, PALEST_INK)
