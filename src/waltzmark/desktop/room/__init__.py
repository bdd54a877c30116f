"""The Room stage: where to stand, what to change, what to tape, how many at once."""
