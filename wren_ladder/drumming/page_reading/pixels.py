"""Pictures as arrays."""

import numpy as np

Gray = np.ndarray  # rows x columns of uint8, 0 is black
Ink = np.ndarray  # rows x columns of bool, True is ink
