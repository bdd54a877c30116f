"""What every room stands on: angles, arrays, units, errors, left and right, and how figures are said."""
