"""Pictures as arrays."""

import numpy as np
import numpy.typing as npt

Gray = np.ndarray  # rows x columns of uint8, 0 is black
Ink = np.ndarray  # rows x columns of bool, True is ink


def runs(there: npt.ArrayLike) -> np.ndarray:
    """From where to behind where a row of flags is True: pairs of (start, end)."""
    return np.flatnonzero(np.diff(np.pad(np.asarray(there), 1).astype(np.int8))).reshape(-1, 2)
