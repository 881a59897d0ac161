"""Pictures as arrays."""

import numpy as np

Gray = np.ndarray  # rows x columns of uint8, 0 is black
Ink = np.ndarray  # rows x columns of bool, True is ink


def runs(there: np.ndarray) -> np.ndarray:
    """From where to behind where a row of flags is True: pairs of (start, end)."""
    return np.flatnonzero(np.diff(np.pad(there, 1).astype(np.int8))).reshape(-1, 2)
