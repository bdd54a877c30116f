"""Names for the array types of the core."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

__all__ = ["Bools", "Floats", "Ints"]

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
Bools = NDArray[np.bool_]
