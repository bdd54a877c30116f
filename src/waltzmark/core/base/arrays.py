"""Names for the array types of the core."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

__all__ = ["Bools", "Complexes", "Floats", "Ints"]

if TYPE_CHECKING:
    from numpy.typing import NDArray

    Floats = NDArray[np.float64]
    Ints = NDArray[np.int64]
    Bools = NDArray[np.bool_]
    Complexes = NDArray[np.complex128]
else:  # what only a type checker looks into need not be imported
    Floats = Ints = Bools = Complexes = np.ndarray
